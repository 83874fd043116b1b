#include "app/prove/rule_view.h"

#include "app/desk/desk.h"
#include "app/desk/focus.h"
#include "app/desk/open_market.h"
#include "app/desk/workbench.h"
#include "app/look/look.h"
#include "app/look/tone.h"
#include "app/parts/empty_page.h"
#include "app/parts/expression_edit.h"
#include "app/parts/figure_table.h"
#include "app/parts/number_text.h"
#include "app/parts/remembered.h"
#include "app/prove/curve_picture.h"
#include "app/prove/question_panel.h"
#include "app/prove/screen_box.h"
#include "core/studies/cautions.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDateEdit>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QLocale>
#include <QSpinBox>
#include <QSplitter>
#include <QTabWidget>
#include <QTableView>
#include <QVBoxLayout>
#include <algorithm>
#include <map>

namespace sieve::app {

using studies::Portfolio;
using studies::PortfolioRule;
using studies::PortfolioStep;
using studies::Rebalancing;
using studies::Trading;

namespace {

AnswerModel::Cell shareCell(double share, int decimals = 1)
{
    return {signedText(share, Unit::Percent, decimals), share};
}

/// In a table whose head says that all is in percent.
AnswerModel::Cell percentCell(double share)
{
    return {signedText(100.0 * share, Unit::Plain, 1), share};
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

QDateEdit* dateBox(const QString& name)
{
    auto* box = new QDateEdit;
    box->setAccessibleName(name);
    box->setCalendarPopup(true);
    box->setDisplayFormat(QStringLiteral("d MMM yyyy"));
    box->setLocale(QLocale::c());
    return box;
}

} // namespace

RuleView::RuleView(Desk& desk)
    : desk_(desk), asker_(this), panel_(new QuestionPanel(tr("A portfolio by rule"))),
      screen_(new ScreenBox(tr("A condition"))), condition_(new ExpressionEdit),
      rank_(new ExpressionEdit), smallest_(new QCheckBox(tr("The smallest first"))),
      hold_(countBox(tr("Hold"), 20, 1, studies::mostHeld, tr(" stocks"))),
      keep_(countBox(tr("Stays within"), 0, 0, studies::mostHeld, tr(" places"), tr("those held"))),
      weights_(new ExpressionEdit), when_(new ExpressionEdit),
      otherwise_(new ScreenBox(tr("cash"))), by_(new QComboBox),
      every_(countBox(tr("Every"), 1, 1, 1000)),
      reweigh_(new QCheckBox(tr("Those who stay are brought to their share"))),
      stop_(percentBox(tr("Stop"), 0.0, 100.0, tr("none"))),
      trailing_(percentBox(tr("Trailing stop"), 0.0, 100.0, tr("none"))),
      target_(percentBox(tr("Target"), 0.0, 10'000.0, tr("none"))),
      sessions_(countBox(tr("Time"), 0, 0, 5000, tr(" bars"), tr("none"))),
      onStock_(new ExpressionEdit), money_(new QDoubleSpinBox),
      cost_(percentBox(tr("Cost"), Trading().costShare, 100.0)), orderCost_(new QDoubleSpinBox),
      slippage_(percentBox(tr("Slippage"), Trading().slippage, 50.0)),
      volume_(percentBox(tr("Of the day's volume"), 0.0, 100.0, tr("any"))), filled_(new QComboBox),
      from_(dateBox(tr("From"))), to_(dateBox(tr("To"))), told_(new QLabel), cautions_(new QLabel),
      empty_(new EmptyPage), inside_(new QWidget), picture_(new CurvePicture),
      figuresModel_(new AnswerModel(this)), monthsModel_(new AnswerModel(this)),
      tradesModel_(new AnswerModel(this)), tradesTable_(answerTable(tradesModel_, tr("Trades"))),
      stocksModel_(new AnswerModel(this))
{
    makeQuestion();
    connect(panel_, &QuestionPanel::asked, this, &RuleView::ask);
    connect(panel_, &QuestionPanel::stopped, this, [this] {
        asker_.stop();
        panel_->setBusy(false);
    });
    for (QLineEdit* line : {condition_, rank_, weights_, when_, onStock_})
        connect(line, &QLineEdit::returnPressed, this, &RuleView::ask);
    connect(&asker_, &Asker::failed, &desk, &Desk::noticed);
    connect(&asker_, &Asker::failed, this, [this] { panel_->setBusy(false); });
    connect(&asker_, &Asker::progressed, panel_, &QuestionPanel::tellProgress);
    auto* split = new QSplitter;
    remember(split, "prove.rule");
    split->setChildrenCollapsible(false);
    split->setHandleWidth(8);
    split->addWidget(panel_);
    split->addWidget(makeAnswer());
    split->setSizes({300, 880});
    split->setStretchFactor(1, 1);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->addWidget(split);
}

void RuleView::makeQuestion()
{
    const auto prepare = [](ExpressionEdit* line, const QString& name, const QString& example) {
        line->setAccessibleName(name);
        line->setPlaceholderText(example);
    };
    prepare(condition_, tr("Condition"), tr("close > sma(close, 150)"));
    prepare(rank_, tr("Ranked by"), tr("as the screen ranks"));
    prepare(weights_, tr("Money by"), tr("equally"));
    prepare(when_, tr("While the market"), tr("always"));
    prepare(onStock_, tr("Sold when"), tr("never"));
    by_->setAccessibleName(tr("Chosen anew"));
    by_->addItems({tr("sessions"), tr("weeks"), tr("months")});
    by_->setCurrentIndex(2);
    otherwise_->setAccessibleName(tr("Else"));
    reweigh_->setChecked(true);
    for (QDoubleSpinBox* box : {money_, orderCost_}) {
        box->setButtonSymbols(QAbstractSpinBox::NoButtons);
        box->setGroupSeparatorShown(true);
    }
    money_->setAccessibleName(tr("Money at the start"));
    money_->setDecimals(0);
    money_->setRange(1.0, 1e12);
    money_->setValue(Trading().money);
    orderCost_->setAccessibleName(tr("Cost an order"));
    orderCost_->setRange(0.0, 1e6);
    filled_->setAccessibleName(tr("Filled"));
    filled_->addItems({tr("at the next open"), tr("at the next close")});
    panel_->addHead(tr("What is held"));
    panel_->addField(tr("Screen"), screen_);
    panel_->addField(tr("Holds"), condition_,
                     tr("A condition of the language; with a screen, one more"));
    panel_->addField(tr("Ranked by"), rank_);
    panel_->addWide(smallest_);
    panel_->addField(tr("Hold"), hold_);
    panel_->addField(tr("Stays within"), keep_,
                     tr("Who is held stays while among the best so many"));
    panel_->addField(
        tr("Money by"), weights_,
        tr("A figure by which the money is shared, such as 1 / stdev(change(close), 60)"));
    panel_->addField(tr("While"), when_, tr("A condition on the line of the whole market"));
    panel_->addField(tr("Else"), otherwise_, tr("What is held while it does not hold"));
    panel_->addPair(tr("Anew every"), every_, by_);
    panel_->addWide(reweigh_);
    panel_->addHead(tr("When it is sold between"));
    panel_->addPair(tr("Stop, trailing"), stop_, trailing_,
                    tr("Below the price paid; below the highest close since"));
    panel_->addPair(tr("Target, time"), target_, sessions_);
    panel_->addField(tr("Sold when"), onStock_, tr("A condition on the stock"));
    panel_->addHead(tr("How it is traded"));
    panel_->addField(tr("Money"), money_);
    panel_->addPair(tr("Costs"), cost_, orderCost_, tr("Of the amount; and money for each order"));
    panel_->addPair(
        tr("Slip, volume"), slippage_, volume_,
        tr("Of the price, within the day's range; at most this share of the day's volume"));
    panel_->addField(tr("Filled"), filled_);
    panel_->addField(tr("From"), from_);
    panel_->addField(tr("To"), to_);
}

QWidget* RuleView::makeAnswer()
{
    told_->setWordWrap(true);
    told_->setFont(fontOf(Weight::Medium, 1.08));
    told_->hide();
    empty_->setTexts(
        tr("Would it have paid?"),
        tr("A rule, decided at each close with what was known then and filled on the next "
           "session, after costs."),
        tr("Try the strongest twenty of half a year"));
    connect(empty_, &EmptyPage::stepTaken, this, [this] {
        condition_->setText(QStringLiteral("close > sma(close, 150)"));
        rank_->setText(QStringLiteral("change(close, 126)"));
        ask();
    });
    cautions_->setWordWrap(true);
    setTone(cautions_, Tone::Caution);
    connect(tradesTable_, &QTableView::activated, this, [this] {
        const int row = chosenRow(tradesTable_);
        if (row < 0)
            return;
        const studies::Trade& trade = answer_.portfolio->trades[static_cast<std::size_t>(row)];
        Q_EMIT stockChosen(trade.stock, answer_.portfolio->sessions[trade.entered]);
    });
    auto* tabs = new QTabWidget;
    tabs->setDocumentMode(true);
    figuresTable_ = answerTable(figuresModel_, tr("Figures"));
    monthsTable_ = answerTable(monthsModel_, tr("Months"));
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
    auto* insideLayout = new QVBoxLayout(inside_);
    insideLayout->setContentsMargins(0, 0, 0, 0);
    insideLayout->addWidget(cautions_);
    insideLayout->addWidget(below, 1);
    inside_->hide();
    auto* answer = new QWidget;
    auto* layout = new QVBoxLayout(answer);
    layout->setContentsMargins(8, 0, 0, 0);
    layout->addWidget(told_);
    layout->addWidget(empty_, 1);
    layout->addWidget(inside_, 1);
    layout->addStretch(0);
    return answer;
}

void RuleView::refresh()
{
    for (ScreenBox* box : {screen_, otherwise_})
        box->offer(desk_.work().now());
    if (!desk_.market().isOpen())
        return;
    const auto sessions = desk_.market().data().sessions();
    const QDate first = dateOf(sessions.front());
    const QDate last = dateOf(sessions.back());
    const bool isNew = from_->minimumDate() != first || to_->maximumDate() != last;
    for (QDateEdit* box : {from_, to_})
        box->setDateRange(first, last);
    if (isNew) {
        from_->setDate(first);
        to_->setDate(last);
    }
    if (answer_.market != desk_.market().evaluator()->marketPtr()) {
        answer_ = {};
        inside_->hide();
        told_->hide();
        empty_->show();
    }
}

PortfolioRule RuleView::rule() const
{
    PortfolioRule rule;
    PortfolioStep step;
    if (const auto screen = screen_->screen(desk_.work().now()))
        step.screen = *screen;
    if (const std::string condition = utf8(condition_->text().trimmed()); !condition.empty())
        step.screen.criteria.push_back({condition});
    if (const std::string rank = utf8(rank_->text().trimmed()); !rank.empty())
        step.screen.rankBy = rank;
    step.isSmallestFirst = smallest_->isChecked();
    step.hold = hold_->value();
    step.keepWithin = keep_->value() == 0 ? 0 : std::max(keep_->value(), step.hold);
    step.weightBy = utf8(weights_->text().trimmed());
    step.when = utf8(when_->text().trimmed());
    rule.steps.push_back(step);
    if (const auto other = otherwise_->screen(desk_.work().now()); other && !step.when.empty()) {
        PortfolioStep second = step;
        second.when.clear();
        second.screen = *other;
        second.isSmallestFirst = false;
        rule.steps.push_back(second);
    }
    constexpr std::array kinds{Rebalancing::By::Sessions, Rebalancing::By::Weeks,
                               Rebalancing::By::Months};
    rule.rebalancing.by = kinds.at(static_cast<std::size_t>(by_->currentIndex()));
    rule.rebalancing.every = every_->value();
    rule.rebalancing.isReweighing = reweigh_->isChecked();
    rule.exits.stop = stop_->value() / 100.0;
    rule.exits.trailing = trailing_->value() / 100.0;
    rule.exits.target = target_->value() / 100.0;
    rule.exits.sessions = sessions_->value();
    rule.exits.onStock = utf8(onStock_->text().trimmed());
    rule.trading.money = money_->value();
    rule.trading.costShare = cost_->value() / 100.0;
    rule.trading.costAnOrder = orderCost_->value();
    rule.trading.slippage = slippage_->value() / 100.0;
    rule.trading.ofVolume = volume_->value() / 100.0;
    rule.trading.filledAt =
        filled_->currentIndex() == 1 ? Trading::FilledAt::NextClose : Trading::FilledAt::NextOpen;
    rule.from = dayOf(from_->date());
    rule.to = dayOf(to_->date());
    return rule;
}

void RuleView::tell(const QString& what)
{
    empty_->hide();
    told_->setText(what);
    told_->show();
}

void RuleView::ask()
{
    if (!desk_.market().isOpen())
        return;
    const PortfolioRule asked = rule();
    if (asked.steps.front().screen.criteria.empty()) {
        tell(tr("Choose a screen or type a condition first."));
        condition_->setFocus();
        return;
    }
    panel_->setBusy(true);
    tell(tr("Trading day by day…"));
    asker_.ask(
        [evaluator = desk_.market().evaluator(), book = desk_.work().nameBook(), asked,
         day = desk_.focus().day()](
            const Progress& progress) -> Result<std::shared_ptr<const Answer>> {
            auto made = studies::runPortfolio(asked, book->names(), *evaluator, day, progress);
            if (!made)
                return made.error();
            Answer answer;
            answer.market = evaluator->marketPtr();
            answer.told = studies::toldOf(*made);
            answer.portfolio = std::make_shared<const Portfolio>(*std::move(made));
            return std::make_shared<const Answer>(std::move(answer));
        },
        [this](const Result<std::shared_ptr<const Answer>>& answer) { take(answer); });
}

void RuleView::take(const Result<std::shared_ptr<const Answer>>& answer)
{
    panel_->setBusy(false);
    if (!answer) {
        tell(text(sentence(answer.error())));
        inside_->hide();
        return;
    }
    answer_ = **answer;
    inside_->show();
    const Portfolio& portfolio = *answer_.portfolio;
    const studies::Measures& measures = answer_.told.measures;
    QString sentence = tr("%1 became %2 in %3 years: %4 a year, at worst %5 below its high.")
                           .arg(numberText(portfolio.rule.trading.money, Unit::Money, 0),
                                numberText(portfolio.equity.back(), Unit::Money, 0),
                                numberText(static_cast<double>(measures.days) / studies::daysAYear,
                                           Unit::Plain, 1),
                                signedText(measures.annualReturn, Unit::Percent, 1),
                                numberText(-measures.worstFall, Unit::Percent, 1));
    if (answer_.told.ofBenchmark)
        sentence += tr(" The benchmark: %1 a year, at worst %2 below.")
                        .arg(signedText(answer_.told.ofBenchmark->annualReturn, Unit::Percent, 1),
                             numberText(-answer_.told.ofBenchmark->worstFall, Unit::Percent, 1));
    told_->setText(sentence);
    QStringList cautions;
    for (const studies::Caution& caution : studies::cautionsOf(portfolio, answer_.told))
        cautions << text(caution.words);
    cautions_->setText(cautionsText(cautions));
    cautions_->setVisible(!cautions.isEmpty());
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
    struct Year {
        int year = 0;
        std::array<double, 12> months;
        double whole = 0.0;
        double benchmark = 0.0;
        bool hasBenchmark = false;
    };
    const auto years = std::make_shared<std::vector<Year>>();
    for (const auto& month : answer_.told.months) {
        if (years->empty() || years->back().year != month.year) {
            years->push_back({month.year, {}, 1.0, 1.0, false});
            years->back().months.fill(missing);
        }
        Year& year = years->back();
        year.months.at(month.month - 1) = month.change;
        year.whole *= isMissing(month.change) ? 1.0 : 1.0 + month.change;
        if (!isMissing(month.benchmark)) {
            year.benchmark *= 1.0 + month.benchmark;
            year.hasBenchmark = true;
        }
    }
    std::vector<AnswerModel::Column> columns{
        {tr("Year"), {}, false}, {tr("Whole"), tr("Of the year")}, {tr("Index"), tr("Benchmark")}};
    for (int month = 1; month <= 12; ++month)
        columns.push_back({QLocale::c().standaloneMonthName(month, QLocale::ShortFormat)});
    monthsModel_->show(
        std::move(columns), years->size(), [years](std::size_t row, std::size_t column) {
            const Year& year = (*years)[row];
            switch (column) {
            case 0:
                return AnswerModel::Cell{QString::number(year.year),
                                         static_cast<double>(year.year)};
            case 1:
                return percentCell(year.whole - 1.0);
            case 2:
                return year.hasBenchmark ? percentCell(year.benchmark - 1.0) : AnswerModel::Cell{};
            default:
                return isMissing(year.months.at(column - 3))
                           ? AnswerModel::Cell{}
                           : percentCell(year.months.at(column - 3));
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
            const auto dayCell = [&](std::size_t session) {
                const Day day = portfolio->sessions[session];
                return AnswerModel::Cell{shortDayText(day), static_cast<double>(day.serial())};
            };
            switch (column) {
            case 0:
                return AnswerModel::Cell{text(market::symbolOn(
                    market->instrument(trade.stock), portfolio->sessions[trade.entered]))};
            case 1:
                return dayCell(trade.entered);
            case 2:
                return trade.left ? dayCell(*trade.left) : AnswerModel::Cell{};
            case 3:
                return AnswerModel::Cell{trade.left ? whyText(trade.why) : tr("still held")};
            case 4:
                return AnswerModel::Cell{numberText(trade.entryPrice, Unit::Plain, 2),
                                         trade.entryPrice};
            case 5:
                return AnswerModel::Cell{numberText(trade.exitPrice, Unit::Plain, 2),
                                         trade.exitPrice};
            case 6:
                return shareCell(trade.change);
            case 7:
                return moneyCell(trade.gain);
            case 8:
                return AnswerModel::Cell{countText(static_cast<std::size_t>(trade.bars)),
                                         static_cast<double>(trade.bars)};
            case 9:
                return shareCell(trade.worst);
            default:
                return shareCell(trade.best);
            }
        });
    fitColumns(tradesTable_);
}

void RuleView::showStocks()
{
    const auto rows = std::make_shared<const std::vector<studies::PortfolioTold::Contribution>>(
        answer_.told.contributions);
    stocksModel_->show(
        {{tr("Symbol"), {}, false},
         {tr("Trades")},
         {tr("Gain")},
         {tr("Of the money"), tr("Its gain by the money at the start")}},
        rows->size(),
        [rows, market = answer_.market,
         day = answer_.portfolio->sessions.back()](std::size_t row, std::size_t column) {
            const auto& own = (*rows)[row];
            switch (column) {
            case 0:
                return AnswerModel::Cell{
                    text(market::symbolOn(market->instrument(own.stock), day))};
            case 1:
                return AnswerModel::Cell{countText(own.trades), static_cast<double>(own.trades)};
            case 2:
                return moneyCell(own.gain);
            default:
                return shareCell(own.share);
            }
        });
}

} // namespace sieve::app
