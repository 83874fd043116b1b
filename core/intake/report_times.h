#pragma once

#include "core/market/market.h"

namespace sieve::intake {

// What a company reports after the close moves no price of that day, and who decides at that close
// does not know it. The calendar tells when a report came; the statements of one that came after
// the close are known from the day after, which is the first on which anybody could act on them.

/// Moves the day known of such statements to the day after.
void knowAfterClose(market::InstrumentRecord& record);

/// Takes that back, for rows that join others as they were filed.
void knowAsFiled(market::InstrumentRecord& record);

} // namespace sieve::intake
