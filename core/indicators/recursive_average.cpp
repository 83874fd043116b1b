#include "core/indicators/recursive_average.h"

#include "core/base/require.h"
#include "core/indicators/weighed_blocks.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdint>
#include <deque>
#include <vector>

namespace sieve::indicators {

namespace {

constexpr std::size_t blocksTogether = 8;

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

    bool isSeeded() const { return seen_ >= recursion_.seedCount; }
    double value() const { return value_; } ///< requires: seeded

private:
    Recursion recursion_;
    int seen_ = 0;
    double value_ = 0;
};

/// The recursion over the first bars, all before which there is nothing: step by step until the
/// seed is whole and a block begins, and from there block by block, each of which needs no more of
/// those before it than the value they end with.
class BeginningRun {
public:
    BeginningRun(const double* at, const Weights& weights) : at_(at), weights_(weights) {}

    /// Takes bars [0, to) and writes those from `from` on.
    SIEVE_INLINE void write(std::size_t from, std::size_t to, double* out)
    {
        PlainRun seeding(weights_.recursion);
        std::size_t bar = 0;
        for (; bar < to && (!seeding.isSeeded() || bar % blockLength != 0); ++bar) {
            const double value = seeding.step(at_[bar]);
            if (bar >= from)
                *out++ = value;
        }
        double value = seeding.value();
        static thread_local std::vector<double> adds;
        adds.resize((to - bar) / blockLength);
        weighBlocks(Stored{at_}, bar, adds.size(), weights_, {adds.data()});
        for (const double add : adds) {
            const std::size_t end = bar + blockLength;
            const bool isClean = !isMissing(add);
            double last = 0.0;
            if (!isClean || end > from)
                last = block(value, bar, end, from, out);
            value = isClean ? weights_.decays.back() * value + add : last;
            bar = end;
        }
        block(value, bar, to, from, out);
    }

private:
    /// Takes bars [begin, end) of one block, writes those from `from` on, and gives the last value.
    SIEVE_INLINE double block(double before, std::size_t begin, std::size_t end, std::size_t from,
                              double*& out) const
    {
        const double decay = weights_.recursion.decay;
        const double gain = weights_.recursion.gain;
        double head = 0.0;
        double value = before;
        bool isClean = true;
        for (std::size_t bar = begin; bar < end; ++bar) {
            const double input = at_[bar];
            if (isMissing(input)) {
                isClean = false;
            } else if (isClean) {
                head = decay * head + gain * input;
                value = head + weights_.decays[bar - begin] * before;
            } else {
                value = decay * value + gain * input;
            }
            if (bar >= from)
                *out++ = value;
        }
        return value;
    }

    const double* at_; ///< inputs by bar index
    const Weights& weights_;
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
            weighBlocks(Stored{at_}, (endsFrom_ + known) * blockLength, all - known, weights_,
                        {ends_.data() + known});
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

Weights::Weights(const Recursion& of) : recursion(of)
{
    if (of.decay > 0.0) {
        const double bars = std::log(1e-16) / std::log(of.decay);
        blocksBack = static_cast<std::size_t>(std::ceil(bars / static_cast<double>(blockLength)));
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
    if (out.size() == 1 && weights.hasStretch(span.from, span.firstBar))
        if (const double value = weighedOn(span.from, Stored{at}, weights)[0]; !isMissing(value)) {
            out[0] = value;
            return true;
        }
    static thread_local std::vector<std::size_t> plain; // bars that need the plain recursion
    plain.clear();
    // Bars too near the first one for what is weighed in blocks.
    const std::size_t blocksBegin =
        (weights.barsBack() + blockLength - 1) / blockLength * blockLength;
    const std::size_t plainEnd = std::clamp(blocksBegin, span.from, end);
    if (plainEnd > span.from) {
        if (span.firstBar > 0)
            return false;
        BeginningRun(at, weights).write(span.from, plainEnd, out.data());
        if (plainEnd == end)
            return true;
    }
    static thread_local std::vector<double> ends;
    BlockRun blocks(at, end, weights, ends);
    Scan scan(at, std::max(span.firstBar, weights.stretchOf(plainEnd)), plainEnd);
    // How many whole blocks from `bar` on, at most those worked on together, are as a rule.
    const auto regularBlocks = [&](std::size_t bar, std::size_t to) {
        std::size_t count = 0;
        const std::size_t begin = weights.stretchOf(bar);
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
        const std::size_t begin = weights.stretchOf(bar);
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
