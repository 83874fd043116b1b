#pragma once

#include "core/market/bars.h"
#include "core/market/exchange.h"

#include <cstddef>
#include <span>
#include <vector>

namespace sieve::charts {

/// What one bar of a chart stands for.
enum class BarScale { Day, Week, Month, Minutes };

/// Where weeks and months end among daily bars: weeks begin on Monday, months on their first day,
/// and the newest bar is what has traded of its week or month up to the last day.
/// Shape: days[n] -> one place a bar, ascending; the last is n - 1. Requires: no minutes.
std::vector<std::size_t> barEnds(std::span<const Day> days, BarScale scale);

/// Daily bars as bars of a scale: the first open, the highest high, the lowest low, the last close,
/// all volume; the day is that of the last one.
/// Missing: a price or volume that is missing on a day is left out of the extremes and the sum; one
///          that is missing on all days stays missing.
market::Bars barsOfScale(const market::Bars& daily, std::span<const std::size_t> ends);

/// Where the bars of a chart lie among daily ones, and the other way round. Bar i reaches from
/// i - 0.5 to i + 0.5, and so does a day: the days of a week lie side by side across it, the
/// minutes of a session across its day. Before the first bar and ahead of the last, a bar has its
/// usual sessions.
class BarPlaces {
public:
    BarPlaces() = default; ///< of no bars
    /// Of daily bars, weeks or months that end there: barEnds().
    BarPlaces(std::span<const std::size_t> ends, BarScale scale);
    /// Of minutes: each bar ends after such a share of its session.
    BarPlaces(std::span<const std::uint32_t> ofDays, std::span<const double> shares);

    bool empty() const { return edges_.empty(); }
    /// About how many sessions a bar stands for.
    double sessionsEach() const { return sessionsABar_; }
    /// Requires both: not empty.
    double onScale(double daily) const;
    double onDays(double place) const;

private:
    std::vector<double> edges_; ///< on days: where the first bar begins, then where each ends
    double sessionsABar_ = 1.0;
};

/// Which share of its session has gone at the end of each bar of so many minutes; by the hours of
/// the exchange, or by the number of bars where they are not known.
/// Shape: begins[n], ofDays[n] (the daily bar of the session) -> [n], 0 to 1, rising within a day.
std::vector<double> sessionShares(const market::Exchange* exchange, std::span<const Minute> begins,
                                  std::span<const Day> days, int minutes);

/// The minutes of the exchange's day at which bars begin; of universal time where its hours are not
/// known.
std::vector<int> clockOf(const market::Exchange* exchange, std::span<const Minute> begins,
                         std::span<const Day> days);

} // namespace sieve::charts
