#pragma once

#include "app/desk/asker.h"
#include "app/prove/answer_model.h"
#include "core/charts/chart.h"
#include "core/studies/following.h"
#include "core/studies/market_states.h"

#include <QWidget>
#include <memory>

class QCheckBox;
class QComboBox;
class QDateEdit;
class QLabel;
class QLineEdit;
class QTableView;

namespace sieve::app {

class ChangePicture;
class Desk;
class EmptyPage;
class ExpressionEdit;
class NeighboursView;
class QuestionPanel;
class ScreenBox;

/// What followed the matches of a screen or condition, beside all stocks on the same days.
class FollowedView : public QWidget {
    Q_OBJECT
public:
    explicit FollowedView(Desk& desk);

    /// Brings what can be chosen up to the desk; the answer stays until another is asked.
    void refresh();
    void ask();
    /// Asks of a screen by its name.
    void askOf(const QString& screen);
    void askOfScreenInHand();
    struct Answer {
        market::MarketPtr market;
        std::shared_ptr<const studies::Following> following;
        studies::DayNames states;
        studies::DayNames stances;
    };
    const Answer& answer() const { return answer_; }

Q_SIGNALS:
    void stockChosen(std::size_t stock, sieve::Day day);
    void wallWanted(const std::vector<sieve::charts::MarkedDay>& cases, const QString& title);

private:
    QWidget* makeAnswer();
    void tell(const QString& what);
    studies::FollowingQuestion question() const;
    void take(const Result<std::shared_ptr<const Answer>>& answer);
    void showHorizons();
    void showHorizon();
    void showGroups();
    void showCases();
    std::size_t horizon() const;

    Desk& desk_;
    Asker asker_;
    QuestionPanel* panel_;
    ScreenBox* screen_;
    ExpressionEdit* condition_;
    ExpressionEdit* universe_;
    QLineEdit* horizons_;
    QDateEdit* from_;
    QDateEdit* to_;
    QComboBox* bought_;
    QComboBox* counted_;
    QCheckBox* dividends_;
    ExpressionEdit* strength_;
    QLabel* told_;
    QLabel* cautions_;
    ChangePicture* picture_;
    AnswerModel* horizonsModel_;
    QTableView* horizonsTable_;
    QComboBox* by_;
    AnswerModel* groupsModel_;
    AnswerModel* casesModel_;
    QTableView* casesTable_;
    QLabel* casesTold_;
    QTableView* groupsTable_ = nullptr;
    NeighboursView* neighbours_;
    EmptyPage* empty_;                    ///< before the first answer
    QWidget* inside_;                     ///< all of the answer
    std::vector<std::size_t> shownCases_; ///< a row: its case, the newest first
    Answer answer_;
};

} // namespace sieve::app
