#include "core/expressions/day_table.h"

#include "core/base/missing.h"

#include <algorithm>
#include <tbb/parallel_for.h>

namespace sieve::expressions {

DayTable::DayTable(std::size_t instruments, std::size_t days)
    : days_(days), blockDays_(std::clamp<std::size_t>(days, 1, 64)),
      blocks_((days + blockDays_ - 1) / blockDays_)
{
    tbb::parallel_for(std::size_t{0}, blocks_.size(), [&](std::size_t block) {
        blocks_[block].assign(instruments * blockDays_, missing);
    });
}

void DayTable::copyDay(std::size_t day, std::span<double> column) const
{
    const double* from = blocks_[day / blockDays_].data() + day % blockDays_;
    for (std::size_t i = 0; i < column.size(); ++i)
        column[i] = from[i * blockDays_];
}

void DayTable::setDay(std::size_t day, std::span<const double> column)
{
    double* to = blocks_[day / blockDays_].data() + day % blockDays_;
    for (std::size_t i = 0; i < column.size(); ++i)
        to[i * blockDays_] = column[i];
}

} // namespace sieve::expressions
