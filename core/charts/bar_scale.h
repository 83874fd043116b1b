#pragma once

#include "core/market/bars.h"

#include <cstddef>
#include <span>
#include <vector>

namespace sieve::charts {

/// What one bar of a chart stands for.
enum class BarScale { Day, Week, Month };

/// About how many sessions a bar stands for.
double sessionsIn(BarScale scale);

/// Where the bars of a scale end among daily ones: weeks begin on Monday, months on their first
/// day, and the newest bar is what has traded of its week or month up to the last day.
/// Shape: days[n] -> one place a bar, ascending; the last is n - 1.
std::vector<std::size_t> barEnds(std::span<const Day> days, BarScale scale);

/// Where a place among daily bars lies among those of a scale, and the other way round: the days of
/// a bar lie side by side across it, and ahead a bar has its usual sessions. Requires: bars that
/// end at `ends`, at least one.
double placeOnScale(std::span<const std::size_t> ends, BarScale scale, double daily);
double placeOnDays(std::span<const std::size_t> ends, BarScale scale, double place);

/// Daily bars as bars of a scale: the first open, the highest high, the lowest low, the last close,
/// all volume; the day is that of the last one.
/// Missing: a price or volume that is missing on a day is left out of the extremes and the sum; one
///          that is missing on all days stays missing.
market::Bars barsOfScale(const market::Bars& daily, std::span<const std::size_t> ends);

} // namespace sieve::charts
