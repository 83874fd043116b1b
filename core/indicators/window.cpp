#include "core/indicators/window.h"

#include "core/base/require.h"
#include "core/indicators/lanes.h"
#include "core/indicators/wide.h"

#include <algorithm>
#include <vector>

namespace sieve::indicators {

namespace {

void requireWindow(Values values, int period, Span span, Out out)
{
    require(period >= 1, "window: period below 1");
    require(span.firstBar <= span.from && values.size() == span.from - span.firstBar + out.size(),
            "window: sizes differ");
    require(span.firstBar == 0 || span.firstBar + static_cast<std::size_t>(period) <= span.from + 1,
            "window: bars are missing before the first");
}

/// Folds each window as (tail of the block before) with (head of the bar's own block); a window
/// that is a whole block is that block's longest tail.
template <class Combine>
SIEVE_INLINE void foldWindows(Values values, int period, Span span, Out out, Combine combine)
{
    requireWindow(values, period, span, out);
    const auto length = static_cast<std::size_t>(period);
    const double* const at = values.data() - span.firstBar; // by bar index
    const std::size_t end = span.from + out.size();
    static thread_local std::vector<double> ownTails; // of one block, by place in it
    ownTails.resize(std::max(ownTails.size(), length));
    double* const tails = ownTails.data();
    const auto foldTails = [&](std::size_t begin, std::size_t lowest) {
        double tail = at[begin + length - 1];
        tails[length - 1] = tail;
        for (std::size_t bar = begin + length - 1; bar-- > lowest;) {
            tail = combine(at[bar], tail);
            tails[bar - begin] = tail;
        }
    };
    std::size_t bar = span.from;
    if (bar < end && bar + 1 >= length && (bar + 1) % length != 0)
        foldTails(bar / length * length - length, bar + 1 - length);
    while (bar < end) { // a block at a time
        const std::size_t begin = bar / length * length;
        const std::size_t last = begin + length - 1; // its window is the block
        if (begin == 0) {
            for (; bar < std::min(end, last); ++bar)
                out[bar - span.from] = missing;
        } else if (bar < std::min(end, last)) {
            double head = at[begin];
            for (std::size_t before = begin + 1; before <= bar; ++before)
                head = combine(head, at[before]);
            while (true) {
                out[bar - span.from] = combine(tails[bar - begin + 1], head);
                if (++bar == std::min(end, last))
                    break;
                head = combine(head, at[bar]);
            }
        }
        if (bar == end)
            break;
        foldTails(begin, begin);
        out[bar++ - span.from] = tails[0];
    }
}

/// Calls `of(window)` for each bar that has one.
template <class Of>
SIEVE_INLINE void eachWindow(Values values, int period, Span span, Out out, Of of)
{
    requireWindow(values, period, span, out);
    const auto length = static_cast<std::size_t>(period);
    for (std::size_t bar = span.from; bar < span.from + out.size(); ++bar)
        out[bar - span.from] = bar + 1 < length
                                   ? missing
                                   : of(values.subspan(bar + 1 - length - span.firstBar, length));
}

/// The window's mean less its first value.
SIEVE_INLINE double meanAboveFirst(Values window)
{
    return sumOf(window.size(), [&](std::size_t i) { return window[i] - window[0]; }) /
           static_cast<double>(window.size());
}

} // namespace

SIEVE_WIDE void windowSum(Values values, int period, Span span, Out sum)
{
    foldWindows(values, period, span, sum, [](double a, double b) { return a + b; });
}

SIEVE_WIDE void windowHighest(Values values, int period, Span span, Out highest)
{
    foldWindows(values, period, span, highest,
                [](double a, double b) { return a < b || isMissing(b) ? b : a; });
}

SIEVE_WIDE void windowLowest(Values values, int period, Span span, Out lowest)
{
    foldWindows(values, period, span, lowest,
                [](double a, double b) { return b < a || isMissing(b) ? b : a; });
}

SIEVE_WIDE void simpleMovingAverage(Values values, int period, Span span, Out mean)
{
    windowSum(values, period, span, mean);
    for (double& each : mean)
        each /= period;
}

SIEVE_WIDE void weightedMovingAverage(Values values, int period, Span span, Out mean)
{
    const double weights = 0.5 * period * (period + 1.0);
    eachWindow(values, period, span, mean, [weights](Values window) {
        return sumOf(window.size(),
                     [&](std::size_t i) { return static_cast<double>(i + 1) * window[i]; }) /
               weights;
    });
}

SIEVE_WIDE void standardDeviation(Values values, int period, Span span, Out deviation)
{
    eachWindow(values, period, span, deviation, [](Values window) {
        const double mean = meanAboveFirst(window);
        const double squares = sumOf(window.size(), [&](std::size_t i) {
            const double apart = window[i] - window[0] - mean;
            return apart * apart;
        });
        return std::sqrt(squares / static_cast<double>(window.size()));
    });
}

SIEVE_WIDE void meanDeviation(Values values, int period, Span span, Out deviation)
{
    eachWindow(values, period, span, deviation, [](Values window) {
        const double mean = meanAboveFirst(window);
        return sumOf(window.size(),
                     [&](std::size_t i) { return std::fabs(window[i] - window[0] - mean); }) /
               static_cast<double>(window.size());
    });
}

} // namespace sieve::indicators
