#pragma once

#include <span>

namespace sieve::indicators {

/// How many bars ago the condition last held; 0 on a bar where it holds.
/// Shape:    conditions[n] of yes 1, no 0, from the instrument's first bar -> bars[n], aligned.
/// Missing:  until the condition has held once. A missing condition counts as not held.
/// Requires: equal sizes; else std::logic_error.
void barsSince(std::span<const double> conditions, std::span<double> bars);

/// How many bars in a row, up to this one, the condition has held; 0 where it does not.
/// Missing:  where the condition is. Else as barsSince.
void streak(std::span<const double> conditions, std::span<double> bars);

} // namespace sieve::indicators
