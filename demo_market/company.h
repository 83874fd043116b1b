#pragma once

#include "core/market/market.h"
#include "demo_market/climate.h"

#include <cstddef>
#include <optional>
#include <vector>

namespace sieve::demo_market {

/// What kind of life a company leads.
enum class Character { Grower, Steady, Cyclical, Turnaround, Indebted, Unprofitable, Declining };

enum class Ending { None, Failed, Bought, Moved };

/// What is decided about an instrument before its life begins.
struct Birth {
    Character character = Character::Steady;
    std::size_t firstSession = 0;
    std::optional<std::size_t> lastSession; ///< of one that is delisted
    Ending ending = Ending::None;
    double size = 1.0; ///< revenue of a quarter in millions when it begins
    double beta = 1.0;
};

/// Lives through the sessions: statements every quarter, prices that follow them, the market and
/// chance; splits when the price has run far, dividends where there are earnings.
/// Fills everything of `record` but the instrument's own row, of which it sets the days and the
/// offer price.
void live(market::InstrumentRecord& record, const Birth& birth, const std::vector<Day>& sessions,
          const std::vector<Weather>& weather, Dice dice);

} // namespace sieve::demo_market
