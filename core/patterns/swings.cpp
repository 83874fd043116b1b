#include "core/patterns/swings.h"

#include "core/base/require.h"
#include "core/base/ties.h"

#include <algorithm>

namespace sieve::patterns {

std::vector<Swing> swingsByReversal(std::span<const double> highs, std::span<const double> lows,
                                    double reversal)
{
    require(reversal > 0.0 && highs.size() == lows.size(), "swings: no such reversal or bars");
    std::vector<Swing> swings;
    Swing high{Turn::High, 0, missing, 0};
    Swing low{Turn::Low, 0, missing, 0};
    bool mayBeHigh = true; // which turn may come next; at first either
    bool mayBeLow = true;
    for (std::size_t bar = 0; bar < highs.size(); ++bar) {
        if (isMissing(highs[bar]) || isMissing(lows[bar]))
            continue;
        // A bar's extremes have no order: what it reverses must lie before it.
        const bool fallsAway = mayBeHigh && !isMissing(high.price) &&
                               isAtMost(lows[bar], high.price * (1.0 - reversal));
        const bool risesAway = mayBeLow && !isMissing(low.price) &&
                               isAtLeast(highs[bar], low.price * (1.0 + reversal));
        if (fallsAway && !(risesAway && low.bar < high.bar)) {
            high.knownOn = bar;
            swings.push_back(high);
            low = {Turn::Low, bar, lows[bar], 0};
            high.price = missing;
            mayBeHigh = false;
            mayBeLow = true;
            continue;
        }
        if (risesAway) {
            low.knownOn = bar;
            swings.push_back(low);
            high = {Turn::High, bar, highs[bar], 0};
            low.price = missing;
            mayBeLow = false;
            mayBeHigh = true;
            continue;
        }
        if (mayBeHigh && (isMissing(high.price) || isGreater(highs[bar], high.price)))
            high = {Turn::High, bar, highs[bar], 0};
        if (mayBeLow && (isMissing(low.price) || isLess(lows[bar], low.price)))
            low = {Turn::Low, bar, lows[bar], 0};
    }
    return swings;
}

std::vector<Swing> turningPoints(std::span<const double> values, std::size_t reach)
{
    require(reach >= 1, "turning points: no reach");
    std::vector<Swing> points;
    for (std::size_t bar = reach; bar + reach < values.size(); ++bar) {
        const auto window = values.subspan(bar - reach, 2 * reach + 1);
        if (std::ranges::any_of(window, isMissing))
            continue;
        const auto isFirst = [&](auto extreme) {
            return static_cast<std::size_t>(extreme - window.begin()) == reach;
        };
        const auto [least, most] = std::ranges::minmax(window);
        if (least == most)
            continue;
        if (isFirst(std::ranges::max_element(window)))
            points.push_back({Turn::High, bar, values[bar], bar + reach});
        else if (isFirst(std::ranges::min_element(window)))
            points.push_back({Turn::Low, bar, values[bar], bar + reach});
    }
    return points;
}

double retraced(double from, double to, double price)
{
    return from == to ? missing : (to - price) / (to - from);
}

double retracementPrice(double from, double to, double share)
{
    return to - share * (to - from);
}

double mostRetraced(double from, double to, std::span<const double> highs,
                    std::span<const double> lows)
{
    double most = 0.0;
    for (const double price : from < to ? lows : highs)
        most = std::max(most, retraced(from, to, price));
    return most;
}

PricePoint pointNear(std::span<const Swing> swings, std::span<const double> highs,
                     std::span<const double> lows, std::span<const double> closes, std::size_t bar,
                     bool isOverClose, std::size_t reach)
{
    PricePoint point{bar, closes[bar]};
    std::size_t nearest = reach + 1;
    for (const Swing& swing : swings) {
        const std::size_t apart = swing.bar > bar ? swing.bar - bar : bar - swing.bar;
        if (apart < nearest) {
            nearest = apart;
            point = {swing.bar, swing.price};
        }
    }
    if (nearest <= reach)
        return point;
    const std::size_t end = std::min(bar + reach + 1, closes.size());
    for (std::size_t near = bar - std::min(bar, reach); near < end; ++near) {
        const double price = isOverClose ? highs[near] : lows[near];
        if (isOverClose ? isGreater(price, point.price) : isLess(price, point.price))
            point = {near, price};
    }
    return point;
}

} // namespace sieve::patterns
