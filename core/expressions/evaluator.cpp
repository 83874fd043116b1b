#include "core/expressions/evaluator.h"

#include "core/expressions/across.h"

#include <algorithm>
#include <atomic>
#include <set>
#include <tbb/enumerable_thread_specific.h>
#include <tbb/parallel_for.h>

namespace sieve::expressions {

namespace {

/// Bars of one instrument that share a footing, for days [firstDay, endDay) of a question.
struct Stretch {
    std::size_t footing;
    std::size_t firstBar;
    std::size_t endBar;
    std::vector<std::pair<std::size_t, std::size_t>> dayBars; ///< (place of the day, bar)
};

std::vector<Stretch> stretchesOf(const market::Market& market, std::size_t instrument,
                                 std::span<const Day> days)
{
    std::vector<Stretch> stretches;
    for (std::size_t i = 0; i < days.size(); ++i) {
        const auto bar = market::barOn(market, instrument, days[i]);
        if (!bar)
            continue;
        const std::size_t footing = market.footing(instrument, *bar);
        if (stretches.empty() || stretches.back().footing != footing)
            stretches.push_back({footing, *bar, *bar + 1, {}});
        stretches.back().endBar = *bar + 1;
        stretches.back().dayBars.emplace_back(i, *bar);
    }
    return stretches;
}

} // namespace

Evaluator::Evaluator(market::MarketPtr market, std::size_t cacheBudget)
    : market_(std::move(market)), cacheBudget_(cacheBudget)
{
    require(market_ != nullptr, "Evaluator: no market");
}

ColumnPtr Evaluator::cached(NodeKey node, Day day) const
{
    const std::scoped_lock lock(mutex_);
    const auto found = cache_.find({node, day});
    return found == cache_.end() ? nullptr : found->second;
}

void Evaluator::keep(NodeKey node, Day day, const ColumnPtr& column)
{
    const std::size_t bytes = column->size() * sizeof(double) + sizeof(CacheKey);
    const std::scoped_lock lock(mutex_);
    if (cachedBytes_ + bytes > cacheBudget_) {
        cache_.clear();
        cachedBytes_ = 0;
    }
    if (cache_.try_emplace({node, day}, column).second)
        cachedBytes_ += bytes;
}

std::vector<std::vector<ColumnPtr>> Evaluator::alongBars(const Plan& plan,
                                                         std::span<const NodeId> targets,
                                                         std::span<const Day> days,
                                                         const Progress& progress)
{
    const std::size_t count = market_->size();
    std::vector<std::vector<std::shared_ptr<Column>>> columns(targets.size());
    for (auto& ofTarget : columns)
        for (std::size_t i = 0; i < days.size(); ++i)
            ofTarget.push_back(std::make_shared<Column>(count, missing));
    const AcrossTable table = acrossUnder(plan, targets, days, progress);
    tbb::enumerable_thread_specific<BarPass> passes(
        [&] { return BarPass(*market_, plan, targets, table); });
    std::atomic<std::size_t> done = 0;
    tbb::parallel_for(std::size_t{0}, count, [&](std::size_t instrument) {
        if (progress.stopRequested())
            throw Stopped{};
        BarPass& pass = passes.local();
        for (const Stretch& stretch : stretchesOf(*market_, instrument, days)) {
            pass.run(instrument, stretch.footing, stretch.firstBar, stretch.endBar);
            for (std::size_t t = 0; t < targets.size(); ++t) {
                const std::span<const double> values = pass.values(targets[t]);
                for (const auto& [day, bar] : stretch.dayBars)
                    (*columns[t][day])[instrument] = values[bar - stretch.firstBar];
            }
        }
        progress.report(static_cast<double>(++done) / static_cast<double>(count), "evaluating");
    });
    std::vector<std::vector<ColumnPtr>> finished;
    for (auto& ofTarget : columns)
        finished.emplace_back(ofTarget.begin(), ofTarget.end());
    return finished;
}

AcrossTable Evaluator::acrossUnder(const Plan& plan, std::span<const NodeId> targets,
                                   std::span<const Day> days, const Progress& progress)
{
    const AcrossTable none;
    BarPass pass(*market_, plan, targets, none);
    const std::vector<NodeId> order = plan.neededAlongBars(targets);
    if (std::ranges::none_of(order, [&](NodeId id) { return isAcross(plan[id].op); }))
        return {};
    std::map<NodeId, std::set<Day>> needed;
    for (std::size_t instrument = 0; instrument < market_->size(); ++instrument)
        for (const Stretch& stretch : stretchesOf(*market_, instrument, days))
            pass.visitAcross(stretch.firstBar, stretch.endBar,
                             [&](NodeId node, std::size_t from, std::size_t to) {
                                 const auto barDays = market_->bars(instrument).days;
                                 needed[node].insert(
                                     barDays.begin() + static_cast<std::ptrdiff_t>(from),
                                     barDays.begin() + static_cast<std::ptrdiff_t>(to));
                             });
    AcrossTable table;
    for (const auto& [node, daySet] : needed)
        table[node] =
            acrossOn(plan, node, std::vector<Day>(daySet.begin(), daySet.end()), progress);
    return table;
}

std::map<Day, ColumnPtr> Evaluator::acrossOn(const Plan& plan, NodeId id, std::span<const Day> days,
                                             const Progress& progress)
{
    std::map<Day, ColumnPtr> byDay;
    std::vector<Day> absent;
    for (const Day day : days)
        if (ColumnPtr known = cached(plan.key(id), day))
            byDay[day] = std::move(known);
        else
            absent.push_back(day);
    if (absent.empty())
        return byDay;

    const Node& node = plan[id];
    std::vector<std::vector<ColumnPtr>> inputs; // a column an input and day
    if (absent.size() == 1)
        for (ColumnPtr& column : columns(plan, node.inputs, absent[0]))
            inputs.push_back({std::move(column)});
    else
        inputs = alongBars(plan, node.inputs, absent, progress);
    const bool isGrouped = node.inputs.size() > 1;
    for (std::size_t i = 0; i < absent.size(); ++i) {
        Column figures = *inputs[0][i];
        for (std::size_t each = 0; each < figures.size(); ++each) // an index is no stock
            if (market_->instrument(each).kind == market::InstrumentKind::Index)
                figures[each] = missing;
        auto column = std::make_shared<Column>(figures.size());
        across(node.op, figures, isGrouped ? std::span(*inputs[1][i]) : std::span<const double>(),
               isGrouped && plan[node.inputs[1]].kind == Kind::YesNo, *column);
        keep(plan.key(id), absent[i], column);
        byDay[absent[i]] = std::move(column);
    }
    return byDay;
}

std::vector<ColumnPtr> Evaluator::columns(const Plan& plan, std::span<const NodeId> targets,
                                          Day day)
{
    // Value-by-value parts are combined from whole columns, so that each part's column can be kept.
    std::map<NodeId, ColumnPtr> known;
    std::vector<NodeId> alongBarsTargets;
    std::vector<NodeId> toCombine;
    std::vector<NodeId> open(targets.begin(), targets.end());
    std::set<NodeId> seen;
    while (!open.empty()) {
        const NodeId id = open.back();
        open.pop_back();
        if (!seen.insert(id).second)
            continue;
        if (ColumnPtr column = cached(plan.key(id), day)) {
            known[id] = std::move(column);
        } else if (isValueByValue(plan[id].op)) {
            toCombine.push_back(id);
            open.insert(open.end(), plan[id].inputs.begin(), plan[id].inputs.end());
        } else {
            alongBarsTargets.push_back(id);
        }
    }
    if (!alongBarsTargets.empty()) {
        const Day days[] = {day};
        auto fresh = alongBars(plan, alongBarsTargets, days, {});
        for (std::size_t i = 0; i < alongBarsTargets.size(); ++i) {
            keep(plan.key(alongBarsTargets[i]), day, fresh[i][0]);
            known[alongBarsTargets[i]] = std::move(fresh[i][0]);
        }
    }
    std::ranges::sort(toCombine); // inputs have lower numbers
    std::vector<bool> isListed(toCombine.empty() ? 0 : market_->size());
    for (std::size_t i = 0; i < isListed.size(); ++i)
        isListed[i] = market::barOn(*market_, i, day).has_value();
    std::vector<double> values;
    for (const NodeId id : toCombine) {
        const Node& node = plan[id];
        auto column = std::make_shared<Column>(market_->size(), missing);
        values.resize(node.inputs.size());
        for (std::size_t i = 0; i < column->size(); ++i) {
            if (!isListed[i])
                continue;
            for (std::size_t input = 0; input < values.size(); ++input)
                values[input] = (*known[node.inputs[input]])[i];
            (*column)[i] = combine(node.op, values);
        }
        keep(plan.key(id), day, column);
        known[id] = std::move(column);
    }
    std::vector<ColumnPtr> result;
    for (const NodeId target : targets)
        result.push_back(known[target]);
    return result;
}

ColumnPtr Evaluator::column(const Plan& plan, NodeId target, Day day)
{
    const NodeId targets[] = {target};
    return columns(plan, targets, day)[0];
}

std::vector<ColumnPtr> Evaluator::columnsOver(const Plan& plan, NodeId target,
                                              std::span<const Day> days, const Progress& progress)
{
    const NodeId targets[] = {target};
    return std::move(alongBars(plan, targets, days, progress)[0]);
}

std::vector<double> Evaluator::history(const Plan& plan, NodeId target, std::size_t instrument,
                                       Day day)
{
    const std::span<const Day> days = market_->bars(instrument).days;
    const auto end = static_cast<std::size_t>(std::ranges::upper_bound(days, day) - days.begin());
    if (end == 0)
        return {};
    const NodeId targets[] = {target};
    const AcrossTable none;
    std::map<NodeId, std::set<Day>> needed;
    BarPass survey(*market_, plan, targets, none);
    survey.visitAcross(0, end, [&](NodeId node, std::size_t from, std::size_t to) {
        needed[node].insert(days.begin() + static_cast<std::ptrdiff_t>(from),
                            days.begin() + static_cast<std::ptrdiff_t>(to));
    });
    AcrossTable table;
    for (const auto& [node, daySet] : needed)
        table[node] = acrossOn(plan, node, std::vector<Day>(daySet.begin(), daySet.end()), {});
    BarPass pass(*market_, plan, targets, table);
    pass.run(instrument, market_->footing(instrument, end - 1), 0, end);
    const std::span<const double> values = pass.values(target);
    return {values.begin(), values.end()};
}

} // namespace sieve::expressions
