#pragma once

#include <span>

namespace sieve::indicators {

/// The range of a bar, with the gap from the close before it:
/// max(high, prior close) - min(low, prior close).
/// Source:   J. Welles Wilder, "New Concepts in Technical Trading Systems" (1978).
/// Shape:    three columns[n], oldest first -> range[n], aligned. The first bar has no prior close
///           and so no true range; high - low is not put in its place.
/// Units:    the price's.
/// Missing:  a range with a missing part is missing.
/// Requires: equal sizes; else std::logic_error.
void trueRange(std::span<const double> highs, std::span<const double> lows,
               std::span<const double> closes, std::span<double> range);

/// Wilder's average of the true range; the first value stands on bar `period`.
/// Shape:    from the instrument's first bar. Requires: period >= 1. Else as trueRange.
void averageTrueRange(std::span<const double> highs, std::span<const double> lows,
                      std::span<const double> closes, int period, std::span<double> average);

} // namespace sieve::indicators
