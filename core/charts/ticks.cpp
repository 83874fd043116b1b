#include "core/charts/ticks.h"

#include <algorithm>
#include <cmath>

namespace sieve::charts {

namespace {

/// Of a step within a day; 0 of longer ones.
int minutesOf(CalendarStep step)
{
    return step == CalendarStep::TwoHours     ? 120
           : step == CalendarStep::HalfHour   ? 30
           : step == CalendarStep::TenMinutes ? 10
                                              : 0;
}

} // namespace

bool begins(CalendarStep step, Day day, Day before)
{
    const auto now = day.date();
    const auto then = before.date();
    const auto quarter = [](const std::chrono::year_month_day& date) {
        return (static_cast<unsigned>(date.month()) - 1) / 3;
    };
    switch (step) {
    case CalendarStep::Year:
        return now.year() != then.year();
    case CalendarStep::Quarter:
        return now.year() != then.year() || quarter(now) != quarter(then);
    case CalendarStep::Month:
        return now.month() != then.month() || now.year() != then.year();
    case CalendarStep::Week:
        break;
    case CalendarStep::Day:
    case CalendarStep::TwoHours:
    case CalendarStep::HalfHour:
    case CalendarStep::TenMinutes:
        return day != before;
    }
    // A week begins on Monday; over a holiday of a week the days of the week may go on.
    return day.serial() - before.serial() >= 7 ||
           day.weekday().iso_encoding() < before.weekday().iso_encoding();
}

CalendarStep stepFor(double sessions, bool areMinutes)
{
    if (areMinutes && sessions <= 14)
        return sessions > 4     ? CalendarStep::Day
               : sessions > 1.2 ? CalendarStep::TwoHours
               : sessions > 0.3 ? CalendarStep::HalfHour
                                : CalendarStep::TenMinutes;
    return sessions > 1100  ? CalendarStep::Year
           : sessions > 330 ? CalendarStep::Quarter
           : sessions > 60  ? CalendarStep::Month
                            : CalendarStep::Week;
}

std::vector<SessionTick> sessionTicks(std::span<const Day> days, double from, double to,
                                      double sessionsABar, std::span<const int> clock)
{
    std::vector<SessionTick> ticks;
    const CalendarStep step = stepFor((to - from) * sessionsABar, !clock.empty());
    const int minutes = minutesOf(step);
    const double first = std::max(1.0, std::ceil(from));
    const double last = std::min(static_cast<double>(days.size()) - 1.0, std::floor(to));
    for (double at = first; at <= last; ++at) {
        const auto bar = static_cast<std::size_t>(at);
        if (days[bar] == days[bar - 1]) { // of minutes
            if (minutes > 0 && clock[bar] / minutes != clock[bar - 1] / minutes)
                ticks.push_back({bar, step});
            continue;
        }
        if (minutes > 0)
            ticks.push_back({bar, CalendarStep::Day});
        else if (begins(step, days[bar], days[bar - 1]))
            ticks.push_back({bar, begins(CalendarStep::Year, days[bar], days[bar - 1])
                                      ? CalendarStep::Year
                                      : step});
    }
    return ticks;
}

int decimalsFor(double step)
{
    constexpr int most = 6;
    int decimals = 0;
    for (; decimals < most && std::fabs(step - std::round(step)) > 1e-9 * step; step *= 10.0)
        ++decimals;
    return decimals;
}

} // namespace sieve::charts
