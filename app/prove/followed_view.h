#pragma once

#include "app/desk/asker.h"
#include "app/prove/answer_model.h"
#include "app/prove/study_view.h"
#include "core/charts/chart.h"
#include "core/studies/following.h"
#include "core/studies/market_states.h"

class QCheckBox;
class QComboBox;
class QDateEdit;
class QLabel;
class QLineEdit;
class QTableView;

namespace sieve::app {

class ChangePicture;
class ExpressionEdit;
class NeighboursView;
class ScreenBox;

/// What followed the matches of a screen or condition, beside all stocks on the same days.
class FollowedView : public StudyView {
    Q_OBJECT
public:
    explicit FollowedView(Desk& desk);

    void refresh() override;
    void ask() override;
    bool setQuestion(const studies::KeptRun& run) override;
    /// Asks of a screen by its name.
    void askOf(const QString& screen);
    void askOfScreenInHand();
    struct Answer {
        market::MarketPtr market;
        std::shared_ptr<const studies::Following> following;
        std::vector<std::vector<studies::Caution>> cautions; ///< a horizon
        std::vector<std::size_t> newest; ///< the cases that are shown one by one
        studies::KeptRun kept;
        studies::DayNames states;
        studies::DayNames stances;
    };
    const Answer& answer() const { return answer_; }

Q_SIGNALS:
    void stockChosen(std::size_t stock, sieve::Day day);
    void wallWanted(const std::vector<sieve::charts::MarkedDay>& cases, const QString& title);

protected:
    void takeExample() override;
    void forget() override;
    studies::KeptRun kept() const override { return answer_.kept; }
    std::vector<studies::ReportPicture> pictures() const override;
    std::vector<Table> tables() const override;
    std::vector<studies::Caution>
    cautionsOfTries(const std::vector<library::Trial>& trials) const override;

private:
    enum class By { Year, State, Stance, Sector, Industry, Fifths, Aside }; ///< as the box has them

    void makeAnswer();
    studies::FollowingQuestion question() const;
    void askAlone();
    QString sentence() const;
    void showHorizons();
    void showHorizon();
    static studies::CaseGroups groupsOf(const Answer& answer, By by);
    void askGroups();
    void showGroups(const std::vector<studies::GroupTold>& groups);
    void showCases();
    std::size_t horizon() const;

    Asker groupsAsker_;
    ScreenBox* screen_;
    ExpressionEdit* condition_;
    ExpressionEdit* universe_;
    QLineEdit* horizons_;
    QDateEdit* from_;
    QDateEdit* to_;
    QDateEdit* aside_;
    QComboBox* bought_;
    QComboBox* counted_;
    QCheckBox* dividends_;
    ExpressionEdit* strength_;
    ChangePicture* picture_;
    AnswerModel* horizonsModel_;
    QTableView* horizonsTable_;
    QComboBox* by_;
    AnswerModel* groupsModel_;
    QTableView* groupsTable_;
    AnswerModel* casesModel_;
    QTableView* casesTable_;
    QLabel* casesTold_;
    NeighboursView* neighbours_;
    Answer answer_;
};

} // namespace sieve::app
