#pragma once

#include "core/base/day.h"

#include <cstddef>
#include <optional>
#include <span>
#include <vector>

namespace sieve::charts {

/// What begins with a bar, the longest first.
enum class CalendarStep { Year, Quarter, Month, Week, Day, TwoHours, HalfHour, TenMinutes };

/// Whether a step of days begins with a session, of which `before` is the one before.
bool begins(CalendarStep step, Day day, Day before);

/// The step whose ticks fit on so many sessions: weeks up to 60, months up to 330, quarters up to
/// 1,100. Of minutes: days up to 14, and hours and less of up to 4, 1.2 and 0.3.
CalendarStep stepFor(double sessions, bool areMinutes = false);

/// A bar with which a step begins. It is named by `names`: a year's first one by the year, a day's
/// first one by the day, whatever the step.
struct SessionTick {
    std::size_t bar = 0;
    CalendarStep names = CalendarStep::Year;

    friend bool operator==(const SessionTick&, const SessionTick&) = default;
};

/// The ticks of bars [from, to], of which parts of a bar may be seen, at the step that fits; each
/// bar stands for so many sessions. The first one begins nothing, since nothing is known of the one
/// before.
/// Shape: days[n], a bar each; clock[n] of minutes (minutes of the day), else empty.
std::vector<SessionTick> sessionTicks(std::span<const Day> days, double from, double to,
                                      double sessionsABar = 1.0, std::span<const int> clock = {});

/// Decimals with which values so far apart are told apart, 6 at most: 2.5 needs one.
int decimalsFor(double step);

} // namespace sieve::charts
