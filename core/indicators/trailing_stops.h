#pragma once

#include "core/indicators/kernel.h"

namespace sieve::indicators {

/// Wilder's parabolic stop and reverse.
/// Source:   J. Welles Wilder, "New Concepts in Technical Trading Systems" (1978). The first
///           direction is short when the second bar falls further than it rises, else long; the
///           first stop is the first bar's low or high. Each new extreme adds `step` to the
///           acceleration, up to `cap`; a stop never enters the range of the two bars before.
/// Shape:    see Span, from the whole history; the first value stands on bar 1.
/// Missing:  a bar with a missing high or low has none and changes nothing.
void parabolicStop(Values highs, Values lows, double step, double cap, Span span, Out stop);

/// A stop that follows the close at `factor` average true ranges: under the highest close of a
/// rise, over the lowest close of a fall. A close through it turns the direction, and the stop
/// starts anew on the other side; in one direction it never steps back. It starts as a stop of a
/// rise. Shape:    see Span, from the whole history; `ranges` are average true ranges, and the
/// first value
///           stands where they begin.
void trailAtRange(Values closes, Values ranges, double factor, Span span, Out stop);

} // namespace sieve::indicators
