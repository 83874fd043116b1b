#include "core/engine/bar_pass.h"

#include "core/base/fetch_ahead.h"
#include "core/engine/operators/values.h"

#include <algorithm>
#include <array>
#include <map>
#include <numeric>

namespace sieve::engine {

namespace {

constexpr std::size_t blockBars = 256;

/// Fetches what tells where an instrument's bars, statements and, right behind them, splits lie;
/// beyond the last instrument, nothing. Always inlined: see fetchLines.
[[gnu::always_inline]] inline void fetchListing(const market::Market& market, std::size_t at)
{
    if (at >= market.size())
        return;
    fetchLines(&market.tenure(at), &market.tenure(at) + 1);
    const auto* const end = reinterpret_cast<const char*>(&market.statements(at) + 1);
    fetchLines(&market.bars(at), end + 64);
}

void combineSeries(Series& series, std::size_t from, std::size_t to)
{
    if (isOfTwo(series.op) && series.inputs[1]->op == Op::Constant)
        return combineWith(series.op, series.inputs[0]->valuesFrom(from),
                           series.inputs[1]->node->number, series.out(from, to));
    std::array<const double*, 8> few{};
    std::vector<const double*> many;
    std::span<const double*> inputs =
        std::span(few).first(std::min<std::size_t>(series.inputs.size(), 8));
    if (series.inputs.size() > few.size()) {
        many.resize(series.inputs.size());
        inputs = many;
    }
    for (std::size_t i = 0; i < inputs.size(); ++i)
        inputs[i] = series.inputs[i]->valuesFrom(from);
    combine(series.op, inputs, series.out(from, to));
}

} // namespace

BarPass::BarPass(const Context& context, const Plan& plan, std::span<const NodeId> targets,
                 Depth depth)
    : run_{context, {}, {}}
{
    std::map<NodeId, std::size_t> placeOf;
    std::vector<std::vector<std::size_t>> inputs;
    for (const NodeId id : plan.neededAlongBars(targets)) {
        std::vector<std::size_t>& own = inputs.emplace_back();
        Series series;
        series.id = id;
        series.node = &plan[id];
        series.op = series.node->op;
        series.by = &operatorOf(series.op);
        const Operator& by = *series.by;
        series.fill = by.fill;
        series.isOfTheDay = plan.isOfTheDay(id);
        series.readsAcross = by.family == Family::AcrossStocks;
        countsBars_ = countsBars_ && !by.namedBars;
        if (by.lookback)
            series.lookback = by.lookback(*series.node);
        if (by.mayReadMore && depth == Depth::WholeHistory)
            series.lookback.most = indicators::wholeHistory;
        if (by.memory)
            series.memory = by.memory(context, plan, *series.node, depth);
        if (by.family != Family::AcrossStocks && !changesBars(by.op))
            for (const NodeId input : series.node->inputs) {
                own.push_back(placeOf.at(input));
                series.readsAcross = series.readsAcross || series_[own.back()].readsAcross;
            }
        placeOf[id] = series_.size();
        series_.push_back(std::move(series));
    }
    for (const NodeId target : targets)
        targets_.push_back(placeOf.at(target));
    setStages(inputs);
}

void BarPass::setStages(std::span<const std::vector<std::size_t>> inputs)
{
    std::vector<bool> isRead(series_.size()); // outside of its own stage
    std::size_t inputCount = 0;
    for (const std::size_t target : targets_)
        isRead[target] = true;
    for (std::size_t i = 0; i < series_.size(); ++i) {
        Series& series = series_[i];
        series.stage = series.by->family == Family::ValueByValue ? 1 : 0;
        for (const std::size_t input : inputs[i]) {
            const unsigned stage = series_[input].stage;
            const unsigned after = stage + (stage % 2 == series.stage % 2U ? 0U : 1U);
            series.stage = std::max(series.stage, static_cast<std::uint16_t>(after));
        }
        for (const std::size_t input : inputs[i])
            isRead[input] = isRead[input] || series_[input].stage != series.stage;
        inputCount += inputs[i].size();
    }
    std::vector<std::size_t> order(series_.size());
    std::iota(order.begin(), order.end(), std::size_t{0});
    std::ranges::stable_sort(order, {}, [this](std::size_t i) { return series_[i].stage; });
    std::vector<std::size_t> placeOf(series_.size());
    for (std::size_t place = 0; place < order.size(); ++place)
        placeOf[order[place]] = place;
    inputs_.reserve(inputCount); // what points into them stays
    std::vector<Series> arranged;
    arranged.reserve(series_.size());
    for (const std::size_t i : order) {
        Series& series = arranged.emplace_back(std::move(series_[i]));
        series.isTransient = series.stage % 2 == 1 && !isRead[i];
        for (const std::size_t input : inputs[i])
            inputs_.push_back(&arranged[placeOf[input]]);
        series.inputs = std::span(inputs_).last(inputs[i].size());
        if (series.by->fetch)
            fetching_.push_back(arranged.size() - 1);
    }
    series_ = std::move(arranged);
    for (std::size_t& target : targets_)
        target = placeOf[target];
}

void BarPass::prepare(const BarFrame& frame, std::size_t from, std::size_t to,
                      std::span<const Bars> ofTargets)
{
    require(to <= frame.size(), "BarPass: bars beyond the last");
    run_.frame = frame;
    const Bars before = std::exchange(run_.asked, {from, to});
    if (isMovable_ && ofTargets.empty() && to - from == before.to - before.from &&
        from + earliest_ >= before.from)
        return moveBy(from - before.from);
    ofTargets_.assign(ofTargets.begin(), ofTargets.end());
    for (Series& series : series_)
        series.from = series.to = 0;
    for (std::size_t i = 0; i < targets_.size(); ++i)
        series_[targets_[i]].include(ofTargets.empty() ? run_.asked : ofTargets[i]);
    isMovable_ = countsBars_ && extended_.empty() && ofTargets.empty();
    for (auto series = series_.rbegin(); series != series_.rend(); ++series)
        if (series->isNeeded())
            findNeeds(*series);
    reserve();
    earliest_ = firstBar();
}

/// The needs of as many bars elsewhere: each part's lie as far from them as before. `distance` may
/// be one back, modulo 2^64.
void BarPass::moveBy(std::size_t distance)
{
    earliest_ += distance;
    for (Series& series : series_)
        if (series.isNeeded()) {
            series.from += distance;
            series.to += distance;
            series.base = series.from;
        }
}

void BarPass::findNeeds(const Series& series)
{
    Bars bars{series.from, series.to};
    if (series.by->namedBars) {
        bars = series.by->namedBars(*series.node, run_.frame, bars);
    } else {
        isMovable_ = isMovable_ && bars.from >= series.lookback.most;
        bars.from -= std::min(bars.from, series.lookback.most);
        bars.to -= std::min(bars.to, series.lookback.least);
    }
    for (Series* const input : series.inputs)
        input->include(bars);
}

void BarPass::reserve()
{
    for (Series& series : series_)
        if (series.isNeeded()) {
            const std::size_t bars = series.to - series.from;
            series.reserve(series.isTransient ? std::min(bars, blockBars) : bars);
        }
}

std::size_t BarPass::firstBar() const
{
    std::size_t first = run_.asked.to;
    for (const Series& series : series_)
        if (series.isNeeded())
            first = std::min(first, series.from);
    return first;
}

bool BarPass::compute(std::size_t from, std::size_t to)
{
    FetchAhead& ahead = FetchAhead::own();
    for (std::size_t i = 0; i < series_.size();) {
        Series& series = series_[i];
        if (series.stage % 2 == 1) {
            std::size_t end = i;
            while (end < series_.size() && series_[end].stage == series.stage)
                ++end;
            combineStage(std::span(series_).subspan(i, end - i), from, to);
            i = end;
            continue;
        }
        const std::size_t first = std::max(from, series.from);
        const std::size_t end = std::min(to, series.to);
        const bool isOpen = first < end && !(hasDone_ && series.isDone());
        if (isOpen && !series.fill(series, run_, first, end)) {
            tooShort_ = i;
            return false;
        }
        ahead.fetch(series.op == Op::Indicator ? 8 : 4); // as many as arrive meanwhile
        ++i;
    }
    return true;
}

void BarPass::fetchNext(const market::Market& market, std::size_t next)
{
    fetchListing(market, next + 2); // further ahead: where something lies waits for memory too
    const std::size_t barsAfter = run_.frame.size() - run_.asked.to;
    FetchAhead& ahead = FetchAhead::own();
    ahead.clear();
    if (const std::span<const Day> days = market.bars(next).days; days.size() > barsAfter) {
        const Day* const day = &days[days.size() - 1 - barsAfter];
        fetchLines(day, day + 1);
    }
    for (const std::size_t i : fetching_)
        series_[i].by->fetch(series_[i], run_, market, next, ahead);
}

void BarPass::combineStage(std::span<Series> stage, std::size_t from, std::size_t to)
{
    std::size_t first = to;
    std::size_t end = from;
    for (const Series& series : stage)
        if (series.isNeeded()) {
            first = std::min(first, std::max(from, series.from));
            end = std::max(end, std::min(to, series.to));
        }
    for (; first < end; first += blockBars)
        for (Series& series : stage) {
            const std::size_t begin = std::max(first, series.from);
            const std::size_t until = std::min({first + blockBars, end, series.to});
            if (begin >= until)
                continue;
            if (series.isTransient)
                series.base = begin;
            combineSeries(series, begin, until);
        }
}

void BarPass::run(const BarFrame& frame, std::size_t from, std::size_t to,
                  std::span<const Bars> ofTargets)
{
    prepare(frame, from, to, ofTargets);
    if (std::exchange(hasDone_, false))
        for (Series& series : series_)
            series.done = {};
    while (!compute(0, to)) {
        if (series_[tooShort_].readsAcross) // for more bars than were prepared
            throw NeedsWholeHistory{};
        hasDone_ = true;
        for (std::size_t i = 0; i < tooShort_; ++i) // what needs no more bars stays as it is
            if (!series_[i].by->liesInPlace)
                series_[i].done = {series_[i].from, series_[i].to};
        extendLookback();
        prepare(frame, from, to, ofTargets);
    }
    resetLookbacks();
}

void BarPass::extendLookback()
{
    isMovable_ = false;
    std::size_t& most = series_[tooShort_].lookback.most;
    require(most < run_.asked.to, "BarPass: a kernel wants more than the whole history");
    extended_.emplace_back(tooShort_, most);
    most = 4 * std::max<std::size_t>(most, 32);
}

void BarPass::resetLookbacks()
{
    for (; !extended_.empty(); extended_.pop_back())
        series_[extended_.back().first].lookback.most = extended_.back().second;
}

std::span<const double> BarPass::values(std::size_t target) const
{
    const Series& series = series_[targets_.at(target)];
    const Bars bars = ofTargets_.empty() ? run_.asked : ofTargets_[target];
    if (bars.isEmpty())
        return {};
    return {series.valuesFrom(bars.from), bars.to - bars.from};
}

} // namespace sieve::engine
