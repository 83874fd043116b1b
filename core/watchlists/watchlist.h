#pragma once

// The stocks a person keeps an eye on, and why:
//   watchlist.h  lists and their entries          tray.h  the candidates in hand
//   sitting.h    what was decided of them, and why
//   weighing.h   what is settled on for weighing
//   checklist.h  what is asked before buying, and how stocks were judged by it
//   trade_plan.h entry, stop, targets and size
//   stocks.h     both over a market: who is meant, what became of them, how they come and go
// The library keeps them (core/library).

#include "core/base/day.h"
#include "core/base/missing.h"
#include "core/watchlists/trade_plan.h"

#include <cstdint>
#include <optional>
#include <string>
#include <vector>

namespace sieve::watchlists {

/// A stock on a list. What it gained since is computed, never kept.
struct Entry {
    std::string symbol;               ///< that it bore on the day on which it was added
    Day addedOn = Day::fromSerial(0); ///< the as-of day on which it was added
    double priceThen = missing;       ///< close of that day as traded then
    std::string reason = {};
    std::string source = {}; ///< the screen or list it came from; empty: by hand
    std::optional<TradePlan> plan = {};

    friend bool operator==(const Entry& a,
                           const Entry& b); ///< a missing price equals a missing one
};

/// A stock that was on the list once.
struct FormerEntry {
    Entry entry;
    Day leftOn = Day::fromSerial(0); ///< the first day on which it was gone
    double priceLeft = missing;      ///< close of that day as traded then
    std::string reasonLeft = {};

    friend bool operator==(const FormerEntry& a, const FormerEntry& b);
};

struct Watchlist {
    std::int64_t id = 0; ///< of the library
    std::string name;
    std::vector<Entry> entries;           ///< in the person's order, each stock once
    std::vector<FormerEntry> former = {}; ///< in the order in which they left

    friend bool operator==(const Watchlist&, const Watchlist&) = default;
};

} // namespace sieve::watchlists
