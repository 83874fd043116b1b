#include "core/studies/following.h"

#include "core/base/require.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>
#include <numeric>

namespace sieve::studies {

namespace {

/// By a text for each case; an empty one is none.
CaseGroups byNames(std::string by, const std::vector<std::string>& names)
{
    CaseGroups groups;
    groups.by = std::move(by);
    std::map<std::string, std::size_t> places;
    for (const std::string& name : names)
        if (!name.empty())
            places.emplace(name, 0);
    for (auto& [name, place] : places) {
        place = groups.names.size();
        groups.names.push_back(name);
    }
    for (const std::string& name : names)
        groups.of.push_back(name.empty() ? groups.names.size() : places.at(name));
    return groups;
}

} // namespace

CaseGroups byYear(const Following& following)
{
    std::vector<std::string> names;
    for (const FollowedCase& each : following.cases)
        names.push_back(each.day.iso().substr(0, 4));
    return byNames("year", names);
}

CaseGroups bySplit(const Following& following, Day split)
{
    CaseGroups groups{"split", {"before " + split.iso(), "from " + split.iso()}, {}};
    for (const FollowedCase& each : following.cases)
        groups.of.push_back(each.day < split ? 0 : 1);
    return groups;
}

CaseGroups byText(const Following& following, const market::Market& market, market::TextField field,
                  std::string by)
{
    std::vector<std::string> names;
    for (const FollowedCase& each : following.cases)
        names.emplace_back(market.texts().text(market.text(each.of.stock, field)));
    return byNames(std::move(by), names);
}

CaseGroups byStrength(const Following& following, std::size_t strength)
{
    constexpr std::size_t parts = 5;
    const std::vector<double>& figures = following.strengths.at(strength);
    CaseGroups groups;
    groups.by = following.question.strengths.at(strength);
    std::vector<std::size_t> order;
    for (std::size_t at = 0; at < figures.size(); ++at)
        if (!isMissing(figures[at]))
            order.push_back(at);
    std::ranges::stable_sort(order, {}, [&](std::size_t at) { return figures[at]; });
    groups.of.assign(figures.size(), parts);
    struct Range {
        double least = missing;
        double most = missing;
    };
    std::vector<Range> ranges(parts);
    std::size_t part = 0;
    for (std::size_t i = 0; i < order.size(); ++i) {
        const double figure = figures[order[i]];
        if (i == 0 || figure != figures[order[i - 1]]) // equals stay together
            part = parts * i / order.size();
        groups.of[order[i]] = part;
        if (isMissing(ranges[part].least))
            ranges[part].least = figure;
        ranges[part].most = figure;
    }
    for (const Range& range : ranges)
        groups.names.push_back(isMissing(range.least)
                                   ? "none"
                                   : fmt::format("{:.4g} to {:.4g}", range.least, range.most));
    return groups;
}

CaseGroups byDays(const Following& following, std::string by, std::span<const Day> days,
                  std::span<const std::string> names)
{
    require(days.size() == names.size() && std::ranges::is_sorted(days), "byDays: no such days");
    std::vector<std::string> ofCases;
    for (const FollowedCase& each : following.cases) {
        const auto at = std::ranges::lower_bound(days, each.day);
        const bool isThere = at != days.end() && *at == each.day;
        ofCases.push_back(isThere ? names[static_cast<std::size_t>(at - days.begin())] : "");
    }
    return byNames(std::move(by), ofCases);
}

std::vector<std::size_t> newestCases(const Following& following, std::size_t most)
{
    std::vector<std::size_t> order(following.cases.size());
    std::iota(order.begin(), order.end(), std::size_t{0});
    std::ranges::stable_sort(order, std::ranges::greater{},
                             [&](std::size_t at) { return following.cases[at].day; });
    order.resize(std::min(order.size(), most));
    return order;
}

std::vector<GroupTold> groupsTold(const Following& following, const CaseGroups& groups,
                                  std::size_t horizon)
{
    const FollowedHorizon& told = following.horizons.at(horizon);
    std::vector<std::vector<double>> own(groups.names.size() + 1);
    std::vector<std::vector<double>> others(groups.names.size() + 1);
    for (std::size_t at = 0; at < following.cases.size(); ++at) {
        own[groups.of[at]].push_back(told.changes[at]);
        others[groups.of[at]].push_back(told.others[at]);
    }
    std::vector<GroupTold> rows;
    for (std::size_t i = 0; i < groups.names.size(); ++i)
        rows.push_back({groups.names[i], spreadOf(own[i]), meanOfKnown(others[i])});
    return rows;
}

} // namespace sieve::studies
