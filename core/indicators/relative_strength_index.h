#pragma once

#include <span>

namespace sieve::indicators {

/// Wilder's relative strength index: the gains' share of all movement over `period` bars,
/// 100 * averageGain / (averageGain + averageLoss).
/// Source:   J. Welles Wilder, "New Concepts in Technical Trading Systems" (1978). First averages
///           are plain means of `period` changes; later changes enter with weight 1 / period.
/// Shape:    closes[n], oldest first, from the instrument's first bar -> rsi[n], aligned;
///           rsi[0] .. rsi[period - 1] are missing.
/// Units:    closes in any one currency; rsi from 0 to 100.
/// Missing:  NaN in both. No rsi before the first close that moves; a missing close leaves the
///           averages, and so the rsi, as they were.
/// Requires: period >= 1, equal sizes, no overlap; else std::logic_error.
void relativeStrengthIndex(std::span<const double> closes, int period, std::span<double> rsi);

} // namespace sieve::indicators
