#pragma once

#include "core/indicators/kernel.h"

namespace sieve::indicators {

/// Kernels over the last `period` values, the current one included: a plain sum, mean, extreme or
/// spread. Common to all:
/// Shape:    see Span; a bar's value needs `period` bars, so bars 0 .. period - 2 are missing.
/// Missing:  a window that holds a missing value has none.
/// Exactness: a sum is put together from those of two neighbouring blocks' ends, which begin at
///           multiples of `period` of the bar index, so a bar's value has the same bits wherever
///           evaluation starts, at about two wide operations a bar. Extremes are the same in any
///           order; they are put together from windows of half the width, log2(period) wide
///           operations a bar. The others look at each window by itself.
/// Requires: period >= 1, columns that reach back period - 1 bars or to bar 0; else
///           std::logic_error.
void windowSum(Values values, int period, Span span, Out sum);
void windowHighest(Values values, int period, Span span, Out highest);
void windowLowest(Values values, int period, Span span, Out lowest);

/// Arithmetic mean of the last `period` values.
void simpleMovingAverage(Values values, int period, Span span, Out mean);

/// Mean with weights 1 .. period, the newest heaviest, divided by period * (period + 1) / 2.
void weightedMovingAverage(Values values, int period, Span span, Out mean);

/// Population standard deviation (divisor `period`), two passes about the window's own first value,
/// so that values which do not move give exactly 0.
void standardDeviation(Values values, int period, Span span, Out deviation);

/// Mean of the distances from the window's mean, without sign; exactly 0 where nothing moves.
void meanDeviation(Values values, int period, Span span, Out deviation);

} // namespace sieve::indicators
