#pragma once

#include "core/engine/evaluator.h"
#include "core/screens/run.h"

#include <algorithm>
#include <bit>
#include <cstdint>
#include <limits>
#include <span>
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

/// Figures of some bars of a stock, bar by bar; ascending once sorted.
class BarFigures {
public:
    explicit BarFigures(std::size_t each = 0) : each_(each) {}
    std::size_t size() const { return bars_.size(); }
    std::size_t bar(std::size_t at) const { return bars_[at]; }
    std::span<const double> figures(std::size_t at) const
    {
        return std::span(figures_).subspan(at * each_, each_);
    }
    /// Place of a bar, or of the next one that is there.
    std::size_t placeOf(std::size_t bar) const
    {
        return static_cast<std::size_t>(std::ranges::lower_bound(bars_, bar) - bars_.begin());
    }
    /// Requires: `each` figures are added to every bar before the next one.
    void addBar(std::size_t bar) { bars_.push_back(static_cast<std::uint32_t>(bar)); }
    void addFigure(double figure) { figures_.push_back(figure); }
    void sort(); ///< by bar

private:
    std::size_t each_;
    std::vector<std::uint32_t> bars_;
    std::vector<double> figures_;
};

/// Where a stock matched, and where it was in the universe, among its bars.
struct MatchedStock {
    BarBits matches;
    BarBits universe;
    std::size_t firstBar = 0; ///< that was asked for: no bar before it is in the window
    std::size_t endBar = 0;
    /// Of bars that may begin a run: what is asked for beside the condition.
    BarFigures strengths;
};

/// A screen, and figures, put to all stocks over a stretch of days; what is before the first of
/// them is known of matches only as far as a run may come from there.
/// Shape:  one an instrument; indexes have no bar in the window. Errors: Stopped; TooManyBars,
///         where more than `mostBars` have figures.
struct TooManyBars {};
std::vector<MatchedStock>
matchedStocks(const engine::Plan& plan, const screens::ScreenNodes& nodes,
              std::span<const engine::NodeId> strengths, bool isEveryMatch,
              engine::Evaluator& evaluator, Day from, Day to, const Progress& progress,
              std::size_t mostBars = std::numeric_limits<std::size_t>::max());

} // namespace sieve::studies
