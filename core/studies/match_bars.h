#pragma once

#include "core/engine/evaluator.h"
#include "core/screens/run.h"

#include <bit>
#include <cstdint>
#include <vector>

namespace sieve::studies {

/// A bit a bar of a stock.
class BarBits {
public:
    explicit BarBits(std::size_t bars = 0) : words_((bars + 63) / 64) {}
    bool at(std::size_t bar) const { return (words_[bar / 64] >> (bar % 64) & 1U) != 0; }
    /// Calls `of(bar)` for each that is set, ascending.
    template <class Of> void each(Of of) const
    {
        for (std::size_t word = 0; word < words_.size(); ++word)
            for (std::uint64_t left = words_[word]; left != 0; left &= left - 1)
                of(64 * word + static_cast<std::size_t>(std::countr_zero(left)));
    }
    void set(std::size_t bar) { words_[bar / 64] |= std::uint64_t{1} << (bar % 64); }

private:
    std::vector<std::uint64_t> words_;
};

/// Where a stock matched, and where it was in the universe, among its bars.
struct MatchedStock {
    BarBits matches;
    BarBits universe;
    std::size_t firstBar = 0; ///< that was asked for: no bar before it is in the window
    std::size_t endBar = 0;
    /// Bars that may begin a run, ascending, with the figures asked for beside the condition.
    std::vector<std::pair<std::size_t, std::vector<double>>> strengths;
};

/// A screen, and figures, put to all stocks over a stretch of days; what is before the first of
/// them is known of matches only as far as a run may come from there.
/// Shape:  one an instrument; indexes have no bar in the window. Errors: Stopped.
std::vector<MatchedStock> matchedStocks(const engine::Plan& plan, const screens::ScreenNodes& nodes,
                                        std::span<const engine::NodeId> strengths,
                                        bool isEveryMatch, engine::Evaluator& evaluator, Day from,
                                        Day to, const Progress& progress);

} // namespace sieve::studies
