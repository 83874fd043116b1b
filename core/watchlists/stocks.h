#pragma once

#include "core/base/progress.h"
#include "core/market/as_of.h"
#include "core/watchlists/tray.h"
#include "core/watchlists/watchlist.h"

#include <span>
#include <vector>

namespace sieve::watchlists {

// Who is meant. A symbol may have passed from one company to another, so that an entry or a card
// means the stock that bore the symbol on the day on which it came.

/// Empty when the market does not have it.
std::optional<std::size_t> stockOf(const Entry& entry, const market::Market& market);
std::optional<std::size_t> stockOf(const Card& card, const market::Market& market);
/// The place of the stock's entry on the list, or of its card in the tray; empty when it is not
/// there.
std::optional<std::size_t> placeOn(const Watchlist& list, const market::Market& market,
                                   std::size_t stock);
std::optional<std::size_t> placeIn(const Tray& tray, const market::Market& market,
                                   std::size_t stock);

/// What became of an entry by a day.
struct EntryResult {
    std::optional<std::size_t> stock = {}; ///< empty when the market does not have it
    double price = missing;     ///< newest close by the day; the last one of a delisted stock
    double priceThen = missing; ///< the entry's, on the footing of `price`
    double gain = missing;      ///< since it was added, as a fraction, splits taken out
    double highest = missing;   ///< since the day after it was added, on the footing of `price`
    double lowest = missing;
    std::size_t sessions = 0; ///< bars since it was added
    bool isDelisted = false;
};

/// Missing: all prices before the entry was added or the stock was listed; priceThen and gain
///          without a price then; highest and lowest on the day itself.
EntryResult resultOf(const Entry& entry, const market::Market& market, Day day);
/// The same for each of many; nothing is known where no market is open (null).
/// Errors: Stopped.
std::vector<EntryResult> resultsOf(std::span<const Entry> entries, const market::Market* market,
                                   Day day, const Progress& progress);

/// The close of a stock's newest bar by the day, as traded: what an entry added then remembers.
double priceOn(const market::Market& market, std::size_t stock, Day day);

/// Puts stocks at the end of a list as of a day, but for those that are on it.
void putOnto(Watchlist& list, const market::Market& market, std::span<const std::size_t> stocks,
             Day day, const std::string& reason, const std::string& source);

/// Takes the entry at a place off the list and remembers it among the former ones, with the stock's
/// last price by that day if the market (null: none is open) has it. An entry cannot leave before
/// it came: seen from an earlier day it leaves on the day on which it was added.
void takeOff(Watchlist& list, std::size_t place, const market::Market* market, Day day,
             const std::string& reason);

/// What is planned of a stock: with its card in the tray, else with its entry on the list (null:
/// none); in the prices of the day. Empty: nothing was by then.
std::optional<TradePlan> planOf(const Tray& tray, const Watchlist* list,
                                const market::Market& market, std::size_t stock, Day day);

/// New cards for stocks, with the symbols that they bore on the as-of day.
std::vector<Card> cardsOf(const market::Market& market, std::span<const std::size_t> stocks,
                          Day day, const std::string& source);
/// Puts these stocks in hand in place of the former ones. One that was in hand before keeps its
/// mark, reason and plan.
Tray filled(const Tray& tray, const market::Market& market, std::span<const std::size_t> stocks,
            Day day, const std::string& source);
/// Puts those that are not in hand behind the others. Gives back how many.
std::size_t addTo(Tray& tray, const market::Market& market, std::span<const std::size_t> stocks,
                  Day day, const std::string& source);

} // namespace sieve::watchlists
