#include "core/drawings/time_line.h"

#include "core/base/missing.h"

#include <algorithm>

namespace sieve::drawings {

namespace {

/// Weekdays up to a day, counted from one that does not matter.
int weekdaysUpTo(Day day)
{
    constexpr int far = 7 * 200'000;          // from a Sunday before all days there are
    const int since = day.serial() + 4 + far; // 1970-01-01 was a Thursday: day -4 was a Sunday
    return since / 7 * 5 + std::min(since % 7, 5);
}

/// The weekday that lies so many after `day`; 0 gives the day itself.
Day weekdayAfter(Day day, int count)
{
    const int step = count < 0 ? -1 : 1;
    // Whole weeks at once, the rest one by one.
    Day at = day.plusDays(count / 5 * 7);
    for (int left = count % 5; left != 0;) {
        at = at.plusDays(step);
        if (!at.isWeekend())
            left -= step;
    }
    return at;
}

} // namespace

double placeOf(std::span<const Day> days, Day day)
{
    if (days.empty())
        return missing;
    if (day > days.back())
        return static_cast<double>(days.size() - 1) +
               (weekdaysUpTo(day) - weekdaysUpTo(days.back()));
    if (day < days.front())
        return weekdaysUpTo(day) - weekdaysUpTo(days.front());
    const auto next = std::ranges::lower_bound(days, day);
    const auto at = static_cast<double>(next - days.begin());
    if (*next == day)
        return at;
    const Day before = *std::prev(next);
    return at - 1.0 + static_cast<double>(day - before) / (*next - before);
}

Day dayAt(std::span<const Day> days, double place)
{
    const double last = static_cast<double>(days.size() - 1);
    if (place > last)
        return weekdayAfter(days.back(), static_cast<int>(std::lround(place - last)));
    if (place < 0.0)
        return weekdayAfter(days.front(), static_cast<int>(std::lround(place)));
    return days[static_cast<std::size_t>(std::lround(place))];
}

std::span<const Day> upTo(std::span<const Day> days, Day day)
{
    return days.first(static_cast<std::size_t>(std::ranges::upper_bound(days, day) - days.begin()));
}

} // namespace sieve::drawings
