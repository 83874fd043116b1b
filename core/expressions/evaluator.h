#pragma once

#include "core/base/progress.h"
#include "core/expressions/bar_pass.h"
#include "core/expressions/plan.h"
#include "core/market/as_of.h"

#include <cstddef>
#include <map>
#include <memory>
#include <mutex>
#include <span>
#include <vector>

namespace sieve::expressions {

/// Answers a plan's parts over one market. Each way to ask gives the same bits for the same day.
///
/// A stock's value on a day is that of its newest bar by then, with what was known by that bar's
/// day; before its first bar and once delisted it has none. Prices stand on the footing of that
/// bar: splits that came later do not show.
///
/// Threads: may be asked from several threads at once; works in parallel inside.
/// Owns:    finished columns of single days, up to `cacheBudget` bytes, so that a changed limit
///          costs a comparison and no indicator; when full, the cache is emptied.
class Evaluator {
public:
    explicit Evaluator(market::MarketPtr market, std::size_t cacheBudget = 256U << 20U);

    const market::Market& market() const { return *market_; }
    const market::MarketPtr& marketPtr() const { return market_; }

    /// Several parts for every instrument on one day.
    std::vector<ColumnPtr> columns(const Plan& plan, std::span<const NodeId> targets, Day day);
    ColumnPtr column(const Plan& plan, NodeId target, Day day);

    /// One part for every instrument on each of some days, ascending: as known on each of them.
    /// Errors: Stopped when `progress` says so.
    std::vector<ColumnPtr> columnsOver(const Plan& plan, NodeId target, std::span<const Day> days,
                                       const Progress& progress = {});

    /// One part over one instrument's bars up to `day`, all on the footing of the last of them:
    /// what a chart draws. Its last value is that of column(). Empty when nothing is known by
    /// `day`.
    std::vector<double> history(const Plan& plan, NodeId target, std::size_t instrument, Day day);

private:
    struct CacheKey {
        NodeKey node;
        Day day;
        friend auto operator<=>(const CacheKey&, const CacheKey&) = default;
    };

    ColumnPtr cached(NodeKey node, Day day) const;
    void keep(NodeKey node, Day day, const ColumnPtr& column);
    std::vector<std::vector<ColumnPtr>> alongBars(const Plan& plan, std::span<const NodeId> targets,
                                                  std::span<const Day> days,
                                                  const Progress& progress);
    std::map<Day, ColumnPtr> acrossOn(const Plan& plan, NodeId node, std::span<const Day> days,
                                      const Progress& progress);
    AcrossTable acrossUnder(const Plan& plan, std::span<const NodeId> targets,
                            std::span<const Day> days, const Progress& progress);

    market::MarketPtr market_;
    std::size_t cacheBudget_;
    mutable std::mutex mutex_; ///< guards the two below
    std::map<CacheKey, ColumnPtr> cache_;
    std::size_t cachedBytes_ = 0;
};

} // namespace sieve::expressions
