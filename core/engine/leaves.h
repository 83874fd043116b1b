#pragma once

#include "core/engine/bar_frame.h"
#include "core/engine/plan.h"

#include <span>

namespace sieve::engine {

/// Writes what a leaf is worth on bars [from, from + out.size()): what stands in the data, as known
/// on each bar's day, on the frame's footing. Constants, bar columns and days are left to the pass.
void fillLeaf(const Node& leaf, const BarFrame& frame, std::size_t from, std::span<double> out);

/// How many days ahead the calendar's dates are taken as announced.
inline constexpr int announcedDays = 100;

} // namespace sieve::engine
