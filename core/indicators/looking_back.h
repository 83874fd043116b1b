#pragma once

#include "core/indicators/kernel.h"

namespace sieve::indicators {

/// Kernels that look back for the newest bar on which a condition held (1 yes, 0 no).
/// Shape:    see Span. They need as much history as it takes to find it, and say when it was not
///           enough.

/// How many bars ago the condition last held; 0 is now.
/// Missing:  before it first held. A bar of which it cannot be said does not count as one.
Enough barsSince(Values condition, Span span, Out bars);
/// How many bars in a row, up to now, the condition has held.
/// Missing:  where the condition is.
Enough streak(Values condition, Span span, Out bars);
/// The value on the newest bar on which the condition held; missing before the first.
Enough valueWhen(Values condition, Values values, Span span, Out out);

} // namespace sieve::indicators
