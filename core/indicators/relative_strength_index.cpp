#include "core/indicators/relative_strength_index.h"

#include "core/base/ties.h"
#include "core/indicators/weighed_blocks.h"

#include <algorithm>
#include <array>
#include <vector>

namespace sieve::indicators {

namespace {

/// What a close lies above the one before, else 0, and what it lies below it; made while they are
/// weighed.
struct Moves {
    static constexpr std::size_t series = 2;
    const double* closes; ///< by bar index

    SIEVE_INLINE void one(std::size_t bar, double* moves) const
    {
        const double* const at = closes + bar;
        of(at[0], at[-1], moves);
    }
    SIEVE_INLINE void four(std::size_t bar, Four* moves) const
    {
        const double* const at = closes + bar;
        Four now;
        Four before;
        load(now, at);
        load(before, at - 1);
        of(now, before, moves);
    }

private:
    template <class Figure>
    static SIEVE_INLINE void of(const Figure& now, const Figure& before, Figure* moves)
    {
        const Figure none{};
        const Figure up = now - before;
        const Figure down = before - now;
        const Figure tie = tieSlack * now;
        moves[0] = up <= tie ? none : up; // missing stays missing
        moves[1] = down <= tie ? none : down;
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
        const auto [gain, loss] = weighedOn(span.from, Moves{at}, weights);
        rsi[0] = indexOf(gain, loss);
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
        std::array<double, Moves::series> moves;
        Moves{from}.one(i, moves.data());
        gains[i] = moves[0];
        losses[i] = moves[1];
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
