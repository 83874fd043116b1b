#pragma once

#include "core/market/market.h"

#include <cstddef>
#include <cstdint>
#include <span>
#include <vector>

namespace sieve::engine {

/// Bars of one instrument that share a footing, one for each of days [firstDay, endDay).
struct Stretch {
    std::size_t footing = 0;
    std::size_t firstBar = 0;
    std::size_t endBar = 0;
    std::size_t firstDay = 0;
    std::size_t endDay = 0;
};

/// Finds an instrument's bars for a question's days, ascending; keeps its memory from one to the
/// next. Days whose bars lie far apart fall into stretches of their own.
class Stretches {
public:
    /// `cuts`: days on which another instrument that the question is about changes its footing.
    Stretches(const market::Market& market, std::span<const Day> days, std::span<const Day> cuts);

    std::span<const Stretch> of(std::size_t instrument);
    /// The bar of each day of a stretch, by place of the day.
    std::span<const std::uint32_t> bars(const Stretch& stretch) const
    {
        return std::span(bars_).subspan(stretch.firstDay, stretch.endDay - stretch.firstDay);
    }

private:
    bool areEqual(std::span<const Day> bars, std::span<const Day> days) const;
    void findBars(std::span<const Day> own, const market::Tenure& tenure, std::size_t first,
                  std::size_t end);
    void addStretch(std::size_t instrument, std::size_t from, std::size_t to);
    void noteIdle(Day newestBar, std::size_t day);
    void findBreaks(std::size_t instrument, std::span<const Day> own, std::size_t first,
                    std::size_t end);

    const market::Market& market_;
    std::span<const Day> days_;
    std::span<const Day> cuts_;
    bool areInARow_; ///< the days are sessions without a gap
    std::vector<std::uint32_t> bars_;
    std::uint32_t widest_ = 0; ///< most bars between two days in a row
    std::vector<std::size_t> breaks_;
    std::vector<std::size_t> idle_; ///< days on which it has not traded for too long, ascending
    std::vector<Stretch> stretches_;
};

} // namespace sieve::engine
