#pragma once

#include "core/drawings/drawing.h"

#include <span>

namespace sieve::drawings {

// Where days lie among an instrument's daily bars: bar i at i, a day without a bar between its
// neighbours, a day after the last bar by the weekdays between (holidays to come are not known).

/// The place of a day among `days`, ascending.
/// Missing: among no days.
double placeOf(std::span<const Day> days, Day day);
double placeOf(std::span<const Day> days, const Anchor& anchor); ///< in its session too
/// A point at a place, in the middle of its day unless `isInDay`. Requires: days.
Anchor anchorAt(std::span<const Day> days, double place, double price, bool isInDay);
/// The day nearest to a place: that of a bar, or a weekday so many after the last one (before the
/// first one).
/// Requires: days.
Day dayAt(std::span<const Day> days, double place);
/// Those up to a day.
std::span<const Day> upTo(std::span<const Day> days, Day day);

} // namespace sieve::drawings
