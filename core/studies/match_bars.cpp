#include "core/studies/match_bars.h"

#include <algorithm>
#include <optional>

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
                auto& figures = stock.strengths.emplace_back(bar, std::vector<double>()).second;
                for (std::size_t i = targets.firstStrength; i < targets.nodes.size(); ++i)
                    figures.push_back(swept.value(i, day));
            }
        }
        before = bar;
    }
}

} // namespace

std::vector<MatchedStock> matchedStocks(const engine::Plan& plan, const screens::ScreenNodes& nodes,
                                        std::span<const engine::NodeId> strengths,
                                        bool isEveryMatch, engine::Evaluator& evaluator, Day from,
                                        Day to, const Progress& progress)
{
    const market::Market& market = evaluator.market();
    std::vector<MatchedStock> stocks(market.size());
    for (std::size_t i = 0; i < stocks.size(); ++i) {
        if (market.isIndex(i))
            continue;
        const auto days = market.bars(i).days;
        stocks[i].matches = BarBits(days.size());
        stocks[i].universe = BarBits(days.size());
        stocks[i].firstBar =
            static_cast<std::size_t>(std::ranges::lower_bound(days, from) - days.begin());
        stocks[i].endBar =
            static_cast<std::size_t>(std::ranges::upper_bound(days, to) - days.begin());
    }
    const auto sessions = sessionsFor(market, from, to);
    const Targets targets = targetsOf(nodes, strengths);
    if (!sessions.empty())
        evaluator.sweep(
            plan, targets.nodes, sessions,
            [&](const engine::SweepValues& swept) {
                // No two threads have the same instrument at a time.
                if (!market.isIndex(swept.instrument))
                    addStretch(stocks[swept.instrument], swept, targets, isEveryMatch);
            },
            progress);
    for (MatchedStock& stock : stocks)
        std::ranges::sort(stock.strengths, {}, [](const auto& each) { return each.first; });
    return stocks;
}

} // namespace sieve::studies
