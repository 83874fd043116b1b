#pragma once

#include <cstddef>
#include <span>
#include <vector>

namespace sieve::charts {

/// What of a line falls into one column of pixels.
struct ColumnExtent {
    std::size_t column = 0;
    double first = 0.0;
    double high = 0.0;
    double low = 0.0;
    double last = 0.0;

    friend bool operator==(const ColumnExtent&, const ColumnExtent&) = default;
};

/// Puts bars into columns of pixels: bar i stands at (i - from) / barsAColumn.
struct ColumnScale {
    double from = 0.0;        ///< the place, in bars, of the left edge
    double barsAColumn = 1.0; ///< above 0
    std::size_t columns = 0;

    double placeOf(std::size_t bar) const
    {
        return (static_cast<double>(bar) - from) / barsAColumn;
    }
};

/// A line's values over bars [first, end), reduced to what so many columns can show: whatever lies
/// between the first and the last value of a column lies between its high and its low.
/// Shape:   one entry a column that has a value, ascending; those outside are left out.
/// Missing: missing values are passed over; `breaks` gets the places in the result before which
///          the line is interrupted.
std::vector<ColumnExtent> reducedLine(std::span<const double> values, std::size_t first,
                                      std::size_t end, const ColumnScale& scale,
                                      std::vector<std::size_t>* breaks = nullptr);

/// The same of bars: a column's first open, highest high, lowest low and last close.
std::vector<ColumnExtent> reducedBars(std::span<const double> open, std::span<const double> high,
                                      std::span<const double> low, std::span<const double> close,
                                      std::size_t first, std::size_t end, const ColumnScale& scale);

} // namespace sieve::charts
