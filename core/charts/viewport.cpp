#include "core/charts/viewport.h"

#include <algorithm>
#include <cmath>

namespace sieve::charts {

Viewport::Viewport(std::size_t bars) : bars_(bars)
{
    fit();
}

std::size_t Viewport::first() const
{
    return std::min(static_cast<std::size_t>(std::max(0.0, std::ceil(from_ - 0.5 + 1e-9))), bars_);
}

std::size_t Viewport::end() const
{
    return std::min(static_cast<std::size_t>(std::max(0.0, std::floor(to_ + 0.5 + 1e-9))), bars_);
}

/// The widest that is shown: all bars and the room behind the last.
double Viewport::mostBars() const
{
    return std::max(static_cast<double>(bars_) / (1.0 - roomAhead), leastBars);
}

/// Keeps the width within its limits and the bars in sight.
void Viewport::show(double from, double to)
{
    const double width = std::clamp(to - from, leastBars, mostBars());
    const double last = static_cast<double>(bars_) - 0.5 + roomFor(width);
    from_ = std::clamp(from, -0.5, std::max(-0.5, last - width));
    to_ = from_ + width;
}

void Viewport::fit()
{
    show(-0.5, mostBars() - 0.5);
}

void Viewport::showNewest(double bars)
{
    const double width = std::max(bars, leastBars) / (1.0 - roomAhead);
    const double last = static_cast<double>(bars_) - 0.5 + roomFor(width);
    show(last - width, last);
}

void Viewport::pan(double bars)
{
    show(from_ + bars, to_ + bars);
}

void Viewport::zoom(double factor, double centre)
{
    const double now = std::clamp(width() * factor, leastBars, mostBars());
    const double share = (centre - from_) / width();
    show(centre - now * share, centre + now * (1.0 - share));
}

Viewport Viewport::movedTo(std::span<const Day> days, std::span<const Day> to) const
{
    Viewport moved(to.size());
    if (days.empty() || to.empty() || bars_ == 0)
        return moved;
    const auto dayOf = [&](std::size_t bar) { return days[std::min(bar, days.size() - 1)]; };
    const auto placeOf = [&](auto found) {
        return static_cast<double>(
            std::min<std::ptrdiff_t>(found - to.begin(), std::ssize(to) - 1));
    };
    const double firstBar = placeOf(std::ranges::lower_bound(to, dayOf(first())));
    // A day that has several bars is seen to its last one.
    const auto [last, behind] =
        std::equal_range(to.begin(), to.end(), dayOf(std::max<std::size_t>(end(), 1) - 1));
    const double lastBar = placeOf(last == behind ? last : std::prev(behind));
    moved.show(firstBar - 0.5, lastBar + 0.5);
    return moved;
}

} // namespace sieve::charts
