#pragma once

#include "core/base/day.h"
#include "core/base/kind.h"
#include "core/market/text_table.h"

#include <filesystem>
#include <string>
#include <variant>
#include <vector>

namespace sieve::exports {

/// A cell of a sheet: not known, a figure, a yes or no, a text, or a day.
using Cell = std::variant<std::monostate, double, bool, std::string, Day>;

/// A value of the language as a cell.
Cell cellOf(double value, Kind kind, const market::TextTable& texts);

/// Rows with a name for each column: what leaves the program for others to read.
struct Sheet {
    std::vector<std::string> columns;
    std::vector<std::vector<Cell>> rows;
    std::vector<Unit> units = {}; ///< a column; empty: none is told
};

/// CSV with a header line: figures with 17 digits, which are all that a double has, "yes" and "no",
/// ISO days, and an empty cell for what is not known. A text cell that a spreadsheet would run as a
/// formula begins with an apostrophe.
std::string toCsv(const Sheet& sheet);
/// The same with tabs between the cells and nothing in quotes: what a spreadsheet takes pasted.
/// Tabs and line breaks inside a text become spaces.
std::string toTabs(const Sheet& sheet);
/// An array of objects; what is not known is null.
std::string toJson(const Sheet& sheet);
/// As its ending says: .xlsx, .json or .tsv, else CSV. Errors: std::system_error with the path; a
/// file of that name then stays as it was.
void writeSheet(const std::filesystem::path& file, const Sheet& sheet);
/// A workbook (Office Open XML) with one sheet: typed cells, shares as percent, the head frozen and
/// with the unit of each column, widths that fit.
/// Errors: std::system_error with the path when it cannot be written; a file of that name then
///         stays as it was.
void writeWorkbook(const std::filesystem::path& file, const Sheet& sheet);

} // namespace sieve::exports
