#include "core/watchlists/position.h"

#include "core/market/as_of.h"

#include <algorithm>
#include <deque>
#include <map>

namespace sieve::watchlists {

std::vector<Trade> tradesOnFooting(std::span<const Trade> trades, const market::Market& market,
                                   std::size_t stock, std::size_t bar)
{
    const std::size_t footing = market.footing(stock, bar);
    std::vector<Trade> own;
    for (const Trade& trade : trades) {
        const double factor = market.priceFactor(stock, trade.on, footing);
        own.push_back({trade.on, trade.price * factor, trade.shares / factor, trade.why});
    }
    return own;
}

Position positionOf(std::span<const Trade> trades, const market::Market& market, std::size_t stock,
                    Day day)
{
    Position position;
    const auto bar = market::lastBarBy(market, stock, day);
    std::deque<Trade> lots;
    for (const Trade& trade : bar ? tradesOnFooting(trades, market, stock, *bar)
                                  : std::vector(trades.begin(), trades.end())) {
        if (trade.on > day)
            continue;
        if (trade.shares > 0.0) {
            if (!position.since)
                position.since = trade.on;
            position.bought += trade.shares * trade.price;
            lots.push_back(trade);
            continue;
        }
        double sold = -trade.shares;
        while (sold > noShares && !lots.empty()) {
            const double of = std::min(sold, lots.front().shares);
            position.realized += of * (trade.price - lots.front().price);
            lots.front().shares -= of;
            sold -= of;
            if (lots.front().shares <= noShares)
                lots.pop_front();
        }
        position.closedOn = trade.on;
    }
    for (const Trade& lot : lots) {
        position.shares += lot.shares;
        position.cost += lot.shares * lot.price;
    }
    if (!lots.empty())
        position.closedOn.reset();
    if (bar && position.isHeld()) {
        position.worth = position.shares * market.bars(stock).close[*bar];
        position.gain = position.worth / position.cost - 1.0;
    }
    return position;
}

double lossAt(const Position& position, double close, double stop)
{
    if (!position.isHeld())
        return 0.0;
    return isMissing(stop) ? position.worth : position.shares * std::max(0.0, close - stop);
}

Holdings holdingsOf(std::span<const HeldStock> held, const market::Market& market, Day day)
{
    Holdings all;
    std::map<std::string, Holdings::Part> parts;
    for (const HeldStock& each : held) {
        if (!each.position.isHeld())
            continue;
        ++all.stocks;
        const double rate = market.rate(each.stock, day);
        const double worth = rate * each.position.worth;
        if (isMissing(worth)) {
            ++all.withoutRate;
            continue;
        }
        all.withoutStop += each.hasStop ? 0 : 1;
        all.worth += worth;
        all.cost += rate * each.position.cost;
        all.lossAtStops += rate * each.lossAtStop;
        Holdings::Part& part = parts[market.instrument(each.stock).sector];
        part.worth += worth;
        part.lossAtStops += rate * each.lossAtStop;
    }
    for (auto& [sector, part] : parts) {
        part.sector = sector;
        all.parts.push_back(std::move(part));
    }
    std::ranges::stable_sort(all.parts, std::greater{}, &Holdings::Part::worth);
    return all;
}

} // namespace sieve::watchlists
