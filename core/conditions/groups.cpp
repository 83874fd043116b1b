#include "core/conditions/groups.h"

#include "core/base/require.h"
#include "core/expressions/checker.h"

#include <algorithm>
#include <map>
#include <mutex>
#include <tbb/parallel_for.h>

namespace sieve::conditions {

namespace {

using market::TextField;

/// The groups with their names, and for each instrument the (at most two) that it is in.
class Membership {
public:
    explicit Membership(const market::Market& market) : of_(market.size())
    {
        std::map<std::string, std::map<std::string, std::vector<std::size_t>>> sectors;
        for (std::size_t i = 0; i < market.size(); ++i) {
            const market::Instrument& instrument = market.instrument(i);
            if (instrument.kind == market::InstrumentKind::Share && !instrument.sector.empty())
                sectors[instrument.sector][instrument.industry].push_back(i);
        }
        for (const auto& [name, industries] : sectors) {
            const std::size_t sector = add(name, std::nullopt);
            for (const auto& [industry, stocks] : industries) {
                for (const std::size_t stock : stocks)
                    join(stock, sector);
                if (industry.empty())
                    continue;
                const std::size_t own = add(industry, sector);
                for (const std::size_t stock : stocks)
                    join(stock, own);
            }
        }
    }

    std::vector<Group> groups;
    std::vector<std::vector<market::Member>> members; ///< a group

    const std::vector<std::size_t>& of(std::size_t stock) const { return of_[stock]; }

private:
    std::size_t add(const std::string& name, std::optional<std::size_t> sector)
    {
        groups.push_back({name, sector, {}, {}, {}});
        members.emplace_back();
        return groups.size() - 1;
    }
    void join(std::size_t stock, std::size_t group)
    {
        members[group].push_back({stock});
        of_[stock].push_back(group);
    }

    std::vector<std::vector<std::size_t>> of_;
};

/// Counts each group's listed members and those above their average, on every session.
void countMembers(expressions::Evaluator& evaluator, Membership& membership,
                  const Progress& progress)
{
    const std::span<const Day> sessions = evaluator.market().sessions();
    std::vector<std::vector<double>> known(membership.groups.size());
    for (std::size_t group = 0; group < known.size(); ++group) {
        known[group].assign(sessions.size(), 0.0);
        membership.groups[group].members.assign(sessions.size(), 0.0);
        membership.groups[group].above.assign(sessions.size(), 0.0);
    }
    expressions::Plan plan;
    const auto checked =
        checkCondition("close > sma(close, 50)", {expressions::Vocabulary::builtIn()}, plan);
    require(static_cast<bool>(checked), "groups: a condition that does not check");
    std::mutex mutex; // the counts are small beside the averages
    const expressions::NodeId targets[] = {checked->node};
    evaluator.sweep(
        plan, targets, sessions,
        [&](const expressions::SweepValues& swept) {
            const std::scoped_lock lock(mutex);
            for (const std::size_t group : membership.of(swept.instrument))
                for (std::size_t day = 0; day < swept.bars.size(); ++day) {
                    const double answer = swept.value(0, day);
                    const std::size_t session = swept.firstDay + day;
                    membership.groups[group].members[session] += 1.0;
                    known[group][session] += isMissing(answer) ? 0.0 : 1.0;
                    membership.groups[group].above[session] += answer == 1.0 ? 1.0 : 0.0;
                }
        },
        progress);
    for (std::size_t group = 0; group < known.size(); ++group)
        for (std::size_t session = 0; session < sessions.size(); ++session) {
            double& above = membership.groups[group].above[session];
            above = known[group][session] > 0.0 ? above / known[group][session] : missing;
        }
}

double changeOf(const Group& group, std::size_t session, std::size_t span)
{
    if (session < span || group.members[session] == 0.0 || group.members[session - span] == 0.0)
        return missing;
    return group.line.levels[session] / group.line.levels[session - span] - 1.0;
}

} // namespace

Groups readGroups(expressions::Evaluator& evaluator, const Progress& progress)
{
    const market::Market& market = evaluator.market();
    Membership membership(market);
    countMembers(evaluator, membership, progress);
    tbb::parallel_for(std::size_t{0}, membership.groups.size(), [&](std::size_t group) {
        if (progress.stopRequested())
            throw Stopped{};
        membership.groups[group].line =
            market::makeComposite(market, membership.members[group], market::Weight::Equal);
    });
    return {{market.sessions().begin(), market.sessions().end()}, std::move(membership.groups)};
}

std::vector<GroupStanding> rankGroups(const Groups& groups, std::optional<std::size_t> sector,
                                      std::size_t session, std::size_t span)
{
    require(session < groups.sessions.size() && span >= 1, "rankGroups: no such session or span");
    std::vector<GroupStanding> standings;
    for (std::size_t i = 0; i < groups.all.size(); ++i) {
        const Group& group = groups.all[i];
        if (group.sector == sector)
            standings.push_back({i,
                                 group.members[session],
                                 group.above[session],
                                 changeOf(group, session, span),
                                 {},
                                 {}});
    }
    const std::size_t count = std::min(rankPathSessions, session + 1);
    for (GroupStanding& standing : standings)
        standing.path.assign(count, missing);
    for (std::size_t back = 0; back < count; ++back) {
        std::vector<double> changes;
        for (const GroupStanding& standing : standings)
            changes.push_back(changeOf(groups.all[standing.group], session - back, span));
        for (std::size_t i = 0; i < standings.size(); ++i)
            if (!isMissing(changes[i]))
                standings[i].path[count - 1 - back] =
                    1.0 + static_cast<double>(std::ranges::count_if(
                              changes, [&](double other) { return other > changes[i]; }));
    }
    for (GroupStanding& standing : standings)
        for (std::size_t i = 0; i < rankAges.size(); ++i)
            if (rankAges[i] < count && !isMissing(standing.path[count - 1 - rankAges[i]]))
                standing.ranks[i] =
                    static_cast<std::size_t>(standing.path[count - 1 - rankAges[i]]);
    std::ranges::stable_sort(standings, [](const GroupStanding& a, const GroupStanding& b) {
        if (isMissing(a.change) || isMissing(b.change))
            return !isMissing(a.change) && isMissing(b.change);
        return a.change > b.change;
    });
    return standings;
}

} // namespace sieve::conditions
