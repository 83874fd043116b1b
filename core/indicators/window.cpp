#include "core/indicators/window.h"

#include "core/base/require.h"
#include "core/indicators/lanes.h"
#include "core/indicators/wide.h"

#include <algorithm>
#include <array>
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

constexpr std::size_t blocksTogether = 4;

/// Four whole blocks of so many bars from `at` on. Each sum waits for its own last step, so that
/// four of them side by side take little longer than one. `tails` has those of the block before,
/// then room for four more; afterwards it begins with those of the last block.
template <class Combine> SIEVE_INLINE void foldBlocks(const double* at, std::size_t length,
                                                      double* tails, double* out, Combine combine)
{
    double fold[blocksTogether];
    for (std::size_t i = 0; i < blocksTogether; ++i)
        tails[(i + 2) * length - 1] = fold[i] = at[(i + 1) * length - 1];
    for (std::size_t place = length - 1; place-- > 0;)
        for (std::size_t i = 0; i < blocksTogether; ++i) {
            fold[i] = combine(at[i * length + place], fold[i]);
            tails[(i + 1) * length + place] = fold[i];
        }
    for (std::size_t i = 0; i < blocksTogether; ++i) {
        fold[i] = at[i * length];
        if (length > 1)
            out[i * length] = combine(tails[i * length + 1], fold[i]);
        out[(i + 1) * length - 1] = tails[(i + 1) * length]; // its window is the block
    }
    for (std::size_t place = 1; place + 1 < length; ++place)
        for (std::size_t i = 0; i < blocksTogether; ++i) {
            fold[i] = combine(fold[i], at[i * length + place]);
            out[i * length + place] = combine(tails[i * length + place + 1], fold[i]);
        }
    std::copy_n(tails + blocksTogether * length, length, tails);
}

/// One window alone: the tail and the head that foldWindows() joins, both at once.
template <class Combine>
SIEVE_INLINE double foldOne(const double* at, std::size_t bar, std::size_t length, Combine combine)
{
    const std::size_t begin = (bar + 1) / length * length; // of the head; the tail ends before it
    const std::size_t heads = bar + 1 - begin;
    const std::size_t tails = length - heads;
    double tail = at[begin - 1];
    double head = heads > 0 ? at[begin] : 0.0;
    std::size_t i = 1;
    for (; i < std::min(tails, heads); ++i) {
        tail = combine(at[begin - 1 - i], tail);
        head = combine(head, at[begin + i]);
    }
    for (std::size_t left = i; left < tails; ++left)
        tail = combine(at[begin - 1 - left], tail);
    for (; i < heads; ++i)
        head = combine(head, at[begin + i]);
    return heads > 0 ? combine(tail, head) : tail;
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
    static thread_local std::vector<double> ownTails; // of a few blocks, by place in them
    ownTails.resize(std::max(ownTails.size(), (blocksTogether + 1) * length));
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
    if (out.size() == 1 && bar + 1 >= length) {
        out[0] = foldOne(at, bar, length, combine);
        return;
    }
    if (bar < end && bar + 1 >= length && (bar + 1) % length != 0)
        foldTails(bar / length * length - length, bar + 1 - length);
    while (bar < end) {
        const std::size_t begin = bar / length * length;
        if (bar == begin && begin > 0 && begin + blocksTogether * length <= end) {
            foldBlocks(at + begin, length, tails, out.data() + (begin - span.from), combine);
            bar += blocksTogether * length;
            continue;
        }
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

SIEVE_WIDE void windowSum(Values values, int period, Span span, Out sum)
{
    foldWindows(values, period, span, sum, [](double a, double b) { return a + b; });
}

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
