#include "core/base/parallel.h"
#include "core/engine/gated_pass.h"
#include "core/engine/question.h"

#include <algorithm>

// Parts of the day: one figure of all stocks, such as a median or a share, over many days.

namespace sieve::engine {

/// Who is in a group that asks for texts only, which no day changes; nothing for another group.
std::optional<std::vector<char>> Evaluator::Question::steadyMembers(NodeId group) const
{
    if (!plan_.isSteady(group))
        return std::nullopt;
    const AcrossTable none;
    const Context context{market_, none, {}};
    BarPass pass(context, plan_, std::span(&group, 1), depth_);
    std::vector<char> isMember(market_.size());
    for (std::size_t i = 0; i < market_.size(); ++i)
        if (const std::size_t bars = market_.tenure(i).bars; bars > 0) {
            pass.run(dailyFrame(market_, i, 0), bars - 1, bars);
            isMember[i] = pass.values(0)[0] == 1.0 ? 1 : 0;
        }
    return isMember;
}

Evaluator::Question::DayPart Evaluator::Question::dayPart(NodeId node) const
{
    DayPart part{node, plan_[node].inputs, {}};
    if (part.inputs.size() > 1)
        if (auto members = steadyMembers(part.inputs[1])) {
            part.inputs.pop_back();
            part.isMember = std::move(*members);
        }
    return part;
}

/// Parts of the day on each of some days.
std::vector<Column> Evaluator::Question::daysOf(std::span<const NodeId> nodes,
                                                std::span<const Day> days)
{
    // A run of sessions is kept as one column under its first day; its begin serves shorter ones.
    const std::span<const Day> sessions = market_.sessions();
    const auto first = static_cast<std::size_t>(std::ranges::lower_bound(sessions, days.front()) -
                                                sessions.begin());
    const bool isRun =
        first + days.size() <= sessions.size() && sessions[first + days.size() - 1] == days.back();
    std::vector<Column> result(nodes.size());
    std::vector<DayPart> absent;
    std::vector<std::size_t> places;
    for (std::size_t i = 0; i < nodes.size(); ++i) {
        const ColumnPtr kept =
            isRun ? evaluator_.cache_.find(acrossKey(nodes[i]), days[0]) : nullptr;
        if (kept && kept->size() >= days.size()) {
            result[i].assign(kept->begin(),
                             kept->begin() + static_cast<std::ptrdiff_t>(days.size()));
            continue;
        }
        absent.push_back(dayPart(nodes[i]));
        places.push_back(i);
    }
    std::vector<Column> made(absent.size());
    if (days.size() == 1) {
        for (std::size_t i = 0; i < absent.size(); ++i)
            made[i] = {oneDay(absent[i], days[0])};
    } else if (!absent.empty()) {
        made = sumDays(absent, days);
        for (std::size_t i = 0; i < absent.size(); ++i)
            if (!isOfSums(absent[i]))
                made[i] = medianDays(absent[i], days);
    }
    for (std::size_t i = 0; i < absent.size(); ++i) {
        result[places[i]] = std::move(made[i]);
        if (isRun)
            evaluator_.cache_.keep(acrossKey(absent[i].node), days[0],
                                   std::make_shared<const Column>(result[places[i]]));
    }
    return result;
}

double Evaluator::Question::oneDay(const DayPart& part, Day day)
{
    const std::vector<ColumnPtr> inputs = columns(part.inputs, day);
    Column figures = *inputs[0];
    const bool isTradedOnly = plan_[part.node].item == 1;
    for (std::size_t i = 0; i < figures.size(); ++i) {
        const bool isIn = counts(part, i) && (inputs.size() == 1 || (*inputs[1])[i] == 1.0);
        if (!isIn || !market_.isListed(i, day) ||
            (isTradedOnly && !std::ranges::binary_search(market_.bars(i).days, day)))
            figures[i] = missing;
    }
    return valueOfTheDay(plan_[part.node].op, figures);
}

/// Sums and counts over many days, instrument by instrument: no table of all of them is made.
std::vector<Column> Evaluator::Question::sumDays(std::span<const DayPart> parts,
                                                 std::span<const Day> days)
{
    struct Place {
        std::size_t figure = 0;
        std::optional<std::size_t> group;
        std::vector<KnownSum> sums; ///< a block of instruments: a day each
    };
    const std::size_t blocks = (market_.size() + instrumentsABlock - 1) / instrumentsABlock;
    std::vector<Place> places(parts.size());
    std::vector<NodeId> targets;
    std::vector<char> isWanted(market_.size());
    for (std::size_t part = 0; part < parts.size(); ++part) {
        if (!isOfSums(parts[part]))
            continue;
        places[part].figure = targets.size();
        if (parts[part].inputs.size() > 1)
            places[part].group = targets.size() + 1;
        targets.insert(targets.end(), parts[part].inputs.begin(), parts[part].inputs.end());
        places[part].sums.resize(blocks * days.size());
        for (std::size_t i = 0; i < isWanted.size(); ++i)
            isWanted[i] = isWanted[i] || counts(parts[part], i);
    }
    std::vector<Column> result(parts.size());
    if (targets.empty())
        return result;
    const auto add = [&](const SweepValues& swept) {
        const std::span<const Day> own = market_.bars(swept.instrument).days;
        const std::size_t block = swept.instrument / instrumentsABlock;
        for (std::size_t part = 0; part < parts.size(); ++part) {
            if (places[part].sums.empty() || !counts(parts[part], swept.instrument))
                continue;
            KnownSum* const sums = &places[part].sums[block * days.size() + swept.firstDay];
            const bool isTradedOnly = plan_[parts[part].node].item == 1;
            for (std::size_t day = 0; day < swept.bars.size(); ++day)
                if ((!isTradedOnly || own[swept.bars[day]] == days[swept.firstDay + day]) &&
                    (!places[part].group || swept.value(*places[part].group, day) == 1.0))
                    sums[day].add(swept.value(places[part].figure, day));
        }
    };
    try {
        sweepSome(targets, days, add, isWanted, instrumentsABlock);
    } catch (const NeedsWholeHistory&) { // sums depend on their order: all is asked again
        return deep().sumDays(parts, days);
    }
    for (std::size_t part = 0; part < parts.size(); ++part)
        for (std::size_t day = 0; day < days.size() && !places[part].sums.empty(); ++day) {
            KnownSum all;
            for (std::size_t block = 0; block < blocks; ++block)
                all.add(places[part].sums[block * days.size() + day]);
            result[part].push_back(valueOfTheDay(plan_[parts[part].node].op, all));
        }
    return result;
}

Column Evaluator::Question::medianDays(const DayPart& part, std::span<const Day> days)
{
    std::vector<DayTable> tables(part.inputs.size());
    Column values(days.size());
    for (std::size_t first = 0; first < days.size(); first += daysAcrossATime) {
        const auto some = days.subspan(first, std::min(daysAcrossATime, days.size() - first));
        fillTables(part.inputs, some, tables);
        if (plan_[part.node].item == 1)
            removeUntraded(tables[0], some);
        inParallel(some.size(), [&](std::size_t day) {
            stopIfTold();
            Column figures(market_.size());
            tables[0].copyDay(day, figures);
            for (std::size_t i = 0; i < figures.size(); ++i)
                if (!counts(part, i) || (tables.size() > 1 && tables[1].at(i, day) != 1.0))
                    figures[i] = missing;
            values[first + day] = valueOfTheDay(plan_[part.node].op, figures);
        });
    }
    return values;
}

} // namespace sieve::engine
