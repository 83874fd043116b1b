#include "core/expressions/day_table.h"

#include "core/base/missing.h"

#include <tbb/parallel_for.h>

namespace sieve::expressions {

DayTable::DayTable(std::size_t instruments, std::size_t days)
    : instruments_(instruments), days_(days), shift_(days > 1 ? 6 : 0),
      blocks_((days + (std::size_t{1} << shift_) - 1) >> shift_)
{
    tbb::parallel_for(std::size_t{0}, blocks_.size(), [&](std::size_t block) {
        blocks_[block].assign(instruments << shift_, missing);
    });
}

void DayTable::copyDays(std::size_t day, std::span<std::vector<double>> columns) const
{
    const double* from = blocks_[day >> shift_].data() + placeOf(0, day);
    for (std::size_t i = 0; i < instruments_; ++i)
        for (std::size_t each = 0; each < columns.size(); ++each)
            columns[each][i] = from[(i << shift_) + each];
}

void DayTable::setDays(std::size_t day, std::span<const std::vector<double>> columns)
{
    double* to = blocks_[day >> shift_].data() + placeOf(0, day);
    for (std::size_t i = 0; i < instruments_; ++i)
        for (std::size_t each = 0; each < columns.size(); ++each)
            to[(i << shift_) + each] = columns[each][i];
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

} // namespace sieve::expressions
