#include "core/market/as_of.h"

#include <algorithm>

namespace sieve::market {

AsOf::AsOf(MarketPtr market, Day day) : market_(std::move(market)), day_(day)
{
    require(market_ != nullptr, "AsOf: no market");
}

std::optional<std::size_t> AsOf::lastBar(std::size_t at) const
{
    return barOn(*market_, at, day_);
}

Bars AsOf::adjustedBars(std::size_t at) const
{
    const auto& traded = market_->bars(at);
    const auto end =
        static_cast<std::size_t>(std::ranges::upper_bound(traded.days, day_) - traded.days.begin());
    Bars bars = traded;
    bars.truncate(end);
    if (end == 0)
        return bars;
    const std::size_t footing = market_->footing(at, end - 1);
    market_->adjusted(at, BarField::Open, footing, 0, bars.open);
    market_->adjusted(at, BarField::High, footing, 0, bars.high);
    market_->adjusted(at, BarField::Low, footing, 0, bars.low);
    market_->adjusted(at, BarField::Close, footing, 0, bars.close);
    market_->adjusted(at, BarField::Volume, footing, 0, bars.volume);
    return bars;
}

std::optional<std::size_t> barOn(const Market& market, std::size_t at, Day day)
{
    const Instrument& instrument = market.instrument(at);
    if (instrument.delistedOn && *instrument.delistedOn <= day)
        return std::nullopt;
    const std::vector<Day>& days = market.bars(at).days;
    const auto next = std::ranges::upper_bound(days, day);
    if (next == days.begin())
        return std::nullopt;
    return static_cast<std::size_t>(next - days.begin()) - 1;
}

std::optional<ShareCount> sharesOn(const Market& market, std::size_t at, Day day)
{
    const std::span<const ShareCount> counts = market.shares(at);
    const auto next = std::ranges::upper_bound(counts, day, {}, &ShareCount::date);
    return next == counts.begin() ? std::nullopt : std::optional(*(next - 1));
}

} // namespace sieve::market
