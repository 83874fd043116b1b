#include "core/indicators/true_range.h"

#include "core/base/require.h"
#include "core/indicators/weighed_blocks.h"

#include <algorithm>
#include <vector>

namespace sieve::indicators {

namespace {

template <class Figure> SIEVE_INLINE void rangeOf(const Figure& high, const Figure& low,
                                                  const Figure& before, Figure& range)
{
    const Figure top = high < before ? before : high;
    const Figure bottom = before < low ? before : low;
    range = top - bottom;
}

/// True ranges made while they are weighed; columns by bar index.
struct Ranges {
    static constexpr std::size_t series = 1;
    const double* highs;
    const double* lows;
    const double* closes;

    SIEVE_INLINE void one(std::size_t bar, double* range) const
    {
        rangeOf(highs[bar], lows[bar], closes[bar - 1], range[0]);
    }
    SIEVE_INLINE void four(std::size_t bar, Four* ranges) const
    {
        Four high;
        Four low;
        Four before;
        load(high, highs + bar);
        load(low, lows + bar);
        load(before, closes + bar - 1);
        rangeOf(high, low, before, ranges[0]);
    }
};

} // namespace

SIEVE_WIDE void trueRange(Values highs, Values lows, Values closes, Span span, Out range)
{
    const std::size_t lead = span.from - span.firstBar;
    require(closes.size() == lead + range.size(), "true range: sizes differ");
    require(lead > 0 || span.firstBar == 0, "true range: the bar before is missing");
    std::size_t i = 0;
    if (lead == 0 && !range.empty())
        range[i++] = missing;
    for (; i < range.size(); ++i)
        rangeOf(highs[lead + i], lows[lead + i], closes[lead + i - 1], range[i]);
}

SIEVE_WIDE Enough averageTrueRange(Values highs, Values lows, Values closes, int period, Span span,
                                   Out average)
{
    const Recursion wilder = Recursion::wilder(period);
    if (const Weights& weights = weightsOf(wilder);
        average.size() == 1 && weights.hasStretch(span.from, span.firstBar + 1)) {
        const Ranges ranges{highs.data() - span.firstBar, lows.data() - span.firstBar,
                            closes.data() - span.firstBar};
        average[0] = weighedOn(span.from, ranges, weights)[0];
        if (!isMissing(average[0]))
            return true;
    }
    static thread_local std::vector<double> ranges;
    const std::size_t skipped = span.firstBar == 0 || closes.empty() ? 0 : 1;
    ranges.resize(closes.size() - skipped);
    trueRange(highs, lows, closes, {span.firstBar, span.firstBar + skipped}, ranges);
    return runRecursion(ranges, wilder, {span.firstBar + skipped, span.from}, average);
}

} // namespace sieve::indicators
