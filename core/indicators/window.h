#pragma once

#include <cstddef>
#include <span>

namespace sieve::indicators {

/// Kernels over the last `period` values, the current one included: a plain sum, mean, extreme or
/// spread. Common to all:
/// Shape:    values[n], oldest first -> out[n], aligned; out[0] .. out[period - 2] are missing.
///           `firstBar` is the bar index of values[0] in the instrument's whole history.
/// Missing:  a window that holds a missing value has none.
/// Exactness: sums are built from blocks that begin at multiples of `period` of the bar index, so a
///           bar's value has the same bits wherever evaluation starts (van Herk, 1992; Gil and
///           Werman, 1993, do the same for extremes). Cost: about two operations a bar.
/// Requires: period >= 1, equal sizes, no overlap; else std::logic_error.
using Values = std::span<const double>;

void windowSum(Values values, int period, std::size_t firstBar, std::span<double> sum);
void windowHighest(Values values, int period, std::size_t firstBar, std::span<double> highest);
void windowLowest(Values values, int period, std::size_t firstBar, std::span<double> lowest);

/// Arithmetic mean of the last `period` values.
void simpleMovingAverage(Values values, int period, std::size_t firstBar, std::span<double> mean);

/// Mean with weights 1 .. period, the newest heaviest, divided by period * (period + 1) / 2.
void weightedMovingAverage(Values values, int period, std::span<double> mean);

/// Population standard deviation (divisor `period`), two passes about the window's own first value,
/// so that values which do not move give exactly 0.
void standardDeviation(Values values, int period, std::span<double> deviation);

} // namespace sieve::indicators
