#include "core/charts/trades.h"

#include <algorithm>

namespace sieve::charts {

std::vector<Trade> tradesOf(std::span<const double> enters, std::span<const double> leaves)
{
    std::vector<Trade> trades;
    const std::size_t bars = std::min(enters.size(), leaves.size());
    for (std::size_t bar = 0; bar < bars; ++bar) {
        const bool isHeld = !trades.empty() && !trades.back().exit;
        if (isHeld && leaves[bar] == 1.0)
            trades.back().exit = bar;
        else if (!isHeld && enters[bar] == 1.0)
            trades.push_back({bar, std::nullopt});
    }
    return trades;
}

} // namespace sieve::charts
