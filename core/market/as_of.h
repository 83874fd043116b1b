#pragma once

#include "core/market/market.h"

#include <optional>
#include <string_view>
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

/// An instrument's first so many bars, on a footing.
Bars barsOnFooting(const Market& market, std::size_t at, std::size_t footing, std::size_t bars);

/// Whether it was the one that bore a symbol on a day: two may have borne it, one after the other.
bool wasCalled(const Market& market, std::size_t at, std::string_view symbol, Day day);

/// How many sessions of the market lie after the instrument's newest bar, up to a day; 0 without a
/// bar.
std::size_t sessionsIdle(const Market& market, std::size_t at, Day day);

/// The newest bar on or before `day` of an instrument that is still listed then.
std::optional<std::size_t> barOn(const Market& market, std::size_t at, Day day);
/// The newest bar on or before `day`, though the instrument may have been delisted since: its last
/// price. Empty before its first bar.
std::optional<std::size_t> lastBarBy(const Market& market, std::size_t at, Day day);
/// The stocks that are listed on `day`, in the market's order; an index is none.
std::vector<std::size_t> stocksListed(const Market& market, Day day);
/// Days after the end of a period by which it counts as reported where nothing else is known.
constexpr int reportedAfter(Period period)
{
    return period == Period::Year ? 120 : 60;
}
/// The newest share count known on `day`, as counted then.
std::optional<ShareCount> sharesOn(const Market& market, std::size_t at, Day day);

/// What analysts expected on `day` for the period `ahead` after the first one that was not yet
/// reported then (0: the one that runs or waits for its report). Where no report of such a period
/// is known, the first one is the earliest that anybody expected anything for and that ended less
/// than `reportedAfter` days before.
/// Missing: empty when nobody expected anything for it; a period that nobody looked at is no other.
std::optional<EstimateRow> estimateOn(const Market& market, std::size_t at, EstimateMeasure measure,
                                      Period period, int ahead, Day day);
/// What a kind of owner was known to hold on `day`, `back` reports before the newest.
std::optional<OwnerRow> ownersOn(const Market& market, std::size_t at, OwnerKind kind, int back,
                                 Day day);

} // namespace sieve::market
