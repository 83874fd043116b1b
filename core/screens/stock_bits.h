#pragma once

#include <algorithm>
#include <bit>
#include <cstddef>
#include <cstdint>
#include <vector>

namespace sieve::screens {

/// Some of the stocks of a universe, a bit each, by their place in it: sets of thousands meet, join
/// and are counted in a fraction of a microsecond.
class StockBits {
public:
    StockBits() = default;
    /// Those of the first `stocks` for which `isIn(place)` holds.
    template <class IsIn> StockBits(std::size_t stocks, IsIn isIn) : words_((stocks + 63) / 64)
    {
        for (std::size_t word = 0; word < words_.size(); ++word) {
            const std::size_t first = 64 * word;
            const std::size_t count = std::min<std::size_t>(64, stocks - first);
            for (std::size_t i = 0; i < count; ++i)
                words_[word] |= static_cast<std::uint64_t>(isIn(first + i) ? 1U : 0U) << i;
        }
    }

    std::size_t count() const
    {
        std::size_t all = 0;
        for (const std::uint64_t word : words_)
            all += static_cast<std::size_t>(std::popcount(word));
        return all;
    }
    /// Calls `of(place)` for each of them, ascending.
    template <class Of> void each(Of of) const
    {
        for (std::size_t word = 0; word < words_.size(); ++word)
            for (std::uint64_t left = words_[word]; left != 0; left &= left - 1)
                of(64 * word + static_cast<std::size_t>(std::countr_zero(left)));
    }

    friend StockBits operator&(StockBits a, const StockBits& b) ///< in both
    {
        for (std::size_t word = 0; word < a.words_.size(); ++word)
            a.words_[word] &= b.words_[word];
        return a;
    }
    friend StockBits operator|(StockBits a, const StockBits& b) ///< in one of them or both
    {
        for (std::size_t word = 0; word < a.words_.size(); ++word)
            a.words_[word] |= b.words_[word];
        return a;
    }
    friend StockBits operator-(StockBits a, const StockBits& b) ///< in the first only
    {
        for (std::size_t word = 0; word < a.words_.size(); ++word)
            a.words_[word] &= ~b.words_[word];
        return a;
    }

private:
    std::vector<std::uint64_t> words_;
};

} // namespace sieve::screens
