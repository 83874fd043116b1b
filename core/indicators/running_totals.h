#pragma once

#include "core/indicators/kernel.h"

namespace sieve::indicators {

/// Totals that run from the instrument's first bar; only their course means anything, not their
/// level. They need the whole history.

/// Sum of all values from the first bar on, such as an advance-decline line of what advances and
/// declines differ by.
/// Missing:  a missing value adds nothing; the total is missing before the first known one.
void runningTotal(Values values, Span span, Out total);

/// On-balance volume: volume added on a higher close, taken off on a lower one.
/// Missing:  a bar without a volume adds nothing.
/// Source:   Joseph Granville, "Granville's New Key to Stock Market Profits" (1963); starts with
/// the
///           first bar's volume.
void onBalanceVolume(Values closes, Values volumes, Span span, Out total);

/// Accumulation line: volume times ((close - low) - (high - close)) / (high - low), summed.
/// Missing:  a bar without a volume adds nothing.
/// Source:   Marc Chaikin; a bar without range adds nothing.
void accumulationLine(Values highs, Values lows, Values closes, Values volumes, Span span,
                      Out total);

/// Volume-weighted average of (high + low + close) / 3 since the newest bar on which a condition
/// held, that bar included. A bar without a volume counts for nothing.
/// Missing:  before it first held, and while no share has traded since.
Enough volumeWeightedSince(Values condition, Values highs, Values lows, Values closes,
                           Values volumes, Span span, Out average);

} // namespace sieve::indicators
