#include "core/indicators/four.h"
#include "core/indicators/window.h"

#include <algorithm>
#include <array>
#include <cstdint>
#include <vector>

namespace sieve::indicators {

namespace {

/// The sums of a window are put together from a block's tail and the next one's head; those are
/// added up in pieces of so many bars, counted from the block's begin. The last may be shorter.
constexpr std::size_t pieceLength = 8;

/// The bars of a piece. What is no bar of it counts as 0.
struct Piece {
    Four low;
    Four high;

    SIEVE_INLINE Piece(const double* at, std::size_t bar, std::size_t first, std::size_t end)
    {
        if (first <= bar && bar + pieceLength <= end) {
            load(low, at + bar);
            load(high, at + bar + 4);
            return;
        }
        // Loads behind a mask, where there are such.
        constexpr auto count = static_cast<std::int64_t>(pieceLength);
        const auto from = static_cast<std::int64_t>(first) - static_cast<std::int64_t>(bar);
        const auto to = static_cast<std::int64_t>(end) - static_cast<std::int64_t>(bar);
        std::array<double, pieceLength> some;
        for (std::int64_t i = 0; i < count; ++i)
            some.data()[i] = from <= i && i < to ? (at + bar)[i] : 0.0;
        load(low, some.data());
        load(high, some.data() + 4);
    }

    /// Each becomes the sum of those up to it; gives that of all.
    SIEVE_INLINE double sumUp()
    {
        sumUp(low);
        sumUp(high);
        high = low[3] + high;
        return high[3];
    }

    /// Each becomes the sum of those from it on; gives that of all, the same to the last bit.
    SIEVE_INLINE double sumDown()
    {
        sumDown(low);
        sumDown(high);
        low = low + high[0];
        return low[0];
    }

    SIEVE_INLINE void add(double before)
    {
        low = low + before;
        high = high + before;
    }

private:
    static SIEVE_INLINE void sumUp(Four& four)
    {
        const Four none{};
        four = four + __builtin_shufflevector(none, four, 0, 4, 0, 6);
        four = four + __builtin_shufflevector(none, four, 0, 0, 5, 5);
    }
    static SIEVE_INLINE void sumDown(Four& four)
    {
        const Four none{};
        four = four + __builtin_shufflevector(four, none, 1, 4, 3, 4);
        four = four + __builtin_shufflevector(four, none, 2, 2, 4, 4);
    }
};

/// What Piece::sumUp() gives of two whole pieces in a row.
SIEVE_INLINE void sumsOfTwo(const double* at, double& first, double& second)
{
    Four a;
    Four b;
    Four c;
    Four d;
    load(a, at);
    load(b, at + 4);
    load(c, at + 8);
    load(d, at + 12);
    const Four pairsAB =
        __builtin_shufflevector(a, b, 0, 4, 2, 6) + __builtin_shufflevector(a, b, 1, 5, 3, 7);
    const Four pairsCD =
        __builtin_shufflevector(c, d, 0, 4, 2, 6) + __builtin_shufflevector(c, d, 1, 5, 3, 7);
    const Four fours = __builtin_shufflevector(pairsAB, pairsCD, 0, 1, 4, 5) +
                       __builtin_shufflevector(pairsAB, pairsCD, 2, 3, 6, 7);
    first = fours[0] + fours[1];
    second = fours[2] + fours[3];
}

/// The sum of bars [begin, end) of a block that begins there.
SIEVE_INLINE double headOf(const double* at, std::size_t begin, std::size_t end)
{
    double sum = 0.0;
    for (; begin + 2 * pieceLength <= end; begin += 2 * pieceLength) {
        double first = 0.0;
        double second = 0.0;
        sumsOfTwo(at + begin, first, second);
        sum = (sum + first) + second;
    }
    for (; begin < end; begin += pieceLength)
        sum += Piece(at, begin, begin, end).sumUp(); // a 0 after the last changes nothing
    return sum;
}

/// The sum of bars [from, end) of a block that begins at `begin` and ends there.
SIEVE_INLINE double tailOf(const double* at, std::size_t begin, std::size_t from, std::size_t end)
{
    std::size_t piece = begin + (end - begin) / pieceLength * pieceLength;
    double sum = piece < end ? 0.0 + Piece(at, piece, from, end).sumDown() : 0.0;
    for (; piece >= from + 2 * pieceLength; piece -= 2 * pieceLength) {
        double first = 0.0;
        double second = 0.0;
        sumsOfTwo(at + piece - 2 * pieceLength, first, second);
        sum = (sum + second) + first;
    }
    for (; piece > from; piece -= pieceLength)
        sum += Piece(at, piece - pieceLength, from, end).sumDown();
    return sum;
}

/// Sums of many windows in a row.
class Sweep {
public:
    /// `at` by bar index; bars below `end` are there.
    SIEVE_INLINE Sweep(const double* at, std::size_t end, std::size_t length)
        : at_(at), end_(end), length_(length)
    {
        static thread_local std::vector<double> tails;
        tails.resize(std::max(tails.size(), length + 2 * pieceLength));
        tails_ = tails.data();
        tails_[length] = 0.0; // after a window that is a whole block nothing is left
    }

    /// Gets ready for the block after the one that begins here: whose windows reach down to bar
    /// `lowest`.
    SIEVE_INLINE void takeTails(std::size_t begin, std::size_t lowest)
    {
        double sum = 0.0;
        std::size_t end = begin + length_;
        for (std::size_t piece = begin + (length_ - 1) / pieceLength * pieceLength;;
             piece -= pieceLength) {
            Piece bars(at_, piece, lowest, end);
            const double all = bars.sumDown();
            bars.add(sum);
            sum += all;
            store(bars.low, tails_ + (piece - begin));
            store(bars.high, tails_ + (piece - begin) + 4);
            if (piece <= lowest)
                break;
        }
        tails_[length_] = 0.0;
    }

    /// Writes bars [from, to) of the block that begins here.
    SIEVE_INLINE void write(std::size_t begin, std::size_t from, std::size_t to, double* out) const
    {
        double sum = 0.0;
        for (std::size_t piece = begin; piece < to; piece += pieceLength) {
            Piece bars(at_, piece, begin, std::min(end_, begin + length_));
            const double all = bars.sumUp();
            bars.add(sum);
            sum += all;
            const std::size_t pieceEnd = piece + pieceLength;
            if (pieceEnd <= from)
                continue;
            Four low;
            Four high;
            load(low, tails_ + (piece - begin) + 1);
            load(high, tails_ + (piece - begin) + 5);
            low = low + bars.low;
            high = high + bars.high;
            if (from <= piece && pieceEnd <= to) {
                store(low, out + (piece - from));
                store(high, out + (piece - from) + 4);
                continue;
            }
            std::array<double, pieceLength> some;
            store(low, some.data());
            store(high, some.data() + 4);
            for (std::size_t bar = std::max(piece, from); bar < std::min(pieceEnd, to); ++bar)
                out[bar - from] = some[bar - piece];
        }
    }

private:
    const double* at_;
    std::size_t end_;
    std::size_t length_;
    double* tails_; ///< sums from each place of the block before to its end
};

/// Where the block of a bar begins. Bars are few enough for the quicker division.
std::size_t blockOf(std::size_t bar, std::size_t length)
{
    return static_cast<std::uint32_t>(bar) / static_cast<std::uint32_t>(length) * length;
}

} // namespace

SIEVE_WIDE void windowSum(Values values, int period, Span span, Out sum)
{
    requireWindow(values, period, span, sum);
    const auto length = static_cast<std::size_t>(period);
    const double* const at = values.data() - span.firstBar; // by bar index
    const std::size_t end = span.from + sum.size();
    std::size_t bar = span.from;
    if (sum.size() == 1 && bar + 1 >= length) {
        const std::size_t begin = blockOf(bar + 1, length);
        sum[0] = begin == bar + 1 ? headOf(at, begin - length, begin)
                                  : tailOf(at, begin - length, bar + 1 - length, begin) +
                                        headOf(at, begin, bar + 1);
        return;
    }
    Sweep sweep(at, end, length);
    if (const std::size_t begin = blockOf(bar, length); bar < end && begin > 0)
        sweep.takeTails(begin - length, bar + 1 - length);
    while (bar < end) {
        const std::size_t begin = blockOf(bar, length);
        const std::size_t to = std::min(end, begin + length);
        if (begin == 0) {
            const std::size_t known = std::clamp(length - 1, bar, to);
            std::ranges::fill(sum.first(known - bar), missing);
            bar = known;
        }
        sweep.write(begin, bar, to, sum.data() + (bar - span.from));
        if (to < end)
            sweep.takeTails(begin, begin);
        bar = to;
    }
}

} // namespace sieve::indicators
