#include "app/prove/rule_view.h"

#include "app/desk/desk.h"
#include "app/desk/focus.h"
#include "app/desk/open_market.h"
#include "app/desk/workbench.h"
#include "app/parts/figure_table.h"
#include "app/parts/number_text.h"
#include "app/parts/remembered.h"
#include "app/prove/curve_picture.h"
#include "app/prove/rule_form.h"

#include <QLocale>
#include <QSplitter>
#include <QTabWidget>
#include <QTableView>
#include <QVBoxLayout>
#include <algorithm>

namespace sieve::app {

using studies::Portfolio;

namespace {

/// In a table whose head says that all is in percent.
AnswerModel::Cell percentCell(double share)
{
    return {isMissing(share) ? QString() : signedText(100.0 * share, Unit::Plain, 1), share};
}

AnswerModel::Cell moneyCell(double money)
{
    return {signedText(money, Unit::Money, 0), money};
}

QString whyText(studies::Why why)
{
    using studies::Why;
    switch (why) {
    case Why::Left:
        return RuleView::tr("no longer among the best");
    case Why::Switched:
        return RuleView::tr("the market turned");
    case Why::Stopped:
        return RuleView::tr("stop");
    case Why::Trailed:
        return RuleView::tr("trailing stop");
    case Why::Reached:
        return RuleView::tr("target");
    case Why::Expired:
        return RuleView::tr("time");
    case Why::RuleOnStock:
        return RuleView::tr("rule on the stock");
    case Why::RuleOnMarket:
        return RuleView::tr("rule on the market");
    case Why::Delisted:
        return RuleView::tr("delisted");
    case Why::Reweighed:
        return RuleView::tr("reweighed");
    default:
        return text(studies::whyName(why));
    }
}

/// One figure of the answer: what it is, of the rule and of the benchmark.
struct FigureRow {
    QString name;
    QString own;
    QString benchmark = {};
};

} // namespace

RuleView::RuleView(Desk& desk)
    : StudyView(desk, new RuleForm, "prove.rule"), picture_(new CurvePicture),
      figuresModel_(new AnswerModel(this)),
      figuresTable_(answerTable(figuresModel_, tr("Figures"))), monthsModel_(new AnswerModel(this)),
      monthsTable_(answerTable(monthsModel_, tr("Months"))), tradesModel_(new AnswerModel(this)),
      tradesTable_(answerTable(tradesModel_, tr("Trades"))), stocksModel_(new AnswerModel(this))
{
    setEmptyTexts(
        tr("Would it have paid?"),
        tr("A rule, decided at each close with what was known then and filled on the next "
           "session, after costs."),
        tr("Try the strongest twenty of half a year"));
    connect(tradesTable_, &QTableView::activated, this, [this] {
        const int row = chosenRow(tradesTable_);
        if (row < 0)
            return;
        const studies::Trade& trade = answer_.portfolio->trades[static_cast<std::size_t>(row)];
        Q_EMIT stockChosen(trade.stock, answer_.portfolio->sessions[trade.entered]);
    });
    auto* tabs = new QTabWidget;
    tabs->setDocumentMode(true);
    tabs->addTab(figuresTable_, tr("Figures"));
    tabs->addTab(monthsTable_, tr("Months, in percent"));
    tabs->addTab(tradesTable_, tr("Trades"));
    tabs->addTab(answerTable(stocksModel_, tr("Stocks")), tr("By stock"));
    remember(tabs, "prove.rule_tab");
    auto* below = new QSplitter(Qt::Vertical);
    remember(below, "prove.rule_below");
    below->setChildrenCollapsible(false);
    below->setHandleWidth(8);
    below->addWidget(picture_);
    below->addWidget(tabs);
    below->setSizes({300, 300});
    inside()->addWidget(below, 1);
}

RuleForm& RuleView::form() const
{
    return *qobject_cast<RuleForm*>(panel_);
}

void RuleView::refresh()
{
    form().offer(desk_.work().now());
    if (desk_.market().isOpen())
        form().offerDays(desk_.market().data());
}

void RuleView::takeExample()
{
    form().setExample();
    ask();
}

void RuleView::forget()
{
    answer_ = {};
}

void RuleView::ask()
{
    if (!desk_.market().isOpen())
        return;
    const studies::PortfolioRule asked = form().rule(desk_.work().now());
    if (asked.steps.front().screen.criteria.empty()) {
        tell(tr("Choose a screen or type a condition first."));
        form().focusCondition();
        return;
    }
    run(
        tr("Trading day by day…"),
        [evaluator = desk_.market().evaluator(), book = desk_.work().nameBook(), asked,
         day = desk_.focus().day()](
            const Progress& progress) -> Result<std::shared_ptr<const Answer>> {
            auto made = studies::runPortfolio(asked, book->names(), *evaluator, day, progress);
            if (!made)
                return made.error();
            Answer answer;
            answer.market = evaluator->marketPtr();
            answer.told = studies::toldOf(*made);
            answer.cautions = studies::cautionsOf(*made, answer.told);
            answer.portfolio = std::make_shared<const Portfolio>(*std::move(made));
            return std::make_shared<const Answer>(std::move(answer));
        },
        [this](const std::shared_ptr<const Answer>& answer) {
            answer_ = *answer;
            showAnswer();
        });
}

QString RuleView::sentence() const
{
    const Portfolio& portfolio = *answer_.portfolio;
    const studies::Measures& measures = answer_.told.measures;
    QString words = tr("%1 became %2 in %3 years: %4 a year, at worst %5 below its high.")
                        .arg(numberText(portfolio.rule.trading.money, Unit::Money, 0),
                             numberText(portfolio.equity.back(), Unit::Money, 0),
                             numberText(static_cast<double>(measures.days) / studies::daysAYear,
                                        Unit::Plain, 1),
                             signedText(measures.annualReturn, Unit::Percent, 1),
                             numberText(-measures.worstFall, Unit::Percent, 1));
    if (answer_.told.ofBenchmark)
        words += tr(" The benchmark: %1 a year, at worst %2 below.")
                     .arg(signedText(answer_.told.ofBenchmark->annualReturn, Unit::Percent, 1),
                          numberText(-answer_.told.ofBenchmark->worstFall, Unit::Percent, 1));
    return words;
}

void RuleView::showAnswer()
{
    const Portfolio& portfolio = *answer_.portfolio;
    tellAnswer(sentence(), answer_.cautions);
    std::vector<double> worths;
    for (const double equity : portfolio.equity)
        worths.push_back(equity / portfolio.rule.trading.money);
    std::vector<CurvePicture::Curve> curves{{tr("the rule"), worths, CurvePicture::Tint::Own}};
    if (!portfolio.benchmark.empty())
        curves.push_back({tr("benchmark"), portfolio.benchmark, CurvePicture::Tint::Benchmark});
    std::vector<CurvePicture::Stretch> without;
    for (std::size_t at = 0; at < portfolio.step.size(); ++at)
        if (portfolio.step[at] < 0) {
            if (!without.empty() && without.back().to == at)
                ++without.back().to;
            else
                without.push_back({at, at + 1});
        }
    picture_->show(portfolio.sessions, std::move(curves), std::move(without));
    showFigures();
    showMonths();
    showTrades();
    showStocks();
}

void RuleView::showFigures()
{
    const auto rows = std::make_shared<std::vector<FigureRow>>();
    const studies::PortfolioTold& told = answer_.told;
    const auto& own = told.measures;
    const auto& other = told.ofBenchmark;
    const auto add = [&](const QString& name, double studies::Measures::*measure, Unit unit,
                         int decimals) {
        rows->push_back({name, numberText(own.*measure, unit, decimals),
                         other ? numberText((*other).*measure, unit, decimals) : QString()});
    };
    using M = studies::Measures;
    add(tr("Whole return"), &M::totalReturn, Unit::Percent, 0);
    add(tr("Return a year"), &M::annualReturn, Unit::Percent, 1);
    add(tr("Volatility a year"), &M::volatility, Unit::Percent, 1);
    add(tr("Worst fall"), &M::worstFall, Unit::Percent, 1);
    if (told.fall)
        rows->push_back(
            {tr("Below its high for"), tr("%1 sessions%2")
                                           .arg(countText(told.fall->days(own.days)),
                                                told.fall->recovery ? QString() : tr(", still"))});
    add(tr("Sharpe ratio"), &M::sharpe, Unit::Plain, 2);
    add(tr("Sortino ratio"), &M::sortino, Unit::Plain, 2);
    add(tr("Calmar ratio"), &M::calmar, Unit::Plain, 2);
    add(tr("Ulcer index"), &M::ulcerIndex, Unit::Plain, 1);
    add(tr("Days that rose"), &M::shareUp, Unit::Percent, 0);
    const auto addOne = [&](const QString& name, const QString& value) {
        rows->push_back({name, value});
    };
    if (told.beside) {
        addOne(tr("Beta to the benchmark"), numberText(told.beside->beta, Unit::Plain, 2));
        addOne(tr("Alpha a year"), signedText(told.beside->alpha, Unit::Percent, 1));
    }
    addOne(tr("Invested on average"), numberText(told.exposure, Unit::Percent, 0));
    addOne(tr("Turnover a year"), numberText(told.turnover, Unit::Percent, 0));
    addOne(tr("Costs"), numberText(answer_.portfolio->costs, Unit::Money, 0));
    addOne(tr("Trades ended"), countText(told.trades));
    addOne(tr("Trades that gained"), numberText(told.shareWon, Unit::Percent, 0));
    addOne(tr("Mean of a trade"), signedText(told.meanChange, Unit::Percent, 1));
    addOne(tr("Gains by losses"), numberText(told.gainByLoss, Unit::Plain, 2));
    addOne(tr("Bars held"), numberText(told.meanBars, Unit::Plain, 0));
    addOne(tr("Without the best three stocks"),
           signedText(told.withoutBestThree, Unit::Percent, 0));
    figuresModel_->show({{tr("Figure"), {}, false}, {tr("The rule")}, {tr("Benchmark")}},
                        rows->size(), [rows](std::size_t row, std::size_t column) {
                            const FigureRow& figure = (*rows)[row];
                            return AnswerModel::Cell{column == 0   ? figure.name
                                                     : column == 1 ? figure.own
                                                                   : figure.benchmark};
                        });
    fitColumns(figuresTable_);
}

void RuleView::showMonths()
{
    const auto years =
        std::make_shared<const std::vector<studies::PortfolioTold::Year>>(answer_.told.years);
    std::vector<AnswerModel::Column> columns{
        {tr("Year"), {}, false}, {tr("Whole"), tr("Of the year")}, {tr("Index"), tr("Benchmark")}};
    for (int month = 1; month <= 12; ++month)
        columns.push_back({QLocale::c().standaloneMonthName(month, QLocale::ShortFormat)});
    monthsModel_->show(std::move(columns), years->size(),
                       [years](std::size_t row, std::size_t column) {
                           const auto& year = (*years)[row];
                           switch (column) {
                           case 0:
                               return AnswerModel::Cell{QString::number(year.year),
                                                        static_cast<double>(year.year)};
                           case 1:
                               return percentCell(year.change);
                           case 2:
                               return percentCell(year.benchmark);
                           default:
                               return percentCell(year.months.at(column - 3));
                           }
                       });
    fitColumns(monthsTable_);
}

void RuleView::showTrades()
{
    const auto portfolio = answer_.portfolio;
    tradesModel_->show(
        {{tr("Symbol"), {}, false},
         {tr("Bought")},
         {tr("Sold")},
         {tr("Because of"), {}, false},
         {tr("At")},
         {tr("Sold at")},
         {tr("Change"), tr("Of all that was paid, with dividends and after costs")},
         {tr("Gain")},
         {tr("Bars")},
         {tr("Lowest"), tr("Close on the way, by the price paid")},
         {tr("Highest"), tr("Close on the way, by the price paid")}},
        portfolio->trades.size(),
        [portfolio, market = answer_.market](std::size_t row, std::size_t column) {
            const studies::Trade& trade = portfolio->trades[row];
            const auto onDay = [&](std::size_t session) {
                return dayCell(portfolio->sessions[session]);
            };
            switch (column) {
            case 0:
                return AnswerModel::Cell{text(market::symbolOn(
                    market->instrument(trade.stock), portfolio->sessions[trade.entered]))};
            case 1:
                return onDay(trade.entered);
            case 2:
                return trade.left ? onDay(*trade.left) : AnswerModel::Cell{};
            case 3:
                return AnswerModel::Cell{trade.left ? whyText(trade.why) : tr("still held")};
            case 4:
                return figureCell(trade.entryPrice, 2);
            case 5:
                return figureCell(trade.exitPrice, 2);
            case 6:
                return changeCell(trade.change);
            case 7:
                return moneyCell(trade.gain);
            case 8:
                return countCell(static_cast<std::size_t>(trade.bars));
            case 9:
                return changeCell(trade.worst);
            default:
                return changeCell(trade.best);
            }
        });
    fitColumns(tradesTable_);
}

void RuleView::showStocks()
{
    const auto rows = std::make_shared<const std::vector<studies::PortfolioTold::Contribution>>(
        answer_.told.contributions);
    stocksModel_->show({{tr("Symbol"), {}, false},
                        {tr("Trades")},
                        {tr("Gain")},
                        {tr("Of the money"), tr("Its gain by the money at the start")}},
                       rows->size(),
                       [rows, market = answer_.market, day = answer_.portfolio->sessions.back()](
                           std::size_t row, std::size_t column) {
                           const auto& own = (*rows)[row];
                           switch (column) {
                           case 0:
                               return AnswerModel::Cell{
                                   text(market::symbolOn(market->instrument(own.stock), day))};
                           case 1:
                               return countCell(own.trades);
                           case 2:
                               return moneyCell(own.gain);
                           default:
                               return changeCell(own.share);
                           }
                       });
}

} // namespace sieve::app
