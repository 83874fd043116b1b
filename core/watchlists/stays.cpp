#include "core/watchlists/stays.h"

#include "core/base/require.h"
#include "core/watchlists/stocks.h"

#include <algorithm>
#include <fmt/format.h>
#include <mutex>
#include <unordered_map>

namespace sieve::watchlists {

namespace {

void addStays(std::vector<Stay>& stays, const engine::SweepValues& values)
{
    for (std::size_t i = 0; i < values.bars.size(); ++i) {
        if (values.value(0, i) != 1.0) // a plain yes alone counts
            continue;
        const std::size_t day = values.firstDay + i;
        if (!stays.empty() && stays.back().stock == values.instrument && stays.back().until == day)
            stays.back().until = day + 1;
        else
            stays.push_back({values.instrument, day, day + 1});
    }
}

bool isOn(const Stay& stay, std::size_t day)
{
    return stay.from <= day && day < stay.until;
}

} // namespace

Result<Stays> staysOf(std::string_view screen, const language::Names& names,
                      engine::Evaluator& evaluator, std::span<const Day> days,
                      const Progress& progress)
{
    engine::Plan plan;
    const auto condition =
        language::checkCondition(fmt::format("passes(\"{}\")", screen), names, plan);
    if (!condition)
        return condition.error();
    Stays all{{days.begin(), days.end()}, {}};
    std::mutex mutex; // guards all.stays
    const engine::NodeId node = condition->node;
    const market::Market& market = evaluator.market();
    evaluator.sweep(
        plan, std::span(&node, 1), days,
        [&](const engine::SweepValues& values) {
            if (market.isIndex(values.instrument))
                return;
            std::vector<Stay> own;
            addStays(own, values);
            const std::scoped_lock lock(mutex);
            all.stays.insert(all.stays.end(), own.begin(), own.end());
        },
        progress);
    std::ranges::sort(all.stays, [](const Stay& a, const Stay& b) {
        return std::pair(a.stock, a.from) < std::pair(b.stock, b.from);
    });
    // A sweep hands out a stock in parts; stays that meet are one.
    std::vector<Stay> joined;
    for (const Stay& stay : all.stays)
        if (!joined.empty() && joined.back().stock == stay.stock &&
            joined.back().until == stay.from)
            joined.back().until = stay.until;
        else
            joined.push_back(stay);
    all.stays = std::move(joined);
    return all;
}

Stays staysByHand(const Watchlist& list, const market::Market& market, std::span<const Day> days)
{
    Stays all{{days.begin(), days.end()}, {}};
    const auto place = [&](Day day) {
        return static_cast<std::size_t>(std::ranges::lower_bound(days, day) - days.begin());
    };
    const auto add = [&](const Entry& entry, std::optional<Day> leftOn) {
        const auto stock = stockOf(entry, market);
        const std::size_t from = place(entry.addedOn);
        const std::size_t until = leftOn ? place(*leftOn) : days.size();
        if (stock && from < until)
            all.stays.push_back({*stock, from, until});
    };
    for (const Entry& entry : list.entries)
        add(entry, std::nullopt);
    for (const FormerEntry& former : list.former)
        add(former.entry, former.leftOn);
    std::ranges::sort(all.stays, [](const Stay& a, const Stay& b) {
        return std::pair(a.stock, a.from) < std::pair(b.stock, b.from);
    });
    return all;
}

std::vector<Stay> membersOn(const Stays& stays, std::size_t day)
{
    std::vector<Stay> members;
    std::ranges::copy_if(stays.stays, std::back_inserter(members),
                         [day](const Stay& stay) { return isOn(stay, day); });
    std::ranges::stable_sort(members, {}, &Stay::from);
    return members;
}

ComingsAndGoings between(const Stays& stays, std::size_t from, std::size_t to)
{
    ComingsAndGoings moved;
    std::unordered_map<std::size_t, std::pair<bool, bool>> on; // before, then
    for (const Stay& stay : stays.stays) {
        auto& [before, then] = on[stay.stock];
        before = before || isOn(stay, from);
        then = then || isOn(stay, to);
    }
    for (const auto& [stock, where] : on)
        if (where.first != where.second)
            (where.second ? moved.came : moved.went).push_back(stock);
    std::ranges::sort(moved.came);
    std::ranges::sort(moved.went);
    return moved;
}

std::vector<ComingsAndGoings> dayByDay(const Stays& stays)
{
    std::vector<ComingsAndGoings> days(stays.days.size());
    for (const Stay& stay : stays.stays) { // by stock, so that each day's are in order
        if (stay.from > 0)
            days[stay.from].came.push_back(stay.stock);
        if (stay.until < days.size())
            days[stay.until].went.push_back(stay.stock);
    }
    return days;
}

std::vector<Day> sessionsBefore(const market::Market& market, Day day)
{
    const auto sessions = market.sessions();
    const auto end = std::ranges::upper_bound(sessions, day);
    const auto count = std::min<std::ptrdiff_t>(end - sessions.begin(), staysLookBack + 1);
    return {end - count, end};
}

Watchlist filled(const Watchlist& list, const Stays& stays, const market::Market& market)
{
    require(!stays.days.empty(), "a session");
    const std::size_t last = stays.days.size() - 1;
    std::unordered_map<std::size_t, const Entry*> written;
    for (const Entry& entry : list.entries)
        if (const auto stock = stockOf(entry, market))
            written.emplace(*stock, &entry);
    const auto entryOf = [&](const Stay& stay) {
        const Day came = stays.days[stay.from];
        Entry entry{market::symbolOn(market.instrument(stay.stock), came),
                    came,
                    priceOn(market, stay.stock, came),
                    {},
                    list.head.screen};
        if (const auto found = written.find(stay.stock); found != written.end()) {
            entry.reason = found->second->reason;
            entry.plan = found->second->plan;
            entry.page = found->second->page;
        }
        return entry;
    };
    Watchlist shown{list.id, list.name, {}, {}, list.head};
    for (const Stay& stay : membersOn(stays, last))
        shown.entries.push_back(entryOf(stay));
    std::vector<Stay> gone;
    std::ranges::copy_if(stays.stays, std::back_inserter(gone),
                         [last](const Stay& stay) { return stay.until <= last; });
    std::ranges::stable_sort(gone, {}, &Stay::until);
    for (const Stay& stay : gone) {
        const Day left = stays.days[stay.until];
        const auto bar = market::lastBarBy(market, stay.stock, left);
        shown.former.push_back({entryOf(stay), left,
                                bar ? market.bars(stay.stock).close[*bar] : missing,
                                "no longer passes"});
    }
    return shown;
}

Entry& entryToWrite(Watchlist& list, const market::Market& market, const Entry& shown)
{
    if (const auto stock = stockOf(shown, market))
        if (const auto place = placeOn(list, market, *stock))
            return list.entries[*place];
    return list.entries.emplace_back(shown);
}

} // namespace sieve::watchlists
