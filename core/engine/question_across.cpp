#include "core/base/parallel.h"
#include "core/engine/question.h"

#include "core/engine/gated_pass.h"
#include "core/engine/stretches.h"

#include <algorithm>
#include <tbb/enumerable_thread_specific.h>

namespace sieve::engine {

namespace {

/// For what becomes of them, as long as a question is asked.
constexpr std::size_t acrossBytes = std::size_t{1} << 30U;

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

/// For how many days at a time the parts across stocks under the targets can be held.
std::size_t Evaluator::Question::daysAtOnce(std::span<const NodeId> targets, std::size_t days) const
{
    std::size_t wide = 0; // parts with a value for each stock
    for (const NodeId id : plan_.neededAlongBars(targets))
        wide += isAcross(plan_[id].op) && !plan_.isOfTheDay(id) ? 1U : 0U;
    const std::size_t bytesADay = wide * market_.size() * sizeof(double);
    return wide == 0 ? std::max<std::size_t>(days, 1)
                     : std::max(acrossBytes / bytesADay, daysAcrossATime);
}

bool Evaluator::Question::goesAcross(std::span<const NodeId> targets) const
{
    return std::ranges::any_of(plan_.neededAlongBars(targets),
                               [this](NodeId id) { return isAcross(plan_[id].op); });
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
    const Context context = contextOf(none);
    const std::vector<Day> cuts = cutsOf(asking);
    struct Worker {
        BarPass survey;
        Stretches stretches;
        Needs needs;
    };
    tbb::enumerable_thread_specific<Worker> workers([&] {
        return Worker{BarPass(context, plan_, asking, depth_), Stretches(market_, days, cuts),
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
        std::vector<AcrossValues> made = acrossOn(nodes, days);
        for (std::size_t i = 0; i < nodes.size(); ++i) {
            AcrossValues& values = table[nodes[i]] = std::move(made[i]);
            values.places.resize(sessions.size());
            for (std::size_t day = 0; day < places.size(); ++day)
                values.places[places[day]] = static_cast<std::uint32_t>(day);
        }
    }
    return table;
}

/// The groups of a text that stays the same on every day.
StockGroups Evaluator::Question::steadyGroups(NodeId id) const
{
    std::vector<std::uint32_t> numbers(market_.size());
    for (std::size_t i = 0; i < numbers.size(); ++i)
        numbers[i] = market_.text(i, plan_[id].textField);
    return StockGroups::ofTexts(numbers);
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
std::vector<AcrossValues> Evaluator::Question::acrossOn(std::span<const NodeId> nodes,
                                                        std::span<const Day> days)
{
    std::vector<AcrossValues> result(nodes.size());
    std::vector<AcrossPart> absent;
    std::vector<NodeId> inputs;
    std::vector<NodeId> ofTheDay;
    for (std::size_t i = 0; i < nodes.size(); ++i) {
        const ColumnPtr kept =
            days.size() == 1 ? evaluator_.cache_.find(acrossKey(nodes[i]), days[0]) : nullptr;
        if (plan_.isOfTheDay(nodes[i])) {
            ofTheDay.push_back(nodes[i]);
        } else if (kept) {
            result[i].table = DayTable(market_.size(), 1);
            result[i].table.setDay(0, *kept);
        } else {
            const auto own = inputsOf(nodes[i]);
            absent.push_back(acrossPart(nodes[i], inputs.size(), days.size(), result[i]));
            inputs.insert(inputs.end(), own.begin(), own.end());
        }
    }
    const std::vector<Column> dayValues = daysOf(ofTheDay, days);
    for (std::size_t i = 0, next = 0; i < nodes.size(); ++i)
        if (plan_.isOfTheDay(nodes[i])) {
            result[i].table = DayTable::unset(1, days.size());
            result[i].table.setInstrument(0, 0, dayValues[next++]);
        }
    if (!absent.empty())
        fillAcross(absent, inputs, days);
    // Long histories, or those of many parts, would push all else out of the cache.
    if (absent.size() * days.size() * market_.size() * sizeof(double) <=
        evaluator_.cacheBudget_ / 4)
        for (const AcrossPart& part : absent)
            cacheAcross(part, days);
    return result;
}

Evaluator::Question::AcrossPart Evaluator::Question::acrossPart(NodeId node, std::size_t firstInput,
                                                                std::size_t days,
                                                                AcrossValues& values) const
{
    const std::vector<NodeId>& inputs = plan_[node].inputs;
    AcrossPart part{node, firstInput, inputs.size() > 1, std::nullopt, values};
    if (!part.isGrouped)
        part.steady = StockGroups::all(market_.size());
    else if (inputsOf(node).size() == 1)
        part.steady = steadyGroups(inputs[1]);
    std::size_t rows = market_.size();
    if (part.isOneAGroup(plan_[node].op)) {
        values.rows = part.steady->numbers(market_.size());
        for (const std::size_t index : evaluator_.indexes_) // an index has no place among stocks
            if (operatorOf(plan_[node].op).across.isOfKnownMembers)
                values.rows[index] = StockGroups::none;
        rows = part.steady->members().size();
    }
    values.table = DayTable::unset(rows, days);
    return part;
}

void Evaluator::Question::fillAcross(std::span<const AcrossPart> parts,
                                     std::span<const NodeId> inputs, std::span<const Day> days)
{
    std::vector<DayTable> tables(inputs.size());
    const ProgressPart whole = progressPart_;
    for (std::size_t first = 0; first < days.size(); first += daysAcrossATime) {
        const std::size_t count = std::min(daysAcrossATime, days.size() - first);
        const auto some = days.subspan(first, count);
        progressPart_ = whole.part(first, count, days.size());
        if (days.size() == 1) {
            const std::vector<ColumnPtr> known = columns(inputs, days[0]);
            for (std::size_t i = 0; i < inputs.size(); ++i) {
                tables[i].reset(market_.size(), 1);
                tables[i].setDay(0, *known[i]);
            }
        } else {
            fillTables(inputs, some, tables);
        }
        for (const AcrossPart& part : parts) {
            if (plan_[part.node].item == 1)
                removeUntraded(tables[part.firstInput], some);
            acrossDays(part, std::span(tables).subspan(part.firstInput), first, count);
        }
    }
    progressPart_ = whole;
}

/// What the part makes of its inputs' tables, which begin at day `first` of its own.
void Evaluator::Question::acrossDays(const AcrossPart& part, std::span<const DayTable> inputs,
                                     std::size_t first, std::size_t days) const
{
    const Node& node = plan_[part.node];
    const bool isByYesNo = part.isGrouped && plan_[plan_[part.node].inputs[1]].kind == Kind::YesNo;
    const bool isOneAGroup = part.isOneAGroup(node.op);
    if (isOneAGroup && part.steady->members().empty())
        return;                         // nobody is in any group
    constexpr std::size_t together = 8; // days that share the processor's lines
    inParallel((days + together - 1) / together, [&](std::size_t at) {
        stopIfTold();
        const std::size_t begin = at * together;
        const std::size_t count = std::min(together, days - begin);
        std::vector<Column> figures(count, Column(market_.size()));
        std::vector<Column> groups(part.steady ? 0 : count, Column(market_.size()));
        std::vector<Column> ofGroups(isOneAGroup ? count : 0,
                                     Column(isOneAGroup ? part.steady->members().size() : 0));
        inputs[0].copyDays(begin, figures);
        if (!part.steady)
            inputs[1].copyDays(begin, groups);
        for (std::size_t day = 0; day < count; ++day) {
            for (const std::size_t index : evaluator_.indexes_) // an index is no stock
                figures[day][index] = missing;
            if (isOneAGroup)
                acrossGroups(node, figures[day], *part.steady,
                             day > 0 ? std::span<const double>(ofGroups[day - 1])
                                     : std::span<const double>(),
                             ofGroups[day]);
            else
                across(node, figures[day],
                       part.steady ? *part.steady : StockGroups::of(groups[day], isByYesNo),
                       figures[day]);
        }
        part.values.table.setDays(first + begin, isOneAGroup ? ofGroups : figures);
    });
}

void Evaluator::Question::cacheAcross(const AcrossPart& part, std::span<const Day> days)
{
    for (std::size_t day = 0; day < days.size(); ++day) {
        const auto column = std::make_shared<Column>(market_.size(), missing);
        const std::vector<std::uint32_t>& rows = part.values.rows;
        if (rows.empty())
            part.values.table.copyDay(day, *column);
        for (std::size_t i = 0; i < rows.size(); ++i)
            if (rows[i] != StockGroups::none)
                (*column)[i] = part.values.table.at(rows[i], day);
        evaluator_.cache_.keep(acrossKey(part.node), days[day], column);
    }
}

/// Leaves out what belongs to a bar of an earlier day.
void Evaluator::Question::removeUntraded(DayTable& figures, std::span<const Day> days) const
{
    eachInstrument([&](std::size_t instrument) {
        const std::span<const Day> own = market_.bars(instrument).days;
        for (std::size_t day = 0; day < days.size(); ++day)
            if (!std::ranges::binary_search(own, days[day]))
                figures.set(instrument, day, missing);
    });
}

} // namespace sieve::engine
