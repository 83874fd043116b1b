#pragma once

#include "core/studies/following.h"
#include "core/studies/match_bars.h"

#include <vector>

namespace sieve::studies {

/// On which sessions a stock could have been picked.
struct PickedStock {
    BarBits isIn; ///< a session
};

/// Sets `chance` of each horizon, and `picks`: how often as many stocks picked by chance from the
/// universe, on the same days, rose on average as much as the cases or more; the cases themselves
/// count as one of the picks. One picking puts another stock in place of each stock with cases, on
/// all of its days, so that a stock that matched for weeks in a row is answered by one that is
/// picked for as long; on a day on which that one was not in the universe, a third one.
/// Missing: with more cases than mostDraws / fewestPicks.
/// Source:  permutation test (Fisher 1935; Good 2005), one-sided, p = (1 + as good) / (1 + picks).
/// Errors: Stopped.
void testAgainstChance(Following& told, const market::Market& market,
                       const std::vector<PickedStock>& stocks, std::span<const Day> sessions,
                       const Progress& progress);

} // namespace sieve::studies
