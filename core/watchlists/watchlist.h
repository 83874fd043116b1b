#pragma once

// The stocks a person keeps an eye on, and why:
//   watchlist.h  lists and their entries      tray.h  the candidates in hand
//   store.h      both, in the library

#include "core/base/day.h"
#include "core/base/missing.h"

#include <cstdint>
#include <string>
#include <vector>

namespace sieve::watchlists {

/// A stock on a list. What it gained since is computed, never kept.
struct Entry {
    std::string symbol;
    Day addedOn;                ///< the as-of day on which it was added
    double priceThen = missing; ///< close of that day as traded then
    std::string reason;
    std::string source; ///< the screen or list it came from; empty: by hand

    friend bool operator==(const Entry&, const Entry&) = default;
};

struct Watchlist {
    std::int64_t id = 0; ///< of the library
    std::string name;
    std::vector<Entry> entries; ///< in the person's order, each symbol once

    const Entry* find(const std::string& symbol) const; ///< null when it is not on the list

    friend bool operator==(const Watchlist&, const Watchlist&) = default;
};

} // namespace sieve::watchlists
