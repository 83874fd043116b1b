#pragma once

#include "core/market/market.h"

#include <optional>
#include <vector>

namespace sieve::market {

/// The market as it was known at the close of one day. Cheap to make; holds the market alive.
class AsOf {
public:
    AsOf(MarketPtr market, Day day);

    const Market& market() const { return *market_; }
    const MarketPtr& marketPtr() const { return market_; }
    Day day() const { return day_; }
    /// The instrument's newest bar by that day; empty before its first bar and once delisted.
    std::optional<std::size_t> lastBar(std::size_t at) const;
    /// The instrument's bars up to that day with the splits known by then taken out.
    Bars adjustedBars(std::size_t at) const;

private:
    MarketPtr market_;
    Day day_;
};

/// The newest bar on or before `day` of an instrument that is still listed then.
std::optional<std::size_t> barOn(const Market& market, std::size_t at, Day day);
/// The newest share count on or before `day`, as counted then.
std::optional<ShareCount> sharesOn(const Market& market, std::size_t at, Day day);

} // namespace sieve::market
