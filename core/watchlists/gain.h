#pragma once

#include "core/market/as_of.h"
#include "core/watchlists/watchlist.h"

#include <vector>

namespace sieve::watchlists {

/// What became of an entry by a day.
struct EntryResult {
    double price = missing; ///< newest close by the day; the last one of a delisted stock
    double gain = missing;  ///< since it was added, as a fraction, splits taken out
    bool isKnown = false;   ///< the market has the symbol
    bool isDelisted = false;
};

/// Missing: price and gain before the entry was added or the stock was listed; gain without a price
///          then.
EntryResult resultOf(const Entry& entry, const market::Market& market, Day day);

/// The close of a stock's newest bar by the day, as traded: what an entry added then remembers.
double priceOn(const market::Market& market, std::size_t instrument, Day day);

/// Puts a stock at the end of a list as of a day, unless it is on it.
void putOnto(Watchlist& list, const market::Market& market, std::size_t instrument, Day day,
             const std::string& reason, const std::string& source);

} // namespace sieve::watchlists
