#pragma once

#include "core/indicators/kernel.h"

namespace sieve::indicators {

/// The range of a bar, with the gap from the close before it:
/// max(high, prior close) - min(low, prior close).
/// Source:   J. Welles Wilder, "New Concepts in Technical Trading Systems" (1978).
/// Shape:    see Span; needs one bar before. Bar 0 has no prior close and so no true range; high -
///           low is not put in its place.
/// Units:    the price's.
/// Missing:  a range with a missing part is missing.
void trueRange(Values highs, Values lows, Values closes, Span span, Out range);

/// Wilder's average of the true range; the first value stands on bar `period`.
/// Requires: period >= 1. Else as trueRange, with the reach of the average and one bar more.
Enough averageTrueRange(Values highs, Values lows, Values closes, int period, Span span,
                        Out average);

} // namespace sieve::indicators
