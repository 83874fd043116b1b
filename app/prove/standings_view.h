#pragma once

#include "app/desk/asker.h"
#include "app/prove/answer_model.h"
#include "core/studies/market_states.h"
#include "core/studies/study_files.h"

#include <QWidget>
#include <memory>

class QCheckBox;
class QComboBox;
class QDateEdit;
class QLabel;
class QLineEdit;
class QSpinBox;
class QTableView;

namespace sieve::app {

class CurvePicture;
class Desk;
class EmptyPage;
class ExpressionEdit;
class QuestionPanel;

/// How all screens would have done, bought on many days: which work, where and since when.
class StandingsView : public QWidget {
    Q_OBJECT
public:
    explicit StandingsView(Desk& desk);

    void refresh(); ///< brings what can be chosen up to the desk
    void ask();
    struct Answer {
        market::MarketPtr market;
        std::shared_ptr<const studies::Standings> standings;
        std::shared_ptr<const studies::Standings> other; ///< of the second period; null without
        studies::StartNames states;                      ///< of the starts
    };
    const Answer& answer() const { return answer_; }

Q_SIGNALS:
    void screenChosen(const QString& name);   ///< it is to be opened in Sift
    void followedWanted(const QString& name); ///< what followed its matches

private:
    QWidget* makeAnswer();
    void tell(const QString& what);
    studies::StandingsTerms terms() const;
    std::vector<screens::Screen> screens() const;
    void take(const Result<std::shared_ptr<const Answer>>& answer);
    void showRows();
    void showScreen();
    std::optional<std::size_t> chosen() const;

    Desk& desk_;
    Asker asker_;
    QuestionPanel* panel_;
    QComboBox* which_;
    QComboBox* starts_;
    QDateEdit* from_;
    QSpinBox* newest_;
    QSpinBox* held_;
    QSpinBox* best_;
    QSpinBox* every_;
    ExpressionEdit* weights_;
    QSpinBox* besides_; ///< the newest sessions, told beside
    QCheckBox* dividends_;
    QLabel* told_;
    EmptyPage* empty_; ///< before the first answer
    QWidget* inside_;
    AnswerModel* model_;
    QTableView* table_;
    QLabel* head_;
    QLabel* cautions_;
    CurvePicture* picture_;
    AnswerModel* startsModel_;
    AnswerModel* statesModel_;
    Answer answer_;
};

} // namespace sieve::app
