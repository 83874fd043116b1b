#pragma once

#include "core/base/kind.h"
#include "core/market/text_table.h"

#include <string>
#include <variant>
#include <vector>

namespace sieve::cli {

/// A cell of an answer: not known, a figure, a yes or no, or a text (days are ISO texts).
using Cell = std::variant<std::monostate, double, bool, std::string>;

/// A value of the language as a cell.
Cell cellOf(double value, Kind kind, const market::TextTable& texts);

/// Rows with a name for each column: what every command answers.
struct Answer {
    std::vector<std::string> columns;
    std::vector<std::vector<Cell>> rows;
};

/// CSV with a header line: figures with 17 digits, which are all that a double has, "yes" and "no",
/// and an empty cell for what is not known.
std::string toCsv(const Answer& answer);
/// An array of objects; what is not known is null.
std::string toJson(const Answer& answer);

} // namespace sieve::cli
