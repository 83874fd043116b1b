#pragma once

#include "core/engine/evaluator.h"
#include "core/exports/sheet.h"
#include "core/language/checker.h"
#include "core/screens/distribution.h"
#include "core/screens/screen.h"

#include <cstddef>
#include <optional>
#include <span>
#include <string>
#include <vector>

namespace sieve::screens {

struct TableColumn {
    std::string text;  ///< the field or expression it shows
    std::string title; ///< of the field, or the expression itself
    std::string head;  ///< the same, shorter
    std::string meaning;
    Kind kind = Kind::Number;
    Unit unit = Unit::Plain;
    int decimals = 2;
    std::vector<double> figures;       ///< a row; a text is its number in the market's table
    double median = missing;           ///< of the compared figures that are known; numbers only
    std::optional<LocatedError> error; ///< then all figures are missing
    /// Of money in a market of several currencies: a row's figure in the market's own, at the rate
    /// of its bar's day, by which rows are compared. Else empty.
    std::vector<double> inMarket = {};

    /// What rows are sorted and pictured by, and the median is of.
    const std::vector<double>& compared() const { return inMarket.empty() ? figures : inMarket; }

    language::CellGraphic graphic = language::CellGraphic::None;
    Distribution spread = {};       ///< over all listed stocks, for a bar
    std::vector<double> lows = {};  ///< a row, for a range: of the year up to the day
    std::vector<double> highs = {}; ///< likewise
};

/// Rows of instruments with columns of figures.
struct ResultTable {
    std::vector<std::size_t> rows; ///< instruments
    std::vector<TableColumn> columns;
    std::vector<std::size_t> idle = {}; ///< of each row, sessions since its newest bar
    std::string currency = {};          ///< the market's
    /// Of each row: its currency where that is another, else empty. No rows where all have one.
    std::vector<std::string> otherCurrencies = {};
};

/// Fills the columns for these instruments on that day. Numbers bear the graphic that `cells` gives
/// them, else their field's; lines are read apart, see linesOf.
ResultTable makeTable(std::span<const std::size_t> rows, std::span<const std::string> columns,
                      const language::Names& names, engine::Evaluator& evaluator, Day day,
                      const CellGraphics& cells = {}, const Progress& progress = {});

/// A column's figures on the newest `sessions` bars up to a day, for some instruments, as known
/// then; oldest first.
/// Errors: nothing for a text that does not check.
std::vector<std::vector<double>> linesOf(const std::string& column,
                                         std::span<const std::size_t> instruments,
                                         const language::Names& names, engine::Evaluator& evaluator,
                                         Day day, std::size_t sessions,
                                         const Progress& progress = {});

/// The table as it leaves the program: the texts of its columns as heads, with their units. Money
/// in several currencies is followed by the same in the market's.
exports::Sheet sheetOf(const ResultTable& table, const market::TextTable& texts);

enum class Order { Ascending, Descending };

struct SortKey {
    std::size_t column = 0;
    Order order = Order::Ascending;
};

/// Puts the rows in order of a column, those equal there by the next; missing figures stand last in
/// both orders, texts run by alphabet, and rows that are equal in all keep their order.
void sortBy(ResultTable& table, std::span<const SortKey> keys, const market::TextTable& texts);
void sortBy(ResultTable& table, std::size_t column, Order order, const market::TextTable& texts);

} // namespace sieve::screens
