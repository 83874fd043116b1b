#pragma once

#include "core/base/day.h"

#include <cstddef>
#include <optional>
#include <span>
#include <vector>

namespace sieve::charts {

/// What begins with a session, the longest first.
enum class CalendarStep { Year, Quarter, Month, Week };

/// Whether a step begins with a session, of which `before` is the one before.
bool begins(CalendarStep step, Day day, Day before);

/// The step whose ticks fit on so many bars: weeks up to 60, months up to 330, quarters up to
/// 1,100.
CalendarStep stepFor(double bars);

/// A session with which a step begins. It is named by `names`: a year's first session by the year,
/// whatever the step.
struct SessionTick {
    std::size_t bar = 0;
    CalendarStep names = CalendarStep::Year;

    friend bool operator==(const SessionTick&, const SessionTick&) = default;
};

/// The ticks of bars [from, to], of which parts of a bar may be seen, at the step that fits; each
/// bar stands for so many sessions. The first one begins nothing, since nothing is known of the one
/// before.
std::vector<SessionTick> sessionTicks(std::span<const Day> days, double from, double to,
                                      double sessionsABar = 1.0);

/// Decimals with which values so far apart are told apart, 6 at most: 2.5 needs one.
int decimalsFor(double step);

} // namespace sieve::charts
