#include "core/indicators/true_range.h"

#include "core/base/require.h"
#include "core/indicators/recursive_average.h"
#include "core/indicators/wide.h"

#include <algorithm>
#include <vector>

namespace sieve::indicators {

SIEVE_WIDE void trueRange(Values highs, Values lows, Values closes, Span span, Out range)
{
    const std::size_t lead = span.from - span.firstBar;
    require(closes.size() == lead + range.size(), "true range: sizes differ");
    require(lead > 0 || span.firstBar == 0, "true range: the bar before is missing");
    std::size_t i = 0;
    if (lead == 0 && !range.empty())
        range[i++] = missing;
    for (; i < range.size(); ++i) {
        const double before = closes[lead + i - 1];
        const double top = highs[lead + i] < before ? before : highs[lead + i];
        const double bottom = before < lows[lead + i] ? before : lows[lead + i];
        range[i] = top - bottom;
    }
}

Enough averageTrueRange(Values highs, Values lows, Values closes, int period, Span span,
                        Out average)
{
    static thread_local std::vector<double> ranges;
    const std::size_t skipped = span.firstBar == 0 || closes.empty() ? 0 : 1;
    ranges.resize(closes.size() - skipped);
    trueRange(highs, lows, closes, {span.firstBar, span.firstBar + skipped}, ranges);
    return runRecursion(ranges, Recursion::wilder(period), {span.firstBar + skipped, span.from},
                        average);
}

} // namespace sieve::indicators
