#include "core/market/composite.h"

#include "core/base/require.h"
#include "core/market/as_of.h"

#include <algorithm>
#include <cmath>

namespace sieve::market {

namespace {

/// Sums of one member after another, by session.
class Sums {
public:
    Sums(const Market& market, Weight weight, Return kind)
        : market_(market), weight_(weight), kind_(kind), changes_(market.sessions().size()),
          weights_(market.sessions().size())
    {
    }

    void add(const Member& member)
    {
        const BarsView& bars = market_.bars(member.instrument);
        if (bars.size() == 0)
            return;
        const std::span<const Day> sessions = market_.sessions();
        const Day end = std::min(member.until, market_.tenure(member.instrument).gone);
        std::size_t bar = 0;   // the newest one before the session
        std::size_t still = 0; // sessions since then
        auto session = static_cast<std::size_t>(std::ranges::upper_bound(sessions, bars.days[0]) -
                                                sessions.begin());
        for (; session < sessions.size() && sessions[session] < end; ++session) {
            const bool trades = bar + 1 < bars.size() && bars.days[bar + 1] == sessions[session];
            still = trades ? 0 : still + 1;
            if (sessions[session] >= member.from && still <= idleSessions)
                addSession(member.instrument, session, bar, trades);
            bar += trades ? 1 : 0;
        }
    }

    Composite line() const
    {
        Composite composite;
        composite.days.assign(market_.sessions().begin(), market_.sessions().end());
        double level = 1000.0;
        for (std::size_t session = 0; session < composite.days.size(); ++session) {
            if (weights_[session] > 0.0)
                level *= 1.0 + changes_[session] / weights_[session];
            composite.levels.push_back(level);
        }
        return composite;
    }

private:
    void addSession(std::size_t member, std::size_t session, std::size_t before, bool trades)
    {
        const double size = weight_ == Weight::Equal ? 1.0 : capitalization(member, before);
        if (isMissing(size))
            return;
        weights_[session] += size;
        if (trades)
            changes_[session] += size * change(member, before);
    }

    double capitalization(std::size_t member, std::size_t bar) const
    {
        const BarsView& bars = market_.bars(member);
        const auto count = sharesOn(market_, member, bars.days[bar]);
        if (!count)
            return missing;
        const std::size_t footing = market_.footing(member, bar);
        return count->outstanding / market_.priceFactor(member, count->date, footing) *
               bars.close[bar] * market_.rate(member, bars.days[bar]);
    }

    /// From bar `before` to the next.
    double change(std::size_t member, std::size_t before) const
    {
        const BarsView& bars = market_.bars(member);
        const std::size_t footing = market_.footing(member, before + 1);
        const double base =
            bars.close[before] * market_.priceFactor(member, bars.days[before], footing);
        double worth = bars.close[before + 1];
        if (kind_ == Return::Total)
            for (const Action& action : market_.actions(member))
                if (action.kind != ActionKind::Split && action.exDate > bars.days[before] &&
                    action.exDate <= bars.days[before + 1])
                    worth += action.value * market_.priceFactor(member, action.exDate, footing);
        return worth / base - 1.0;
    }

    const Market& market_;
    Weight weight_;
    Return kind_;
    std::vector<double> changes_;
    std::vector<double> weights_;
};

} // namespace

std::vector<Member> allShares(const Market& market)
{
    std::vector<Member> members;
    for (std::size_t i = 0; i < market.size(); ++i)
        if (market.instrument(i).kind == InstrumentKind::Share)
            members.push_back({i});
    return members;
}

std::vector<Member> sharesWith(const Market& market, TextField field, std::uint32_t text)
{
    std::vector<Member> members = allShares(market);
    std::erase_if(members, [&](const Member& member) {
        return market.text(member.instrument, field) != text;
    });
    return members;
}

Day beginOf(const Market& market, std::span<const Member> members)
{
    Day begin = Member{}.until;
    for (const Member& member : members) {
        const auto days = market.bars(member.instrument).days;
        const auto first = std::ranges::lower_bound(days, member.from);
        // One that traded before it came counts from that day on.
        const bool hasTraded = first != days.begin();
        const Day own = hasTraded ? member.from : first == days.end() ? begin : *first;
        if (own < member.until)
            begin = std::min(begin, own);
    }
    return begin;
}

Composite makeComposite(const Market& market, std::span<const Member> members, Weight weight,
                        Return kind)
{
    Sums sums(market, weight, kind);
    for (const Member& member : members)
        sums.add(member);
    return sums.line();
}

Composite makeComposite(const Market& market, Weight weight)
{
    return makeComposite(market, allShares(market), weight);
}

namespace {

InstrumentRecord recordOf(const Composite& line)
{
    InstrumentRecord record;
    record.instrument.symbol = "COMPOSITE";
    record.instrument.kind = InstrumentKind::Index;
    record.bars.days = line.days;
    record.bars.open = record.bars.high = record.bars.low = record.bars.close = line.levels;
    record.bars.volume.assign(line.days.size(), missing);
    return record;
}

MarketPtr marketOfOne(InstrumentRecord record)
{
    std::vector<InstrumentRecord> records;
    records.push_back(std::move(record));
    return std::make_shared<const Market>(MarketDescription{}, std::move(records));
}

} // namespace

MarketPtr marketOf(const Composite& line)
{
    return marketOfOne(recordOf(line));
}

MarketPtr marketOf(const Composite& line, const Composite& total)
{
    require(line.days == total.days, "marketOf: two lines of other days");
    InstrumentRecord record = recordOf(line);
    for (std::size_t i = 1; i < line.days.size(); ++i) {
        const double more =
            total.levels[i] / total.levels[i - 1] * (line.levels[i - 1] / line.levels[i]) - 1.0;
        constexpr double rounding = 1e-13;
        if (std::fabs(more) > rounding)
            record.actions.push_back({line.days[i], ActionKind::Dividend, more * line.levels[i]});
    }
    return marketOfOne(std::move(record));
}

} // namespace sieve::market
