#pragma once

// The stocks a person keeps an eye on, and why:
//   watchlist.h  lists                             entry.h      a stock on a list, and its page
//   tray.h       the candidates in hand            list_sets.h  lists joined, copied, sorted
//   stays.h      who was on a list when            trade_plan.h entry, stop, targets, rules, size
//   plan_course.h the states of a plan, day by day position.h   what was bought of it
//   checklist.h  what is asked before buying, and how stocks were judged by it
//   sitting.h    what was decided of candidates    weighing.h   what is settled on for weighing
//   trading_terms.h what a person is ready to lose, and when prices are near
//   mail_terms.h what is told by mail, on which evenings
//   list_reading.h lists from files
//   stocks.h     lists over a market: who is meant, what became of them, how they come and go
// The library keeps them (core/library).

#include "core/watchlists/entry.h"

#include <cstdint>
#include <string>
#include <vector>

namespace sieve::watchlists {

/// A stock that was on the list once.
struct FormerEntry {
    Entry entry;
    Day leftOn = Day::fromSerial(0); ///< the first day on which it was gone
    double priceLeft = missing;      ///< close of that day as traded then
    std::string reasonLeft = {};

    friend bool operator==(const FormerEntry& a, const FormerEntry& b);
};

/// What is said of a list beside its name.
struct ListHead {
    std::string folder = {};  ///< where it stands, parts divided by /
    std::string screen = {};  ///< the one that keeps it; empty: the person does
    std::string columns = {}; ///< the set of columns that is shown; empty: the list's own alone
    bool isArchived = false;  ///< out of sight, with all that it holds

    friend bool operator==(const ListHead&, const ListHead&) = default;
};

/// A list that is kept by hand holds its entries. One that a screen keeps (ListHead::screen) holds
/// those that the person wrote to, whether they are on the list on a day or not: who is on it is
/// asked of the market (stays.h).
struct Watchlist {
    std::int64_t id = 0; ///< of the library
    std::string name;
    std::vector<Entry> entries;           ///< in the person's order, each stock once
    std::vector<FormerEntry> former = {}; ///< in the order in which they left
    ListHead head = {};

    bool isKeptByRule() const { return !head.screen.empty(); }

    friend bool operator==(const Watchlist&, const Watchlist&) = default;
};

} // namespace sieve::watchlists
