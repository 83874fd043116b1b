#pragma once

#include "app/prove/answer_model.h"
#include "app/prove/study_view.h"
#include "core/studies/market_states.h"
#include "core/studies/study_files.h"

class QCheckBox;
class QComboBox;
class QDateEdit;
class QLabel;
class QSpinBox;
class QTabWidget;
class QTableView;

namespace sieve::app {

class CurvePicture;
class ExpressionEdit;

/// How all screens would have done, bought on many days: which work, where and since when.
class StandingsView : public StudyView {
    Q_OBJECT
public:
    explicit StandingsView(Desk& desk);

    void refresh() override;
    void ask() override;
    bool setQuestion(const studies::KeptRun& run) override;
    struct Answer {
        market::MarketPtr market;
        std::shared_ptr<const studies::Standings> standings;
        std::shared_ptr<const studies::Standings> other;     ///< of the second period; null without
        std::vector<std::vector<studies::Caution>> cautions; ///< a screen
        studies::Health rising;                              ///< of all screens that look for rises
        studies::Health falling;                             ///< of those that look for falls
        studies::KeptRun kept;
        studies::StartNames states; ///< of the starts
    };
    const Answer& answer() const { return answer_; }

Q_SIGNALS:
    void screenChosen(const QString& name);   ///< it is to be opened in Sift
    void followedWanted(const QString& name); ///< what followed its matches
    void stockChosen(std::size_t stock, sieve::Day day);

protected:
    void takeExample() override;
    void forget() override;
    studies::KeptRun kept() const override { return answer_.kept; }
    std::vector<studies::ReportPicture> pictures() const override;
    std::vector<Table> tables() const override;

private:
    void makeAnswer();
    QString sentence() const;
    studies::StandingsTerms terms() const;
    std::vector<screens::Screen> screens() const;
    void showRows();
    void showScreen();
    void showHealth();
    void askStocks();
    void showStocks(const std::vector<studies::StandingPick>& picks);
    void showCurves(CurvePicture& picture) const;
    void offerStarts();
    std::optional<std::size_t> chosen() const;

    QComboBox* which_;
    std::vector<screens::Screen> ofKept_; ///< of a kept question, where it is chosen
    QComboBox* starts_;
    QDateEdit* from_;
    QSpinBox* newest_;
    QSpinBox* held_;
    QSpinBox* best_;
    QSpinBox* every_;
    ExpressionEdit* weights_;
    QSpinBox* besides_; ///< the newest sessions, told beside
    QCheckBox* dividends_;
    AnswerModel* model_;
    QTableView* table_;
    QLabel* head_; ///< of the chosen screen; so are the next
    QLabel* cautions_;
    CurvePicture* picture_;
    AnswerModel* startsModel_;
    QTableView* startsTable_;
    Asker stocksAsker_;
    AnswerModel* stocksModel_;                  ///< of a start
    std::vector<studies::StandingPick> stocks_; ///< as the table has them
    Day stocksOn_ = Day::fromSerial(0);
    QLabel* stocksTold_;
    QTabWidget* tabs_;
    AnswerModel* statesModel_;
    AnswerModel* healthModel_;
    Answer answer_;
};

} // namespace sieve::app
