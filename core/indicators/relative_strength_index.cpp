#include "core/indicators/relative_strength_index.h"

#include "core/indicators/weighed_blocks.h"

#include <algorithm>
#include <vector>

namespace sieve::indicators {

namespace {

enum class Move { Gain, Loss };

/// What a close lies above the one before, or below it, else 0; made while it is weighed.
template <Move move> struct Moves {
    const double* closes; ///< by bar index

    SIEVE_INLINE double one(std::size_t bar) const
    {
        const double* const at = closes + bar;
        double result = 0.0;
        of(at[0], at[-1], result);
        return result;
    }
    SIEVE_INLINE void four(std::size_t bar, Four& moves) const
    {
        Four now;
        Four before;
        load(now, closes + bar);
        load(before, closes + bar - 1);
        of(now, before, moves);
    }

private:
    template <class Figure>
    static SIEVE_INLINE void of(const Figure& now, const Figure& before, Figure& result)
    {
        const Figure none{};
        const Figure change = move == Move::Gain ? now - before : before - now;
        result = change < none ? none : change; // missing stays missing
    }
};

SIEVE_INLINE double indexOf(double gain, double loss)
{
    return 100.0 * gain / (gain + loss); // before the first move 0 / 0: missing
}

} // namespace

SIEVE_WIDE Enough relativeStrengthIndex(Values closes, int period, Span span, Out rsi)
{
    const Recursion wilder = Recursion::wilder(period);
    if (const Weights& weights = weightsOf(wilder);
        rsi.size() == 1 && weights.hasStretch(span.from, span.firstBar + 1)) {
        const double* const at = closes.data() - span.firstBar; // by bar index
        rsi[0] = indexOf(weighedOn(span.from, Moves<Move::Gain>{at}, weights),
                         weighedOn(span.from, Moves<Move::Loss>{at}, weights));
        if (!isMissing(rsi[0]))
            return true;
    }
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
    const double* const from = closes.data() + skipped;
    for (std::size_t i = isWhole ? 1 : 0; i < count; ++i) {
        gains[i] = Moves<Move::Gain>{from}.one(i);
        losses[i] = Moves<Move::Loss>{from}.one(i);
    }
    const Span changes{span.firstBar + skipped, span.from};
    if (!runRecursion(gains, wilder, changes, rsi) ||
        !runRecursion(losses, wilder, changes, averageLosses))
        return false;
    for (std::size_t i = 0; i < rsi.size(); ++i)
        rsi[i] = indexOf(rsi[i], averageLosses[i]);
    return true;
}

} // namespace sieve::indicators
