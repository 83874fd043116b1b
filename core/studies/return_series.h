#pragma once

#include "core/base/result.h"
#include "core/exports/sheet.h"
#include "core/imports/table_file.h"

#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::studies {

/// Daily returns under a name, oldest first.
struct ReturnSeries {
    std::string name;
    std::vector<Day> days;
    std::vector<double> returns;
};

enum class Told {
    Returns, ///< as fractions
    Worths   ///< prices or worths above 0, of which returns are made
};

/// A table with a head, days in its first column and a series in each other one. A cell that is
/// empty leaves its day out of its series.
/// Errors: located, with the line: no head or no column; a day that is none or does not come after
///         the one before; a cell that is no number; a return below -1, a worth not above 0.
Result<std::vector<ReturnSeries>> readReturns(const imports::Table& table,
                                              Told told = Told::Returns);

/// The measures of each series, a row each under the names of namedMeasures(), with the days of
/// its deepest fall; of each but the benchmark also those beside it, over the days of both.
/// `benchmark`: the name of one of the series; where none bears it there is none.
exports::Sheet measuresSheet(std::span<const ReturnSeries> series, std::string_view benchmark);
/// Worth and fall of each series, a row a day on which one of them has a return.
exports::Sheet curvesSheet(std::span<const ReturnSeries> series);

} // namespace sieve::studies
