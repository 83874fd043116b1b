#pragma once

#include "app/prove/answer_model.h"
#include "app/prove/study_view.h"
#include "core/studies/portfolio.h"

class QTableView;

namespace sieve::app {

class CurvePicture;
class RuleForm;
class TradeChart;

/// A portfolio by rule: the best of a screen, held, chosen anew, sold by exits, after costs.
class RuleView : public StudyView {
    Q_OBJECT
public:
    explicit RuleView(Desk& desk);

    void refresh() override;
    void ask() override;
    bool setQuestion(const studies::KeptRun& run) override;
    struct Answer {
        market::MarketPtr market;
        std::shared_ptr<const studies::Portfolio> portfolio;
        studies::PortfolioTold told;
        std::vector<studies::Caution> cautions;
        studies::KeptRun kept;
        std::optional<studies::SplitMeasures> split;
    };
    const Answer& answer() const { return answer_; }

Q_SIGNALS:
    void stockChosen(std::size_t stock, sieve::Day day);

protected:
    void takeExample() override;
    void forget() override;
    studies::KeptRun kept() const override { return answer_.kept; }
    std::vector<studies::ReportPicture> pictures() const override;
    std::vector<Table> tables() const override;
    std::vector<studies::Caution>
    cautionsOfTries(const std::vector<library::Trial>& trials) const override;

private:
    RuleForm& form() const;
    QString sentence() const;
    void showAnswer();
    void showCurves(CurvePicture& picture) const;
    void showFigures();
    void showMonths();
    void showTrades();
    void showTradeChart();
    void showStocks();

    CurvePicture* picture_;
    AnswerModel* figuresModel_;
    QTableView* figuresTable_;
    AnswerModel* monthsModel_;
    QTableView* monthsTable_;
    AnswerModel* tradesModel_;
    QTableView* tradesTable_;
    TradeChart* tradeChart_;
    AnswerModel* stocksModel_;
    Answer answer_;
};

} // namespace sieve::app
