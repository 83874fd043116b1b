#include "core/screens/groups.h"

#include <algorithm>
#include <map>

namespace sieve::screens {

std::vector<MatchGroup> groupMatches(const market::Market& market,
                                     std::span<const std::size_t> matches,
                                     std::span<const std::size_t> universe, market::TextField field)
{
    std::map<std::uint32_t, MatchGroup> byText; // 0: not known
    for (const std::size_t stock : universe)
        ++byText[market.text(stock, field)].inUniverse;
    for (const std::size_t stock : matches)
        byText[market.text(stock, field)].matches.push_back(stock);
    const auto shareOf = [](std::size_t part, std::size_t all) {
        return all == 0 ? 0.0 : static_cast<double>(part) / static_cast<double>(all);
    };
    std::vector<MatchGroup> groups;
    for (auto& [text, group] : byText) {
        group.name = text == 0 ? std::string() : std::string(market.texts().text(text));
        group.share = shareOf(group.matches.size(), matches.size());
        group.expected = shareOf(group.inUniverse, universe.size());
        groups.push_back(std::move(group));
    }
    std::ranges::sort(groups, [](const MatchGroup& a, const MatchGroup& b) {
        return a.matches.size() != b.matches.size() ? a.matches.size() > b.matches.size()
                                                    : a.name < b.name;
    });
    return groups;
}

} // namespace sieve::screens
