#include "core/watchlists/market_call.h"

#include <algorithm>
#include <vector>

namespace sieve::watchlists {

namespace {

/// Whether one should leave, a bar of the first line; nothing where it cannot be said.
std::vector<std::optional<bool>> leavingOver(const conditions::Reading& reading,
                                             const TradingTerms& terms)
{
    std::vector<std::optional<bool>> leaving;
    if (terms.leavingRule.empty()) {
        for (const double stance : reading.stance)
            leaving.push_back(isMissing(stance) ? std::nullopt : std::optional(stance <= 0.0));
        return leaving;
    }
    const auto& rules = reading.book.rules;
    const auto rule = std::ranges::find(rules, terms.leavingRule, &conditions::TimingRule::title);
    if (rule == rules.end())
        return leaving;
    leaving = reading.rules.at(static_cast<std::size_t>(rule - rules.begin())).on;
    if (!rule->standsAside)
        for (std::optional<bool>& each : leaving)
            if (each)
                each = !*each;
    return leaving;
}

} // namespace

std::optional<MarketCall> marketCallOn(const conditions::Reading& reading,
                                       const TradingTerms& terms, Day day)
{
    const auto bar = reading.market().barBy(day);
    const auto leaving = leavingOver(reading, terms);
    if (!bar || *bar >= leaving.size() || !leaving[*bar])
        return std::nullopt;
    std::size_t first = *bar;
    while (first > 0 && leaving[first - 1] == leaving[*bar])
        --first;
    return MarketCall{*leaving[*bar], reading.market().bars().days[first], terms.leavingRule};
}

} // namespace sieve::watchlists
