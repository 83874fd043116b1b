#include "app/weigh/plan_shelf.h"

#include "app/chart/chart_view.h"
#include "app/desk/desk.h"
#include "app/desk/workbench.h"
#include "app/parts/number_text.h"
#include "app/weigh/plan_dialog.h"
#include "core/watchlists/stocks.h"

#include <cmath>

namespace sieve::app {

using watchlists::TradePlan;

PlanShelf::PlanShelf(Desk& desk, ChartView& view) : QObject(&view), desk_(desk), view_(view)
{
    connect(&view, &ChartView::planMoved, this,
            [this](const TradePlan& plan) { keep(plan, Workbench::Step::Own); });
    connect(&desk.work(), &Workbench::trayChanged, this, &PlanShelf::refresh);
    connect(&desk.work(), &Workbench::listsChanged, this, &PlanShelf::refresh);
}

void PlanShelf::setStock(market::MarketPtr market, std::size_t stock, Day day,
                         std::optional<std::int64_t> list)
{
    if (dialog_ && (market != market_ || stock != stock_))
        dialog_->close(); // it is about the stock that was shown till now
    market_ = std::move(market);
    stock_ = stock;
    day_ = day;
    list_ = list;
    refresh();
}

void PlanShelf::setTerms(const watchlists::PlanTerms& terms)
{
    terms_ = terms;
    refresh();
}

std::optional<TradePlan> PlanShelf::plan() const
{
    const Work& work = desk_.work().now();
    return market_ ? watchlists::planOf(*work.tray, work.findList(list_.value_or(0)), *market_,
                                        stock_, day_)
                   : std::nullopt;
}

void PlanShelf::refresh()
{
    const auto now = plan();
    view_.setPlan(now, terms_);
    if (dialog_ && now)
        dialog_->setPlan(*now);
}

/// What one would begin with: in at the close, out eight percent below, up by twice that.
TradePlan PlanShelf::proposed() const
{
    const double close = watchlists::priceOn(*market_, stock_, day_);
    constexpr double share = 0.08;
    const double step = std::pow(10.0, std::floor(std::log10(close)) - 3.0); // as one would type it
    const auto rounded = [step](double price) { return std::round(price / step) * step; };
    return {day_, close, rounded(close * (1.0 - share)), {rounded(close * (1.0 + 2.0 * share))}};
}

void PlanShelf::keep(const std::optional<TradePlan>& plan, Workbench::Step step)
{
    if (!market_)
        return;
    const QString symbol = text(market::symbolOn(market_->instrument(stock_), day_));
    const QString what = plan ? tr("Plan %1") : tr("Remove the plan of %1");
    desk_.work().edit(
        what.arg(symbol),
        [&](Work& work) {
            const auto place = placeIn(*work.tray, *market_, stock_);
            const auto* list = work.findList(list_.value_or(0));
            const auto entry = list ? placeOn(*list, *market_, stock_) : std::nullopt;
            if (entry)
                work.editList(*list_)->entries[*entry].plan = plan;
            if (place)
                work.tray.edit().setPlan(*place, plan);
            if (entry || place || !plan)
                return;
            watchlists::Tray& tray = work.tray.edit();
            addTo(tray, *market_, std::span(&stock_, 1), day_, {});
            tray.setPlan(*placeIn(tray, *market_, stock_), plan);
        },
        step);
}

void PlanShelf::open(QWidget* window)
{
    if (!market_ || isMissing(watchlists::priceOn(*market_, stock_, day_)))
        return;
    const auto own = plan();
    dialog_ = new PlanDialog(text(market::symbolOn(market_->instrument(stock_), day_)),
                             own.value_or(proposed()), terms_, window);
    dialog_->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog_, &PlanDialog::planChanged, this,
            [this](const TradePlan& plan) { keep(plan, Workbench::Step::MayJoin); });
    connect(dialog_, &PlanDialog::planRemoved, this,
            [this] { keep(std::nullopt, Workbench::Step::Own); });
    if (!own)
        keep(dialog_->plan(), Workbench::Step::MayJoin);
    dialog_->show();
}

} // namespace sieve::app
