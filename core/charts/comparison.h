#pragma once

#include <cstddef>
#include <span>
#include <vector>

namespace sieve::charts {

// A line that is compared with prices counts from its first value among the bars in sight,
// [first, end).

/// How far it has gone from there to a bar.
/// Missing: where it has no value on the bar, or none in sight.
double changeInSight(std::span<const double> values, std::size_t first, std::size_t end,
                     std::size_t bar);

/// Its values as if it had begun at the first close in sight.
/// Shape: values[n] -> [n]. Requires: first < closes.size().
std::vector<double> fromFirstClose(std::span<const double> values, std::span<const double> closes,
                                   std::size_t first, std::size_t end);

} // namespace sieve::charts
