#include "core/watchlists/stocks.h"

#include <algorithm>
#include <cmath>
#include <unordered_map>

namespace sieve::watchlists {

namespace {

template <class Kept> std::optional<std::size_t>
placeAmong(const std::vector<Kept>& all, const market::Market& market, std::size_t stock)
{
    const auto found =
        std::ranges::find_if(all, [&](const Kept& each) { return stockOf(each, market) == stock; });
    if (found == all.end())
        return std::nullopt;
    return static_cast<std::size_t>(found - all.begin());
}

/// Where the first of each stock lies among entries or cards.
template <class Kept> std::unordered_map<std::size_t, std::size_t>
placesOf(const std::vector<Kept>& all, const market::Market& market)
{
    std::unordered_map<std::size_t, std::size_t> places;
    for (std::size_t place = 0; place < all.size(); ++place)
        if (const auto stock = stockOf(all[place], market))
            places.emplace(*stock, place);
    return places;
}

/// The last price by a day, of a delisted stock too.
double tradedPrice(const market::Market& market, std::optional<std::size_t> stock, Day day)
{
    const auto bar = stock ? market::lastBarBy(market, *stock, day) : std::nullopt;
    return bar ? market.bars(*stock).close[*bar] : missing;
}

/// Highest and lowest since, stretch by stretch between splits.
void addExtremes(EntryResult& result, const Entry& entry, const market::Market& market,
                 std::size_t bar)
{
    const market::BarsView& bars = market.bars(*result.stock);
    const std::size_t footing = market.footing(*result.stock, bar);
    const auto days = bars.days.first(bar + 1);
    const auto after = std::ranges::upper_bound(days, entry.addedOn);
    std::size_t from = static_cast<std::size_t>(after - days.begin());
    result.sessions = days.size() - from;
    while (from <= bar) {
        const std::size_t own = market.footing(*result.stock, from);
        const double factor = market.priceFactor(*result.stock, days[from], footing);
        for (; from <= bar && market.footing(*result.stock, from) == own; ++from) {
            result.highest = std::fmax(result.highest, factor * bars.high[from]);
            result.lowest = std::fmin(result.lowest, factor * bars.low[from]);
        }
    }
}

} // namespace

std::optional<std::size_t> stockOf(const Entry& entry, const market::Market& market)
{
    return market.find(entry.symbol, entry.addedOn);
}

std::optional<std::size_t> stockOf(const Card& card, const market::Market& market)
{
    return market.find(card.symbol, card.takenOn);
}

std::optional<std::size_t> placeOn(const Watchlist& list, const market::Market& market,
                                   std::size_t stock)
{
    return placeAmong(list.entries, market, stock);
}

std::optional<std::size_t> placeIn(const Tray& tray, const market::Market& market,
                                   std::size_t stock)
{
    return placeAmong(tray.cards(), market, stock);
}

EntryResult resultOf(const Entry& entry, const market::Market& market, Day day)
{
    EntryResult result;
    const auto stock = stockOf(entry, market);
    if (!stock)
        return result;
    result.stock = stock;
    const auto& delistedOn = market.instrument(*stock).delistedOn;
    result.isDelisted = delistedOn && *delistedOn <= day;
    const auto bar = market::lastBarBy(market, *stock, day);
    if (!bar || entry.addedOn > day)
        return result;
    result.price = market.bars(*stock).close[*bar];
    const std::size_t footing = market.footing(*stock, *bar);
    result.priceThen = entry.priceThen * market.priceFactor(*stock, entry.addedOn, footing);
    result.gain = result.price / result.priceThen - 1.0;
    addExtremes(result, entry, market, *bar);
    return result;
}

std::vector<EntryResult> resultsOf(std::span<const Entry> entries, const market::Market* market,
                                   Day day, const Progress& progress)
{
    std::vector<EntryResult> results;
    for (const Entry& entry : entries) {
        if (progress.stopRequested())
            throw Stopped{};
        results.push_back(market ? resultOf(entry, *market, day) : EntryResult{});
    }
    return results;
}

double priceOn(const market::Market& market, std::size_t stock, Day day)
{
    const auto bar = market::barOn(market, stock, day);
    return bar ? market.bars(stock).close[*bar] : missing;
}

void putOnto(Watchlist& list, const market::Market& market, std::span<const std::size_t> stocks,
             Day day, const std::string& reason, const std::string& source)
{
    auto places = placesOf(list.entries, market);
    for (const std::size_t stock : stocks)
        if (places.emplace(stock, list.entries.size()).second)
            list.entries.push_back({symbolOn(market.instrument(stock), day), day,
                                    priceOn(market, stock, day), reason, source});
}

void takeOff(Watchlist& list, std::size_t place, const market::Market* market, Day day,
             const std::string& reason)
{
    const Entry entry = list.entries.at(place);
    const Day leftOn = std::max(day, entry.addedOn);
    FormerEntry former{entry, leftOn, missing, reason};
    if (market)
        former.priceLeft = tradedPrice(*market, stockOf(entry, *market), leftOn);
    list.former.push_back(std::move(former));
    list.entries.erase(list.entries.begin() + static_cast<std::ptrdiff_t>(place));
}

std::optional<TradePlan> planOf(const Tray& tray, const Watchlist* list,
                                const market::Market& market, std::size_t stock, Day day)
{
    std::optional<TradePlan> plan;
    if (const auto place = placeIn(tray, market, stock))
        plan = tray.cards()[*place].plan;
    if (plan && plan->on > day)
        plan.reset();
    if (const auto place = list && !plan ? placeOn(*list, market, stock) : std::nullopt)
        plan = planInForce(list->entries[*place], day);
    return plan ? std::optional(onDay(*std::move(plan), market, stock, day)) : std::nullopt;
}

std::vector<Card> cardsOf(const market::Market& market, std::span<const std::size_t> stocks,
                          Day day, const std::string& source)
{
    std::vector<Card> cards;
    for (const std::size_t stock : stocks)
        cards.push_back({symbolOn(market.instrument(stock), day), day, Mark::Open, source, {}});
    return cards;
}

Tray filled(const Tray& tray, const market::Market& market, std::span<const std::size_t> stocks,
            Day day, const std::string& source)
{
    const auto places = placesOf(tray.cards(), market);
    std::vector<Card> cards = cardsOf(market, stocks, day, source);
    for (std::size_t i = 0; i < cards.size(); ++i)
        if (const auto known = places.find(stocks[i]); known != places.end()) {
            cards[i].mark = tray.cards()[known->second].mark;
            cards[i].reason = tray.cards()[known->second].reason;
            cards[i].plan = tray.cards()[known->second].plan;
        }
    return Tray(std::move(cards));
}

std::size_t addTo(Tray& tray, const market::Market& market, std::span<const std::size_t> stocks,
                  Day day, const std::string& source)
{
    auto places = placesOf(tray.cards(), market);
    std::vector<std::size_t> others;
    for (const std::size_t stock : stocks)
        if (places.emplace(stock, 0).second)
            others.push_back(stock);
    tray.add(cardsOf(market, others, day, source));
    return others.size();
}

} // namespace sieve::watchlists
