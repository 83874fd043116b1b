#include "app/desk/plan_shelf.h"

#include "app/chart/chart_view.h"
#include "app/desk/desk.h"
#include "app/desk/open_market.h"
#include "app/desk/plan_dialog.h"
#include "app/desk/workbench.h"
#include "app/parts/number_text.h"
#include "core/language/checker.h"
#include "core/watchlists/stays.h"
#include "core/watchlists/stocks.h"

#include <cmath>

namespace sieve::app {

using watchlists::TradePlan;

PlanShelf::PlanShelf(Desk& desk, ChartView& view, Of of)
    : QObject(&view), desk_(desk), view_(view), of_(of), asker_(this)
{
    connect(&asker_, &Asker::failed, &desk, &Desk::noticed);
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
    if (market != market_ || stock != stock_ || day != day_)
        levels_.reset();
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
    const watchlists::Tray none;
    return market_ ? watchlists::planOf(of_ == Of::Hand ? *work.tray : none,
                                        work.findList(list_.value_or(0)), *market_, stock_, day_)
                   : std::nullopt;
}

void PlanShelf::setLevels(const std::optional<TradePlan>& levels)
{
    levels_ = levels;
    refresh();
}

/// In the stock's currency.
watchlists::PlanTerms PlanShelf::termsHere() const
{
    return market_ ? watchlists::inCurrencyOf(terms_, *market_, stock_, day_) : terms_;
}

void PlanShelf::refresh()
{
    auto now = plan();
    if (now && levels_) { // a price that follows a rule is shown as it is by now
        if (!now->entryRule.empty() && now->entryRule == levels_->entryRule)
            now->entry = levels_->entry;
        if (!now->stopRule.empty() && now->stopRule == levels_->stopRule)
            now->stop = levels_->stop;
    }
    view_.setPlan(now, termsHere());
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
            const auto* list = work.findList(list_.value_or(0));
            const auto entry = list ? placeOn(*list, *market_, stock_) : std::nullopt;
            if (of_ == Of::List) {
                if (entry || (list && list->isKeptByRule()))
                    watchlists::setPlan(
                        entryToWrite(*work.editList(*list_), *market_,
                                     {symbolOn(market_->instrument(stock_), day_), day_}),
                        plan);
                return;
            }
            const auto place = placeIn(*work.tray, *market_, stock_);
            if (entry)
                watchlists::setPlan(work.editList(*list_)->entries[*entry], plan);
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

std::optional<LocatedError> PlanShelf::check(const QString& text, PlanDialog::Rule rule) const
{
    engine::Plan plan;
    const auto book = desk_.work().nameBook();
    const auto checked = rule == PlanDialog::Rule::Exit
                             ? language::checkCondition(utf8(text), book->names(), plan)
                             : language::check(utf8(text), book->names(), plan);
    if (!checked)
        return checked.error();
    const bool isCondition = checked->kind == Kind::YesNo;
    if (rule == PlanDialog::Rule::Stop && isCondition)
        return LocatedError{{}, "a stop is a price", "write lowest(low, 10)"};
    if (rule != PlanDialog::Rule::Exit && !isCondition && checked->kind != Kind::Number)
        return LocatedError{{}, "this is no price", "write sma(close, 50)"};
    return std::nullopt;
}

/// What the dialog tells: kept as it stands, and once more when it is known what its rules come to.
void PlanShelf::take(const TradePlan& plan)
{
    keep(plan, Workbench::Step::MayJoin);
    askRules(plan);
}

void PlanShelf::askRules(const TradePlan& plan)
{
    if (dialog_)
        dialog_->setRuleFault({});
    if (!market_ || (plan.entryRule.empty() && plan.stopRule.empty()))
        return asker_.stop();
    asker_.ask(
        [evaluator = desk_.market().evaluator(), book = desk_.work().nameBook(), plan,
         stock = stock_, day = day_](const Progress& progress) {
            TradePlan now = plan;
            engine::Plan parts;
            for (const auto& [rule, price] :
                 {std::pair{&plan.entryRule, &now.entry}, {&plan.stopRule, &now.stop}}) {
                const auto checked = rule->empty() ? Result<language::Checked>(LocatedError{})
                                                   : language::check(*rule, book->names(), parts);
                if (!checked || checked->kind != Kind::Number)
                    continue;
                const auto values = evaluator->history(parts, checked->node, stock, day, progress);
                *price = values.empty() ? missing : values.back();
            }
            return now;
        },
        [this, plan](const TradePlan& now) {
            const std::string fault = watchlists::faultOf(now);
            if (dialog_ && !fault.empty())
                dialog_->setRuleFault(tr("By the rules the stop is %1 and the entry %2. %3")
                                          .arg(numberText(now.stop, Unit::Money, 2),
                                               numberText(now.entry, Unit::Money, 2), text(fault)));
            if (fault.empty() && this->plan() == plan)
                keep(now, Workbench::Step::MayJoin);
        });
}

void PlanShelf::open(QWidget* window)
{
    if (!market_ || isMissing(watchlists::priceOn(*market_, stock_, day_)))
        return;
    const auto own = plan();
    dialog_ = new PlanDialog(
        text(market::symbolOn(market_->instrument(stock_), day_)), own.value_or(proposed()),
        termsHere(),
        [this](const QString& text, PlanDialog::Rule rule) { return check(text, rule); }, window);
    dialog_->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog_, &PlanDialog::planChanged, this, &PlanShelf::take);
    connect(dialog_, &PlanDialog::planRemoved, this,
            [this] { keep(std::nullopt, Workbench::Step::Own); });
    if (!own)
        keep(dialog_->plan(), Workbench::Step::MayJoin);
    dialog_->show();
}

} // namespace sieve::app
