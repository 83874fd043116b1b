#pragma once

#include "core/indicators/kernel.h"

namespace sieve::indicators {

/// Least squares over the last `period` bars, in two passes about the means.
/// Shape:    see Span; bars 0 .. period - 2 are missing.
/// Missing:  a window with a missing value has none; nor has one whose divisor is 0 (values that do
///           not move have no correlation, and nothing depends on them).
/// Requires: period >= 2, columns that reach back period - 1 bars or to bar 0; else
/// std::logic_error.

/// Slope of the values on the bars, a bar's step being 1.
void regressionSlope(Values values, int period, Span span, Out slope);
/// The value of that line at the newest bar.
void regressionValue(Values values, int period, Span span, Out value);
/// Share of the values' spread that the line explains, 0 to 1.
void regressionFit(Values values, int period, Span span, Out fit);

/// Pearson's correlation of two series, -1 to 1.
void correlation(Values values, Values others, int period, Span span, Out out);
/// Slope of the values on the others: covariance over the others' variance.
void slopeOn(Values values, Values others, int period, Span span, Out out);

} // namespace sieve::indicators
