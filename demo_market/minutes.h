#pragma once

#include "core/market/market.h"
#include "demo_market/dice.h"
#include "demo_market/text_file.h"

#include <cstddef>

namespace sieve::demo_market {

/// Writes the minutes of an instrument's last sessions as rows of bars/minute: together they open,
/// reach, close and trade what the day's bar tells. Minutes without trade have no row; `liveliness`
/// is the share of those that have one.
void addMinutes(TextFile& file, const market::Bars& bars, std::size_t lastSessions,
                const market::Exchange& exchange, double liveliness, Dice dice);

} // namespace sieve::demo_market
