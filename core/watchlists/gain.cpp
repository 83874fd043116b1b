#include "core/watchlists/gain.h"

#include <algorithm>

namespace sieve::watchlists {

EntryResult resultOf(const Entry& entry, const market::Market& market, Day day)
{
    EntryResult result;
    const auto instrument = market.find(entry.symbol);
    if (!instrument)
        return result;
    result.isKnown = true;
    const auto& delistedOn = market.instrument(*instrument).delistedOn;
    result.isDelisted = delistedOn && *delistedOn <= day;
    const market::BarsView& bars = market.bars(*instrument);
    const auto next = std::ranges::upper_bound(bars.days, day);
    if (next == bars.days.begin() || entry.addedOn > day)
        return result;
    const auto bar = static_cast<std::size_t>(next - bars.days.begin()) - 1;
    result.price = bars.close[bar];
    const std::size_t footing = market.footing(*instrument, bar);
    result.gain =
        result.price / (entry.priceThen * market.priceFactor(*instrument, entry.addedOn, footing)) -
        1.0;
    return result;
}

double priceOn(const market::Market& market, std::size_t instrument, Day day)
{
    const auto bar = market::barOn(market, instrument, day);
    return bar ? market.bars(instrument).close[*bar] : missing;
}

void putOnto(Watchlist& list, const market::Market& market, std::size_t instrument, Day day,
             const std::string& reason, const std::string& source)
{
    const std::string& symbol = market.instrument(instrument).symbol;
    if (!list.find(symbol))
        list.entries.push_back({symbol, day, priceOn(market, instrument, day), reason, source});
}

} // namespace sieve::watchlists
