#include "core/indicators/window.h"

#include "core/indicators/lanes.h"
#include "core/indicators/wide.h"

#include <algorithm>
#include <array>
#include <vector>

namespace sieve::indicators {

namespace {

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

template <class Farther>
SIEVE_INLINE double extremeOf(const double* values, std::size_t count, Farther farther)
{
    constexpr std::size_t lanes = 16;
    double extremes[lanes];
    for (double& each : extremes)
        each = values[0];
    std::size_t i = 0;
    for (; i + lanes <= count; i += lanes)
        for (std::size_t lane = 0; lane < lanes; ++lane)
            extremes[lane] = farther(extremes[lane], values[i + lane]);
    double extreme = values[0];
    for (const double each : extremes)
        extreme = farther(extreme, each);
    for (; i < count; ++i)
        extreme = farther(extreme, values[i]);
    return extreme;
}

/// Windows of twice the width out of two that lie side by side.
template <class Farther>
SIEVE_INLINE void joinNeighbours(const double* __restrict narrow, std::size_t width,
                                 double* __restrict wide, std::size_t count, Farther farther)
{
    for (std::size_t i = 0; i < count; ++i)
        wide[i] = farther(narrow[i], narrow[i + width]);
}

/// The value beyond all others of each window. It does not matter in which order they are compared,
/// so a window is looked at in four lanes, or put together from two that overlap.
template <class Beyond>
SIEVE_INLINE void extremeOfWindows(Values values, int period, Span span, Out out, Beyond isBeyond)
{
    requireWindow(values, period, span, out);
    const auto farther = [isBeyond](double a, double b) {
        const double chosen = isBeyond(a, b) ? b : a;
        return b != b ? b : chosen; // a missing one stays
    };
    const auto length = static_cast<std::size_t>(period);
    const std::size_t bare = std::min(out.size(), length - std::min(length, span.from + 1));
    std::fill_n(out.data(), bare, missing); // bars before the first whole window
    const std::size_t windows = out.size() - bare;
    if (windows == 0)
        return;
    const double* const first = values.data() + (values.size() - out.size() + bare + 1 - length);
    constexpr std::size_t few = 12;
    if (windows <= few) {
        for (std::size_t i = 0; i < windows; ++i)
            out[bare + i] = extremeOf(first + i, length, farther) + 0.0; // one zero only
        return;
    }
    static thread_local std::array<std::vector<double>, 2> own;
    std::size_t count = windows + length - 1;
    const double* narrow = first; // by place: of the windows of `width` that begin there
    std::size_t width = 1;
    for (std::size_t turn = 0; 2 * width <= length; width *= 2, turn ^= 1U) {
        count -= width;
        own[turn].resize(std::max(own[turn].size(), count));
        joinNeighbours(narrow, width, own[turn].data(), count, farther);
        narrow = own[turn].data();
    }
    for (std::size_t i = 0; i < windows; ++i)
        out[bare + i] = farther(narrow[i], narrow[i + length - width]) + 0.0;
}

/// The window's mean less its first value.
SIEVE_INLINE double meanAboveFirst(Values window)
{
    return sumOf(window.size(), [&](std::size_t i) { return window[i] - window[0]; }) /
           static_cast<double>(window.size());
}

} // namespace

SIEVE_WIDE void windowHighest(Values values, int period, Span span, Out highest)
{
    extremeOfWindows(values, period, span, highest, [](double a, double b) { return a < b; });
}

SIEVE_WIDE void windowLowest(Values values, int period, Span span, Out lowest)
{
    extremeOfWindows(values, period, span, lowest, [](double a, double b) { return b < a; });
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
