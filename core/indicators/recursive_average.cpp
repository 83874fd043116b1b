#include "core/indicators/recursive_average.h"

#include "core/base/require.h"
#include "core/indicators/wide.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdint>
#include <deque>
#include <vector>

namespace sieve::indicators {

namespace {

constexpr std::size_t blockLength = 16;
constexpr std::size_t blocksTogether = 8;
constexpr std::size_t blocksAStep = 4;

/// Four figures that are worked on side by side, each as it would be alone; and four where they
/// lie, at any address.
using Four [[gnu::vector_size(32)]] = double;
struct [[gnu::packed, gnu::may_alias]] FourAt
{
    Four four;
};

SIEVE_INLINE void load(Four& four, const double* at)
{
    four = reinterpret_cast<const FourAt*>(at)->four;
}

SIEVE_INLINE void store(const Four& four, double* at)
{
    reinterpret_cast<FourAt*>(at)->four = four;
}

/// Makes columns of rows.
SIEVE_INLINE void transpose(Four& a, Four& b, Four& c, Four& d)
{
    const Four evenAB = __builtin_shufflevector(a, b, 0, 4, 2, 6);
    const Four oddAB = __builtin_shufflevector(a, b, 1, 5, 3, 7);
    const Four evenCD = __builtin_shufflevector(c, d, 0, 4, 2, 6);
    const Four oddCD = __builtin_shufflevector(c, d, 1, 5, 3, 7);
    a = __builtin_shufflevector(evenAB, evenCD, 0, 1, 4, 5);
    b = __builtin_shufflevector(oddAB, oddCD, 0, 1, 4, 5);
    c = __builtin_shufflevector(evenAB, evenCD, 2, 3, 6, 7);
    d = __builtin_shufflevector(oddAB, oddCD, 2, 3, 6, 7);
}

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
        blockDecays[0] = 1.0;
        for (std::size_t i = 1; i < blockDecays.size(); ++i)
            blockDecays.at(i) = blockDecays.at(i - 1) * decays.back();
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

/// What a whole block adds to the value at its end, still in four parts.
SIEVE_INLINE void weighBlock(const double* inputs, const std::array<Four, 4>& weights, Four& adds)
{
    std::array<Four, 4> in;
    for (std::size_t i = 0; i < 4; ++i)
        load(in[i], inputs + 4 * i);
    adds = (in[0] * weights[0] + in[2] * weights[2]) + (in[1] * weights[1] + in[3] * weights[3]);
}

/// What each of some whole blocks adds, in one fixed order; four blocks side by side.
SIEVE_INLINE void weighBlocks(const double* inputs, std::size_t blocks, const Weights& weights,
                              double* adds)
{
    std::array<Four, 4> weight;
    for (std::size_t i = 0; i < 4; ++i)
        load(weight[i], weights.inBlock.data() + 4 * i);
    std::size_t block = 0;
    for (; block + 4 <= blocks; block += 4, inputs += 4 * blockLength) {
        Four a;
        Four b;
        Four c;
        Four d;
        weighBlock(inputs, weight, a);
        weighBlock(inputs + blockLength, weight, b);
        weighBlock(inputs + 2 * blockLength, weight, c);
        weighBlock(inputs + 3 * blockLength, weight, d);
        transpose(a, b, c, d);
        store((a + b) + (c + d), adds + block);
    }
    for (; block < blocks; ++block, inputs += blockLength) {
        Four sums;
        weighBlock(inputs, weight, sums);
        adds[block] = (sums[0] + sums[1]) + (sums[2] + sums[3]);
    }
}

/// out[i] = adds[i] decay^(count-1) + … + adds[i + count - 1], for so many i: Horner's rule over
/// every fourth of them, counted from the last, so that four sums run side by side, which are then
/// put together.
template <std::size_t values>
SIEVE_INLINE void horner(const double* adds, const Weights& weights, double* out)
{
    const auto& decays = weights.blockDecays;
    std::array<std::array<double, values>, blocksAStep> lanes{};
    for (std::size_t lane = 0; lane < blocksAStep; ++lane)
        for (std::size_t block = (lane + weights.blocksBack) % blocksAStep;
             block < weights.blocksBack; block += blocksAStep)
            for (std::size_t i = 0; i < values; ++i)
                lanes[lane][i] = lanes[lane][i] * decays[blocksAStep] + adds[block + i];
    for (std::size_t i = 0; i < values; ++i)
        out[i] = (lanes[0][i] * decays[3] + lanes[1][i] * decays[2]) +
                 (lanes[2][i] * decays[1] + lanes[3][i]);
}

/// The same for one value.
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

bool isMove(double input)
{
    return std::fabs(input) > 0.0;
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

    /// The first bars: takes bars [0, to) and writes those from `from` on.
    SIEVE_INLINE void begin(const double* at, std::size_t from, std::size_t to, double* out)
    {
        std::size_t bar = 0;
        for (; bar < to && seen_ < recursion_.seedCount; ++bar) {
            const double value = step(at[bar]);
            if (bar >= from)
                *out++ = value;
        }
        double value = value_; // in a register
        const auto next = [&](double input) {
            const double moved = recursion_.decay * value + recursion_.gain * input;
            return input == input ? moved : value;
        };
        for (; bar < std::min(from, to); ++bar)
            value = next(at[bar]);
        for (; bar < to; ++bar)
            *out++ = value = next(at[bar]);
        value_ = value;
    }

private:
    Recursion recursion_;
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

    /// Writes so many whole blocks from bar `from` on. Of `blocksTogether` each takes a lane, so
    /// that their recursions, each of which waits for its own last step, run at once.
    SIEVE_INLINE void wholeBlocks(std::size_t from, std::size_t count, double* out)
    {
        for (std::size_t i = 0; count < blocksTogether && i < count; ++i, from += blockLength)
            block(from, from + blockLength, out + i * blockLength);
        if (count < blocksTogether)
            return;
        std::array<double, blocksTogether> before;
        for (std::size_t i = 0; i < blocksTogether; ++i)
            before[i] = valueBefore(from / blockLength + i);
        for (std::size_t i = 0; i < blocksTogether; i += 4)
            fourBlocks(at_ + from + i * blockLength, before.data() + i, out + i * blockLength);
    }

    /// The value on one bar alone, `seed` bars before its blocks included in what it looks at;
    /// missing where that is no clean stretch or moved too long ago.
    SIEVE_INLINE double oneBar(std::size_t bar, std::size_t seed)
    {
        const std::size_t first = (bar / blockLength - weights_.blocksBack) * blockLength;
        double seeds = 0.0; // anything added to what is missing is missing
        for (std::size_t i = first - seed; i < first; ++i)
            seeds += at_[i];
        double value = missing;
        block(bar, bar + 1, &value);
        std::size_t still = 0;
        while (still < weights_.barsToMove && !isMove(at_[bar - still]))
            ++still;
        return isMissing(seeds) || still == weights_.barsToMove ? missing : value;
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
    SIEVE_INLINE void fourBlocks(const double* in, const double* before, double* out)
    {
        const double decay = weights_.recursion.decay;
        const double gain = weights_.recursion.gain;
        Four befores;
        load(befores, before);
        Four head{};
        const auto step = [&](Four& bars, double blockDecay) {
            head = decay * head + gain * bars;
            bars = head + blockDecay * befores;
        };
        for (std::size_t place = 0; place < blockLength; place += 4) {
            Four a;
            Four b;
            Four c;
            Four d;
            load(a, in + place);
            load(b, in + place + blockLength);
            load(c, in + place + 2 * blockLength);
            load(d, in + place + 3 * blockLength);
            transpose(a, b, c, d);
            const double* const decays = weights_.decays.data() + place;
            step(a, decays[0]);
            step(b, decays[1]);
            step(c, decays[2]);
            step(d, decays[3]);
            transpose(a, b, c, d);
            store(a, out + place);
            store(b, out + place + blockLength);
            store(c, out + place + 2 * blockLength);
            store(d, out + place + 3 * blockLength);
        }
    }

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
        valueCount_ = number + many <= whole ? many : number + few <= whole ? few : 1;
        valuesFrom_ = number;
        if (const std::size_t known = ends_.size(), all = number + valueCount_ - 1 - endsFrom_;
            known < all) {
            ends_.resize(all);
            weighBlocks(at_ + (endsFrom_ + known) * blockLength, all - known, weights_,
                        ends_.data() + known);
        }
        const double* const from = ends_.data() + (first - endsFrom_);
        if (valueCount_ == many)
            horner<many>(from, weights_, values_.data());
        else if (valueCount_ == few)
            horner<few>(from, weights_, values_.data());
        else
            values_[0] = horner(from, weights_);
        return values_[0];
    }

    static constexpr std::size_t many = 32;
    static constexpr std::size_t few = 8;

    const double* at_; ///< inputs by bar index
    const Weights& weights_;
    std::size_t inputEnd_;
    std::vector<double>& ends_; ///< what each block adds, from `endsFrom_` on
    std::size_t endsFrom_ = 0;
    std::array<double, many> values_{}; ///< before block `valuesFrom_` and those after it
    std::size_t valuesFrom_ = 0;
    std::size_t valueCount_ = 0;
};

/// Remembers where the inputs last had a gap and last moved.
class Scan {
public:
    /// Looks at bars [from, to).
    SIEVE_INLINE Scan(const double* at, std::size_t from, std::size_t to) : at_(at)
    {
        std::uint64_t gaps = 0;
        for (std::size_t bar = from; bar < to; ++bar)
            gaps += at[bar] == at[bar] ? 0U : 1U;
        for (std::size_t bar = to; gaps > 0 && bar-- > from;)
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
    if (const std::size_t begin = out.size() == 1 ? stretchOf(span.from) : 0;
        begin > 0 && begin >= span.firstBar)
        if (const double value = BlockRun(at, end, weights, ends).oneBar(span.from, seed);
            !isMissing(value)) {
            out[0] = value;
            return true;
        }
    static thread_local std::vector<std::size_t> plain; // bars that need the plain recursion
    plain.clear();
    // Bars too near the first one for what is weighed in blocks.
    const std::size_t blocksBegin = (back + seed + blockLength - 1) / blockLength * blockLength;
    const std::size_t plainEnd = std::clamp(blocksBegin, span.from, end);
    if (plainEnd > span.from) {
        if (span.firstBar > 0)
            return false;
        PlainRun(recursion).begin(at, span.from, plainEnd, out.data());
    }
    BlockRun blocks(at, end, weights, ends);
    Scan scan(at, std::max(span.firstBar, stretchOf(plainEnd)), plainEnd);
    // How many whole blocks from `bar` on, at most those worked on together, are as a rule.
    const auto regularBlocks = [&](std::size_t bar, std::size_t to) {
        std::size_t count = 0;
        const std::size_t begin = stretchOf(bar);
        if (bar % blockLength != 0 || begin == 0 || begin < span.firstBar ||
            scan.afterGap() > begin)
            return count;
        for (; count < blocksTogether && bar + blockLength <= to; ++count, bar += blockLength)
            if (!scan.takeRegular(bar, bar + blockLength, weights.barsToMove))
                break;
        return count;
    };
    for (std::size_t bar = plainEnd; bar < end;) {
        if (const std::size_t whole = regularBlocks(bar, end); whole > 0) { // the rule
            blocks.wholeBlocks(bar, whole, out.data() + (bar - span.from));
            bar += whole * blockLength;
            continue;
        }
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
