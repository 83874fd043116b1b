#include "core/watchlists/trade_plan.h"

#include "core/base/toml_table.h"
#include "core/market/as_of.h"
#include "core/watchlists/plan_table.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace sieve::watchlists {

namespace {

/// The price, moved so far that it keeps clear of the levels on both sides; where they leave no
/// room for that, in the middle.
double keptBetween(double least, double price, double most, double clear)
{
    const double middle = (least + most) / 2.0;
    return std::clamp(price, std::min(least + clear, middle), std::max(most - clear, middle));
}

} // namespace

bool operator==(const TradePlan& a, const TradePlan& b)
{
    return a.on == b.on && isSameFigure(a.entry, b.entry) && isSameFigure(a.stop, b.stop) &&
           a.targets == b.targets && isSameFigure(a.shares, b.shares) &&
           a.isHalfNow == b.isHalfNow && a.entryRule == b.entryRule && a.stopRule == b.stopRule &&
           a.exitRule == b.exitRule;
}

TradePlan withRenamed(TradePlan plan, const language::Renaming& renaming)
{
    for (std::string* rule : {&plan.entryRule, &plan.stopRule, &plan.exitRule})
        *rule = renaming.in(*rule);
    return plan;
}

std::string faultOf(const TradePlan& plan)
{
    const auto isPrice = [](double price) { return std::isfinite(price) && price > 0.0; };
    if (!isPrice(plan.entry))
        return "The plan has no entry.";
    if (!isPrice(plan.stop) || plan.stop >= plan.entry)
        return "The stop must be a price below the entry.";
    if (plan.targets.size() > mostTargets)
        return fmt::format("A plan has at most {} targets.", mostTargets);
    double former = plan.entry;
    for (const double target : plan.targets) {
        if (!isPrice(target) || target <= former)
            return "Targets must be above the entry, each above the one before.";
        former = target;
    }
    if (!isMissing(plan.shares) && !(plan.shares > 0.0 && std::isfinite(plan.shares)))
        return "The number of shares must be above zero.";
    return {};
}

PlanTerms inCurrencyOf(PlanTerms terms, const market::Market& market, std::size_t stock, Day day)
{
    terms.account /= market.rate(stock, day);
    return terms;
}

PlanSize sizeOf(const TradePlan& plan, const PlanTerms& terms)
{
    PlanSize size;
    if (!faultOf(plan).empty())
        return size;
    const double risked = plan.entry - plan.stop;
    size.shares =
        isMissing(plan.shares)
            ? std::floor(std::min(terms.account * terms.risk / risked, terms.account / plan.entry))
            : plan.shares;
    size.half = std::floor(size.shares / 2.0);
    size.worth = size.shares * plan.entry;
    size.lost = size.shares * risked;
    size.ofAccount = size.lost / terms.account;
    for (const double target : plan.targets)
        size.rewards.push_back((target - plan.entry) / risked);
    return size;
}

TradePlan onFooting(TradePlan plan, const market::Market& market, std::size_t stock,
                    std::size_t footing)
{
    const double factor = market.priceFactor(stock, plan.on, footing);
    if (factor == 1.0)
        return plan;
    plan.entry *= factor;
    plan.stop *= factor;
    for (double& target : plan.targets)
        target *= factor;
    plan.shares /= factor;
    return plan;
}

TradePlan onDay(TradePlan plan, const market::Market& market, std::size_t stock, Day day)
{
    const auto bar = market::lastBarBy(market, stock, day);
    if (!bar)
        return plan;
    plan = onFooting(std::move(plan), market, stock, market.footing(stock, *bar));
    plan.on = day;
    return plan;
}

TradePlan withLevel(TradePlan plan, const PlanLevel& level, double price)
{
    constexpr double highest = 1e12; // of what a price may be
    const double clear = plan.entry / 100.0;
    switch (level.what) {
    case PlanLevel::What::Stop:
        plan.stopRule.clear();
        plan.stop = keptBetween(0.0, price, plan.entry, clear);
        break;
    case PlanLevel::What::Entry:
        plan.entryRule.clear();
        plan.entry = keptBetween(plan.stop, price,
                                 plan.targets.empty() ? highest : plan.targets.front(), clear);
        break;
    case PlanLevel::What::Target: {
        const std::size_t at = level.target;
        const double least = at == 0 ? plan.entry : plan.targets[at - 1];
        const double most = at + 1 < plan.targets.size() ? plan.targets[at + 1] : highest;
        plan.targets.at(at) = keptBetween(least, price, most, clear);
        break;
    }
    }
    return plan;
}

std::string toToml(const TradePlan& plan)
{
    std::string toml =
        fmt::format("on = \"{}\"\nentry = {}\nstop = {}\n", plan.on.iso(), plan.entry, plan.stop);
    if (!plan.targets.empty())
        toml += fmt::format("targets = [{}]\n", fmt::join(plan.targets, ", "));
    if (!isMissing(plan.shares))
        toml += fmt::format("shares = {}\n", plan.shares);
    if (plan.isHalfNow)
        toml += "half_now = true\n";
    for (const auto& [key, rule] : {std::pair{"entry_rule", &plan.entryRule},
                                    {"stop_rule", &plan.stopRule},
                                    {"exit_rule", &plan.exitRule}})
        if (!rule->empty())
            toml += fmt::format("{} = {}\n", key, quotedToml(*rule));
    return toml;
}

TradePlan readPlan(const toml::table& table)
{
    refuseOthers(table, "a plan",
                 {"on", "entry", "stop", "targets", "shares", "half_now", "entry_rule", "stop_rule",
                  "exit_rule"});
    TradePlan plan{dayUnder(table, "on"),
                   numberOr(table, "entry", missing),
                   numberOr(table, "stop", missing),
                   {},
                   numberOr(table, "shares", missing),
                   valueOr<bool>(table, "half_now", false),
                   valueOr<std::string>(table, "entry_rule", {}),
                   valueOr<std::string>(table, "stop_rule", {}),
                   valueOr<std::string>(table, "exit_rule", {})};
    if (const toml::node* targets = table.get("targets")) {
        if (!targets->is_array())
            failAt(targets->source(), "'targets' is no list", "write [45.0, 50.0]");
        for (const toml::node& each : *targets->as_array()) {
            const auto price = each.value<double>();
            if (!price || !each.is_number())
                failAt(each.source(), "'targets' holds something that is no number",
                       "write [45.0, 50.0]");
            plan.targets.push_back(*price);
        }
    }
    if (const std::string fault = faultOf(plan); !fault.empty())
        failAt(table.source(), fault.substr(0, fault.size() - 1), "write stop < entry < targets");
    return plan;
}

Result<TradePlan> tradePlanFromToml(std::string_view toml)
{
    return readToml(toml, "write entry = 41.5 and stop = 38", readPlan);
}

} // namespace sieve::watchlists
