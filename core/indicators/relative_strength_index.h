#pragma once

#include "core/indicators/kernel.h"

namespace sieve::indicators {

/// Wilder's relative strength index: the gains' share of all movement over `period` bars,
/// 100 * averageGain / (averageGain + averageLoss).
/// Source:   J. Welles Wilder, "New Concepts in Technical Trading Systems" (1978). First averages
///           are plain means of `period` changes; later changes enter with weight 1 / period.
/// Shape:    see Span; the first value stands on bar `period`. Needs `reachBack` of its average and
///           one bar more.
/// Units:    closes in any one currency; rsi from 0 to 100.
/// Missing:  no rsi before the first close that moves; a missing close leaves the averages, and so
///           the rsi, as they were.
/// Requires: period >= 1; else std::logic_error.
Enough relativeStrengthIndex(Values closes, int period, Span span, Out rsi);

} // namespace sieve::indicators
