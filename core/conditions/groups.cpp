#include "core/conditions/groups.h"
#include "core/base/parallel.h"

#include "core/base/require.h"
#include "core/engine/across.h"
#include "core/engine/currencies.h"

#include <algorithm>
#include <fmt/format.h>
#include <map>
#include <mutex>

namespace sieve::conditions {

namespace {

using market::TextField;

/// The groups with their names, and for each instrument the (at most two) that it is in.
class GroupBuilder {
public:
    explicit GroupBuilder(const market::Market& market) : of_(market.size())
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
        groups.push_back({name, sector, {}, {}, {}, {}});
        members.emplace_back();
        return groups.size() - 1;
    }
    void join(std::size_t stock, std::size_t group)
    {
        members[group].push_back({stock});
        groups[group].shares.push_back(stock);
        of_[stock].push_back(group);
    }

    std::vector<std::vector<std::size_t>> of_;
};

/// Counts each group's listed members and those above their average, on every session.
void countMembers(engine::Evaluator& evaluator, GroupBuilder& builder, const Progress& progress)
{
    const std::span<const Day> sessions = evaluator.market().sessions();
    std::vector<std::vector<double>> known(builder.groups.size());
    for (std::size_t group = 0; group < known.size(); ++group) {
        known[group].assign(sessions.size(), 0.0);
        builder.groups[group].members.assign(sessions.size(), 0.0);
        builder.groups[group].above.assign(sessions.size(), 0.0);
    }
    engine::Plan plan;
    const auto checked =
        language::checkCondition("close > sma(close, 50)", {language::Vocabulary::builtIn()}, plan);
    require(static_cast<bool>(checked), "groups: a condition that does not check");
    std::mutex mutex; // the counts are small beside the averages
    const engine::NodeId targets[] = {checked->node};
    evaluator.sweep(
        plan, targets, sessions,
        [&](const engine::SweepValues& swept) {
            const std::scoped_lock lock(mutex);
            for (const std::size_t group : builder.of(swept.instrument))
                for (std::size_t day = 0; day < swept.bars.size(); ++day) {
                    const double answer = swept.value(0, day);
                    const std::size_t session = swept.firstDay + day;
                    builder.groups[group].members[session] += 1.0;
                    known[group][session] += isMissing(answer) ? 0.0 : 1.0;
                    builder.groups[group].above[session] += answer == 1.0 ? 1.0 : 0.0;
                }
        },
        progress);
    for (std::size_t group = 0; group < known.size(); ++group)
        for (std::size_t session = 0; session < sessions.size(); ++session) {
            double& above = builder.groups[group].above[session];
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

Groups readGroups(engine::Evaluator& evaluator, const Progress& progress)
{
    const market::Market& market = evaluator.market();
    GroupBuilder builder(market);
    countMembers(evaluator, builder, progress);
    inParallel(builder.groups.size(), [&](std::size_t group) {
        if (progress.stopRequested())
            throw Stopped{};
        builder.groups[group].line =
            market::makeComposite(market, builder.members[group], market::Weight::Equal);
    });
    return {{market.sessions().begin(), market.sessions().end()}, std::move(builder.groups)};
}

std::string conditionOf(const Groups& groups, std::size_t group)
{
    const auto is = [](const char* field, const std::string& name) {
        return fmt::format("{} == \"{}\"", field, name);
    };
    const Group& asked = groups.all.at(group);
    const std::string shares = "kind == \"share\" and ";
    if (!asked.sector)
        return shares + is("sector", asked.name);
    return shares + is("sector", groups.all[*asked.sector].name) + " and " +
           is("industry", asked.name);
}

GroupFigures changesOver(const Groups& groups, std::size_t session, std::size_t span)
{
    require(session < groups.sessions.size() && span >= 1, "changesOver: no such session or span");
    GroupFigures figures{session, Unit::Percent, {}};
    const std::size_t count = std::min(rankPathSessions, session + 1);
    for (const Group& group : groups.all) {
        auto& values = figures.values.emplace_back();
        for (std::size_t at = session + 1 - count; at <= session; ++at)
            values.push_back(changeOf(group, at, span));
    }
    return figures;
}

Result<GroupFigures> mediansOf(engine::Evaluator& evaluator, const language::Names& names,
                               const Groups& groups, std::string_view figure, std::size_t session,
                               const Progress& progress)
{
    require(session < groups.sessions.size(), "mediansOf: no such session");
    engine::Plan plan;
    const auto checked = check(figure, names, plan);
    if (!checked)
        return checked.error();
    if (checked->kind != Kind::Number)
        return LocatedError{{}, "groups are ranked by a figure", "write one such as rsi(close)"};
    const std::size_t count = std::min(rankPathSessions, session + 1);
    const auto days = std::span(groups.sessions).subspan(session + 1 - count, count);
    const engine::NodeId compared = engine::inMarketCurrency(plan, checked->node);
    const auto columns = evaluator.columnsOver(plan, compared, days, progress);
    GroupFigures figures{session, checked->unit, {}};
    std::vector<double> known;
    for (const Group& group : groups.all) {
        auto& values = figures.values.emplace_back();
        for (const engine::ColumnPtr& column : columns) {
            known.clear();
            for (const std::size_t share : group.shares)
                known.push_back((*column)[share]);
            values.push_back(engine::valueOfTheDay(engine::Op::Median, known));
        }
    }
    return figures;
}

std::vector<RankedGroup> rankGroups(const Groups& groups, std::optional<std::size_t> sector,
                                    const GroupFigures& figures)
{
    require(figures.values.size() == groups.all.size(), "rankGroups: figures of other groups");
    std::vector<RankedGroup> ranked;
    for (std::size_t i = 0; i < groups.all.size(); ++i) {
        const Group& group = groups.all[i];
        if (group.sector == sector)
            ranked.push_back({i,
                              group.members[figures.session],
                              group.above[figures.session],
                              figures.values[i].back(),
                              {},
                              std::vector<double>(figures.values[i].size(), missing)});
    }
    for (RankedGroup& row : ranked)
        for (std::size_t day = 0; day < row.path.size(); ++day) {
            const double own = figures.values[row.group][day];
            if (!isMissing(own))
                row.path[day] = 1.0 + static_cast<double>(std::ranges::count_if(
                                          ranked, [&](const RankedGroup& other) {
                                              return figures.values[other.group][day] > own;
                                          }));
        }
    for (RankedGroup& row : ranked)
        for (std::size_t i = 0; i < rankAges.size(); ++i)
            if (rankAges[i] < row.path.size()) {
                const double rank = row.path[row.path.size() - 1 - rankAges[i]];
                if (!isMissing(rank))
                    row.ranks[i] = static_cast<std::size_t>(rank);
            }
    std::ranges::stable_sort(ranked, [](const RankedGroup& a, const RankedGroup& b) {
        if (isMissing(a.figure) || isMissing(b.figure))
            return !isMissing(a.figure) && isMissing(b.figure);
        return a.figure > b.figure;
    });
    return ranked;
}

std::vector<std::size_t> rankShares(const Group& group, const market::Market& market, Day day,
                                    std::span<const double> figures)
{
    std::vector<std::size_t> shares;
    for (const std::size_t share : group.shares)
        if (market.isListed(share, day))
            shares.push_back(share);
    if (!figures.empty())
        std::ranges::stable_sort(shares, [figures](std::size_t a, std::size_t b) {
            if (isMissing(figures[a]) || isMissing(figures[b]))
                return !isMissing(figures[a]) && isMissing(figures[b]);
            return figures[a] > figures[b];
        });
    return shares;
}

} // namespace sieve::conditions
