#pragma once

#include "core/base/day.h"
#include "core/base/missing.h"
#include "core/market/market.h"
#include "core/watchlists/entry.h"

#include <optional>
#include <span>
#include <vector>

namespace sieve::watchlists {

/// Shares below this are none: halves and thirds of splits do not add up to the bit.
inline constexpr double noShares = 1e-9;

/// What was bought of a stock and is held on a day, in its currency and the prices of that day:
/// splits since are taken out. What is sold is what was bought first. Dividends and costs are left
/// out.
struct Position {
    double shares = 0.0;              ///< held
    double cost = 0.0;                ///< paid for them
    double worth = missing;           ///< at the close
    double gain = missing;            ///< worth / cost - 1
    double realized = 0.0;            ///< gained by what was sold
    double bought = 0.0;              ///< paid for all, sold ones too
    std::optional<Day> since = {};    ///< the first purchase; empty: nothing was bought by the day
    std::optional<Day> closedOn = {}; ///< the last sale, where nothing is held any more

    bool isHeld() const { return shares > 0.0; }
};

/// Trades after the day do not count. Missing: worth and gain without a close.
Position positionOf(std::span<const Trade> trades, const market::Market& market, std::size_t stock,
                    Day day);

/// Trades up to a bar's day with shares and prices on the footing of that bar.
std::vector<Trade> tradesOnFooting(std::span<const Trade> trades, const market::Market& market,
                                   std::size_t stock, std::size_t bar);

/// What would be lost of a position's worth at its stop: nothing where the stop is above the close,
/// all of it without a stop.
double lossAt(const Position& position, double close, double stop);

/// One position among those that are summed.
struct HeldStock {
    std::size_t stock = 0;
    Position position;
    double lossAtStop = 0.0; ///< see lossAt
    bool hasStop = false;
};

/// What is held in all, in the market's currency.
struct Holdings {
    struct Part {
        std::string sector;
        double worth = 0.0;
        double lossAtStops = 0.0;
    };
    std::size_t stocks = 0;
    double worth = 0.0;
    double cost = 0.0;
    double lossAtStops = 0.0;
    std::size_t withoutStop = 0;  ///< their whole worth counts as what may be lost
    std::size_t withoutRate = 0;  ///< left out of the sums: no exchange rate or close is known
    std::vector<Part> parts = {}; ///< by worth, the largest first
};

Holdings holdingsOf(std::span<const HeldStock> held, const market::Market& market, Day day);

} // namespace sieve::watchlists
