#pragma once

#include "core/market/market.h"
#include "demo_market/climate.h"
#include "demo_market/dice.h"
#include "demo_market/script.h"

#include <cstddef>
#include <optional>
#include <string>
#include <vector>

namespace sieve::demo_market {

/// What kind of life a company leads.
enum class Character { Grower, Steady, Cyclical, Turnaround, Indebted, Unprofitable, Declining };

enum class Ending { None, Failed, Bought, Moved, Merged };

/// What is decided about an instrument before its life begins.
struct Birth {
    Character character = Character::Steady;
    std::size_t firstSession = 0;
    std::optional<std::size_t> lastSession; ///< of one that is delisted
    Ending ending = Ending::None;
    double size = 1.0; ///< revenue of a quarter in millions when it begins
    double beta = 1.0;
    std::string whyDelisted = {}; ///< instead of what its ending tells
    bool isListing = true;        ///< that begins later is offered to the public then
    bool neverSplits = false;     ///< and so may cost thousands
    double startPrice = 0.0;      ///< 0: what people like to begin with
    const Script* script = nullptr;
    double specialDividend = 0.0;   ///< a share of the price, once, two years before the end
    std::size_t reverseSplitAt = 0; ///< session; 0: none
    Day newsFrom = Day::fromSerial(0);
};

/// Lives through the sessions: statements every quarter, prices that follow them, the market and
/// chance; splits when the price has run far, dividends where there are earnings.
/// Tells its days of note: what a script marks, splits in reverse, special dividends.
/// Fills everything of `record` but the instrument's own row, of which it sets the days and the
/// offer price.
std::vector<std::pair<std::string, Day>> live(market::InstrumentRecord& record, const Birth& birth,
                                              const std::vector<Day>& sessions,
                                              const std::vector<Weather>& weather, Dice dice);

} // namespace sieve::demo_market
