#include "core/engine/day_table.h"
#include "core/base/parallel.h"

#include "core/base/missing.h"

#include <algorithm>

namespace sieve::engine {

namespace {

/// Instruments whose values are fetched before they are read: too far apart for the processor to
/// guess where it goes on.
constexpr std::size_t ahead = 16;

} // namespace

DayTable::DayTable(std::size_t instruments, std::size_t days)
{
    reset(instruments, days);
}

DayTable DayTable::unset(std::size_t instruments, std::size_t days)
{
    DayTable table;
    table.shape(instruments, days);
    for (auto& block : table.blocks_)
        block.resize(instruments << table.shift_);
    return table;
}

void DayTable::reset(std::size_t instruments, std::size_t days)
{
    shape(instruments, days);
    inParallel(blocks_.size(),
               [&](std::size_t block) { blocks_[block].assign(instruments << shift_, missing); });
}

void DayTable::shape(std::size_t instruments, std::size_t days)
{
    instruments_ = instruments;
    days_ = days;
    shift_ = days > 1 ? 6 : 0;
    blocks_.resize((days + (std::size_t{1} << shift_) - 1) >> shift_);
}

void DayTable::copyInstrument(std::size_t instrument, std::size_t day, std::span<double> out) const
{
    const std::size_t blockDays = std::size_t{1} << shift_;
    for (std::size_t i = 0; i < out.size();) {
        const std::size_t count =
            std::min(out.size() - i, blockDays - ((day + i) & (blockDays - 1)));
        std::copy_n(&blocks_[(day + i) >> shift_][placeOf(instrument, day + i)], count,
                    out.data() + i);
        i += count;
    }
}

void DayTable::setInstrument(std::size_t instrument, std::size_t day,
                             std::span<const double> values)
{
    const std::size_t blockDays = std::size_t{1} << shift_;
    for (std::size_t i = 0; i < values.size();) {
        const std::size_t count =
            std::min(values.size() - i, blockDays - ((day + i) & (blockDays - 1)));
        std::copy_n(values.data() + i, count,
                    &blocks_[(day + i) >> shift_][placeOf(instrument, day + i)]);
        i += count;
    }
}

void DayTable::copyDays(std::size_t day, std::span<std::vector<double>> columns) const
{
    const double* from = blocks_[day >> shift_].data() + placeOf(0, day);
    for (std::size_t i = 0; i < instruments_; ++i) {
        __builtin_prefetch(from + (std::min(i + ahead, instruments_ - 1) << shift_));
        for (std::size_t each = 0; each < columns.size(); ++each)
            columns[each][i] = from[(i << shift_) + each];
    }
}

void DayTable::setDays(std::size_t day, std::span<const std::vector<double>> columns)
{
    double* to = blocks_[day >> shift_].data() + placeOf(0, day);
    for (std::size_t i = 0; i < instruments_; ++i) {
        __builtin_prefetch(to + (std::min(i + ahead, instruments_ - 1) << shift_), 1);
        for (std::size_t each = 0; each < columns.size(); ++each)
            to[(i << shift_) + each] = columns[each][i];
    }
}

void DayTable::copyDay(std::size_t day, std::span<double> column) const
{
    const double* from = blocks_[day >> shift_].data() + placeOf(0, day);
    for (std::size_t i = 0; i < column.size(); ++i)
        column[i] = from[i << shift_];
}

void DayTable::setDay(std::size_t day, std::span<const double> column)
{
    double* to = blocks_[day >> shift_].data() + placeOf(0, day);
    for (std::size_t i = 0; i < column.size(); ++i)
        to[i << shift_] = column[i];
}

} // namespace sieve::engine
