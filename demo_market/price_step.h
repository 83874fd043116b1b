#pragma once

#include <algorithm>
#include <cmath>

namespace sieve::demo_market {

/// The nearest price that the exchange trades at: steps of a cent, below 1 of a hundredth of it.
inline double onStep(double price)
{
    const double steps = price < 1.0 ? 10'000.0 : 100.0;
    return std::max(std::floor(price * steps + 0.5), 1.0) / steps;
}

} // namespace sieve::demo_market
