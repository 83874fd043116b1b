#include "core/drawings/snap.h"

#include <algorithm>

namespace sieve::drawings {

namespace {

/// Whether no bar within reach has a value that `beats` this bar's.
template <class Beats>
bool isTurn(const std::vector<double>& values, std::size_t bar, const Beats& beats)
{
    constexpr std::size_t reach = 3;
    const std::size_t from = bar - std::min(bar, reach);
    const std::size_t end = std::min(bar + reach + 1, values.size());
    for (std::size_t other = from; other < end; ++other)
        if (beats(values[other], values[bar]))
            return false;
    return true;
}

} // namespace

std::optional<Point> meantPoint(const market::Bars& daily, std::size_t first, std::size_t end,
                                const std::function<double(const Point&)>& distance)
{
    std::optional<Point> meant;
    double nearest = 1.0; // in shares of the reach of each
    const auto consider = [&](std::size_t bar, double price, double from) {
        const Point place{static_cast<double>(bar), price};
        const double share = distance(place) / from;
        if (share <= nearest && (!meant || share < nearest)) { // a missing price is never near
            nearest = share;
            meant = place;
        }
    };
    for (std::size_t bar = first; bar < std::min(end, daily.size()); ++bar) {
        const bool isTop = isTurn(daily.high, bar, std::greater<>());
        const bool isBottom = isTurn(daily.low, bar, std::less<>());
        consider(bar, daily.high[bar], isTop ? snapsToTurn : snapsToPrice);
        consider(bar, daily.low[bar], isBottom ? snapsToTurn : snapsToPrice);
        consider(bar, daily.open[bar], snapsToPrice);
        consider(bar, daily.close[bar], snapsToPrice);
    }
    return meant;
}

} // namespace sieve::drawings
