#include "core/indicators/recursive_average.h"

#include "core/base/require.h"
#include "core/indicators/lanes.h"
#include "core/indicators/wide.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <deque>
#include <vector>

namespace sieve::indicators {

namespace {

constexpr std::size_t blockLength = 16;

/// What follows from a recursion, worked out once.
struct Weights {
    Recursion recursion;
    std::size_t blocksBack = 1; ///< all before them weighs less than 1e-16
    /// Of this many newest inputs one must be other than 0: what lies beyond the reach then weighs
    /// less than 1e-14 of what it decides about.
    std::size_t barsToMove = 1;
    double blockDecay = 0;
    std::array<double, blockLength> inBlock{}; ///< gain * decay^(15 - place)
    std::array<double, blockLength> decays{};  ///< decay^(place + 1)

    explicit Weights(const Recursion& of) : recursion(of)
    {
        if (of.decay > 0.0) {
            const double bars = std::log(1e-16) / std::log(of.decay);
            blocksBack =
                static_cast<std::size_t>(std::ceil(bars / static_cast<double>(blockLength)));
            barsToMove = static_cast<std::size_t>(std::ceil(4.0 / (1.0 - of.decay)));
        }
        double weight = of.gain;
        double decay = 1.0;
        for (std::size_t place = 0; place < blockLength; ++place) {
            inBlock.at(blockLength - 1 - place) = weight;
            weight *= of.decay;
            decays.at(place) = decay *= of.decay;
        }
        blockDecay = decays.back();
    }
};

/// Those of the recursions that this thread used before: a pass asks for the same few again.
const Weights& weightsOf(const Recursion& recursion)
{
    static thread_local std::deque<Weights> known;
    for (const Weights& each : known)
        if (each.recursion == recursion)
            return each;
    if (known.size() == 32)
        known.pop_front();
    return known.emplace_back(recursion);
}

/// What a whole block adds to the value at its end; in one fixed order.
SIEVE_INLINE double weighBlock(const double* inputs, const std::array<double, blockLength>& weights)
{
    std::array<double, 8> lanes;
    for (std::size_t lane = 0; lane < 8; ++lane)
        lanes[lane] = inputs[lane] * weights[lane] + inputs[lane + 8] * weights[lane + 8];
    return ((lanes[0] + lanes[4]) + (lanes[1] + lanes[5])) +
           ((lanes[2] + lanes[6]) + (lanes[3] + lanes[7]));
}

/// values[i] = ends[i] decay^(count-1) + … + ends[i + count - 1]: Horner's rule, for several i.
SIEVE_INLINE void horner(const double* ends, std::size_t count, double decay,
                         std::span<double> values)
{
    if (values.size() == 8) {
        std::array<double, 8> lanes{};
        for (std::size_t block = 0; block < count; ++block)
            for (std::size_t i = 0; i < 8; ++i)
                lanes[i] = lanes[i] * decay + ends[block + i];
        std::ranges::copy(lanes, values.begin());
        return;
    }
    for (std::size_t block = 0; block < count; ++block)
        values[0] = values[0] * decay + ends[block];
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
    BlockRun(const double* at, std::size_t inputEnd, const Weights& weights,
             std::vector<double>& ends)
        : at_(at), weights_(weights), inputEnd_(inputEnd), ends_(ends)
    {
        ends_.clear();
    }

    /// Writes bars [from, end) of one block to `out`. Blocks must be asked for in order.
    SIEVE_INLINE void block(std::size_t from, std::size_t end, double* out)
    {
        const std::size_t number = from / blockLength;
        const double before = valueBefore(number);
        const double decay = weights_.recursion.decay;
        const double gain = weights_.recursion.gain;
        double head = 0.0;
        std::size_t bar = number * blockLength;
        for (; bar < from; ++bar)
            head = decay * head + gain * at_[bar];
        for (; bar < end; ++bar) {
            head = decay * head + gain * at_[bar];
            *out++ = head + weights_.decays[bar % blockLength] * before;
        }
    }

private:
    /// The value at the end of the block before. Several in a row are worked out side by side, each
    /// as it would be alone.
    SIEVE_INLINE double valueBefore(std::size_t number)
    {
        const std::size_t first = number - weights_.blocksBack;
        if (ends_.empty())
            endsFrom_ = first;
        if (number >= valuesFrom_ && number < valuesFrom_ + valueCount_)
            return values_[number - valuesFrom_];
        const std::size_t whole = (inputEnd_ / blockLength) + 1; // blocks that may be asked for
        valueCount_ = number + values_.size() <= whole ? values_.size() : 1;
        valuesFrom_ = number;
        while (endsFrom_ + ends_.size() < number + valueCount_ - 1)
            ends_.push_back(
                weighBlock(at_ + (endsFrom_ + ends_.size()) * blockLength, weights_.inBlock));
        values_.fill(0.0);
        horner(ends_.data() + (first - endsFrom_), weights_.blocksBack, weights_.blockDecay,
               std::span(values_).first(valueCount_));
        return values_[0];
    }

    const double* at_; ///< inputs by bar index
    const Weights& weights_;
    std::size_t inputEnd_;
    std::vector<double>& ends_; ///< what each block adds, from `endsFrom_` on
    std::size_t endsFrom_ = 0;
    std::array<double, 8> values_{}; ///< before block `valuesFrom_` and those after it
    std::size_t valuesFrom_ = 0;
    std::size_t valueCount_ = 0;
};

/// Remembers where the inputs last had a gap and last moved.
class Scan {
public:
    /// Looks at bars [from, to).
    Scan(const double* at, std::size_t from, std::size_t to) : at_(at)
    {
        // Anything added to what is missing is missing.
        const bool hasGap =
            isMissing(sumOf(to - from, [&](std::size_t i) { return at[from + i]; }));
        for (std::size_t bar = to; hasGap && bar-- > from;)
            if (isMissing(at[bar])) {
                afterGap_ = bar + 1;
                break;
            }
        std::size_t moved = to;
        while (moved > from && !isMove(at[moved - 1]))
            --moved;
        afterMove_ = moved > from ? moved : 0;
    }

    /// The bar after the last input that is undefined, and after the last that is not 0.
    std::size_t afterGap() const { return afterGap_; }
    std::size_t afterMove() const { return afterMove_; }

    void take(std::size_t bar)
    {
        if (isMissing(at_[bar]))
            afterGap_ = bar + 1;
        else if (isMove(at_[bar]))
            afterMove_ = bar + 1;
    }
    /// Takes bars [from, to) if all are defined and each has a move among its `barsToMove`, as the
    /// moves before them show; else takes none.
    bool takeRegular(std::size_t from, std::size_t to, std::size_t barsToMove)
    {
        bool isDefined = true;
        for (std::size_t bar = from; bar < to; ++bar)
            isDefined &= at_[bar] == at_[bar];
        if (!isDefined || afterMove_ + barsToMove < to)
            return false;
        for (std::size_t bar = to; bar-- > from;)
            if (isMove(at_[bar])) {
                afterMove_ = bar + 1;
                break;
            }
        return true;
    }

private:
    static bool isMove(double input) { return std::fabs(input) > 0.0; }

    const double* at_;
    std::size_t afterGap_ = 0;
    std::size_t afterMove_ = 0;
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
    return (weightsOf(recursion).blocksBack + 1) * blockLength +
           static_cast<std::size_t>(recursion.seedCount);
}

SIEVE_WIDE Enough runRecursion(Values values, const Recursion& recursion, Span span, Out out)
{
    require(span.firstBar <= span.from && values.size() == span.from - span.firstBar + out.size(),
            "recursion: sizes differ");
    const double* const at = values.data() - span.firstBar; // by bar index
    const std::size_t end = span.from + out.size();
    const Weights& weights = weightsOf(recursion);
    const std::size_t back = weights.blocksBack * blockLength;
    const auto seed = static_cast<std::size_t>(recursion.seedCount);
    const auto stretchOf = [&](std::size_t bar) { // where what it looks at begins; 0 near bar 0
        const std::size_t blockBegin = bar / blockLength * blockLength;
        return blockBegin < back + seed ? 0 : blockBegin - back - seed;
    };
    static thread_local std::vector<double> ends;
    static thread_local std::vector<std::size_t> plain; // bars that need the plain recursion
    plain.clear();
    BlockRun blocks(at, end, weights, ends);
    Scan scan(at, std::max(span.firstBar, stretchOf(span.from)), span.from);
    for (std::size_t bar = span.from; bar < end;) {
        const std::size_t blockEnd = std::min(end, (bar / blockLength + 1) * blockLength);
        const std::size_t begin = stretchOf(bar);
        require(begin == 0 || begin >= span.firstBar,
                "recursion: bars are missing before the first");
        std::size_t cleanFrom = bar;
        if (begin > 0 && scan.afterGap() <= begin &&
            scan.takeRegular(bar, blockEnd, weights.barsToMove)) {
            bar = blockEnd; // as a rule
        } else {
            for (; bar < blockEnd; ++bar) {
                scan.take(bar);
                if (begin > 0 && scan.afterGap() <= begin &&
                    scan.afterMove() + weights.barsToMove > bar)
                    continue;
                if (cleanFrom < bar)
                    blocks.block(cleanFrom, bar, out.data() + (cleanFrom - span.from));
                plain.push_back(bar);
                cleanFrom = bar + 1;
            }
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
