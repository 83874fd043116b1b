#include "app/prove/trade_chart.h"

#include "app/chart/chart_view.h"
#include "app/chart/price_chart.h"
#include "app/desk/desk.h"
#include "app/desk/open_market.h"
#include "app/desk/set_up_shelf.h"
#include "app/desk/workbench.h"
#include "app/parts/number_text.h"
#include "app/parts/remembered.h"

#include <QVBoxLayout>
#include <algorithm>

namespace sieve::app {

namespace {

constexpr std::size_t sessionsBefore = 60;
constexpr std::size_t sessionsAfter = 20;

/// All trades of the stock of one.
std::vector<charts::MarkedDay> marksOf(const studies::Portfolio& portfolio, std::size_t stock)
{
    std::vector<charts::MarkedDay> marks;
    for (const studies::Trade& trade : portfolio.trades) {
        if (trade.stock != stock)
            continue;
        marks.push_back({stock, portfolio.sessions[trade.entered],
                         utf8(TradeChart::tr("Bought at %1.")
                                  .arg(numberText(trade.entryPrice, Unit::Plain, 2)))});
        if (trade.left)
            marks.push_back({stock, portfolio.sessions[*trade.left],
                             utf8(TradeChart::tr("Sold at %1: %2.")
                                      .arg(numberText(trade.exitPrice, Unit::Plain, 2),
                                           text(studies::whyWords(trade.why))))});
    }
    return marks;
}

} // namespace

TradeChart::TradeChart(Desk& desk) : desk_(desk), asker_(this), chart_(new PriceChart)
{
    chart_->setCompact(true);
    ChartView& view = chart_->view();
    new SetUpShelf(desk, view);
    remember(&view, "prove.trade_chart");
    connect(&view, &ChartView::failed, &desk, &Desk::noticed);
    connect(&view, &ChartView::setUpChanged, this, [this](bool needsFigures) {
        if (needsFigures) {
            isAsked_ = false;
            ask();
        }
    });
    connect(&asker_, &Asker::failed, &desk, &Desk::noticed);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->addWidget(chart_);
}

void TradeChart::show(const std::shared_ptr<const studies::Portfolio>& portfolio, std::size_t trade)
{
    portfolio_ = portfolio;
    trade_ = trade;
    isAsked_ = false;
    ask();
}

void TradeChart::clear()
{
    asker_.stop();
    portfolio_.reset();
    chart_->setChart(
        std::make_shared<const charts::Chart>(charts::emptyChart(chart_->view().setUp())));
}

void TradeChart::showEvent(QShowEvent* event)
{
    QWidget::showEvent(event);
    ask();
}

void TradeChart::ask()
{
    if (!isVisible() || isAsked_ || !portfolio_ || !desk_.market().isOpen())
        return;
    isAsked_ = true;
    const studies::Trade& trade = portfolio_->trades[trade_];
    const std::size_t newest = portfolio_->sessions.size() - 1;
    const std::size_t until = std::min(newest, trade.left.value_or(newest) + sessionsAfter);
    chart_->setShownBars(static_cast<int>(until - trade.entered + sessionsBefore));
    asker_.ask(
        [evaluator = desk_.market().evaluator(), book = desk_.work().nameBook(),
         setUp = chart_->view().setUp(), stock = trade.stock, day = portfolio_->sessions[until],
         marks = marksOf(*portfolio_, trade.stock),
         lists = desk_.work().now().lists](const Progress& progress) {
            auto made =
                charts::makeChart(*evaluator, book->names(), setUp, stock, day, progress, lists);
            charts::markDays(made, stock, marks);
            return std::make_shared<const charts::Chart>(std::move(made));
        },
        [this](const std::shared_ptr<const charts::Chart>& chart) { chart_->setChart(chart); });
}

} // namespace sieve::app
