#pragma once

#include "core/market/market.h"

#include <vector>

namespace sieve::market {

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
Composite makeComposite(const Market& market, Weight weight);

/// The line as the only instrument of a market, so that the one engine answers for it too. Open,
/// high and low are the level; volume is missing.
MarketPtr marketOf(const Composite& line);

} // namespace sieve::market
