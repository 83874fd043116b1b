#pragma once

#include "core/drawings/drawn.h"

#include <functional>
#include <optional>

namespace sieve::drawings {

/// Within how many pixels a point snaps to a price of a bar: to a high or low at which prices
/// turned, and to any other.
inline constexpr double snapsToTurn = 14.0;
inline constexpr double snapsToPrice = 8.0;

/// The open, high, low or close among bars [first, end) that is meant by a point near it, which
/// `distance` tells in pixels. A high over (a low under) all of the three bars on either side is a
/// turn and is preferred.
/// Missing: empty where nothing is near enough.
std::optional<Point> meantPoint(const market::Bars& daily, std::size_t first, std::size_t end,
                                const std::function<double(const Point&)>& distance);

} // namespace sieve::drawings
