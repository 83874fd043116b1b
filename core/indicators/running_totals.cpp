#include "core/indicators/running_totals.h"

#include "core/base/missing.h"
#include "core/base/require.h"
#include "core/base/ties.h"

namespace sieve::indicators {

namespace {

/// Steps through the whole history and keeps what is asked for.
template <class Step> void run(Values column, Span span, Out out, Step step)
{
    require(span.firstBar == 0, "running total: it needs the whole history");
    require(column.size() == span.from + out.size(), "running total: sizes differ");
    for (std::size_t bar = 0; bar < column.size(); ++bar) {
        const double total = step(bar);
        if (bar >= span.from)
            out[bar - span.from] = total;
    }
}

double knownOrNone(double volume)
{
    return isMissing(volume) ? 0.0 : volume;
}

} // namespace

void runningTotal(Values values, Span span, Out total)
{
    double sum = missing;
    run(values, span, total, [&](std::size_t bar) {
        if (!isMissing(values[bar]))
            sum = (isMissing(sum) ? 0.0 : sum) + values[bar];
        return sum;
    });
}

void onBalanceVolume(Values closes, Values volumes, Span span, Out total)
{
    double sum = 0.0;
    run(closes, span, total, [&](std::size_t bar) {
        if (bar == 0 || isGreater(closes[bar], closes[bar - 1]))
            sum += knownOrNone(volumes[bar]);
        else if (isLess(closes[bar], closes[bar - 1]))
            sum -= knownOrNone(volumes[bar]);
        return sum;
    });
}

void accumulationLine(Values highs, Values lows, Values closes, Values volumes, Span span,
                      Out total)
{
    double sum = 0.0;
    run(closes, span, total, [&](std::size_t bar) {
        const double range = highs[bar] - lows[bar];
        if (range != 0.0)
            sum += ((closes[bar] - lows[bar]) - (highs[bar] - closes[bar])) / range *
                   knownOrNone(volumes[bar]);
        return sum;
    });
}

Enough volumeWeightedSince(Values condition, Values highs, Values lows, Values closes,
                           Values volumes, Span span, Out average)
{
    const std::size_t lead = span.from - span.firstBar;
    require(condition.size() == lead + average.size(), "volume-weighted average: sizes differ");
    std::size_t begin = lead; // sums start at the newest bar that begins one
    while (begin > 0 && condition[begin] != 1.0)
        --begin;
    bool isBegun = false;
    double money = 0.0;
    double shares = 0.0;
    for (std::size_t bar = begin; bar < condition.size(); ++bar) {
        if (condition[bar] == 1.0) {
            isBegun = true;
            money = shares = 0.0;
        }
        money += (highs[bar] + lows[bar] + closes[bar]) / 3.0 * knownOrNone(volumes[bar]);
        shares += knownOrNone(volumes[bar]);
        if (bar < lead)
            continue;
        if (!isBegun && span.firstBar > 0)
            return false;
        average[bar - lead] = isBegun && shares != 0.0 ? money / shares : missing;
    }
    return true;
}

} // namespace sieve::indicators
