#pragma once

#include "core/base/found_store.h"
#include "core/base/progress.h"
#include "core/engine/bar_pass.h"
#include "core/engine/column_cache.h"
#include "core/engine/plan.h"
#include "core/market/as_of.h"
#include "core/market/composite.h"

#include <array>
#include <cstddef>
#include <cstdint>
#include <functional>
#include <map>
#include <memory>
#include <mutex>
#include <span>
#include <string>
#include <vector>

namespace sieve::engine {

/// What a sweep tells of one instrument for some days in a row.
struct SweepValues {
    std::size_t instrument = 0;
    std::size_t firstDay = 0;            ///< place of the first among the days asked for
    std::size_t firstBar = 0;            ///< to which the first value belongs
    std::span<const std::uint32_t> bars; ///< a day: its bar
    std::span<const std::span<const double>> values; ///< a target: a value a bar, from `firstBar`

    double value(std::size_t target, std::size_t day) const ///< day counted from `firstDay`
    {
        return values[target][bars[day] - firstBar];
    }
    /// Whether each day has the bar after that of the day before.
    bool isBarADay() const
    {
        std::uint32_t differing = 0;
        for (std::size_t day = 0; day < bars.size(); ++day)
            differing |= bars[day] ^ (bars[0] + static_cast<std::uint32_t>(day));
        return differing == 0;
    }
};

/// Says of a target of a sweep that it is wanted on every day.
inline constexpr std::size_t everywhere = static_cast<std::size_t>(-1);

/// Bars of n minutes of one instrument, and parts over them.
struct MinuteHistories {
    market::Bars bars;                       ///< each with the day of its session; on one footing
    std::vector<Minute> begins;              ///< a bar
    std::vector<std::uint32_t> ofDays;       ///< a bar: the daily bar of its session
    std::vector<std::vector<double>> values; ///< a target: a value a bar
};

/// Answers a plan's parts over one market. Each way to ask gives the same bits for the same day.
///
/// A stock's value on a day is that of its newest bar by then, with what was known by that bar's
/// day; before its first bar and once delisted it has none. Prices stand on the footing of that
/// bar: splits that came later do not show. Money is in the instrument's own currency, and brought
/// to the market's where it meets that of others (currencies.h).
///
/// Threads: may be asked from several threads at once; works in parallel inside.
/// Owns:    finished columns of single days, up to `cacheBudget` bytes, so that a changed limit
///          costs a comparison and no indicator; as many bytes again of what others found.
/// Errors:  every question may throw Stopped, when its progress says so.
class Evaluator {
public:
    explicit Evaluator(market::MarketPtr market, std::size_t cacheBudget = 256U << 20U);

    const market::Market& market() const { return *market_; }
    const market::MarketPtr& marketPtr() const { return market_; }

    /// Several parts for every instrument on one day.
    std::vector<ColumnPtr> columns(const Plan& plan, std::span<const NodeId> targets, Day day,
                                   const Progress& progress = {});
    ColumnPtr column(const Plan& plan, NodeId target, Day day);

    /// One part for every instrument on each of some days, ascending: as known on each of them.
    std::vector<ColumnPtr> columnsOver(const Plan& plan, NodeId target, std::span<const Day> days,
                                       const Progress& progress = {});

    /// Several parts for every instrument on each of some days, ascending, handed out instrument by
    /// instrument while they are in the cache of the processor: for counts over many days.
    /// `visit` is called from several threads at once, and more than once for an instrument, but
    /// never for the same one at a time.
    /// `onlyWhere`: a target: the place of the condition among the targets where alone it is
    /// wanted, or `everywhere`. Elsewhere its values mean nothing. Such a condition is wanted
    /// everywhere itself.
    void sweep(const Plan& plan, std::span<const NodeId> targets, std::span<const Day> days,
               const std::function<void(const SweepValues&)>& visit, const Progress& progress = {},
               std::span<const std::size_t> onlyWhere = {});

    /// Parts over one instrument's bars up to `day`, from bar `from` on, all on the footing of the
    /// last of them: what a chart draws. The last value is that of column(). Empty when nothing is
    /// known by `day`. A later `from` costs less and changes no value.
    std::vector<std::vector<double>> histories(const Plan& plan, std::span<const NodeId> targets,
                                               std::size_t instrument, Day day,
                                               const Progress& progress = {}, std::size_t from = 0);
    std::vector<double> history(const Plan& plan, NodeId target, std::size_t instrument, Day day,
                                const Progress& progress = {});

    /// Parts over a line that stands beside this market, such as a composite of its stocks: the one
    /// instrument of `line` (see market::marketOf). Prices and averages are the line's own; what is
    /// said across stocks is this market's, on the line's days.
    /// Missing:  a rank or percentile: a line is no stock.
    /// Requires: days of the line that are sessions of this market.
    std::vector<std::vector<double>> lineHistories(const Plan& plan,
                                                   std::span<const NodeId> targets,
                                                   const market::Market& line, Day day,
                                                   const Progress& progress = {});

    /// An instrument's bars of so many minutes up to the end of `day`, as minutes(n, …) makes them,
    /// with parts over them. A part of the bars alone (Plan::isOfOwnBars) is that of each bar. Any
    /// other is only known at the close, so that a bar has the value of the day before, and the
    /// session's last bar that of its own day. Empty where the market has no minutes of it.
    /// Requires: minutes from 1.
    MinuteHistories minuteHistories(const Plan& plan, std::span<const NodeId> targets,
                                    std::size_t instrument, Day day, int minutes,
                                    const Progress& progress = {});

    std::size_t cachedBytes() const { return cache_.bytes(); }
    /// What those who ask keep of what they made of the answers, for their next question.
    FoundStore& found() { return found_; }

private:
    class Question;
    std::vector<std::vector<double>> histories(const Plan& plan, std::span<const NodeId> targets,
                                               const market::Market& line, std::size_t instrument,
                                               Day day, std::size_t from, const Progress& progress);
    market::MarketPtr composite(const Node& part);

    market::MarketPtr market_;
    std::vector<std::size_t> indexes_; ///< instruments that are no stocks
    std::size_t cacheBudget_;
    ColumnCache cache_;
    FoundStore found_;
    /// What a line of many stocks is known by, and what keeps its list alive meanwhile.
    struct LineKey {
        Op op = Op::Composite;
        std::size_t weight = 0;
        std::string name;
        std::shared_ptr<const ListMembers> list;

        friend auto operator<=>(const LineKey&, const LineKey&) = default;
    };
    std::mutex compositeMutex_; ///< guards the one below
    std::map<LineKey, market::MarketPtr> composites_;
};

} // namespace sieve::engine
