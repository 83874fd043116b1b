#pragma once

#include "core/base/progress.h"
#include "core/engine/evaluator.h"
#include "core/language/checker.h"
#include "core/watchlists/watchlist.h"

#include <cstddef>
#include <optional>
#include <span>
#include <string_view>
#include <vector>

namespace sieve::watchlists {

// Who was on a list on which days. On one that a screen keeps are, on each day, all stocks that
// pass the screen as known on that day. The best so many are not taken, so that a stock does not
// leave because another came.

/// The time of a stock on a list, in sessions of those that were asked about.
struct Stay {
    std::size_t stock = 0;
    std::size_t from = 0;  ///< 0: or earlier
    std::size_t until = 0; ///< the first one on which it is gone; their number: it is still there

    friend bool operator==(const Stay&, const Stay&) = default;
};

/// Who was on the list on each of some sessions.
struct Stays {
    std::vector<Day> days;   ///< ascending
    std::vector<Stay> stays; ///< by stock, then by time
};

/// Errors: located, of a screen that is not there or does not check; Stopped.
Result<Stays> staysOf(std::string_view screen, const language::Names& names,
                      engine::Evaluator& evaluator, std::span<const Day> days,
                      const Progress& progress = {});

/// The same of a list that is kept by hand: from the day on which an entry was added to the day on
/// which it was gone, the person's screens not asked. Entries that the market does not have are
/// left out.
Stays staysByHand(const Watchlist& list, const market::Market& market, std::span<const Day> days);

/// Who is on it on a day of those, the first to come first, then by the market's order.
std::vector<Stay> membersOn(const Stays& stays, std::size_t day);

/// Who came and went between two of the days: on the list on one and not on the other.
struct ComingsAndGoings {
    std::vector<std::size_t> came; ///< instruments, in the market's order
    std::vector<std::size_t> went;
};
ComingsAndGoings between(const Stays& stays, std::size_t from, std::size_t to);
/// The same for each of the days against the one before it; nobody on the first.
std::vector<ComingsAndGoings> dayByDay(const Stays& stays);

/// How far back one looks for the day on which a stock came, in sessions.
inline constexpr std::size_t staysLookBack = 252;
/// The sessions up to a day, as many as there are, at most `staysLookBack` and the day's own.
std::vector<Day> sessionsBefore(const market::Market& market, Day day);

/// The list as of the last of the days: its entries are those on it, each with the day on which it
/// came, that day's close, the screen as source, and all that the person wrote to the stock; its
/// former ones are those that left in this time.
Watchlist filled(const Watchlist& list, const Stays& stays, const market::Market& market);

/// The entry of a stock on a list that a screen keeps, for the person to write to: the one that is
/// there, else `shown` put at the end.
Entry& entryToWrite(Watchlist& list, const market::Market& market, const Entry& shown);

} // namespace sieve::watchlists
