#pragma once

#include <cstddef>
#include <span>
#include <vector>

namespace sieve::expressions {

/// One value an instrument and day, for many days. Parts along bars run through an instrument's
/// days, parts across stocks through a day's instruments; so the values lie in blocks of 64 days,
/// instrument by instrument, and neither way leaves the processor's caches behind.
class DayTable {
public:
    DayTable() = default;
    DayTable(std::size_t instruments, std::size_t days); ///< all missing; made in parallel

    std::size_t days() const { return days_; }
    double at(std::size_t instrument, std::size_t day) const
    {
        return blocks_[day / blockDays_][instrument * blockDays_ + day % blockDays_];
    }
    void set(std::size_t instrument, std::size_t day, double value)
    {
        blocks_[day / blockDays_][instrument * blockDays_ + day % blockDays_] = value;
    }
    /// One day's values, an instrument each.
    void copyDay(std::size_t day, std::span<double> column) const;
    void setDay(std::size_t day, std::span<const double> column);

private:
    std::size_t days_ = 0;
    std::size_t blockDays_ = 1;
    std::vector<std::vector<double>> blocks_;
};

} // namespace sieve::expressions
