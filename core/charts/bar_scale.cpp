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
