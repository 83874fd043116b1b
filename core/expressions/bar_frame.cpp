#include "core/expressions/bar_frame.h"

#include <algorithm>

namespace sieve::expressions {

BarFrame dailyFrame(const market::Market& market, std::size_t instrument, std::size_t footing)
{
    const market::BarsView& bars = market.bars(instrument);
    BarFrame frame{&market, instrument, footing, bars.days, {}, {}};
    if (market.splits(instrument).empty())
        frame.columns = {bars.open, bars.high, bars.low, bars.close, bars.volume};
    return frame;
}

std::size_t barsBy(const BarFrame& frame, Day day)
{
    return static_cast<std::size_t>(std::ranges::upper_bound(frame.days, day) - frame.days.begin());
}

} // namespace sieve::expressions
