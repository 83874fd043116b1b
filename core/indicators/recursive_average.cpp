#include "core/indicators/recursive_average.h"

#include "core/base/require.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <vector>

namespace sieve::indicators {

namespace {

constexpr std::size_t blockLength = 16;

std::size_t blocksBack(const Recursion& recursion)
{
    if (recursion.decay <= 0.0)
        return 1;
    const double bars = std::log(1e-16) / std::log(recursion.decay);
    return static_cast<std::size_t>(std::ceil(bars / static_cast<double>(blockLength)));
}

/// Of this many newest inputs one must be other than 0: what lies beyond the reach then weighs less
/// than 1e-14 of what it decides about.
std::size_t barsToMove(const Recursion& recursion)
{
    if (recursion.decay <= 0.0)
        return 1;
    return static_cast<std::size_t>(std::ceil(4.0 / (1.0 - recursion.decay)));
}

/// One input of weight gain * decay^(15 - place) a place.
std::array<double, blockLength> blockWeights(const Recursion& recursion)
{
    std::array<double, blockLength> weights{};
    double weight = recursion.gain;
    for (std::size_t place = blockLength; place-- > 0;) {
        weights[place] = weight;
        weight *= recursion.decay;
    }
    return weights;
}

/// What a whole block adds to the value at its end; in one fixed order.
double weighBlock(const double* inputs, const std::array<double, blockLength>& weights)
{
    std::array<double, 8> lanes;
    for (std::size_t lane = 0; lane < 8; ++lane)
        lanes[lane] = inputs[lane] * weights[lane] + inputs[lane + 8] * weights[lane + 8];
    return ((lanes[0] + lanes[4]) + (lanes[1] + lanes[5])) +
           ((lanes[2] + lanes[6]) + (lanes[3] + lanes[7]));
}

/// The recursion step by step from the first bar.
class PlainRun {
public:
    explicit PlainRun(const Recursion& recursion) : recursion_(recursion) {}

    double step(double input)
    {
        if (!isMissing(input)) {
            if (seen_ < recursion_.seedCount) {
                value_ += input;
                if (++seen_ == recursion_.seedCount)
                    value_ *= recursion_.seedGain;
            } else {
                value_ = recursion_.decay * value_ + recursion_.gain * input;
            }
        }
        return seen_ < recursion_.seedCount ? missing : value_;
    }

private:
    const Recursion& recursion_;
    int seen_ = 0;
    double value_ = 0;
};

/// Values of bars whose stretch of inputs is clean.
class BlockRun {
public:
    BlockRun(const double* at, const Recursion& recursion, std::vector<double>& ends)
        : at_(at), recursion_(recursion), weights_(blockWeights(recursion)),
          back_(blocksBack(recursion)), blockDecay_(std::pow(recursion.decay, blockLength)),
          ends_(ends)
    {
        ends_.clear();
        double decay = 1.0;
        for (double& each : decays_)
            each = decay *= recursion.decay;
    }

    /// Writes bars [from, end) of one block to `out`. Blocks must be asked for in order.
    void block(std::size_t from, std::size_t end, double* out)
    {
        const std::size_t number = from / blockLength;
        const double before = valueBefore(number);
        double head = 0.0;
        std::size_t bar = number * blockLength;
        for (; bar < from; ++bar)
            head = recursion_.decay * head + recursion_.gain * at_[bar];
        for (; bar < end; ++bar) {
            head = recursion_.decay * head + recursion_.gain * at_[bar];
            *out++ = head + decays_[bar % blockLength] * before;
        }
    }

private:
    /// The value at the end of the block before, from `back_` blocks.
    double valueBefore(std::size_t number)
    {
        const std::size_t first = number - back_;
        if (ends_.empty())
            endsFrom_ = first;
        while (endsFrom_ + ends_.size() < number)
            ends_.push_back(weighBlock(at_ + (endsFrom_ + ends_.size()) * blockLength, weights_));
        double value = 0.0;
        for (std::size_t block = first; block < number; ++block)
            value = value * blockDecay_ + ends_[block - endsFrom_];
        return value;
    }

    const double* at_; ///< inputs by bar index
    const Recursion& recursion_;
    std::array<double, blockLength> weights_;
    std::array<double, blockLength> decays_{}; ///< decay^(place + 1)
    std::size_t back_;
    double blockDecay_;
    std::vector<double>& ends_; ///< what each block adds, from `endsFrom_` on
    std::size_t endsFrom_ = 0;
};

} // namespace

Recursion Recursion::exponential(int period)
{
    require(period >= 1, "Recursion: period below 1");
    const double weight = 2.0 / (period + 1.0);
    return {1.0 - weight, weight, period, 1.0 / period};
}

Recursion Recursion::wilder(int period)
{
    require(period >= 1, "Recursion: period below 1");
    return {1.0 - 1.0 / period, 1.0 / period, period, 1.0 / period};
}

Recursion Recursion::wilderSum(int period)
{
    require(period >= 1, "Recursion: period below 1");
    return {1.0 - 1.0 / period, 1.0, std::max(period - 1, 1), 1.0};
}

std::size_t reachBack(const Recursion& recursion)
{
    return (blocksBack(recursion) + 1) * blockLength +
           static_cast<std::size_t>(recursion.seedCount);
}

Enough runRecursion(Values values, const Recursion& recursion, Span span, Out out)
{
    require(span.firstBar <= span.from && values.size() == span.from - span.firstBar + out.size(),
            "recursion: sizes differ");
    const double* const at = values.data() - span.firstBar; // by bar index
    const std::size_t end = span.from + out.size();
    const std::size_t back = blocksBack(recursion) * blockLength;
    const auto seed = static_cast<std::size_t>(recursion.seedCount);
    const std::size_t toMove = barsToMove(recursion);
    const auto stretchOf = [&](std::size_t bar) { // where what it looks at begins; 0 near bar 0
        const std::size_t blockBegin = bar / blockLength * blockLength;
        return blockBegin < back + seed ? 0 : blockBegin - back - seed;
    };
    static thread_local std::vector<double> ends;
    static thread_local std::vector<std::size_t> plain; // bars that need the plain recursion
    plain.clear();
    BlockRun blocks(at, recursion, ends);
    std::size_t scanned = std::max(span.firstBar, stretchOf(span.from));
    std::size_t afterGap = 0;  // the bar after the last input that is undefined
    std::size_t afterMove = 0; // the bar after the last input that is not 0
    for (std::size_t bar = span.from; bar < end;) {
        const std::size_t blockEnd = std::min(end, (bar / blockLength + 1) * blockLength);
        const std::size_t begin = stretchOf(bar);
        require(begin == 0 || begin >= span.firstBar,
                "recursion: bars are missing before the first");
        std::size_t cleanFrom = bar;
        for (; bar < blockEnd; ++bar) {
            for (; scanned <= bar; ++scanned) {
                if (isMissing(at[scanned]))
                    afterGap = scanned + 1;
                else if (at[scanned] != 0.0)
                    afterMove = scanned + 1;
            }
            if (begin > 0 && afterGap <= begin && afterMove + toMove > bar)
                continue;
            if (cleanFrom < bar)
                blocks.block(cleanFrom, bar, out.data() + (cleanFrom - span.from));
            plain.push_back(bar);
            cleanFrom = bar + 1;
        }
        if (cleanFrom < blockEnd)
            blocks.block(cleanFrom, blockEnd, out.data() + (cleanFrom - span.from));
    }
    if (plain.empty())
        return true;
    if (span.firstBar > 0)
        return false;
    PlainRun state(recursion);
    std::size_t next = 0;
    for (const std::size_t bar : plain) {
        while (next < bar)
            state.step(at[next++]);
        out[bar - span.from] = state.step(at[next++]);
    }
    return true;
}

} // namespace sieve::indicators
