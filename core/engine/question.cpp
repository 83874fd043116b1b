#include "core/engine/question.h"
#include "core/base/parallel.h"

#include "core/engine/gated_pass.h"
#include "core/engine/operators/other_bars.h"
#include "core/engine/operators/values.h"
#include "core/engine/stretches.h"

#include <algorithm>
#include <atomic>
#include <set>
#include <tbb/enumerable_thread_specific.h>

namespace sieve::engine {

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
        if (const auto other = otherInstrument(node, market_))
            for (const market::Split& split : market_.splits(*other))
                cuts.push_back(split.exDate);
    }
    return cuts;
}

void Evaluator::Question::sweep(std::span<const NodeId> targets, std::span<const Day> days,
                                const std::function<void(const SweepValues&)>& visit,
                                std::span<const std::size_t> onlyWhere)
{
    const std::size_t together = daysAtOnce(targets, days.size());
    const ProgressPart whole = progressPart_;
    for (std::size_t first = 0; first < days.size(); first += together) {
        const std::size_t count = std::min(together, days.size() - first);
        const auto some = days.subspan(first, count);
        progressPart_ = whole.part(first, count, days.size());
        const auto tell = [&visit, first](SweepValues swept) {
            swept.firstDay += first;
            visit(swept);
        };
        Deferred deferred;
        sweepSome(targets, some, tell, {}, morselSize, onlyWhere, &deferred);
        if (!deferred.stretches.empty())
            sweepDeferred(targets, some, tell, deferred, onlyWhere);
    }
    progressPart_ = whole;
}

/// What was deferred for want of history; nothing is handed out twice.
void Evaluator::Question::sweepDeferred(std::span<const NodeId> targets, std::span<const Day> days,
                                        const std::function<void(const SweepValues&)>& visit,
                                        const Deferred& deferred,
                                        std::span<const std::size_t> onlyWhere)
{
    std::vector<char> isWanted(market_.size());
    for (const auto& [instrument, firstDay] : deferred.stretches)
        isWanted[instrument] = 1;
    const auto tell = [&](const SweepValues& swept) {
        if (deferred.stretches.contains({swept.instrument, swept.firstDay}))
            visit(swept);
    };
    deep().sweepSome(targets, days, tell, isWanted, morselSize, onlyWhere);
}

void Evaluator::Question::sweepSome(std::span<const NodeId> targets, std::span<const Day> days,
                                    const std::function<void(const SweepValues&)>& visit,
                                    std::span<const char> isWanted, std::size_t block,
                                    std::span<const std::size_t> onlyWhere, Deferred* deferred)
{
    const ProgressPart whole = progressPart_;
    progressPart_ = whole.part(0, 1, 2);
    const AcrossTable table = acrossUnder(targets, days, isWanted);
    progressPart_ = table.empty() ? whole : whole.part(1, 1, 2);
    const Context context = contextOf(table);
    const std::vector<Day> cuts = cutsOf(targets);
    struct Worker {
        GatedPass pass;
        Stretches stretches;
        std::vector<std::span<const double>> values;
    };
    tbb::enumerable_thread_specific<Worker> workers([&] {
        return Worker{GatedPass(context, plan_, targets, depth_, onlyWhere),
                      Stretches(market_, days, cuts),
                      std::vector<std::span<const double>>(targets.size())};
    });
    const auto sweepStretch = [&](Worker& worker, std::size_t instrument, const Stretch& stretch) {
        try {
            worker.pass.run(dailyFrame(market_, instrument, stretch.footing), stretch.firstBar,
                            stretch.endBar);
        } catch (const NeedsWholeHistory&) {
            if (!deferred)
                throw;
            const std::scoped_lock lock(deferred->mutex);
            deferred->stretches.emplace(instrument, stretch.firstDay);
            return;
        }
        for (std::size_t i = 0; i < targets.size(); ++i)
            worker.values[i] = worker.pass.values(i);
        visit({instrument, stretch.firstDay, stretch.firstBar, worker.stretches.bars(stretch),
               worker.values});
    };
    std::atomic<std::size_t> begun = 0;
    const auto sweepOne = [&](std::size_t instrument) {
        if (instrument % morselSize == 0) { // threads would wait for a count of each
            const std::size_t now = std::min(begun += morselSize, market_.size());
            progress_.report(progressPart_.from + progressPart_.share * static_cast<double>(now) /
                                                      static_cast<double>(market_.size()),
                             "evaluating");
        }
        if (!isWanted.empty() && !isWanted[instrument])
            return;
        Worker& worker = workers.local();
        if (days.size() == 1 && instrument + 1 < market_.size())
            worker.pass.fetchNext(market_, instrument + 1);
        for (const Stretch& stretch : worker.stretches.of(instrument))
            sweepStretch(worker, instrument, stretch);
    };
    eachInstrument(sweepOne, block);
    progressPart_ = whole;
}

std::vector<DayTable> Evaluator::Question::tablesOver(std::span<const NodeId> targets,
                                                      std::span<const Day> days)
{
    std::vector<DayTable> tables(targets.size());
    fillTables(targets, days, tables);
    return tables;
}

void Evaluator::Question::fillTables(std::span<const NodeId> targets, std::span<const Day> days,
                                     std::span<DayTable> tables)
{
    for (DayTable& table : tables)
        table.reset(market_.size(), days.size());
    sweep(targets, days, [tables](const SweepValues& swept) {
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
    addColumnwise(ofColumns, day, known);
    std::vector<ColumnPtr> result;
    for (const NodeId target : targets)
        result.push_back(known[target]);
    return result;
}

/// Adds parts that are made of whole columns, each as soon as those that it reads are there.
void Evaluator::Question::addColumnwise(std::span<const NodeId> nodes, Day day,
                                        std::map<NodeId, ColumnPtr>& known)
{
    struct Part {
        NodeId id = 0;
        std::vector<std::size_t> users;
        std::atomic<std::size_t> waitsFor = 0;
    };
    std::vector<Part> parts(nodes.size());
    std::map<NodeId, std::size_t> places;
    for (std::size_t i = 0; i < nodes.size(); ++i) {
        parts[i].id = nodes[i];
        places[nodes[i]] = i;
        known[nodes[i]] = nullptr; // from here on each is set by who makes it
    }
    std::vector<std::size_t> ready;
    for (std::size_t i = 0; i < parts.size(); ++i) {
        for (const NodeId input : inputsOf(parts[i].id))
            if (const auto found = places.find(input); found != places.end()) {
                parts[found->second].users.push_back(i);
                ++parts[i].waitsFor;
            }
        if (parts[i].waitsFor == 0)
            ready.push_back(i);
    }
    const AbsentStocks absent = absentOn(day);
    ParallelTasks group;
    const std::function<void(std::size_t)> make = [&](std::size_t i) {
        stopIfTold();
        const NodeId id = parts[i].id;
        const auto column =
            isAcross(plan_[id].op) ? acrossOf(id, day, absent, known) : combinedOf(id, known);
        for (const std::size_t unlisted : absent.unlisted)
            (*column)[unlisted] = missing;
        known.at(id) = evaluator_.cache_.keep(plan_.key(id), day, column);
        for (const std::size_t user : parts[i].users)
            if (--parts[user].waitsFor == 0)
                group.run([&make, user] { make(user); });
    };
    for (const std::size_t i : ready)
        group.run([&make, i] { make(i); });
    group.wait();
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
    const auto write = [&places](const SweepValues& swept) {
        for (std::size_t i = 0; i < places.size(); ++i)
            (*places[i])[swept.instrument] = swept.value(i, 0);
    };
    const auto days = std::span(&day, 1);
    Deferred deferred;
    if (!nodes.empty())
        sweepSome(nodes, days, write, isWanted, morselSize, {}, &deferred);
    if (!deferred.stretches.empty())
        sweepDeferred(nodes, days, write, deferred, {});
    return columns;
}

/// Who is not listed on a day, and whose newest bar is older than it.
Evaluator::Question::AbsentStocks Evaluator::Question::absentOn(Day day) const
{
    AbsentStocks absent;
    for (std::size_t i = 0; i < market_.size(); ++i) {
        const market::Tenure& tenure = market_.tenure(i);
        if (!market_.isListed(i, day))
            absent.unlisted.push_back(i);
        else if (tenure.lastBar != day && !std::ranges::binary_search(market_.bars(i).days, day))
            absent.idle.push_back(i);
    }
    return absent;
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
std::shared_ptr<Column>
Evaluator::Question::acrossOf(NodeId id, Day day, const AbsentStocks& absent,
                              const std::map<NodeId, ColumnPtr>& known) const
{
    const std::vector<NodeId>& inputs = plan_[id].inputs;
    const NodeKey key = acrossKey(id);
    auto column = std::make_shared<Column>(market_.size());
    if (const ColumnPtr kept = evaluator_.cache_.find(key, day)) {
        *column = *kept;
    } else {
        Column figures = *known.at(inputs[0]);
        for (const std::size_t index : evaluator_.indexes_) // an index is no stock
            figures[index] = missing;
        for (const std::size_t i : absent.unlisted) // nor is who is gone
            figures[i] = missing;
        if (plan_[id].item == 1) // of those that traded only
            for (const std::size_t i : absent.idle)
                figures[i] = missing;
        const bool isGrouped = inputs.size() > 1;
        const StockGroups groups =
            !isGrouped ? StockGroups::all(market_.size())
            : inputsOf(id).size() == 1
                ? steadyGroups(inputs[1])
                : StockGroups::of(*known.at(inputs[1]), plan_[inputs[1]].kind == Kind::YesNo);
        across(plan_[id], figures, groups, *column);
        evaluator_.cache_.keep(key, day, std::make_shared<const Column>(*column));
    }
    if (absent.idle.empty())
        return column;
    std::vector<char> isIdle(market_.size());
    for (const std::size_t i : absent.idle)
        isIdle[i] = 1;
    const auto older = aside().columnsAlongBars(std::span(&id, 1), day, isIdle);
    for (const std::size_t i : absent.idle)
        (*column)[i] = (*older.at(id))[i];
    return column;
}

std::vector<std::vector<double>> Evaluator::Question::histories(std::span<const NodeId> targets,
                                                                const market::Market& line,
                                                                std::size_t instrument,
                                                                std::size_t from, std::size_t end)
{
    const BarFrame frame = dailyFrame(line, instrument, line.footing(instrument, end - 1));
    AcrossTable table;
    if (goesAcross(targets)) {
        const AcrossTable none;
        const Context context = contextOf(none);
        BarPass survey(context, plan_, targets, depth_);
        survey.prepare(frame, from, end);
        Needs needs(market_);
        survey.visitAcross([&](NodeId node, std::size_t first, std::size_t to) {
            needs.add(node, frame.days[first], frame.days[to - 1]);
        });
        table = tableOf(needs);
    }
    const Context context = contextOf(table);
    BarPass pass(context, plan_, targets, depth_);
    try {
        pass.run(frame, from, end);
    } catch (const NeedsWholeHistory&) {
        return deep().histories(targets, line, instrument, from, end);
    }
    std::vector<std::vector<double>> all;
    for (std::size_t i = 0; i < targets.size(); ++i)
        all.emplace_back(pass.values(i).begin(), pass.values(i).end());
    return all;
}

} // namespace sieve::engine
