#pragma once

#include "core/market/market.h"

#include <array>
#include <cstddef>
#include <cstdint>
#include <span>

namespace sieve::engine {

/// The bars of one instrument at one scale, as parts along bars see them: all on one footing. Bars
/// are counted from the instrument's first at that scale.
struct BarFrame {
    const market::Market* market = nullptr;
    std::size_t instrument = 0;
    std::size_t footing = 0;
    std::span<const Day> days;
    /// Open, high, low, close, volume; empty where a split moved some of them: see barsInPlace.
    std::array<std::span<const double>, 5> columns;
    /// The daily bar with which each ends; empty where the bars are daily ones.
    std::span<const std::uint32_t> dailyBars;

    std::size_t size() const { return days.size(); }
    std::size_t dailyBar(std::size_t bar) const { return dailyBars.empty() ? bar : dailyBars[bar]; }
};

/// The instrument's daily bars; as they lie in memory where no split ever moved them.
BarFrame dailyFrame(const market::Market& market, std::size_t instrument, std::size_t footing);

/// A column's bars [from, to) where they lie in memory; empty when the market must adjust them.
std::span<const double> barsInPlace(const BarFrame& frame, market::BarField field, std::size_t from,
                                    std::size_t to);

/// All of a column as it was traded, whatever splits came later.
std::span<const double> tradedColumn(const market::Market& market, std::size_t instrument,
                                     market::BarField field);

/// The newest bar on or before `day`, plus one; 0 when there is none.
std::size_t barsBy(const BarFrame& frame, Day day);

} // namespace sieve::engine
