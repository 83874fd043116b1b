#include "core/intake/records.h"

#include "core/intake/report_times.h"

#include <algorithm>
#include <utility>

namespace sieve::intake {

namespace {

template <class Row> std::vector<Row> copy(std::span<const Row> rows)
{
    return {rows.begin(), rows.end()};
}

} // namespace

Records::Records(const market::Market& former) : description(former.description())
{
    for (std::size_t at = 0; at < former.size(); ++at) {
        const market::Instrument& instrument = former.instrument(at);
        market::InstrumentRecord& record = records_[add(instrument.symbol)];
        record.instrument = instrument;
        record.actions = copy(former.actions(at));
        record.shares = copy(former.shares(at));
        record.statements = copy(former.statements(at).rows());
        record.estimates = copy(former.estimates(at));
        record.owners = copy(former.owners(at));
        record.calendar = copy(former.calendar(at));
        record.notices = former.notices(at);
        knowAsFiled(record);
        formerPlaces_[bySymbol_.at(instrument.symbol)] = at;
        for (std::size_t i = 0; i < instrument.formerSymbols.size(); ++i) {
            const auto& each = instrument.formerSymbols[i];
            symbols.addRename(each.symbol,
                              i + 1 < instrument.formerSymbols.size()
                                  ? instrument.formerSymbols[i + 1].symbol
                                  : instrument.symbol,
                              each.until);
        }
    }
}

std::optional<std::uint32_t> Records::find(std::string_view newestSymbol) const
{
    const auto found = bySymbol_.find(newestSymbol);
    return found == bySymbol_.end() ? std::nullopt : std::optional(found->second);
}

std::optional<std::uint32_t> Records::find(std::string_view symbol, Day day) const
{
    return symbols.wasGivenUp(symbol) ? find(symbols.resolve(symbol, day)) : find(symbol);
}

std::uint32_t Records::add(const std::string& symbol)
{
    const auto [place, isNew] =
        bySymbol_.emplace(symbol, static_cast<std::uint32_t>(records_.size()));
    if (isNew) {
        records_.emplace_back().instrument.symbol = symbol;
        formerPlaces_.emplace_back();
        symbols.addInstrument(symbol);
    }
    return place->second;
}

void Records::rename(const std::string& before, const std::string& after, Day day)
{
    if (symbols.hasRename(before, after, day))
        return;
    symbols.addRename(before, after, day);
    const auto old = find(before);
    if (!old || !formerPlaces_[*old])
        return; // the dataset lists it by its newest symbol, or lists another one by this
    // It was taken in under its former symbol. Whoever is listed under the new one by now is the
    // same instrument, as the dataset tells it today.
    market::InstrumentRecord record = std::move(records_[*old]);
    records_[*old] = {};
    records_[*old].instrument.symbol = before;
    const std::optional<std::size_t> place = std::exchange(formerPlaces_[*old], std::nullopt);
    const std::uint32_t now = add(after);
    const bool isListedAnew = !records_[now].instrument.name.empty();
    if (isListedAnew)
        record.instrument = records_[now].instrument;
    record.instrument.symbol = after;
    records_[now] = std::move(record);
    formerPlaces_[now] = place;
    bySymbol_.erase(before);
    symbols.removeInstrument(before);
}

void Records::finish()
{
    // A record that gave its symbol up is no longer named, and so left behind.
    auto former = symbols.formerSymbols();
    std::vector<market::InstrumentRecord> records;
    std::vector<std::optional<std::size_t>> places;
    for (std::uint32_t i = 0; auto& [symbol, at] : bySymbol_) {
        market::InstrumentRecord& record = records_[at];
        record.instrument.formerSymbols = std::move(former[symbol]);
        records.push_back(std::move(record));
        places.push_back(formerPlaces_[at]);
        at = i++;
    }
    records_ = std::move(records);
    formerPlaces_ = std::move(places);
}

} // namespace sieve::intake
