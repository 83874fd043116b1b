#include "core/expressions/question.h"

#include "core/expressions/gated_pass.h"
#include "core/expressions/stretches.h"
#include "core/expressions/values.h"

#include <algorithm>
#include <atomic>
#include <set>
#include <tbb/enumerable_thread_specific.h>

namespace sieve::expressions {

namespace {

constexpr std::size_t daysAcrossATime = 1024;

/// Under which a column across stocks is kept: that of all stocks on one day, where a part's own
/// column has those that did not trade with the value of their newest bar.
NodeKey acrossKey(NodeKey key)
{
    return {key.high ^ 0xA5A5'5A5A'0F0F'F0F0ULL, key.low};
}

} // namespace

void Evaluator::Question::Needs::add(const Needs& other)
{
    for (const auto& [node, theirs] : other.changes_) {
        auto& changes = changes_[node];
        changes.resize(theirs.size());
        for (std::size_t i = 0; i < theirs.size(); ++i)
            changes[i] += theirs[i];
    }
}

void Evaluator::Question::Needs::add(NodeId node, Day first, Day last)
{
    const std::span<const Day> sessions = market_.sessions();
    auto& changes = changes_[node];
    changes.resize(sessions.size() + 1);
    ++changes[static_cast<std::size_t>(std::ranges::lower_bound(sessions, first) -
                                       sessions.begin())];
    --changes[static_cast<std::size_t>(std::ranges::upper_bound(sessions, last) -
                                       sessions.begin())];
}

std::map<NodeId, std::vector<std::size_t>> Evaluator::Question::Needs::sessions() const
{
    std::map<NodeId, std::vector<std::size_t>> all;
    for (const auto& [node, changes] : changes_) {
        int askers = 0;
        for (std::size_t session = 0; session + 1 < changes.size(); ++session) {
            askers += changes[session];
            if (askers > 0)
                all[node].push_back(session);
        }
    }
    return all;
}

bool Evaluator::Question::goesAcross(std::span<const NodeId> targets) const
{
    return std::ranges::any_of(plan_.neededAlongBars(targets),
                               [this](NodeId id) { return isAcross(plan_[id].op); });
}

/// The split days of every other instrument that the targets look at.
std::vector<Day> Evaluator::Question::cutsOf(std::span<const NodeId> targets) const
{
    std::vector<Day> cuts;
    std::set<NodeId> seen;
    std::vector<NodeId> open(targets.begin(), targets.end());
    while (!open.empty()) {
        const NodeId id = open.back();
        open.pop_back();
        if (!seen.insert(id).second)
            continue;
        const Node& node = plan_[id];
        open.insert(open.end(), node.inputs.begin(), node.inputs.end());
        if (node.op != Op::OtherStock)
            continue;
        const auto other =
            market_.find(node.text.empty() ? market_.description().benchmark : node.text);
        if (other)
            for (const market::Split& split : market_.splits(*other))
                cuts.push_back(split.exDate);
    }
    return cuts;
}

void Evaluator::Question::sweep(std::span<const NodeId> targets, std::span<const Day> days,
                                const std::function<void(const SweepValues&)>& visit)
{
    // What goes across stocks is held for a part of the days at a time: the memory of one part
    // serves the next, and need not be had from the system anew.
    const std::size_t together = goesAcross(targets) ? daysAcrossATime : days.size();
    const Told whole = told_;
    for (std::size_t first = 0; first < days.size(); first += together) {
        const auto shareOf = [&](std::size_t count) {
            return whole.share * static_cast<double>(count) / static_cast<double>(days.size());
        };
        told_ = {whole.from + shareOf(first), shareOf(std::min(together, days.size() - first))};
        const auto tell = [&visit, first](SweepValues swept) {
            swept.firstDay += first;
            visit(swept);
        };
        sweepSome(targets, days.subspan(first, std::min(together, days.size() - first)), tell, {},
                  instrumentsATime);
    }
    told_ = whole;
}

void Evaluator::Question::sweepSome(std::span<const NodeId> targets, std::span<const Day> days,
                                    const std::function<void(const SweepValues&)>& visit,
                                    std::span<const char> isWanted, std::size_t block)
{
    const AcrossTable table = acrossUnder(targets, days, isWanted);
    const Surroundings around = surroundings(table);
    const std::vector<Day> cuts = cutsOf(targets);
    struct Worker {
        GatedPass pass;
        Stretches stretches;
        std::vector<std::span<const double>> values;
    };
    tbb::enumerable_thread_specific<Worker> workers([&] {
        return Worker{GatedPass(around, plan_, targets, depth_), Stretches(market_, days, cuts),
                      std::vector<std::span<const double>>(targets.size())};
    });
    std::atomic<std::size_t> done = 0;
    const auto sweepOne = [&](std::size_t instrument) {
        if (!isWanted.empty() && !isWanted[instrument])
            return;
        Worker& worker = workers.local();
        for (const Stretch& stretch : worker.stretches.of(instrument)) {
            worker.pass.run(dailyFrame(market_, instrument, stretch.footing), stretch.firstBar,
                            stretch.endBar);
            for (std::size_t i = 0; i < targets.size(); ++i)
                worker.values[i] = worker.pass.values(i);
            visit({instrument, stretch.firstDay, stretch.firstBar, worker.stretches.bars(stretch),
                   worker.values});
        }
        if (++done % instrumentsATime == 0)
            progress_.report(told_.from + told_.share * static_cast<double>(done) /
                                              static_cast<double>(market_.size()),
                             "evaluating");
    };
    eachInstrument(sweepOne, block);
}

std::vector<DayTable> Evaluator::Question::tablesOver(std::span<const NodeId> targets,
                                                      std::span<const Day> days)
{
    std::vector<DayTable> tables;
    for (std::size_t i = 0; i < targets.size(); ++i)
        tables.emplace_back(market_.size(), days.size());
    sweep(targets, days, [&tables](const SweepValues& swept) {
        for (std::size_t target = 0; target < tables.size(); ++target)
            if (swept.isBarADay())
                tables[target].setInstrument(
                    swept.instrument, swept.firstDay,
                    swept.values[target].subspan(swept.bars[0] - swept.firstBar,
                                                 swept.bars.size()));
            else
                for (std::size_t day = 0; day < swept.bars.size(); ++day)
                    tables[target].set(swept.instrument, swept.firstDay + day,
                                       swept.value(target, day));
    });
    return tables;
}

AcrossTable Evaluator::Question::acrossUnder(std::span<const NodeId> targets,
                                             std::span<const Day> days,
                                             std::span<const char> isWanted)
{
    std::vector<NodeId> asking;
    for (const NodeId target : targets)
        if (goesAcross(std::span(&target, 1)))
            asking.push_back(target);
    if (asking.empty())
        return {};
    const AcrossTable none;
    const Surroundings around = surroundings(none);
    const std::vector<Day> cuts = cutsOf(asking);
    struct Worker {
        BarPass survey;
        Stretches stretches;
        Needs needs;
    };
    tbb::enumerable_thread_specific<Worker> workers([&] {
        return Worker{BarPass(around, plan_, asking, depth_), Stretches(market_, days, cuts),
                      Needs(market_)};
    });
    eachInstrument([&](std::size_t instrument) {
        if (!isWanted.empty() && !isWanted[instrument])
            return;
        Worker& worker = workers.local();
        const std::span<const Day> own = market_.bars(instrument).days;
        for (const Stretch& stretch : worker.stretches.of(instrument)) {
            worker.survey.prepare(dailyFrame(market_, instrument, stretch.footing),
                                  stretch.firstBar, stretch.endBar);
            worker.survey.visitAcross([&](NodeId node, std::size_t from, std::size_t to) {
                worker.needs.add(node, own[from], own[to - 1]);
            });
        }
    });
    Needs needs(market_);
    for (const Worker& worker : workers)
        needs.add(worker.needs);
    return tableOf(needs);
}

AcrossTable Evaluator::Question::tableOf(const Needs& needs)
{
    AcrossTable table;
    const std::span<const Day> sessions = market_.sessions();
    std::map<std::vector<std::size_t>, std::vector<NodeId>> byPlaces; // asked together
    for (const auto& [node, places] : needs.sessions())
        byPlaces[places].push_back(node);
    for (const auto& [places, nodes] : byPlaces) {
        std::vector<Day> days;
        for (const std::size_t place : places)
            days.push_back(sessions[place]);
        std::vector<DayTable> tables = acrossOn(nodes, days);
        for (std::size_t i = 0; i < nodes.size(); ++i) {
            AcrossValues& values = table[nodes[i]];
            values.table = std::move(tables[i]);
            values.places.resize(sessions.size());
            for (std::size_t day = 0; day < places.size(); ++day)
                values.places[places[day]] = static_cast<std::uint32_t>(day);
        }
    }
    return table;
}

/// The groups of a text that stays the same on every day.
Groups Evaluator::Question::steadyGroups(NodeId id) const
{
    Column column(market_.size(), missing);
    for (std::size_t i = 0; i < column.size(); ++i) {
        const std::uint32_t number = market_.text(i, plan_[id].textField);
        column[i] = number == 0 ? missing : static_cast<double>(number);
    }
    return Groups::of(column, false);
}

/// What must be evaluated for a part; groups across stocks that stay the same need not.
std::span<const NodeId> Evaluator::Question::inputsOf(NodeId part) const
{
    const std::vector<NodeId>& inputs = plan_[part].inputs;
    const bool isSteady =
        isAcross(plan_[part].op) && inputs.size() > 1 && plan_[inputs[1]].op == Op::TextField;
    return std::span(inputs).first(isSteady ? 1 : inputs.size());
}

/// Parts across stocks on each of some days, their inputs evaluated together.
std::vector<DayTable> Evaluator::Question::acrossOn(std::span<const NodeId> nodes,
                                                    std::span<const Day> days)
{
    std::vector<DayTable> result(nodes.size());
    std::vector<std::size_t> absent;
    std::vector<NodeId> inputs;
    std::vector<NodeId> ofTheDay;
    const auto keyOf = [this](NodeId node) { return acrossKey(plan_.key(node)); };
    for (std::size_t i = 0; i < nodes.size(); ++i) {
        if (plan_.isOfTheDay(nodes[i])) {
            ofTheDay.push_back(nodes[i]);
            continue;
        }
        const ColumnPtr kept =
            days.size() == 1 ? evaluator_.cache_.find(keyOf(nodes[i]), days[0]) : nullptr;
        if (kept) {
            result[i] = DayTable(market_.size(), 1);
            result[i].setDay(0, *kept);
        } else {
            absent.push_back(i);
            const auto own = inputsOf(nodes[i]);
            inputs.insert(inputs.end(), own.begin(), own.end());
        }
    }
    const std::vector<Column> dayValues = daysOf(ofTheDay, days);
    for (std::size_t i = 0, next = 0; i < nodes.size(); ++i)
        if (plan_.isOfTheDay(nodes[i])) {
            result[i] = DayTable(1, days.size());
            result[i].setInstrument(0, 0, dayValues[next++]);
        }
    std::vector<DayTable> tables;
    if (days.size() == 1 && !absent.empty())
        for (const ColumnPtr& column : columns(inputs, days[0])) {
            tables.emplace_back(market_.size(), 1);
            tables.back().setDay(0, *column);
        }
    else if (!absent.empty())
        tables = tablesOver(inputs, days);
    // A long history would push all else out of the cache.
    const bool isKept =
        days.size() * market_.size() * sizeof(double) <= evaluator_.cacheBudget_ / 4;
    std::size_t next = 0;
    for (const std::size_t i : absent) {
        const std::size_t count = inputsOf(nodes[i]).size();
        if (plan_[nodes[i]].item == 1)
            tables[next] = keepTraded(std::move(tables[next]), days);
        acrossDays(nodes[i], days.size(), std::span(tables).subspan(next, count));
        for (std::size_t day = 0; isKept && day < days.size(); ++day) {
            const auto column = std::make_shared<Column>(market_.size());
            tables[next].copyDay(day, *column);
            evaluator_.cache_.keep(keyOf(nodes[i]), days[day], column);
        }
        result[i] = std::move(tables[next]);
        next += count;
    }
    return result;
}

/// Puts what the part makes of its first input in that one's place.
void Evaluator::Question::acrossDays(NodeId id, std::size_t days, std::span<DayTable> inputs)
{
    const Node& node = plan_[id];
    const bool isGrouped = node.inputs.size() > 1;
    const bool isSteady = isGrouped && inputs.size() == 1;
    const bool isByYesNo = isGrouped && plan_[node.inputs[1]].kind == Kind::YesNo;
    const Groups steady = isSteady ? steadyGroups(node.inputs[1]) : Groups::all(market_.size());
    constexpr std::size_t together = 8; // days that share the processor's lines
    tbb::parallel_for(std::size_t{0}, (days + together - 1) / together, [&](std::size_t part) {
        stopIfTold();
        const std::size_t first = part * together;
        const std::size_t count = std::min(together, days - first);
        std::vector<Column> figures(count, Column(market_.size()));
        std::vector<Column> groups(isGrouped && !isSteady ? count : 0, Column(market_.size()));
        inputs[0].copyDays(first, figures);
        if (!groups.empty())
            inputs[1].copyDays(first, groups);
        for (std::size_t day = 0; day < count; ++day) {
            for (const std::size_t index : evaluator_.indexes_) // an index is no stock
                figures[day][index] = missing;
            if (groups.empty())
                across(node.op, figures[day], steady, figures[day]);
            else
                across(node.op, figures[day], Groups::of(groups[day], isByYesNo), figures[day]);
        }
        inputs[0].setDays(first, figures);
    });
}

/// Leaves out what belongs to a bar of an earlier day.
DayTable Evaluator::Question::keepTraded(DayTable figures, std::span<const Day> days) const
{
    eachInstrument([&](std::size_t instrument) {
        const std::span<const Day> own = market_.bars(instrument).days;
        for (std::size_t day = 0; day < days.size(); ++day)
            if (!std::ranges::binary_search(own, days[day]))
                figures.set(instrument, day, missing);
    });
    return figures;
}

/// Who is in a group that asks for texts only, which no day changes; nothing for another group.
std::optional<std::vector<char>> Evaluator::Question::steadyMembers(NodeId group) const
{
    const auto parts = plan_.neededAlongBars(std::span(&group, 1));
    const bool isSteady = std::ranges::all_of(parts, [this](NodeId id) {
        const Op op = plan_[id].op;
        return op == Op::TextField || op == Op::TextConstant || op == Op::Constant ||
               op == Op::Contains || isValueByValue(op);
    });
    if (!isSteady)
        return std::nullopt;
    const AcrossTable none;
    const Surroundings around{market_, none, {}};
    BarPass pass(around, plan_, std::span(&group, 1), depth_);
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
    const auto keyOf = [this](NodeId node) { return acrossKey(plan_.key(node)); };
    std::vector<Column> result(nodes.size());
    std::vector<DayPart> absent;
    std::vector<std::size_t> places;
    for (std::size_t i = 0; i < nodes.size(); ++i) {
        const ColumnPtr kept = isRun ? evaluator_.cache_.find(keyOf(nodes[i]), days[0]) : nullptr;
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
        made = tallyDays(absent, days);
        for (std::size_t i = 0; i < absent.size(); ++i)
            if (plan_[absent[i].node].op == Op::Median)
                made[i] = medianDays(absent[i], days);
    }
    for (std::size_t i = 0; i < absent.size(); ++i) {
        result[places[i]] = std::move(made[i]);
        if (isRun)
            evaluator_.cache_.keep(keyOf(absent[i].node), days[0],
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
        if (!isIn || !market_.tenure(i).isListed(day) ||
            (isTradedOnly && !std::ranges::binary_search(market_.bars(i).days, day)))
            figures[i] = missing;
    }
    return valueOfTheDay(plan_[part.node].op, figures);
}

/// Sums and counts over many days, instrument by instrument: no table of all of them is made.
std::vector<Column> Evaluator::Question::tallyDays(std::span<const DayPart> parts,
                                                   std::span<const Day> days)
{
    struct Place {
        std::size_t figure = 0;
        std::optional<std::size_t> group;
        std::vector<Tally> tallies; ///< a block of instruments: a day each
    };
    const std::size_t blocks = (market_.size() + instrumentsABlock - 1) / instrumentsABlock;
    std::vector<Place> places(parts.size());
    std::vector<NodeId> targets;
    std::vector<char> isWanted(market_.size());
    for (std::size_t part = 0; part < parts.size(); ++part) {
        if (plan_[parts[part].node].op == Op::Median)
            continue;
        places[part].figure = targets.size();
        if (parts[part].inputs.size() > 1)
            places[part].group = targets.size() + 1;
        targets.insert(targets.end(), parts[part].inputs.begin(), parts[part].inputs.end());
        places[part].tallies.resize(blocks * days.size());
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
            if (places[part].tallies.empty() || !counts(parts[part], swept.instrument))
                continue;
            Tally* tallies = &places[part].tallies[block * days.size() + swept.firstDay];
            const bool isTradedOnly = plan_[parts[part].node].item == 1;
            for (std::size_t day = 0; day < swept.bars.size(); ++day)
                if ((!isTradedOnly || own[swept.bars[day]] == days[swept.firstDay + day]) &&
                    (!places[part].group || swept.value(*places[part].group, day) == 1.0))
                    tallies[day].add(swept.value(places[part].figure, day));
        }
    };
    sweepSome(targets, days, add, isWanted, instrumentsABlock);
    for (std::size_t part = 0; part < parts.size(); ++part)
        for (std::size_t day = 0; day < days.size() && !places[part].tallies.empty(); ++day) {
            Tally all;
            for (std::size_t block = 0; block < blocks; ++block)
                all.add(places[part].tallies[block * days.size() + day]);
            result[part].push_back(all.value(plan_[parts[part].node].op));
        }
    return result;
}

Column Evaluator::Question::medianDays(const DayPart& part, std::span<const Day> days)
{
    std::vector<DayTable> tables = tablesOver(part.inputs, days);
    if (plan_[part.node].item == 1)
        tables[0] = keepTraded(std::move(tables[0]), days);
    Column values(days.size());
    tbb::parallel_for(std::size_t{0}, days.size(), [&](std::size_t day) {
        stopIfTold();
        Column figures(market_.size());
        tables[0].copyDay(day, figures);
        for (std::size_t i = 0; i < figures.size(); ++i)
            if (!counts(part, i) || (tables.size() > 1 && tables[1].at(i, day) != 1.0))
                figures[i] = missing;
        values[day] = valueOfTheDay(plan_[part.node].op, figures);
    });
    return values;
}

std::vector<ColumnPtr> Evaluator::Question::columns(std::span<const NodeId> targets, Day day)
{
    // Parts value by value and across stocks are made of whole columns, so that each part's column
    // can be kept; what is left is evaluated along bars, all in one sweep.
    std::map<NodeId, ColumnPtr> known;
    std::vector<NodeId> alongBars;
    std::vector<NodeId> ofColumns;
    std::vector<NodeId> open(targets.begin(), targets.end());
    std::set<NodeId> seen;
    while (!open.empty()) {
        const NodeId id = open.back();
        open.pop_back();
        if (!seen.insert(id).second)
            continue;
        const bool isColumnwise =
            isValueByValue(plan_[id].op) || (isAcross(plan_[id].op) && !plan_.isOfTheDay(id));
        if (plan_[id].op == Op::Constant) {
            known[id] = std::make_shared<Column>(market_.size(), plan_[id].number);
        } else if (ColumnPtr column = evaluator_.cache_.find(plan_.key(id), day)) {
            known[id] = std::move(column);
        } else if (isColumnwise) {
            ofColumns.push_back(id);
            const auto inputs = inputsOf(id);
            open.insert(open.end(), inputs.begin(), inputs.end());
        } else {
            alongBars.push_back(id);
        }
    }
    for (const auto& [id, column] : columnsAlongBars(alongBars, day, {}))
        known[id] = evaluator_.cache_.keep(plan_.key(id), day, column);
    std::ranges::sort(ofColumns); // inputs have lower numbers
    const Standing standing = standingOn(day);
    for (const NodeId id : ofColumns) {
        stopIfTold();
        const bool isAcrossStocks = isAcross(plan_[id].op);
        const auto column =
            isAcrossStocks ? acrossOf(id, day, standing, known) : combinedOf(id, known);
        for (const std::size_t i : standing.unlisted)
            (*column)[i] = missing;
        known[id] = evaluator_.cache_.keep(plan_.key(id), day, column);
    }
    std::vector<ColumnPtr> result;
    for (const NodeId target : targets)
        result.push_back(known[target]);
    return result;
}

/// Parts along the bars of those instruments that `isWanted` names (empty: all), on one day.
std::map<NodeId, std::shared_ptr<Column>>
Evaluator::Question::columnsAlongBars(std::span<const NodeId> nodes, Day day,
                                      std::span<const char> isWanted)
{
    std::map<NodeId, std::shared_ptr<Column>> columns;
    std::vector<Column*> places;
    for (const NodeId node : nodes) {
        columns[node] = std::make_shared<Column>(market_.size(), missing);
        places.push_back(columns[node].get());
    }
    if (!nodes.empty())
        sweepSome(
            nodes, std::span(&day, 1),
            [&places](const SweepValues& swept) {
                for (std::size_t i = 0; i < places.size(); ++i)
                    (*places[i])[swept.instrument] = swept.value(i, 0);
            },
            isWanted, instrumentsATime);
    return columns;
}

/// Who is not listed on a day, and whose newest bar is older than it.
Evaluator::Question::Standing Evaluator::Question::standingOn(Day day) const
{
    Standing standing;
    for (std::size_t i = 0; i < market_.size(); ++i) {
        const market::Tenure& tenure = market_.tenure(i);
        if (!tenure.isListed(day))
            standing.unlisted.push_back(i);
        else if (tenure.lastBar != day && !std::ranges::binary_search(market_.bars(i).days, day))
            standing.idle.push_back(i);
    }
    return standing;
}

std::shared_ptr<Column>
Evaluator::Question::combinedOf(NodeId id, const std::map<NodeId, ColumnPtr>& known) const
{
    const auto column = std::make_shared<Column>(market_.size());
    std::vector<const double*> inputs;
    for (const NodeId input : plan_[id].inputs)
        inputs.push_back(known.at(input)->data());
    combine(plan_[id].op, inputs, *column);
    return column;
}

/// A part across stocks: of those that traded on the day, their place on it; of the others, that on
/// the day of their newest bar.
std::shared_ptr<Column> Evaluator::Question::acrossOf(NodeId id, Day day, const Standing& standing,
                                                      const std::map<NodeId, ColumnPtr>& known)
{
    const std::vector<NodeId>& inputs = plan_[id].inputs;
    const NodeKey key = acrossKey(plan_.key(id));
    auto column = std::make_shared<Column>(market_.size());
    if (const ColumnPtr kept = evaluator_.cache_.find(key, day)) {
        *column = *kept;
    } else {
        Column figures = *known.at(inputs[0]);
        for (const std::size_t index : evaluator_.indexes_) // an index is no stock
            figures[index] = missing;
        for (const std::size_t i : standing.unlisted) // nor is who is gone
            figures[i] = missing;
        if (plan_[id].item == 1) // of those that traded only
            for (const std::size_t i : standing.idle)
                figures[i] = missing;
        const bool isGrouped = inputs.size() > 1;
        const Groups groups =
            !isGrouped ? Groups::all(market_.size())
            : inputsOf(id).size() == 1
                ? steadyGroups(inputs[1])
                : Groups::of(*known.at(inputs[1]), plan_[inputs[1]].kind == Kind::YesNo);
        across(plan_[id].op, figures, groups, *column);
        evaluator_.cache_.keep(key, day, std::make_shared<const Column>(*column));
    }
    if (standing.idle.empty())
        return column;
    std::vector<char> isIdle(market_.size());
    for (const std::size_t i : standing.idle)
        isIdle[i] = 1;
    const auto older = columnsAlongBars(std::span(&id, 1), day, isIdle);
    for (const std::size_t i : standing.idle)
        (*column)[i] = (*older.at(id))[i];
    return column;
}

std::vector<std::vector<double>> Evaluator::Question::histories(std::span<const NodeId> targets,
                                                                const market::Market& line,
                                                                std::size_t instrument,
                                                                std::size_t end)
{
    const BarFrame frame = dailyFrame(line, instrument, line.footing(instrument, end - 1));
    AcrossTable table;
    if (goesAcross(targets)) {
        const AcrossTable none;
        const Surroundings around = surroundings(none);
        BarPass survey(around, plan_, targets, depth_);
        survey.prepare(frame, 0, end);
        Needs needs(market_);
        survey.visitAcross([&](NodeId node, std::size_t from, std::size_t to) {
            needs.add(node, frame.days[from], frame.days[to - 1]);
        });
        table = tableOf(needs);
    }
    const Surroundings around = surroundings(table);
    BarPass pass(around, plan_, targets, depth_);
    pass.run(frame, 0, end);
    std::vector<std::vector<double>> all;
    for (std::size_t i = 0; i < targets.size(); ++i)
        all.emplace_back(pass.values(i).begin(), pass.values(i).end());
    return all;
}

} // namespace sieve::expressions
