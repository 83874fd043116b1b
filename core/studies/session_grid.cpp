#include "core/studies/session_grid.h"

#include "core/base/parallel.h"
#include "core/base/require.h"

#include <algorithm>
#include <limits>

namespace sieve::studies {

SessionGrid::SessionGrid(const market::Market& market, std::span<const Day> sessions,
                         Dividends dividends, const Progress& progress)
    : sessions_(sessions.size()), bought_(market.size() * sessions_, missing),
      worth_(market.size() * sessions_, missing),
      boughtOn_(market.size() * sessions_, static_cast<std::uint16_t>(sessions_))
{
    require(sessions_ > 0 && sessions_ < std::numeric_limits<std::uint16_t>::max(),
            "SessionGrid: no such sessions");
    inParallel(market.size(), [&](std::size_t stock) {
        if (progress.stopRequested())
            return;
        const Prices prices =
            pricesOf(market, stock, sessions.back(), Columns::OpenAndClose, dividends);
        double* const bought = &bought_[stock * sessions_];
        double* const worth = &worth_[stock * sessions_];
        std::uint16_t* const boughtOn = &boughtOn_[stock * sessions_];
        auto next = static_cast<std::size_t>(
            std::ranges::upper_bound(prices.days, sessions.front()) - prices.days.begin());
        std::size_t begun = 0; // the sessions before it have their next bar
        for (std::size_t session = 0; session < sessions_; ++session) {
            while (next < prices.size() && prices.days[next] <= sessions[session]) {
                for (; begun < session; ++begun) {
                    bought[begun] = prices.open[next];
                    boughtOn[begun] = static_cast<std::uint16_t>(session);
                }
                ++next;
            }
            if (next > 0)
                worth[session] = prices.close[next - 1];
        }
    });
    if (progress.stopRequested())
        throw Stopped{};
}

} // namespace sieve::studies
