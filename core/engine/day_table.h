#pragma once

#include "core/base/large_pages.h"

#include <cstddef>
#include <span>
#include <vector>

namespace sieve::engine {

/// One value an instrument and day, for many days. Parts along bars run through an instrument's
/// days, parts across stocks through a day's instruments; so the values lie in blocks of 64 days,
/// instrument by instrument, and neither way leaves the processor's caches behind.
class DayTable {
public:
    DayTable() = default;
    DayTable(std::size_t instruments, std::size_t days); ///< all missing; made in parallel
    /// Without values: each must be set before it is read.
    static DayTable unset(std::size_t instruments, std::size_t days);
    /// As made anew, in the memory that it has.
    void reset(std::size_t instruments, std::size_t days);

    std::size_t days() const { return days_; }
    double at(std::size_t instrument, std::size_t day) const
    {
        return blocks_[day >> shift_][placeOf(instrument, day)];
    }
    void set(std::size_t instrument, std::size_t day, double value)
    {
        blocks_[day >> shift_][placeOf(instrument, day)] = value;
    }
    /// Days [day, day + out.size()) of one instrument.
    void copyInstrument(std::size_t instrument, std::size_t day, std::span<double> out) const;
    void setInstrument(std::size_t instrument, std::size_t day, std::span<const double> values);
    /// Days [day, day + columns.size()), an instrument each; all of one block, as eight days that
    /// begin at a multiple of eight are.
    void copyDays(std::size_t day, std::span<std::vector<double>> columns) const;
    void setDays(std::size_t day, std::span<const std::vector<double>> columns);
    void copyDay(std::size_t day, std::span<double> column) const;
    void setDay(std::size_t day, std::span<const double> column);

private:
    void shape(std::size_t instruments, std::size_t days);
    std::size_t placeOf(std::size_t instrument, std::size_t day) const
    {
        return (instrument << shift_) + (day & ((std::size_t{1} << shift_) - 1));
    }

    std::size_t instruments_ = 0;
    std::size_t days_ = 0;
    std::size_t shift_ = 0; ///< a block has 2^shift days: 64, or one where only one is asked for
    std::vector<std::vector<double, LargePages<double>>> blocks_;
};

} // namespace sieve::engine
