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
    const std::optional<std::size_t> last = lastBarBy(*market_, at, day_);
    return last ? barsOnFooting(*market_, at, market_->footing(at, *last), *last + 1) : Bars();
}

Bars barsOnFooting(const Market& market, std::size_t at, std::size_t footing, std::size_t bars)
{
    Bars adjusted(market.bars(at));
    adjusted.truncate(bars);
    market.adjusted(at, BarField::Open, footing, 0, adjusted.open);
    market.adjusted(at, BarField::High, footing, 0, adjusted.high);
    market.adjusted(at, BarField::Low, footing, 0, adjusted.low);
    market.adjusted(at, BarField::Close, footing, 0, adjusted.close);
    market.adjusted(at, BarField::Volume, footing, 0, adjusted.volume);
    return adjusted;
}

bool wasCalled(const Market& market, std::size_t at, std::string_view symbol, Day day)
{
    // The market is asked only where the symbol fits: this is asked for every line of long lists.
    const Instrument& own = market.instrument(at);
    const bool fits = own.symbol == symbol ||
                      std::ranges::find(own.formerSymbols, symbol, &FormerSymbol::symbol) !=
                          own.formerSymbols.end();
    return fits && market.find(symbol, day) == at;
}

std::size_t sessionsIdle(const Market& market, std::size_t at, Day day)
{
    const auto bar = lastBarBy(market, at, day);
    if (!bar)
        return 0;
    const Tenure& tenure = market.tenure(at); // which is at hand, where bars are not
    const Day newest = tenure.lastBar <= day ? tenure.lastBar : market.bars(at).days[*bar];
    if (newest == day)
        return 0;
    const std::span<const Day> sessions = market.sessions();
    return static_cast<std::size_t>(std::ranges::upper_bound(sessions, day) -
                                    std::ranges::upper_bound(sessions, newest));
}

std::optional<std::size_t> barOn(const Market& market, std::size_t at, Day day)
{
    return market.isListed(at, day) ? lastBarBy(market, at, day) : std::nullopt;
}

std::optional<std::size_t> lastBarBy(const Market& market, std::size_t at, Day day)
{
    const Tenure& tenure = market.tenure(at);
    if (tenure.bars == 0 || day < tenure.firstBar)
        return std::nullopt;
    if (tenure.lastBar <= day)
        return tenure.bars - 1; // most questions are about the newest session
    const std::span<const Day> days = market.bars(at).days;
    return static_cast<std::size_t>(std::ranges::upper_bound(days, day) - days.begin()) - 1;
}

std::vector<std::size_t> stocksListed(const Market& market, Day day)
{
    std::vector<std::size_t> stocks;
    for (std::size_t at = 0; at < market.size(); ++at)
        if (market.isListed(at, day) && !market.isIndex(at))
            stocks.push_back(at);
    return stocks;
}

std::optional<ShareCount> sharesOn(const Market& market, std::size_t at, Day day)
{
    const std::span<const ShareCount> counts = market.shares(at);
    auto next = std::ranges::upper_bound(counts, day, {}, &ShareCount::date);
    while (next != counts.begin())
        if (--next; next->knownOn <= day)
            return *next;
    return std::nullopt;
}

std::optional<EstimateRow> estimateOn(const Market& market, std::size_t at, EstimateMeasure measure,
                                      Period period, int ahead, Day day)
{
    require(ahead >= 0, "estimateOn: ahead below 0");
    const int months = period == Period::Year ? 12 : 3;
    const auto isKnown = [&](const EstimateRow& row) {
        return row.measure == measure && row.period == period && row.knownOn <= day;
    };
    const std::span<const EstimateRow> rows = market.estimates(at); // by measure, period, its end
    std::optional<Day> first;
    if (const auto reported = market.statements(at).newestReport(period, day))
        first = reported->plusMonths(months);
    else
        for (const EstimateRow& row : rows)
            if (!first && isKnown(row) && day < row.periodEnd.plusDays(reportedAfter(period)))
                first = row.periodEnd;
    if (!first)
        return std::nullopt;
    // Periods end a few days earlier or later each year, but never half a period.
    const Day wanted = first->plusMonths(months * ahead);
    const int half = 15 * months;
    std::optional<EstimateRow> found;
    for (const EstimateRow& row : rows)
        if (isKnown(row) && wanted.plusDays(-half) < row.periodEnd &&
            row.periodEnd < wanted.plusDays(half))
            found = row; // of one period the newest stands last
    return found;
}

std::optional<OwnerRow> ownersOn(const Market& market, std::size_t at, OwnerKind kind, int back,
                                 Day day)
{
    require(back >= 0, "ownersOn: back below 0");
    std::vector<OwnerRow> known;                    // one a report, as last told
    for (const OwnerRow& row : market.owners(at)) { // by kind, day held, day known
        if (row.kind != kind || row.knownOn > day)
            continue;
        if (!known.empty() && known.back().asOf == row.asOf)
            known.back() = row;
        else
            known.push_back(row);
    }
    const auto wanted = static_cast<std::size_t>(back);
    return wanted < known.size() ? std::optional(known[known.size() - 1 - wanted]) : std::nullopt;
}

} // namespace sieve::market
