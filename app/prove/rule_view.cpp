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
#include "app/prove/screen_box.h"
#include "app/prove/trade_chart.h"
#include "core/studies/deflation.h"
#include "core/studies/keeping.h"
#include "core/studies/study_sheets.h"

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

/// One figure of the answer: what it is, of the rule and of the benchmark.
struct FigureRow {
    QString name;
    QString own;
    QString benchmark = {};
    QString before = {}; ///< of the day from which on all is set aside
    QString from = {};
};

} // namespace

RuleView::RuleView(Desk& desk)
    : StudyView(desk, new RuleForm, "prove.rule"), picture_(new CurvePicture),
      figuresModel_(new AnswerModel(this)),
      figuresTable_(answerTable(figuresModel_, tr("Figures"))), monthsModel_(new AnswerModel(this)),
      monthsTable_(answerTable(monthsModel_, tr("Months"))), tradesModel_(new AnswerModel(this)),
      tradesTable_(answerTable(tradesModel_, tr("Trades"))), tradeChart_(new TradeChart(desk)),
      stocksModel_(new AnswerModel(this))
{
    setEmptyTexts(
        tr("Would it have paid?"),
        tr("A rule, decided at each close with what was known then and filled on the next "
           "session, after costs."),
        tr("Try the strongest twenty of half a year"));
    connect(tradesTable_->selectionModel(), &QItemSelectionModel::currentRowChanged, this,
            &RuleView::showTradeChart);
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
    auto* trades = new QSplitter;
    remember(trades, "prove.rule_trades");
    trades->setChildrenCollapsible(false);
    trades->setHandleWidth(8);
    trades->addWidget(tradesTable_);
    trades->addWidget(tradeChart_);
    trades->setSizes({480, 400});
    tabs->addTab(trades, tr("Trades"));
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
    tradeChart_->clear();
    answer_ = {};
}

void RuleView::ask()
{
    if (!desk_.market().isOpen())
        return;
    const studies::PortfolioRule asked = form().rule(desk_.work().now());
    const bool isWhole = std::ranges::all_of(asked.steps, [](const studies::PortfolioStep& step) {
        return step.isCash || !step.screen.criteria.empty();
    });
    if (!isWhole) {
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
            answer.kept = studies::keptOf(*made, day);
            answer.split = studies::asideMeasures(*made);
            answer.portfolio = std::make_shared<const Portfolio>(*std::move(made));
            return std::make_shared<const Answer>(std::move(answer));
        },
        [this](const std::shared_ptr<const Answer>& answer) {
            answer_ = *answer;
            showAnswer();
            noteTrial(text(answer_.portfolio->rule.steps.front().screen.name),
                      studies::dailySharpe(answer_.portfolio->returns()));
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
    tellAnswer(sentence(), answer_.cautions);
    showCurves(*picture_);
    showFigures();
    showMonths();
    showTrades();
    showStocks();
}

void RuleView::showCurves(CurvePicture& picture) const
{
    const Portfolio& portfolio = *answer_.portfolio;
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
    std::optional<std::size_t> aside;
    if (answer_.split)
        aside = static_cast<std::size_t>(
            std::ranges::lower_bound(portfolio.sessions, *portfolio.rule.setAside) -
            portfolio.sessions.begin());
    picture.show(portfolio.sessions, std::move(curves), std::move(without), aside);
}

bool RuleView::setQuestion(const studies::KeptRun& run)
{
    const auto rule = studies::portfolioFromToml(
        run.question, [](std::string_view) { return std::optional<screens::Screen>(); });
    if (!rule || !form().setRule(desk_.work().now(), *rule))
        return false;
    const std::string& name = rule->steps.front().screen.name;
    form().setIdea(run.name == name && screenNamed(desk_.work().now(), name) ? QString()
                                                                             : text(run.name));
    return true;
}

std::vector<studies::ReportPicture> RuleView::pictures() const
{
    CurvePicture picture;
    showCurves(picture);
    return {pictureOf(tr("Worth day by day"), picture, {reportWidth, 280})};
}

std::vector<StudyView::Table> RuleView::tables() const
{
    const auto portfolio = answer_.portfolio;
    const auto market = answer_.market;
    return {{tr("Trades"), [=] { return studies::tradesSheet(*portfolio, *market); }},
            {tr("Orders and payments"), [=] { return studies::fillsSheet(*portfolio, *market); }},
            {tr("Curve"), [portfolio] { return studies::curveSheet(*portfolio); }},
            {tr("Figures"),
             [portfolio, told = answer_.told] { return studies::sheetOf(*portfolio, told); }},
            {tr("Months"), [told = answer_.told] { return studies::monthsSheet(told); }},
            {tr("Year by year"), [told = answer_.told] { return studies::yearsSheet(told); }, true},
            {tr("By stock"),
             [told = answer_.told, market, day = portfolio->sessions.back()] {
                 return studies::contributionsSheet(told, *market, day);
             },
             true}};
}

std::vector<studies::Caution>
RuleView::cautionsOfTries(const std::vector<library::Trial>& trials) const
{
    std::vector<double> sharpes;
    for (const library::Trial& trial : trials)
        sharpes.push_back(trial.sharpe);
    return studies::cautionsOfTries(*answer_.portfolio, sharpes);
}

void RuleView::showFigures()
{
    const auto rows = std::make_shared<std::vector<FigureRow>>();
    const studies::PortfolioTold& told = answer_.told;
    const auto& own = told.measures;
    const auto& other = told.ofBenchmark;
    const auto& split = answer_.split;
    const auto add = [&](const QString& name, double studies::Measures::*measure, Unit unit,
                         int decimals) {
        const auto word = [&](const studies::Measures& of) {
            return numberText(of.*measure, unit, decimals);
        };
        rows->push_back({name, word(own), other ? word(*other) : QString(),
                         split ? word(split->before) : QString(),
                         split ? word(split->from) : QString()});
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
    std::vector<AnswerModel::Column> columns{
        {tr("Figure"), {}, false}, {tr("The rule")}, {tr("Benchmark")}};
    if (split) {
        columns.push_back({tr("Before %1").arg(shortDayText(*answer_.portfolio->rule.setAside)),
                           tr("While it was made: what was looked at")});
        columns.push_back({tr("From then on"), tr("What was set aside")});
    }
    figuresModel_->show(std::move(columns), rows->size(),
                        [rows](std::size_t row, std::size_t column) {
                            const FigureRow& figure = (*rows)[row];
                            const QString* cells[] = {&figure.name, &figure.own, &figure.benchmark,
                                                      &figure.before, &figure.from};
                            return AnswerModel::Cell{*cells[column]};
                        });
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
}

void RuleView::showTrades()
{
    const auto portfolio = answer_.portfolio;
    tradesModel_->show(
        {{tr("Symbol"), {}, false},
         {tr("Bought")},
         {tr("Sold")},
         {tr("Change"), tr("Of all that was paid, with dividends and after costs")},
         {tr("Because of"), {}, false},
         {tr("At")},
         {tr("Sold at")},
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
                return changeCell(trade.change);
            case 4:
                return AnswerModel::Cell{trade.left ? text(studies::whyWords(trade.why))
                                                    : tr("still held")};
            case 5:
                return figureCell(trade.entryPrice, 2);
            case 6:
                return figureCell(trade.exitPrice, 2);
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
    if (!portfolio->trades.empty())
        tradesTable_->setCurrentIndex(tradesTable_->model()->index(0, 0));
    showTradeChart();
}

void RuleView::showTradeChart()
{
    if (const int row = answer_.portfolio ? chosenRow(tradesTable_) : -1; row >= 0)
        tradeChart_->show(answer_.portfolio, static_cast<std::size_t>(row));
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
