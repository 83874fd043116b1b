#pragma once

#include "core/base/day.h"
#include "core/base/minute.h"

#include <cstddef>
#include <span>
#include <vector>

namespace sieve::market {

/// One day's trade; prices as traded, volume in shares.
struct Bar {
    Day day;
    double open = 0;
    double high = 0;
    double low = 0;
    double close = 0;
    double volume = 0;
};

/// One instrument's daily bars as columns of one size, oldest first, in memory that the market
/// keeps. A day without trade is no bar.
struct BarsView {
    std::span<const Day> days;
    std::span<const double> open;
    std::span<const double> high;
    std::span<const double> low;
    std::span<const double> close;
    std::span<const double> volume; ///< shares

    std::size_t size() const { return days.size(); }
};

/// The same of minutes; each stands for the trade from its begin to its end. A minute without trade
/// is no bar.
struct MinuteBarsView {
    std::span<const Minute> minutes;
    std::span<const double> open;
    std::span<const double> high;
    std::span<const double> low;
    std::span<const double> close;
    std::span<const double> volume;

    std::size_t size() const { return minutes.size(); }
};

/// Daily bars that own their memory.
struct Bars {
    std::vector<Day> days;
    std::vector<double> open;
    std::vector<double> high;
    std::vector<double> low;
    std::vector<double> close;
    std::vector<double> volume; ///< shares

    Bars() = default;
    explicit Bars(const BarsView& view); ///< a copy
    std::size_t size() const { return days.size(); }
    void reserve(std::size_t bars);
    void add(const Bar& bar); ///< after the last
    Bar at(std::size_t bar) const;
    /// Keeps the first `bars` bars.
    void truncate(std::size_t bars);
    BarsView view() const { return {days, open, high, low, close, volume}; }
};

} // namespace sieve::market
