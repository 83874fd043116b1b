#include "core/charts/reduction.h"

#include "core/base/missing.h"

#include <algorithm>
#include <cmath>

namespace sieve::charts {

namespace {

/// The first bar at or behind the left edge of a column.
std::size_t firstOf(std::size_t column, const ColumnScale& scale)
{
    const double edge = static_cast<double>(column);
    const double bar = std::max(std::ceil(scale.from + edge * scale.barsAColumn) - 1.0, 0.0);
    auto first = static_cast<std::size_t>(bar);
    while (scale.placeOf(first) < edge)
        ++first;
    return first;
}

/// Calls take(column, first, end) for each column in sight with its bars among [first, end).
template <class Take>
void eachColumn(std::size_t first, std::size_t end, const ColumnScale& scale, Take take)
{
    if (first >= end || scale.columns == 0)
        return;
    const double place = std::max(std::floor(scale.placeOf(first)), 0.0);
    if (place >= static_cast<double>(scale.columns))
        return;
    auto column = static_cast<std::size_t>(place);
    std::size_t bar = std::max(first, firstOf(column, scale));
    for (; column < scale.columns && bar < end; ++column) {
        const std::size_t next = std::min(firstOf(column + 1, scale), end);
        if (bar < next)
            take(column, bar, next);
        bar = std::max(bar, next);
    }
}

} // namespace

std::vector<ColumnExtent> reducedLine(std::span<const double> values, std::size_t first,
                                      std::size_t end, const ColumnScale& scale,
                                      std::vector<std::size_t>* breaks)
{
    std::vector<ColumnExtent> columns;
    bool isBroken = false;
    eachColumn(first, std::min(end, values.size()), scale,
               [&](std::size_t column, std::size_t from, std::size_t to) {
                   ColumnExtent made{column, missing, missing, missing, missing};
                   for (std::size_t bar = from; bar < to; ++bar) {
                       const double value = values[bar];
                       if (isMissing(value)) {
                           isBroken = isBroken || (!columns.empty() && isMissing(made.first));
                           continue;
                       }
                       if (isMissing(made.first))
                           made.first = made.high = made.low = value;
                       made.high = std::max(made.high, value);
                       made.low = std::min(made.low, value);
                       made.last = value;
                   }
                   if (isMissing(made.first))
                       return;
                   if (isBroken && breaks)
                       breaks->push_back(columns.size());
                   columns.push_back(made);
                   isBroken = isMissing(values[to - 1]);
               });
    return columns;
}

std::vector<ColumnExtent> reducedBars(std::span<const double> open, std::span<const double> high,
                                      std::span<const double> low, std::span<const double> close,
                                      std::size_t first, std::size_t end, const ColumnScale& scale)
{
    std::vector<ColumnExtent> columns;
    eachColumn(first, std::min(end, close.size()), scale,
               [&](std::size_t column, std::size_t from, std::size_t to) {
                   ColumnExtent made{column, open[from], high[from], low[from], close[to - 1]};
                   for (std::size_t bar = from + 1; bar < to; ++bar) {
                       made.high = std::max(made.high, high[bar]);
                       made.low = std::min(made.low, low[bar]);
                   }
                   columns.push_back(made);
               });
    return columns;
}

} // namespace sieve::charts
