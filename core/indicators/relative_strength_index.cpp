#include "core/indicators/relative_strength_index.h"

#include "core/indicators/recursive_average.h"
#include "core/indicators/wide.h"

#include <algorithm>
#include <vector>

namespace sieve::indicators {

SIEVE_WIDE Enough relativeStrengthIndex(Values closes, int period, Span span, Out rsi)
{
    static thread_local std::vector<double> gains;
    static thread_local std::vector<double> losses;
    static thread_local std::vector<double> averageLosses;
    // Changes begin a bar after the closes; bar 0 has none.
    const bool isWhole = span.firstBar == 0;
    const std::size_t skipped = isWhole || closes.empty() ? 0 : 1;
    const std::size_t count = closes.size() - skipped;
    gains.resize(count);
    losses.resize(count);
    averageLosses.resize(rsi.size());
    if (isWhole && count > 0)
        gains[0] = losses[0] = missing;
    for (std::size_t i = isWhole ? 1 : 0; i < count; ++i) {
        const double change = closes[i + skipped] - closes[i + skipped - 1];
        const double rise = 0.0 < change ? change : 0.0;
        const double loss = rise - change; // one of the two is 0, both are missing with the change
        losses[i] = loss;
        gains[i] = loss + change;
    }
    const Recursion wilder = Recursion::wilder(period);
    const Span changes{span.firstBar + skipped, span.from};
    if (!runRecursion(gains, wilder, changes, rsi) ||
        !runRecursion(losses, wilder, changes, averageLosses))
        return false;
    for (std::size_t i = 0; i < rsi.size(); ++i) // before the first move 0 / 0: missing
        rsi[i] = 100.0 * rsi[i] / (rsi[i] + averageLosses[i]);
    return true;
}

} // namespace sieve::indicators
