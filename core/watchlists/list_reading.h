#pragma once

#include "core/imports/table_file.h"
#include "core/market/market.h"
#include "core/watchlists/watchlist.h"

#include <string>
#include <vector>

namespace sieve::watchlists {

/// What is said of one row of a file, or of its heads.
struct RowNote {
    std::size_t line = 0; ///< of the file, from 1
    std::string words;
    bool isLeftOut = false; ///< the row gives no entry

    friend bool operator==(const RowNote&, const RowNote&) = default;
};

/// Entries that a file gives, and what became of its rows.
struct ListRead {
    std::vector<Entry> entries;
    std::vector<RowNote> notes; ///< by line; rows without one were taken as they are
    std::size_t unknown = 0;    ///< entries whose stock the market does not have; they are kept
};

/// Reads a list as this program writes it, or as anybody does: the columns are told by their heads
/// (symbol, added_on, price_then, reason, source, category, tags, sign, review_on, plan_on, entry,
/// stop, target_1 to 4, entry_rule, stop_rule, exit_rule, notes, links, and common other names), in
/// any order; a file without heads has the symbols in its first column. Columns that this program
/// computes are passed over without a word, unknown ones with one.
///   - A symbol is the one that the stock bears on `asOf`, else the one of the day on which it was
///     added. A row without one is left out; of a stock that comes twice the first row stays.
///   - What cannot be read of a row (a day, a price, a plan with a fault, a link) is left out and
///     told; the entry stays.
///   - `market` may be null. A symbol that it does not have is kept and told. Without a day an
///     entry was added on `asOf`; without a price then, at that day's close.
///   - Levels of a plan are in prices of `asOf`, as they are written; splits since the plan's day
///     are put back.
ListRead readList(const imports::Table& table, const market::Market* market, Day asOf);

/// Whether the first row of a table are heads of a list, with one for symbols.
bool hasListHeads(const imports::Table& table);

} // namespace sieve::watchlists
