#include "core/market/market.h"

#include <algorithm>

namespace sieve::market {

namespace {

std::array<std::string_view, textFieldCount> textsOf(const Instrument& instrument)
{
    return {instrument.symbol,   instrument.name,
            instrument.exchange, instrumentKindName(instrument.kind),
            instrument.sector,   instrument.industry,
            instrument.currency};
}

const std::vector<double>& column(const Bars& bars, BarField field)
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

std::vector<std::size_t> firstBarsOf(const InstrumentRecord& record)
{
    std::vector<std::size_t> bars;
    for (const Split& split : record.splits) {
        const auto first = std::ranges::lower_bound(record.bars.days, split.exDate);
        bars.push_back(static_cast<std::size_t>(first - record.bars.days.begin()));
    }
    return bars;
}

} // namespace

Market::Market(MarketDescription description, std::vector<InstrumentRecord> records)
    : description_(std::move(description))
{
    std::ranges::sort(records, {}, [](const InstrumentRecord& r) { return r.instrument.symbol; });
    std::vector<bool> traded;
    std::int32_t first = 0;
    for (InstrumentRecord& record : records) {
        Listing listing;
        const auto texts = textsOf(record.instrument);
        std::ranges::transform(texts, listing.texts.begin(),
                               [this](std::string_view text) { return texts_.add(text); });
        listing.splitBars = firstBarsOf(record);
        listing.statements = Statements(std::move(record.statements));
        listing.record = std::move(record);
        bySymbol_.emplace(listing.record.instrument.symbol, listings_.size());
        listings_.push_back(std::move(listing));
    }
    for (const Listing& listing : listings_) {
        const std::vector<Day>& days = listing.record.bars.days;
        if (days.empty())
            continue;
        if (traded.empty())
            first = days.front().serial();
        if (days.front().serial() < first) {
            traded.insert(traded.begin(), static_cast<std::size_t>(first - days.front().serial()),
                          false);
            first = days.front().serial();
        }
        const auto last = static_cast<std::size_t>(days.back().serial() - first);
        traded.resize(std::max(traded.size(), last + 1));
        for (const Day day : days)
            traded[static_cast<std::size_t>(day.serial() - first)] = true;
    }
    for (std::size_t i = 0; i < traded.size(); ++i)
        if (traded[i])
            sessions_.push_back(Day::fromSerial(first + static_cast<std::int32_t>(i)));
}

std::optional<std::size_t> Market::find(std::string_view symbol) const
{
    const auto found = bySymbol_.find(symbol);
    return found == bySymbol_.end() ? std::nullopt : std::optional(found->second);
}

std::uint32_t Market::text(std::size_t at, TextField field) const
{
    return listing(at).texts[static_cast<std::size_t>(field)];
}

Day Market::sessionOnOrBefore(Day day) const
{
    require(!sessions_.empty(), "sessionOnOrBefore: a market without sessions");
    const auto next = std::ranges::upper_bound(sessions_, day);
    return next == sessions_.begin() ? sessions_.front() : *(next - 1);
}

std::size_t Market::footing(std::size_t at, std::size_t bar) const
{
    const auto& splitBars = listing(at).splitBars;
    return static_cast<std::size_t>(std::ranges::upper_bound(splitBars, bar) - splitBars.begin());
}

double Market::priceFactor(std::size_t at, Day day, std::size_t footing) const
{
    const std::span<const Split> splits = listing(at).record.splits;
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
    const std::vector<double>& traded = column(listing.record.bars, field);
    require(from + out.size() <= traded.size(), "adjusted: bars beyond the last");
    std::size_t bar = from;
    const std::size_t end = from + out.size();
    while (bar < end) { // one stretch between two splits after another
        const std::size_t own = this->footing(at, bar);
        std::size_t stretchEnd = end;
        if (own < listing.splitBars.size())
            stretchEnd = std::min(end, listing.splitBars[own]);
        const double factor = priceFactor(at, listing.record.bars.days[bar], footing);
        const double scale = field == BarField::Volume ? 1.0 / factor : factor;
        for (; bar < stretchEnd; ++bar)
            out[bar - from] = traded[bar] * scale;
    }
}

} // namespace sieve::market
