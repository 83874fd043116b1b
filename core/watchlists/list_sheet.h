#pragma once

#include "core/exports/sheet.h"
#include "core/watchlists/alert.h"
#include "core/watchlists/list_told.h"
#include "core/watchlists/review.h"

#include <span>

namespace sieve::watchlists {

// Lists as they leave the program, for others to read.

/// The lists, a row each: name, folder, screen, how many stand on it and left it, archived.
exports::Sheet sheetOf(std::span<const Shared<Watchlist>> lists);

/// The entries of a list as of a day, with all that is kept and told of each. `market` null: what
/// is told of them is left empty.
exports::Sheet sheetOf(const ListTold& told, const market::Market* market);

/// Who came to a list and who went, a row a stock and day, the newest day first.
exports::Sheet movesOf(const Stays& stays, const market::Market& market);

/// What alerts told, the oldest first.
exports::Sheet sheetOf(std::span<const Raised> raised);

/// A review, a row a sum of cases; gains as fractions.
exports::Sheet sheetOf(std::span<const ReviewRow> rows);
/// The same case by case.
exports::Sheet sheetOf(std::span<const ReviewCase> cases, const market::Market& market);

} // namespace sieve::watchlists
