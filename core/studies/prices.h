#pragma once

#include "core/base/day.h"
#include "core/market/market.h"

#include <cmath>
#include <span>
#include <vector>

namespace sieve::studies {

/// A stock's prices up to a day, on the footing of its newest bar by then.
struct Prices {
    std::span<const Day> days;
    std::vector<double> open;
    std::vector<double> high; ///< where asked for, as `low`
    std::vector<double> low;
    std::vector<double> close;
    bool isGone = false; ///< it was delisted by that day: no bar will follow

    std::size_t size() const { return close.size(); }
};

enum class Columns { OpenAndClose, All };

enum class Dividends {
    LeftOut,
    Reinvested ///< prices are worths of one share whose dividends bought more of it
};

/// Shape: a value a bar; empty columns before the first bar.
Prices pricesOf(const market::Market& market, std::size_t stock, Day day, Columns columns,
                Dividends dividends = Dividends::LeftOut);

enum class BoughtAt {
    NextOpen, ///< of the stock's next bar
    Close     ///< of the bar on which the condition was known
};

/// What a case at a bar was bought at; missing where there is no such bar yet.
double priceBoughtAt(const Prices& prices, std::size_t bar, BoughtAt boughtAt);
/// The change from there to the close `bars` bars after the case's; of a stock delisted before
/// that, to its last close. Missing where that day has not come.
inline double changeAfter(const Prices& prices, std::size_t bar, double bought, int bars)
{
    std::size_t at = bar + static_cast<std::size_t>(bars);
    if (at >= prices.size()) {
        if (!prices.isGone || prices.size() == 0)
            return missing;
        at = prices.size() - 1;
    }
    const double change = prices.close[at] / bought - 1.0;
    return std::isfinite(change) ? change : missing;
}

} // namespace sieve::studies
