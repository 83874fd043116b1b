#include "core/studies/match_bars.h"

#include <algorithm>
#include <atomic>
#include <numeric>
#include <optional>
#include <utility>

namespace sieve::studies {

namespace {

/// The sessions from the one before `from` to `to`.
std::span<const Day> sessionsFor(const market::Market& market, Day from, Day to)
{
    const auto sessions = market.sessions();
    auto begin = std::ranges::lower_bound(sessions, from);
    const auto end = std::ranges::upper_bound(sessions, to);
    if (begin >= end)
        return {};
    if (begin != sessions.begin())
        --begin;
    return {begin, end};
}

struct Targets {
    std::vector<engine::NodeId> nodes; ///< the condition first
    std::optional<std::size_t> universe;
    std::size_t firstStrength = 1;
};

Targets targetsOf(const screens::ScreenNodes& nodes, std::span<const engine::NodeId> strengths)
{
    Targets targets{{nodes.condition}, std::nullopt, 1};
    if (nodes.universe) {
        targets.universe = 1;
        targets.nodes.push_back(*nodes.universe);
        targets.firstStrength = 2;
    }
    targets.nodes.insert(targets.nodes.end(), strengths.begin(), strengths.end());
    return targets;
}

/// One stretch of days of a stock; several days may have the same bar.
void addStretch(MatchedStock& stock, const engine::SweepValues& swept, const Targets& targets,
                bool isEveryMatch)
{
    std::optional<std::size_t> before; // the bar in hand before this one
    for (std::size_t day = 0; day < swept.bars.size(); ++day) {
        const std::size_t bar = swept.bars[day];
        if (before == bar)
            continue;
        const bool isIn = !targets.universe || swept.value(*targets.universe, day) == 1.0;
        if (isIn)
            stock.universe.set(bar);
        if (swept.value(0, day) == 1.0) {
            const bool goesOn = before && *before + 1 == bar && stock.matches.at(*before);
            stock.matches.set(bar);
            if (targets.firstStrength < targets.nodes.size() && (isEveryMatch || !goesOn)) {
                stock.strengths.addBar(bar);
                for (std::size_t i = targets.firstStrength; i < targets.nodes.size(); ++i)
                    stock.strengths.addFigure(swept.value(i, day));
            }
        }
        before = bar;
    }
}

} // namespace

void BarFigures::sort()
{
    if (std::ranges::is_sorted(bars_))
        return;
    std::vector<std::size_t> order(bars_.size());
    std::iota(order.begin(), order.end(), std::size_t{0});
    std::ranges::sort(order, {}, [this](std::size_t at) { return bars_[at]; });
    BarFigures sorted(each_);
    for (const std::size_t at : order) {
        sorted.addBar(bars_[at]);
        for (const double figure : figures(at))
            sorted.addFigure(figure);
    }
    *this = std::move(sorted);
}

std::vector<MatchedStock> matchedStocks(const engine::Plan& plan, const screens::ScreenNodes& nodes,
                                        std::span<const engine::NodeId> strengths,
                                        bool isEveryMatch, engine::Evaluator& evaluator, Day from,
                                        Day to, const Progress& progress, std::size_t mostBars)
{
    const market::Market& market = evaluator.market();
    std::vector<MatchedStock> stocks(market.size());
    for (std::size_t i = 0; i < stocks.size(); ++i) {
        if (market.isIndex(i))
            continue;
        const auto days = market.bars(i).days;
        stocks[i].matches = BarBits(days.size());
        stocks[i].universe = BarBits(days.size());
        stocks[i].strengths = BarFigures(strengths.size());
        stocks[i].firstBar =
            static_cast<std::size_t>(std::ranges::lower_bound(days, from) - days.begin());
        stocks[i].endBar =
            static_cast<std::size_t>(std::ranges::upper_bound(days, to) - days.begin());
    }
    const auto sessions = sessionsFor(market, from, to);
    const Targets targets = targetsOf(nodes, strengths);
    // A figure is wanted only where the condition holds.
    std::vector<std::size_t> onlyWhere(targets.nodes.size(), engine::everywhere);
    for (std::size_t i = targets.firstStrength; i < onlyWhere.size(); ++i)
        onlyWhere[i] = 0;
    std::atomic<std::size_t> bars = 0;
    if (!sessions.empty())
        evaluator.sweep(
            plan, targets.nodes, sessions,
            [&](const engine::SweepValues& swept) {
                if (market.isIndex(swept.instrument))
                    return;
                // No two threads have the same instrument at a time.
                MatchedStock& stock = stocks[swept.instrument];
                const std::size_t before = stock.strengths.size();
                addStretch(stock, swept, targets, isEveryMatch);
                if (bars += stock.strengths.size() - before; bars > mostBars)
                    throw TooManyBars{};
            },
            progress, onlyWhere);
    for (MatchedStock& stock : stocks)
        stock.strengths.sort();
    return stocks;
}

} // namespace sieve::studies
