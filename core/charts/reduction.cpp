#include "core/charts/reduction.h"

#include "core/base/missing.h"

#include <algorithm>
#include <cmath>
#include <optional>

namespace sieve::charts {

namespace {

/// The column of pixels in which a bar stands, if it is one of those in sight.
std::optional<std::size_t> columnOf(std::size_t bar, const ColumnScale& scale)
{
    const double place = std::floor(scale.placeOf(bar));
    if (!(place >= 0.0) || place >= static_cast<double>(scale.columns))
        return std::nullopt;
    return static_cast<std::size_t>(place);
}

/// Adds a bar to the last column, or begins a new one.
void put(std::vector<ColumnExtent>& columns, std::size_t column, const ColumnExtent& bar)
{
    if (columns.empty() || columns.back().column != column) {
        columns.push_back(bar);
        columns.back().column = column;
        return;
    }
    ColumnExtent& into = columns.back();
    into.high = std::max(into.high, bar.high);
    into.low = std::min(into.low, bar.low);
    into.last = bar.last;
}

} // namespace

std::vector<ColumnExtent> reducedLine(std::span<const double> values, std::size_t first,
                                      std::size_t end, const ColumnScale& scale,
                                      std::vector<std::size_t>* breaks)
{
    std::vector<ColumnExtent> columns;
    bool isBroken = false;
    for (std::size_t bar = first; bar < std::min(end, values.size()); ++bar) {
        const double value = values[bar];
        const auto column = columnOf(bar, scale);
        if (isMissing(value)) {
            isBroken = !columns.empty();
            continue;
        }
        if (!column)
            continue;
        const std::size_t before = columns.size();
        put(columns, *column, {0, value, value, value, value});
        if (isBroken && breaks && columns.size() > before)
            breaks->push_back(before);
        isBroken = false;
    }
    return columns;
}

std::vector<ColumnExtent> reducedBars(std::span<const double> open, std::span<const double> high,
                                      std::span<const double> low, std::span<const double> close,
                                      std::size_t first, std::size_t end, const ColumnScale& scale)
{
    std::vector<ColumnExtent> columns;
    for (std::size_t bar = first; bar < std::min(end, close.size()); ++bar)
        if (const auto column = columnOf(bar, scale))
            put(columns, *column, {0, open[bar], high[bar], low[bar], close[bar]});
    return columns;
}

} // namespace sieve::charts
