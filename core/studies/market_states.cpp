#include "core/studies/market_states.h"

#include <algorithm>
#include <fmt/format.h>

namespace sieve::studies {

namespace {

DayNames namesOf(const conditions::Reading& reading)
{
    const auto days = reading.market().bars().days;
    return {{days.begin(), days.end()}, {}};
}

} // namespace

DayNames statesOf(const conditions::Reading& reading)
{
    DayNames told = namesOf(reading);
    const auto& history = reading.lines.front().trends[1].history;
    for (std::size_t bar = 0; bar < told.days.size(); ++bar) {
        const bool isKnown = bar < history.size() && history[bar];
        told.names.emplace_back(isKnown ? conditions::trendName(*history[bar]) : "");
    }
    return told;
}

DayNames stancesOf(const conditions::Reading& reading)
{
    DayNames told = namesOf(reading);
    for (std::size_t bar = 0; bar < told.days.size(); ++bar) {
        const bool isKnown = bar < reading.stance.size() && !isMissing(reading.stance[bar]);
        told.names.push_back(isKnown ? fmt::format("{:.0f} %", 100.0 * reading.stance[bar]) : "");
    }
    return told;
}

StartNames namesOfStarts(const Standings& standings, const DayNames& days)
{
    StartNames told;
    std::vector<std::string> own;
    for (const Day start : standings.question.starts) {
        const auto at = std::ranges::lower_bound(days.days, start);
        const bool isThere = at != days.days.end() && *at == start;
        own.push_back(isThere ? days.names[static_cast<std::size_t>(at - days.days.begin())] : "");
        if (!own.back().empty() && std::ranges::find(told.names, own.back()) == told.names.end())
            told.names.push_back(own.back());
    }
    std::ranges::sort(told.names);
    for (const std::string& name : own)
        told.places.push_back(
            static_cast<std::size_t>(std::ranges::find(told.names, name) - told.names.begin()));
    return told;
}

} // namespace sieve::studies
