#include "core/drawings/time_line.h"

#include "core/base/missing.h"

#include <algorithm>
#include <cmath>

namespace sieve::drawings {

double placeOf(std::span<const Day> days, Day day)
{
    if (days.empty())
        return missing;
    if (day > days.back())
        return static_cast<double>(days.size() - 1) + days.back().weekdaysTo(day);
    if (day < days.front())
        return days.front().weekdaysTo(day);
    const auto next = std::ranges::lower_bound(days, day);
    const auto at = static_cast<double>(next - days.begin());
    if (*next == day)
        return at;
    const Day before = *std::prev(next);
    return at - 1.0 + static_cast<double>(day - before) / (*next - before);
}

double placeOf(std::span<const Day> days, const Anchor& anchor)
{
    return placeOf(days, anchor.day) + anchor.inDay;
}

Anchor anchorAt(std::span<const Day> days, double place, double price, bool isInDay)
{
    return {dayAt(days, place), price, isInDay ? place - std::round(place) : 0.0};
}

Day dayAt(std::span<const Day> days, double place)
{
    const double last = static_cast<double>(days.size() - 1);
    if (place > last)
        return days.back().plusWeekdays(static_cast<int>(std::lround(place - last)));
    if (place < 0.0)
        return days.front().plusWeekdays(static_cast<int>(std::lround(place)));
    return days[static_cast<std::size_t>(std::lround(place))];
}

std::span<const Day> upTo(std::span<const Day> days, Day day)
{
    return days.first(static_cast<std::size_t>(std::ranges::upper_bound(days, day) - days.begin()));
}

} // namespace sieve::drawings
