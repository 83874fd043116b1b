#include "core/indicators/trailing_stops.h"

#include "core/base/require.h"
#include "core/base/ties.h"

#include <algorithm>

namespace sieve::indicators {

namespace {

/// One side's view: for a fall, prices are turned over, so that one rule serves both directions.
struct Side {
    double sign = 1.0; ///< 1 in a rise, -1 in a fall

    double high(double up, double down) const { return sign > 0 ? up : -down; }
    double low(double up, double down) const { return sign > 0 ? down : -up; }
};

} // namespace

void parabolicStop(Values highs, Values lows, double step, double cap, Span span, Out stop)
{
    require(span.firstBar == 0, "parabolic stop: it needs the whole history");
    require(highs.size() == span.from + stop.size() && lows.size() == highs.size(),
            "parabolic stop: sizes differ");
    Side side;
    double next = missing; // the stop of the bar to come, turned over in a fall
    double extreme = missing;
    double acceleration = step;
    std::ptrdiff_t before = -1; // the newest whole bar
    for (std::size_t bar = 0; bar < highs.size(); ++bar) {
        double value = missing;
        if (!isMissing(highs[bar]) && !isMissing(lows[bar])) {
            if (before >= 0) {
                const double highBefore = highs[static_cast<std::size_t>(before)];
                const double lowBefore = lows[static_cast<std::size_t>(before)];
                bool isFirst = isMissing(next);
                if (isFirst) {
                    const bool fallsMore = isLess(highs[bar] + lows[bar], highBefore + lowBefore);
                    side.sign = isLess(lows[bar], lowBefore) && fallsMore ? -1.0 : 1.0;
                    next = side.low(highBefore, lowBefore);
                    extreme = side.high(highs[bar], lows[bar]);
                }
                // On the first bar the limits use that bar alone.
                const double limitBefore =
                    isFirst ? side.low(highs[bar], lows[bar]) : side.low(highBefore, lowBefore);
                if (isAtMost(side.low(highs[bar], lows[bar]), next)) { // reached: turn
                    const double highest = isFirst ? side.high(highs[bar], lows[bar])
                                                   : std::max(side.high(highBefore, lowBefore),
                                                              side.high(highs[bar], lows[bar]));
                    const double turned = -std::max(extreme, highest);
                    side.sign = -side.sign;
                    value = side.sign * turned;
                    extreme = side.high(highs[bar], lows[bar]);
                    acceleration = step;
                    next = turned + acceleration * (extreme - turned);
                    const double otherBefore =
                        isFirst ? side.low(highs[bar], lows[bar]) : side.low(highBefore, lowBefore);
                    next = std::min({next, otherBefore, side.low(highs[bar], lows[bar])});
                } else {
                    value = side.sign * next;
                    const double high = side.high(highs[bar], lows[bar]);
                    if (isGreater(high, extreme)) {
                        extreme = high;
                        acceleration = std::min(acceleration + step, cap);
                    }
                    next += acceleration * (extreme - next);
                    next = std::min({next, limitBefore, side.low(highs[bar], lows[bar])});
                }
            }
            before = static_cast<std::ptrdiff_t>(bar);
        }
        if (bar >= span.from)
            stop[bar - span.from] = value;
    }
}

void trailAtRange(Values closes, Values ranges, double factor, Span span, Out stop)
{
    require(span.firstBar == 0, "trailing stop: it needs the whole history");
    require(closes.size() == span.from + stop.size() && ranges.size() == closes.size(),
            "trailing stop: sizes differ");
    double sign = 1.0;
    double level = missing; // turned over in a fall
    for (std::size_t bar = 0; bar < closes.size(); ++bar) {
        if (!isMissing(ranges[bar]) && !isMissing(closes[bar])) {
            const double distance = factor * ranges[bar];
            if (isMissing(level)) {
                level = closes[bar] - distance;
            } else if (isLess(sign * closes[bar], level)) {
                sign = -sign;
                level = sign * closes[bar] - distance;
            } else {
                level = std::max(level, sign * closes[bar] - distance);
            }
        }
        if (bar >= span.from)
            stop[bar - span.from] = isMissing(ranges[bar]) ? missing : sign * level;
    }
}

} // namespace sieve::indicators
