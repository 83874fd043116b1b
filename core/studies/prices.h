#pragma once

#include "core/base/day.h"
#include "core/market/market.h"

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

} // namespace sieve::studies
