#include "core/market/market.h"

#include "core/base/require.h"
#include "core/market/sessions.h"

#include <algorithm>
#include <limits>
#include <tuple>

namespace sieve::market {

namespace {

std::array<std::string_view, textFieldCount> textsOf(const Instrument& instrument)
{
    return {instrument.symbol,   instrument.name,
            instrument.exchange, instrumentKindName(instrument.kind),
            instrument.sector,   instrument.industry,
            instrument.currency};
}

std::span<const double> column(const BarsView& bars, BarField field)
{
    switch (field) {
    case BarField::Open:
        return bars.open;
    case BarField::High:
        return bars.high;
    case BarField::Low:
        return bars.low;
    case BarField::Close:
        return bars.close;
    case BarField::Volume:
        break;
    }
    return bars.volume;
}

std::size_t firstBarOn(const BarsView& bars, Day day)
{
    return static_cast<std::size_t>(std::ranges::lower_bound(bars.days, day) - bars.days.begin());
}

/// Records with what their views need beside them.
struct KeptRecord {
    InstrumentRecord record;
    std::string notices;
};

MarketParts partsOf(MarketDescription description, std::vector<InstrumentRecord> records)
{
    std::ranges::sort(records, {}, [](const InstrumentRecord& r) { return r.instrument.symbol; });
    auto kept = std::make_shared<std::vector<KeptRecord>>();
    for (InstrumentRecord& record : records) {
        sortRows(record);
        std::string notices = packed(record.notices);
        kept->push_back({std::move(record), std::move(notices)});
    }
    MarketParts parts{std::move(description), {}, {}, kept};
    SessionDays sessions;
    for (KeptRecord& each : *kept) {
        InstrumentRecord& record = each.record;
        sessions.add(record.bars.days);
        parts.instruments.push_back({record.instrument,
                                     {},
                                     record.actions,
                                     record.shares,
                                     record.estimates,
                                     record.owners,
                                     record.calendar,
                                     std::as_bytes(std::span(each.notices)),
                                     record.bars.view(),
                                     Statements(std::move(record.statements))});
    }
    parts.sessions = sessions.ascending();
    return parts;
}

/// Rows mostly come in order.
template <class Row, class Key> void sortBy(std::vector<Row>& rows, Key key)
{
    if (!std::ranges::is_sorted(rows, {}, key))
        std::ranges::stable_sort(rows, {}, key);
}

} // namespace

void sortRows(InstrumentRecord& record)
{
    sortBy(record.actions,
           [](const Action& row) { return std::tuple(row.exDate, row.kind, row.value); });
    sortBy(record.shares, [](const ShareCount& row) { return std::tuple(row.date, row.knownOn); });
    sortStatements(record.statements);
    sortBy(record.estimates, [](const EstimateRow& row) {
        return std::tuple(row.measure, row.period, row.periodEnd, row.knownOn);
    });
    sortBy(record.owners,
           [](const OwnerRow& row) { return std::tuple(row.kind, row.asOf, row.knownOn); });
    sortBy(record.calendar,
           [](const CalendarEntry& row) { return std::tuple(row.date, row.kind); });
    sortBy(record.notices.ratings, [](const Rating& row) { return std::tie(row.date, row.house); });
    sortBy(record.notices.news, [](const NewsItem& row) { return std::tie(row.time, row.id); });
    sortBy(record.instrument.formerSymbols, &FormerSymbol::until);
    sortBy(record.instrument.memberships,
           [](const Membership& row) { return std::tie(row.index, row.from); });
}

Market::Market(MarketDescription description, std::vector<InstrumentRecord> records)
    : Market(partsOf(std::move(description), std::move(records)))
{
}

Market::Market(MarketParts parts)
    : description_(std::move(parts.description)), keeper_(std::move(parts.keeper)),
      sessions_(std::move(parts.sessions))
{
    listings_.reserve(parts.instruments.size());
    for (InstrumentView& view : parts.instruments) {
        Listing listing{std::move(view), {}, {}};
        const auto texts = textsOf(listing.instrument);
        for (std::size_t field = 0; field < texts.size(); ++field)
            textNumbers_.at(field).push_back(texts_.add(texts.at(field)));
        for (const Action& action : listing.actions)
            if (action.kind == ActionKind::Split)
                listing.splits.push_back({action.exDate, action.value});
        const BarsView bars = listing.bars;
        bySymbol_.emplace(listing.instrument.symbol, listings_.size());
        listings_.push_back(std::move(listing));
        tenures_.emplace_back().isIndex = listings_.back().instrument.kind == InstrumentKind::Index;
        setBars(listings_.size() - 1, bars);
    }
    for (std::size_t i = 0; i < listings_.size(); ++i)
        for (const FormerSymbol& former : listings_[i].instrument.formerSymbols) {
            bySymbol_.emplace(former.symbol, i); // a symbol that somebody bears now stays his
            byFormerSymbol_.emplace(former.symbol, i);
            texts_.add(former.symbol); // the text of `symbol` on days before
        }
    findIdle();
    findCurrencies();
}

Market::Market(const MarketPtr& past, std::span<const LiveBar> bars) : Market(*past)
{
    struct Kept {
        MarketPtr past;
        std::vector<Bars> columns;
    };
    auto kept = std::make_shared<Kept>(Kept{past, {}});
    kept->columns.reserve(bars.size());
    for (const LiveBar& live : bars) {
        require(live.bar.day == bars.front().bar.day, "live bars: of several days");
        const BarsView& before = past->bars(live.instrument);
        require(before.days.empty() || before.days.back() < live.bar.day,
                "live bars: not after the newest bar");
        require(listings_.at(live.instrument).bars.size() == before.size(),
                "live bars: an instrument twice");
        Bars& own = kept->columns.emplace_back(before);
        own.add(live.bar);
        setBars(live.instrument, own.view());
    }
    if (!bars.empty() && (sessions_.empty() || sessions_.back() < bars.front().bar.day))
        sessions_.push_back(bars.front().bar.day);
    findIdle();
    keeper_ = std::move(kept);
    isLive_ = isLive_ || !bars.empty();
}

/// Sets an instrument's bars with all that is told by them.
void Market::setBars(std::size_t at, const BarsView& bars)
{
    Listing& listing = listings_.at(at);
    listing.bars = bars;
    listing.splitBars.clear();
    for (const Split& split : listing.splits)
        listing.splitBars.push_back(firstBarOn(bars, split.exDate));
    Tenure& tenure = tenures_.at(at);
    tenure.gone = listing.instrument.delistedOn.value_or(
        Day::fromSerial(std::numeric_limits<std::int32_t>::max()));
    if (!bars.days.empty()) {
        tenure.firstBar = bars.days.front();
        tenure.lastBar = bars.days.back();
    }
    tenure.bars = static_cast<std::uint32_t>(bars.days.size());
}

/// Those who no longer trade leave some sessions after their last bar.
void Market::findIdle()
{
    if (sessions_.size() <= idleSessions)
        return;
    const Day newest = sessions_[sessions_.size() - idleSessions - 1];
    for (Tenure& tenure : tenures_) {
        if (tenure.bars == 0 || tenure.lastBar >= newest)
            continue;
        const auto last = std::ranges::upper_bound(sessions_, tenure.lastBar);
        tenure.gone = std::min(tenure.gone, *(last + idleSessions));
    }
}

bool Market::isIdleTooLong(Day newestBar, Day day) const
{
    if (day - newestBar <= static_cast<int>(idleSessions)) // so many sessions take as many days
        return false;
    const auto next = std::ranges::upper_bound(sessions_, newestBar);
    return static_cast<std::size_t>(sessions_.end() - next) > idleSessions &&
           *(next + idleSessions) <= day;
}

bool Market::isListed(std::size_t at, Day day) const
{
    const Tenure& tenure = tenures_.at(at);
    if (tenure.bars == 0 || day < tenure.firstBar || day >= tenure.gone)
        return false;
    if (day >= tenure.lastBar)
        return true;
    const auto& days = bars(at).days;
    return !isIdleTooLong(*(std::ranges::upper_bound(days, day) - 1), day);
}

const Exchange* Market::exchange(std::string_view name) const
{
    const auto found = std::ranges::find(description_.exchanges, name, &Exchange::name);
    return found == description_.exchanges.end() ? nullptr : &*found;
}

std::optional<std::size_t> Market::find(std::string_view symbol) const
{
    const auto found = bySymbol_.find(symbol);
    return found == bySymbol_.end() ? std::nullopt : std::optional(found->second);
}

std::optional<std::size_t> Market::find(std::string_view symbol, Day day) const
{
    const auto [first, last] = byFormerSymbol_.equal_range(symbol);
    for (auto former = first; former != last; ++former)
        if (symbolOn(instrument(former->second), day) == symbol)
            return former->second;
    return find(symbol);
}

std::uint32_t Market::text(std::size_t at, TextField field) const
{
    return textNumbers_.at(static_cast<std::size_t>(field)).at(at);
}

std::optional<Day> Market::sessionOnOrBefore(Day day) const
{
    const auto next = std::ranges::upper_bound(sessions_, day);
    return next == sessions_.begin() ? std::nullopt : std::optional(*(next - 1));
}

std::size_t Market::footing(std::size_t at, std::size_t bar) const
{
    const auto& splitBars = listing(at).splitBars;
    return static_cast<std::size_t>(std::ranges::upper_bound(splitBars, bar) - splitBars.begin());
}

double Market::priceFactor(std::size_t at, Day day, std::size_t footing) const
{
    const std::span<const Split> splits = listing(at).splits;
    double factor = 1.0;
    for (std::size_t i = 0; i < footing; ++i)
        if (splits[i].exDate > day)
            factor /= splits[i].ratio;
    for (std::size_t i = footing; i < splits.size(); ++i)
        if (splits[i].exDate <= day)
            factor *= splits[i].ratio;
    return factor;
}

void Market::adjusted(std::size_t at, BarField field, std::size_t footing, std::size_t from,
                      std::span<double> out) const
{
    const Listing& listing = this->listing(at);
    const std::span<const double> traded = column(listing.bars, field);
    require(from + out.size() <= traded.size(), "adjusted: bars beyond the last");
    std::size_t bar = from;
    const std::size_t end = from + out.size();
    while (bar < end) { // one stretch between two splits after another
        const std::size_t own = this->footing(at, bar);
        std::size_t stretchEnd = end;
        if (own < listing.splitBars.size())
            stretchEnd = std::min(end, listing.splitBars[own]);
        const double factor = priceFactor(at, listing.bars.days[bar], footing);
        const double scale = field == BarField::Volume ? 1.0 / factor : factor;
        for (; bar < stretchEnd; ++bar)
            out[bar - from] = traded[bar] * scale;
    }
}

void Market::totalReturn(std::size_t at, std::size_t footing, std::size_t from,
                         std::span<double> out) const
{
    const Listing& listing = this->listing(at);
    adjusted(at, BarField::Close, footing, from, out);
    double shares = 1.0; // of what was one at the first bar, but for splits
    std::size_t bar = from;
    const std::size_t end = from + out.size();
    for (const Action& action : listing.actions) {
        if (action.kind == ActionKind::Split)
            continue;
        const std::size_t bought = firstBarOn(listing.bars, action.exDate);
        if (bought >= end)
            break;
        for (; bar < bought; ++bar)
            out[bar - from] *= shares;
        if (bought > 0) // what was handed out before the first bar went to somebody else
            shares *= 1.0 + action.value *
                                priceFactor(at, action.exDate, this->footing(at, bought)) /
                                listing.bars.close[bought];
    }
    for (; bar < end; ++bar)
        out[bar - from] *= shares;
}

void Market::findCurrencies()
{
    std::map<std::string, std::size_t> told;
    for (const Listing& each : listings_)
        if (hasCurrency(each.instrument))
            ++told[each.instrument.currency];
    currency_ = commonCurrency(description_.currency, told);
    const std::vector<Currency>& all = description_.currencies;
    for (std::size_t i = 0; i < listings_.size(); ++i) {
        const std::string& own = listings_[i].instrument.currency;
        if (!hasCurrency(listings_[i].instrument) || own == currency_)
            continue;
        const auto known = std::ranges::find(all, own, &Currency::name);
        ratesOf_.resize(listings_.size());
        ratesOf_[i] =
            known == all.end() ? 1U : static_cast<std::uint32_t>(known - all.begin()) + 2U;
    }
}

bool Market::isInOtherCurrency(std::size_t at) const
{
    return hasOtherCurrencies() && ratesOf_.at(at) != 0;
}

std::span<const ExchangeRate> Market::rates(std::size_t at) const
{
    if (!hasOtherCurrencies() || ratesOf_.at(at) < 2)
        return {};
    return description_.currencies[ratesOf_[at] - 2].rates;
}

double Market::rate(std::size_t at, Day day) const
{
    return isInOtherCurrency(at) ? rateOn(rates(at), day) : 1.0;
}

} // namespace sieve::market
