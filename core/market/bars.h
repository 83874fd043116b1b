#pragma once

#include "core/base/day.h"

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

/// One instrument's daily bars, oldest first, a contiguous column a field, all of one size. A day
/// without trade is no bar.
struct Bars {
    std::vector<Day> days;
    std::vector<double> open;
    std::vector<double> high;
    std::vector<double> low;
    std::vector<double> close;
    std::vector<double> volume; ///< shares

    std::size_t size() const { return days.size(); }
    void reserve(std::size_t bars);
    void add(const Bar& bar); ///< after the last
    Bar at(std::size_t bar) const;
    /// Keeps the first `bars` bars.
    void truncate(std::size_t bars);
};

/// A split: `ratio` new shares for one old (2 for 2:1, 0.1 for a reverse split of 10 into 1).
struct Split {
    Day exDate;
    double ratio = 1;
};

struct Dividend {
    Day exDate;
    double amount = 0; ///< per share, as paid
};

} // namespace sieve::market
