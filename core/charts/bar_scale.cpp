#include "core/charts/bar_scale.h"

#include "core/base/missing.h"
#include "core/charts/ticks.h"

#include <algorithm>

namespace sieve::charts {

namespace {

/// Whether a bar begins with a day, of which `before` is the one before.
bool beginsBar(BarScale scale, Day day, Day before)
{
    return scale == BarScale::Day ||
           begins(scale == BarScale::Week ? CalendarStep::Week : CalendarStep::Month, day, before);
}

/// `pick` of those of two that are known.
template <class Pick> double ofKnown(double a, double b, Pick pick)
{
    return isMissing(a) ? b : isMissing(b) ? a : pick(a, b);
}

} // namespace

double sessionsIn(BarScale scale)
{
    return scale == BarScale::Month ? 21.0 : scale == BarScale::Week ? 5.0 : 1.0;
}

std::vector<std::size_t> barEnds(std::span<const Day> days, BarScale scale)
{
    std::vector<std::size_t> ends;
    for (std::size_t day = 0; day < days.size(); ++day)
        if (day + 1 == days.size() || beginsBar(scale, days[day + 1], days[day]))
            ends.push_back(day);
    return ends;
}

// Bar i of the scale reaches from i - 0.5 to i + 0.5, and so does a day among the daily ones.

double placeOnScale(std::span<const std::size_t> ends, BarScale scale, double daily)
{
    const auto edge = [&](std::size_t bar) { return static_cast<double>(ends[bar]) + 0.5; };
    const double last = edge(ends.size() - 1);
    if (daily <= -0.5)
        return -0.5 + (daily + 0.5) / sessionsIn(scale);
    if (daily >= last)
        return static_cast<double>(ends.size()) - 0.5 + (daily - last) / sessionsIn(scale);
    const auto bar = static_cast<std::size_t>(
        std::ranges::upper_bound(ends, daily, {},
                                 [](std::size_t end) { return static_cast<double>(end) + 0.5; }) -
        ends.begin());
    const double begin = bar == 0 ? -0.5 : edge(bar - 1);
    return static_cast<double>(bar) - 0.5 + (daily - begin) / (edge(bar) - begin);
}

double placeOnDays(std::span<const std::size_t> ends, BarScale scale, double place)
{
    const auto edge = [&](std::size_t bar) { return static_cast<double>(ends[bar]) + 0.5; };
    const double last = static_cast<double>(ends.size()) - 0.5;
    if (place <= -0.5)
        return -0.5 + (place + 0.5) * sessionsIn(scale);
    if (place >= last)
        return edge(ends.size() - 1) + (place - last) * sessionsIn(scale);
    const auto bar = static_cast<std::size_t>(place + 0.5);
    const double begin = bar == 0 ? -0.5 : edge(bar - 1);
    return begin + (place + 0.5 - static_cast<double>(bar)) * (edge(bar) - begin);
}

market::Bars barsOfScale(const market::Bars& daily, std::span<const std::size_t> ends)
{
    market::Bars bars;
    bars.reserve(ends.size());
    std::size_t first = 0;
    for (const std::size_t end : ends) {
        market::Bar bar = daily.at(first);
        for (std::size_t day = first + 1; day <= end; ++day) {
            const market::Bar next = daily.at(day);
            bar.day = next.day;
            bar.open = isMissing(bar.open) ? next.open : bar.open;
            bar.high =
                ofKnown(bar.high, next.high, [](double a, double b) { return std::max(a, b); });
            bar.low = ofKnown(bar.low, next.low, [](double a, double b) { return std::min(a, b); });
            bar.close = isMissing(next.close) ? bar.close : next.close;
            bar.volume = ofKnown(bar.volume, next.volume, [](double a, double b) { return a + b; });
        }
        bars.add(bar);
        first = end + 1;
    }
    return bars;
}

} // namespace sieve::charts
