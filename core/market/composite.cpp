#include "core/market/composite.h"

#include "core/market/as_of.h"

#include <algorithm>

namespace sieve::market {

namespace {

/// One member's change from bar to bar and its weight, added to the sums of the sessions.
void addMember(const Market& market, std::size_t member, Weight weight,
               std::vector<double>& changes, std::vector<double>& weights)
{
    const BarsView& bars = market.bars(member);
    if (bars.size() < 2)
        return;
    const std::span<const Day> sessions = market.sessions();
    const auto first = std::ranges::lower_bound(sessions, bars.days[0]) - sessions.begin();
    std::size_t bar = 0; // the newest bar before the session
    for (auto session = static_cast<std::size_t>(first) + 1;
         session < sessions.size() && bar + 1 < bars.size(); ++session) {
        const std::size_t before = bar;
        const bool traded = bars.days[bar + 1] == sessions[session];
        bar += traded ? 1 : 0;
        double size = 1.0;
        if (weight == Weight::Capitalization) {
            const auto count = sharesOn(market, member, bars.days[before]);
            if (!count)
                continue;
            const std::size_t footing = market.footing(member, before);
            size = count->outstanding / market.priceFactor(member, count->date, footing) *
                   bars.close[before];
        }
        weights[session] += size; // one that did not trade stands still
        if (!traded)
            continue;
        const double closeBefore =
            bars.close[before] *
            market.priceFactor(member, bars.days[before], market.footing(member, bar));
        changes[session] += size * (bars.close[bar] / closeBefore - 1.0);
    }
}

} // namespace

Composite makeComposite(const Market& market, Weight weight)
{
    const std::size_t count = market.sessions().size();
    std::vector<double> changes(count);
    std::vector<double> weights(count);
    for (std::size_t member = 0; member < market.size(); ++member)
        if (market.instrument(member).kind == InstrumentKind::Share)
            addMember(market, member, weight, changes, weights);
    Composite composite;
    composite.days.assign(market.sessions().begin(), market.sessions().end());
    double level = 1000.0;
    for (std::size_t session = 0; session < count; ++session) {
        if (weights[session] > 0.0)
            level *= 1.0 + changes[session] / weights[session];
        composite.levels.push_back(level);
    }
    return composite;
}

MarketPtr marketOf(const Composite& line)
{
    InstrumentRecord record;
    record.instrument.symbol = "COMPOSITE";
    record.instrument.kind = InstrumentKind::Index;
    record.bars.days = line.days;
    record.bars.open = record.bars.high = record.bars.low = record.bars.close = line.levels;
    record.bars.volume.assign(line.days.size(), missing);
    std::vector<InstrumentRecord> records;
    records.push_back(std::move(record));
    return std::make_shared<const Market>(MarketDescription{}, std::move(records));
}

} // namespace sieve::market
