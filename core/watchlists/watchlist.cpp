#include "core/watchlists/watchlist.h"

#include <algorithm>

namespace sieve::watchlists {

const Entry* Watchlist::find(const std::string& symbol) const
{
    const auto found = std::ranges::find(entries, symbol, &Entry::symbol);
    return found == entries.end() ? nullptr : &*found;
}

} // namespace sieve::watchlists
