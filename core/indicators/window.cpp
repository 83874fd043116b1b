#include "core/indicators/window.h"

#include "core/base/missing.h"
#include "core/base/require.h"

#include <algorithm>

namespace sieve::indicators {

namespace {

void requireWindow(Values values, int period, std::span<double> out)
{
    require(period >= 1, "window: period below 1");
    require(values.size() == out.size(), "window: sizes differ");
}

/// Folds every window as (tail of the block before) with (head of the bar's own block). The tails
/// are written first, each to the bar that needs it, so no memory is needed beside `out`.
template <class Combine> void foldWindows(Values values, int period, std::size_t firstBar,
                                          std::span<double> out, Combine combine)
{
    requireWindow(values, period, out);
    const auto length = static_cast<std::size_t>(period);
    std::ranges::fill(out, missing);
    const std::size_t firstBlock = firstBar / length * length; // may begin before the values do
    for (std::size_t begin = firstBlock; begin + length <= firstBar + values.size();
         begin += length) {
        double tail = 0.0;
        for (std::size_t bar = begin + length; bar-- > std::max(begin, firstBar);) {
            const double value = values[bar - firstBar];
            tail = bar + 1 == begin + length ? value : combine(value, tail);
            const std::size_t user = bar + length - 1 - firstBar;
            if (user < out.size())
                out[user] = tail;
        }
    }
    for (std::size_t begin = firstBlock + length; begin < firstBar + values.size();
         begin += length) {
        double head = 0.0;
        const std::size_t end = std::min(begin + length - 1, firstBar + values.size());
        for (std::size_t bar = begin; bar < end;
             ++bar) { // the last bar's window is one whole block
            const double value = values[bar - firstBar];
            head = bar == begin ? value : combine(head, value);
            out[bar - firstBar] = combine(out[bar - firstBar], head);
        }
    }
}

} // namespace

void windowSum(Values values, int period, std::size_t firstBar, std::span<double> sum)
{
    foldWindows(values, period, firstBar, sum, [](double a, double b) { return a + b; });
}

void windowHighest(Values values, int period, std::size_t firstBar, std::span<double> highest)
{
    foldWindows(values, period, firstBar, highest,
                [](double a, double b) { return a < b || isMissing(b) ? b : a; });
}

void windowLowest(Values values, int period, std::size_t firstBar, std::span<double> lowest)
{
    foldWindows(values, period, firstBar, lowest,
                [](double a, double b) { return b < a || isMissing(b) ? b : a; });
}

void simpleMovingAverage(Values values, int period, std::size_t firstBar, std::span<double> mean)
{
    windowSum(values, period, firstBar, mean);
    for (double& each : mean)
        each /= period;
}

void weightedMovingAverage(Values values, int period, std::span<double> mean)
{
    requireWindow(values, period, mean);
    const auto length = static_cast<std::size_t>(period);
    const double weights = 0.5 * period * (period + 1.0);
    for (std::size_t bar = 0; bar < values.size(); ++bar) {
        if (bar + 1 < length) {
            mean[bar] = missing;
            continue;
        }
        double sum = 0.0;
        for (std::size_t i = 0; i < length; ++i)
            sum += static_cast<double>(i + 1) * values[bar + 1 + i - length];
        mean[bar] = sum / weights;
    }
}

void standardDeviation(Values values, int period, std::span<double> deviation)
{
    requireWindow(values, period, deviation);
    const auto length = static_cast<std::size_t>(period);
    for (std::size_t bar = 0; bar < values.size(); ++bar) {
        if (bar + 1 < length) {
            deviation[bar] = missing;
            continue;
        }
        const Values window = values.subspan(bar + 1 - length, length);
        double sum = 0.0;
        for (const double value : window)
            sum += value - window[0];
        const double mean = sum / period;
        double squares = 0.0;
        for (const double value : window)
            squares += (value - window[0] - mean) * (value - window[0] - mean);
        deviation[bar] = std::sqrt(squares / period);
    }
}

} // namespace sieve::indicators
