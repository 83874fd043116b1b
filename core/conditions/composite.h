#pragma once

// Is this a time to buy? The market as a whole, made of its members day by day:
//   composite.h   a line of all stocks together        breadth.h  how many of them take part
//   trend_state.h rising, falling or neither, by rules written in the language
//   reading.h     all of it at once, as the window shows it

#include "core/market/market.h"

#include <string_view>
#include <vector>

namespace sieve::conditions {

enum class Weight { Equal, Capitalization };

/// A line of level by session. Starts at 1,000 on the first session.
struct Composite {
    std::vector<Day> days;
    std::vector<double> levels;
};

/// The stocks of a market as one price line: each session the level moves by the members' mean
/// change, all weighing the same or by their capitalization at the close before.
/// A member is a share that is listed and has a close before; a listing joins after its first
/// session, a delisting leaves with its last price; a stock that did not trade stands still. Splits
/// do not show, dividends are left out. With Capitalization, one without a share count is left out.
/// Source: chained arithmetic returns, equal weights restored each session.
Composite makeComposite(const market::Market& market, Weight weight);

} // namespace sieve::conditions
