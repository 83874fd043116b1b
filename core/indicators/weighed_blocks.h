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

/// Inputs that are stored. Any other source has the same members; it may give several series at
/// once, which are made of the same figures and weighed alike.
struct Stored {
    static constexpr std::size_t series = 1;
    const double* at; ///< by bar index

    SIEVE_INLINE void one(std::size_t bar, double* inputs) const { inputs[0] = at[bar]; }
    /// Those of bars [bar, bar + 4).
    SIEVE_INLINE void four(std::size_t bar, Four* inputs) const { load(inputs[0], at + bar); }
};

/// What a whole block adds to each series' value at its end, still in four parts.
template <class Source> SIEVE_INLINE void weighBlock(const Source& source, std::size_t bar,
                                                     const std::array<Four, 4>& weights, Four* adds)
{
    std::array<std::array<Four, Source::series>, 4> in;
    for (std::size_t i = 0; i < 4; ++i)
        source.four(bar + 4 * i, in[i].data());
    for (std::size_t k = 0; k < Source::series; ++k)
        adds[k] = (in[0][k] * weights[0] + in[2][k] * weights[2]) +
                  (in[1][k] * weights[1] + in[3][k] * weights[3]);
}

/// What each of some whole blocks from `bar` on adds, in one fixed order; four blocks side by side.
/// adds[k]: those of series k.
template <class Source>
SIEVE_INLINE void weighBlocks(const Source& source, std::size_t bar, std::size_t blocks,
                              const Weights& weights,
                              const std::array<double*, Source::series>& adds)
{
    std::array<Four, 4> weight;
    for (std::size_t i = 0; i < 4; ++i)
        load(weight[i], weights.inBlock.data() + 4 * i);
    FetchAhead& ahead = FetchAhead::own();
    std::size_t block = 0;
    for (; block + 4 <= blocks; block += 4, bar += 4 * blockLength) {
        std::array<std::array<Four, Source::series>, 4> sums;
        for (std::size_t i = 0; i < 4; ++i)
            weighBlock(source, bar + i * blockLength, weight, sums[i].data());
        for (std::size_t k = 0; k < Source::series; ++k) {
            transpose(sums[0][k], sums[1][k], sums[2][k], sums[3][k]);
            store((sums[0][k] + sums[1][k]) + (sums[2][k] + sums[3][k]), adds[k] + block);
        }
        ahead.fetch(4);
    }
    for (; block < blocks; ++block, bar += blockLength) {
        std::array<Four, Source::series> sums;
        weighBlock(source, bar, weight, sums.data());
        for (std::size_t k = 0; k < Source::series; ++k)
            adds[k][block] = (sums[k][0] + sums[k][1]) + (sums[k][2] + sums[k][3]);
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

/// Whether the newest `bars` inputs of a series up to a bar hold one other than 0.
template <class Source> SIEVE_INLINE bool hasMoved(const Source& source, std::size_t series,
                                                   std::size_t bar, std::size_t bars)
{
    std::array<double, Source::series> input;
    for (std::size_t i = 0; i < bars; ++i) {
        source.one(bar - i, input.data());
        if (isMove(input[series]))
            return true;
    }
    return false;
}

/// The sum of each series' inputs of bars [from, to): missing where one of them is.
template <class Source> SIEVE_INLINE std::array<double, Source::series>
sumsOf(const Source& source, std::size_t from, std::size_t to)
{
    std::array<Four, Source::series> fours{};
    std::array<Four, Source::series> some;
    for (; from + 4 <= to; from += 4) {
        source.four(from, some.data());
        for (std::size_t k = 0; k < Source::series; ++k)
            fours[k] = fours[k] + some[k];
    }
    std::array<double, Source::series> sums{};
    std::array<double, Source::series> input;
    for (; from < to; ++from) {
        source.one(from, input.data());
        for (std::size_t k = 0; k < Source::series; ++k)
            sums[k] += input[k];
    }
    for (std::size_t k = 0; k < Source::series; ++k)
        sums[k] += (fours[k][0] + fours[k][1]) + (fours[k][2] + fours[k][3]);
    return sums;
}

/// Each series' value on one bar; missing where its stretch is not clean or moved too long ago:
/// then runRecursion() finds it. The stretch must be there (Weights::stretchOf).
template <class Source> SIEVE_INLINE std::array<double, Source::series>
weighedOn(std::size_t bar, const Source& source, const Weights& weights)
{
    constexpr std::size_t series = Source::series;
    const std::size_t blockBegin = bar / blockLength * blockLength;
    const std::size_t first = blockBegin - weights.blocksBack * blockLength;
    static thread_local std::vector<double> memory;
    if (memory.size() < series * weights.blocksBack)
        memory.resize(series * weights.blocksBack);
    std::array<double*, series> adds;
    for (std::size_t k = 0; k < series; ++k)
        adds[k] = memory.data() + k * weights.blocksBack;
    const std::array<double, series> seeds = sumsOf(source, weights.stretchOf(bar), first);
    weighBlocks(source, first, weights.blocksBack, weights, adds);
    std::array<double, series> heads{};
    std::array<double, series> input;
    for (std::size_t i = blockBegin; i <= bar; ++i) {
        source.one(i, input.data());
        for (std::size_t k = 0; k < series; ++k)
            heads[k] = weights.recursion.decay * heads[k] + weights.recursion.gain * input[k];
    }
    std::array<double, series> values;
    for (std::size_t k = 0; k < series; ++k) {
        const bool isAsARule = !isMissing(seeds[k]) && hasMoved(source, k, bar, weights.barsToMove);
        values[k] = heads[k] + weights.decays[bar % blockLength] * horner(adds[k], weights);
        values[k] = isAsARule ? values[k] : missing;
    }
    return values;
}

} // namespace sieve::indicators
