#include "core/studies/prices.h"

#include <algorithm>

namespace sieve::studies {

namespace {

/// Brings every price of a bar to the scale on which its close is the total return.
void reinvest(Prices& prices, const market::Market& market, std::size_t stock, std::size_t footing)
{
    std::vector<double> worth(prices.size());
    market.totalReturn(stock, footing, 0, worth);
    for (std::size_t bar = 0; bar < prices.size(); ++bar) {
        const double scale = worth[bar] / prices.close[bar];
        prices.open[bar] *= scale;
        if (!prices.high.empty()) {
            prices.high[bar] *= scale;
            prices.low[bar] *= scale;
        }
        prices.close[bar] = worth[bar];
    }
}

} // namespace

Prices pricesOf(const market::Market& market, std::size_t stock, Day day, Columns columns,
                Dividends dividends)
{
    Prices prices;
    const auto days = market.bars(stock).days;
    const auto count = static_cast<std::size_t>(std::ranges::upper_bound(days, day) - days.begin());
    prices.days = days.first(count);
    if (count == 0)
        return prices;
    const std::size_t footing = market.footing(stock, count - 1);
    const auto read = [&](market::BarField field, std::vector<double>& into) {
        into.resize(count);
        market.adjusted(stock, field, footing, 0, into);
    };
    read(market::BarField::Open, prices.open);
    read(market::BarField::Close, prices.close);
    if (columns == Columns::All) {
        read(market::BarField::High, prices.high);
        read(market::BarField::Low, prices.low);
    }
    const auto& delisted = market.instrument(stock).delistedOn;
    prices.isGone = delisted && *delisted <= day;
    const bool hasPayments = std::ranges::any_of(market.actions(stock), [](const auto& action) {
        return action.kind != market::ActionKind::Split;
    });
    if (dividends == Dividends::Reinvested && hasPayments)
        reinvest(prices, market, stock, footing);
    return prices;
}

double priceBoughtAt(const Prices& prices, std::size_t bar, BoughtAt boughtAt)
{
    if (boughtAt == BoughtAt::Close)
        return bar < prices.size() ? prices.close[bar] : missing;
    return bar + 1 < prices.size() ? prices.open[bar + 1] : missing;
}

} // namespace sieve::studies
