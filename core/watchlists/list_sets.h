#pragma once

#include "core/market/market.h"
#include "core/watchlists/watchlist.h"

#include <cstddef>
#include <span>
#include <vector>

namespace sieve::watchlists {

/// How the entries of several lists become those of one.
enum class SetOf {
    Any,      ///< on one of them at least
    All,      ///< on each of them
    FirstOnly ///< on the first and on none of the others
};

/// The entries of several lists as one, in the order of the first, then of the next ones, each
/// stock once. A stock is the same under a former symbol; one that the market does not have is told
/// by its symbol and day (market null: all are). Of a stock that stands on several, the entry that
/// was added first is kept, with what the others say added to it: reasons, tags, notes, links,
/// trades; plan, category, sign, review day and picture where it has none.
std::vector<Entry> combined(std::span<const Watchlist* const> lists, SetOf how,
                            const market::Market* market);

/// Whether both are the same entry of a list: of one stock, added on one day.
bool isSameEntry(const Entry& a, const Entry& b);

/// One entry with what another of the same stock says added to it, as above.
Entry merged(Entry into, const Entry& other);

/// Appends entries, those of stocks that are there already merged into them.
void append(Watchlist& list, std::span<const Entry> entries, const market::Market* market);

/// Moves the entries at `places` (each once) together to stand before the one at `before`, counted
/// before the move; at the end: the list's size. Their own order stays.
void moveEntries(Watchlist& list, std::vector<std::size_t> places, std::size_t before);

/// Puts the entries in the order of figures, one an entry; missing ones last, equals as they stood.
void sortEntries(Watchlist& list, std::span<const double> figures, bool isRising);

} // namespace sieve::watchlists
