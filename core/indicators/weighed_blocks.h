#pragma once

#include "core/base/fetch_ahead.h"
#include "core/base/missing.h"
#include "core/indicators/four.h"
#include "core/indicators/kernel.h"
#include "core/indicators/recursive_average.h"

#include <array>
#include <cmath>
#include <cstddef>
#include <vector>

/// How recursions are weighed in blocks (see runRecursion), for kernels that feed one with figures
/// made on the way: on one bar alone these need not be stored first.
namespace sieve::indicators {

constexpr std::size_t blockLength = 16;
constexpr std::size_t blocksAStep = 4;

/// What follows from a recursion, worked out once.
struct Weights {
    Recursion recursion;
    std::size_t blocksBack = 1; ///< all before them weighs less than 1e-16
    /// Of this many newest inputs one must be other than 0: what lies beyond the reach then weighs
    /// less than 1e-14 of what it decides about.
    std::size_t barsToMove = 1;
    std::array<double, blocksAStep + 1> blockDecays{}; ///< a block's decay to the power of place
    std::array<double, blockLength> inBlock{};         ///< gain * decay^(15 - place)
    std::array<double, blockLength> decays{};          ///< decay^(place + 1)

    explicit Weights(const Recursion& of);

    /// Bars before its own block that a value looks at.
    std::size_t barsBack() const
    {
        return blocksBack * blockLength + static_cast<std::size_t>(recursion.seedCount);
    }
    /// Where the stretch begins that a bar's value looks at; 0 where it would begin before bar 1.
    std::size_t stretchOf(std::size_t bar) const
    {
        const std::size_t blockBegin = bar / blockLength * blockLength;
        return blockBegin < barsBack() ? 0 : blockBegin - barsBack();
    }
    /// Whether it lies within bars from `firstBar` on, of which none is bar 0.
    bool hasStretch(std::size_t bar, std::size_t firstBar) const
    {
        const std::size_t begin = stretchOf(bar);
        return begin > 0 && begin >= firstBar;
    }
};

/// Those of the recursions that this thread used before: a pass asks for the same few again.
const Weights& weightsOf(const Recursion& recursion);

inline bool isMove(double input)
{
    return std::fabs(input) > 0.0;
}

/// Inputs that are stored; any other source has the same two functions.
struct Stored {
    const double* at; ///< by bar index

    SIEVE_INLINE double one(std::size_t bar) const { return at[bar]; }
    /// Those of bars [bar, bar + 4).
    SIEVE_INLINE void four(std::size_t bar, Four& inputs) const { load(inputs, at + bar); }
};

/// What a whole block adds to the value at its end, still in four parts.
template <class Source> SIEVE_INLINE void weighBlock(const Source& source, std::size_t bar,
                                                     const std::array<Four, 4>& weights, Four& adds)
{
    std::array<Four, 4> in;
    for (std::size_t i = 0; i < 4; ++i)
        source.four(bar + 4 * i, in[i]);
    adds = (in[0] * weights[0] + in[2] * weights[2]) + (in[1] * weights[1] + in[3] * weights[3]);
}

/// What each of some whole blocks from `bar` on adds, in one fixed order; four blocks side by side.
template <class Source> SIEVE_INLINE void weighBlocks(const Source& source, std::size_t bar,
                                                      std::size_t blocks, const Weights& weights,
                                                      double* adds)
{
    std::array<Four, 4> weight;
    for (std::size_t i = 0; i < 4; ++i)
        load(weight[i], weights.inBlock.data() + 4 * i);
    FetchAhead& ahead = FetchAhead::own();
    std::size_t block = 0;
    for (; block + 4 <= blocks; block += 4, bar += 4 * blockLength) {
        Four a;
        Four b;
        Four c;
        Four d;
        weighBlock(source, bar, weight, a);
        weighBlock(source, bar + blockLength, weight, b);
        weighBlock(source, bar + 2 * blockLength, weight, c);
        weighBlock(source, bar + 3 * blockLength, weight, d);
        transpose(a, b, c, d);
        store((a + b) + (c + d), adds + block);
        ahead.fetch(4);
    }
    for (; block < blocks; ++block, bar += blockLength) {
        Four sums;
        weighBlock(source, bar, weight, sums);
        adds[block] = (sums[0] + sums[1]) + (sums[2] + sums[3]);
    }
}

/// adds[0] decay^(count-1) + … + adds[count - 1], for blocksBack blocks: Horner's rule over every
/// fourth of them, counted from the last, so that four sums run side by side, which are then put
/// together.
SIEVE_INLINE double horner(const double* adds, const Weights& weights)
{
    const auto& decays = weights.blockDecays;
    Four lanes{};
    std::size_t block = weights.blocksBack % blocksAStep;
    for (std::size_t i = 0; i < block; ++i)
        lanes[blocksAStep - block + i] = 0.0 + adds[i]; // as the first step would
    for (; block < weights.blocksBack; block += blocksAStep) {
        Four four;
        load(four, adds + block);
        lanes = lanes * decays[blocksAStep] + four;
    }
    return (lanes[0] * decays[3] + lanes[1] * decays[2]) + (lanes[2] * decays[1] + lanes[3]);
}

/// Whether the newest `bars` inputs up to a bar hold one other than 0.
template <class Source>
SIEVE_INLINE bool hasMoved(const Source& source, std::size_t bar, std::size_t bars)
{
    for (std::size_t i = 0; i < bars; ++i)
        if (isMove(source.one(bar - i)))
            return true;
    return false;
}

/// The value on one bar; missing where its stretch is not clean or moved too long ago: then
/// runRecursion() finds it. The stretch must be there (Weights::stretchOf).
template <class Source>
SIEVE_INLINE double weighedOn(std::size_t bar, const Source& source, const Weights& weights)
{
    const double decay = weights.recursion.decay;
    const double gain = weights.recursion.gain;
    const std::size_t blockBegin = bar / blockLength * blockLength;
    const std::size_t first = blockBegin - weights.blocksBack * blockLength;
    std::size_t seed = weights.stretchOf(bar);
    Four seeds{}; // anything added to what is missing is missing
    for (; seed + 4 <= first; seed += 4) {
        Four some;
        source.four(seed, some);
        seeds = seeds + some;
    }
    double rest = 0.0;
    for (; seed < first; ++seed)
        rest += source.one(seed);
    static thread_local std::vector<double> adds;
    if (adds.size() < weights.blocksBack)
        adds.resize(weights.blocksBack);
    weighBlocks(source, first, weights.blocksBack, weights, adds.data());
    double head = 0.0;
    for (std::size_t i = blockBegin; i <= bar; ++i)
        head = decay * head + gain * source.one(i);
    const double value = head + weights.decays[bar % blockLength] * horner(adds.data(), weights);
    const bool isClean = !isMissing(((seeds[0] + seeds[1]) + (seeds[2] + seeds[3])) + rest);
    return isClean && hasMoved(source, bar, weights.barsToMove) ? value : missing;
}

} // namespace sieve::indicators
