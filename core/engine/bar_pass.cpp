#include "core/engine/bar_pass.h"

#include "core/base/fetch_ahead.h"
#include "core/base/lower_case.h"
#include "core/engine/across.h"
#include "core/engine/leaves.h"
#include "core/engine/other_bars.h"
#include "core/engine/values.h"

#include <algorithm>
#include <array>
#include <numeric>
#include <utility>

namespace sieve::engine {

namespace {

constexpr std::size_t blockBars = 256;

bool isOfStatements(Op op)
{
    return op == Op::Quarter || op == Op::Year || op == Op::TrailingTwelveMonths ||
           op == Op::Stability;
}

market::Period periodOf(Op op)
{
    return op == Op::Year ? market::Period::Year : market::Period::Quarter;
}

/// Whether which bars a part reads depends on more than how far they lie from the bar asked for.
bool namesBars(Op op)
{
    return op == Op::OnBar || op == Op::OnDay || op == Op::AtYearEnd;
}

} // namespace

BarPass::~BarPass() = default;
BarPass::BarPass(BarPass&&) noexcept = default;

BarPass::BarPass(const Surroundings& surroundings, const Plan& plan,
                 std::span<const NodeId> targets, Depth depth)
    : surroundings_(surroundings), plan_(plan), depth_(depth)
{
    std::map<NodeId, std::size_t> stepOf;
    std::vector<std::vector<std::size_t>> inputs;
    for (const NodeId id : plan.neededAlongBars(targets)) {
        std::vector<std::size_t>& own = inputs.emplace_back();
        Step step;
        step.id = id;
        step.node = &plan[id];
        step.op = step.node->op;
        hasAcross_ = hasAcross_ || isAcross(step.op);
        countsBars_ = countsBars_ && !namesBars(step.op);
        if (step.op == Op::Indicator)
            step.reach = step.node->indicator->reach(step.node->settings);
        if (changesBars(step.op)) {
            const bool isOther = step.op == Op::OtherStock || step.op == Op::Composite;
            if (isOther)
                step.other = std::make_unique<OtherValues>(surroundings, plan, *step.node, depth);
            else
                step.scaled = std::make_unique<ScaledValues>(surroundings, plan, *step.node, depth);
        } else if (!isAcross(step.op)) {
            for (const NodeId input : step.node->inputs)
                own.push_back(stepOf.at(input));
        }
        stepOf[id] = steps_.size();
        steps_.push_back(std::move(step));
    }
    for (const NodeId target : targets)
        targets_.push_back(stepOf.at(target));
    setStages(inputs);
}

void BarPass::setStages(std::span<const std::vector<std::size_t>> inputs)
{
    std::vector<bool> isRead(steps_.size()); // outside of its own stage
    std::size_t inputCount = 0;
    for (const std::size_t target : targets_)
        isRead[target] = true;
    for (std::size_t i = 0; i < steps_.size(); ++i) {
        Step& step = steps_[i];
        step.stage = isValueByValue(step.op) ? 1 : 0;
        for (const std::size_t input : inputs[i]) {
            const std::uint32_t stage = steps_[input].stage;
            step.stage = std::max(step.stage, stage + (stage % 2 == step.stage % 2 ? 0U : 1U));
        }
        for (const std::size_t input : inputs[i])
            isRead[input] = isRead[input] || steps_[input].stage != step.stage;
        inputCount += inputs[i].size();
    }
    std::vector<std::size_t> order(steps_.size());
    std::iota(order.begin(), order.end(), std::size_t{0});
    std::ranges::stable_sort(order, {}, [this](std::size_t i) { return steps_[i].stage; });
    std::vector<std::size_t> placeOf(steps_.size());
    for (std::size_t place = 0; place < order.size(); ++place)
        placeOf[order[place]] = place;
    inputs_.reserve(inputCount); // what points into it stays
    std::vector<Step> steps;
    for (const std::size_t i : order) {
        Step& step = steps.emplace_back(std::move(steps_[i]));
        step.isPassing = step.stage % 2 == 1 && !isRead[i];
        for (const std::size_t input : inputs[i])
            inputs_.push_back(placeOf[input]);
        step.inputs = std::span(inputs_).last(inputs[i].size());
        if (step.op == Op::BarColumn || isOfStatements(step.op))
            reading_.push_back(steps.size() - 1);
    }
    steps_ = std::move(steps);
    for (std::size_t& target : targets_)
        target = placeOf[target];
}

void BarPass::Step::include(std::size_t first, std::size_t end)
{
    if (first >= end)
        return;
    from = isNeeded() ? std::min(from, first) : first;
    to = std::max(to, end);
}

void BarPass::prepare(const BarFrame& frame, std::size_t from, std::size_t to)
{
    require(to <= frame.size(), "BarPass: bars beyond the last");
    frame_ = frame;
    const std::size_t before = std::exchange(from_, from);
    const std::size_t endBefore = std::exchange(to_, to);
    if (isMovable_ && to - from == endBefore - before && from + earliest_ >= before)
        return moveBy(from - before);
    for (Step& step : steps_)
        step.from = step.to = 0;
    for (const std::size_t target : targets_)
        steps_[target].include(from, to);
    isMovable_ = countsBars_ && deepened_.empty();
    for (auto step = steps_.rbegin(); step != steps_.rend(); ++step)
        if (step->isNeeded())
            findNeeds(*step);
    reserve();
    earliest_ = firstBar();
}

/// The needs of as many bars elsewhere: each part's lie as far from them as before. `distance` may
/// be one back, modulo 2^64.
void BarPass::moveBy(std::size_t distance)
{
    earliest_ += distance;
    for (Step& step : steps_)
        if (step.isNeeded()) {
            step.from += distance;
            step.to += distance;
            step.base = step.from;
        }
}

void BarPass::findNeeds(const Step& step)
{
    const Node& node = *step.node;
    const auto count = static_cast<std::size_t>(node.count);
    std::size_t first = step.from;
    std::size_t end = step.to;
    switch (node.op) {
    case Op::Prior:
        isMovable_ = isMovable_ && first >= count;
        first -= std::min(first, count);
        end -= std::min(end, count);
        break;
    case Op::Indicator:
        isMovable_ = isMovable_ && depth_ != Depth::WholeHistory && first >= step.reach;
        first = depth_ == Depth::WholeHistory ? 0 : first - std::min(first, step.reach);
        break;
    case Op::OnBar:
        end = std::min(end, count);
        first = std::max(count, std::size_t{1}) - 1;
        break;
    case Op::OnDay:
        end = std::min(end, barsBy(frame_, Day::fromSerial(static_cast<int>(node.number))));
        first = std::max(end, std::size_t{1}) - 1;
        break;
    case Op::AtYearEnd:
        end = yearEndBefore(end - 1);
        first = yearEndBefore(first);
        first = std::max(first, std::size_t{1}) - 1;
        break;
    default:
        break;
    }
    for (const std::size_t input : step.inputs)
        steps_[input].include(first, end);
}

/// How many bars there are before the year of a bar.
std::size_t BarPass::yearEndBefore(std::size_t bar) const
{
    const auto date = frame_.days[bar].date();
    const Day newYear = *Day::of({date.year(), std::chrono::January, std::chrono::day(1)});
    return barsBy(frame_, newYear.plusDays(-1));
}

void BarPass::reserve()
{
    for (Step& step : steps_) {
        if (!step.isNeeded())
            continue;
        const std::size_t count =
            step.isPassing ? std::min(step.to - step.from, blockBars) : step.to - step.from;
        if (step.store.size() < count)
            step.store.resize(count, step.node->number);
        step.at = step.store.data();
        step.base = step.from;
    }
}

std::size_t BarPass::firstBar() const
{
    std::size_t first = to_;
    for (const Step& step : steps_)
        if (step.isNeeded())
            first = std::min(first, step.from);
    return first;
}

bool BarPass::compute(std::size_t from, std::size_t to)
{
    FetchAhead& ahead = FetchAhead::own();
    for (std::size_t i = 0; i < steps_.size();) {
        Step& step = steps_[i];
        if (step.stage % 2 == 1) {
            std::size_t end = i;
            while (end < steps_.size() && steps_[end].stage == step.stage)
                ++end;
            combineStage(std::span(steps_).subspan(i, end - i), from, to);
            i = end;
            continue;
        }
        const std::size_t first = std::max(from, step.from);
        const std::size_t end = std::min(to, step.to);
        if (first < end && !(hasDone_ && step.isDone()) && !compute(step, first, end)) {
            wanting_ = i;
            return false;
        }
        ahead.fetch(step.op == Op::Indicator ? 8 : 4); // as many as arrive meanwhile
        ++i;
    }
    return true;
}

void BarPass::announce(const market::Market& market, std::size_t next)
{
    market.fetchViews(next + 2); // further ahead: to know where something lies waits for memory too
    const std::size_t barsAfter = frame_.size() - to_;
    FetchAhead& ahead = FetchAhead::own();
    ahead.clear();
    if (const std::span<const Day> days = market.bars(next).days; days.size() > barsAfter) {
        const Day* const day = &days[days.size() - 1 - barsAfter];
        fetchLines(day, day + 1);
    }
    for (const std::size_t i : reading_) {
        const Step& step = steps_[i];
        const Node& node = *step.node;
        if (isOfStatements(step.op)) {
            if (next + 1 < market.size())
                market.statements(next + 1).fetchPlace(node.item, periodOf(step.op));
            market.statements(next).fetchNewest(node.item, periodOf(step.op), barsAfter);
        } else if (step.isNeeded()) {
            const auto column = tradedColumn(market, next, node.barField);
            const std::size_t fromEnd = std::min(frame_.size() - step.from, column.size());
            ahead.add(column.last(fromEnd).first(std::min(step.to - step.from, fromEnd)));
        }
    }
}

void BarPass::combineStage(std::span<Step> stage, std::size_t from, std::size_t to)
{
    std::size_t first = to;
    std::size_t end = from;
    for (const Step& step : stage)
        if (step.isNeeded()) {
            first = std::min(first, std::max(from, step.from));
            end = std::max(end, std::min(to, step.to));
        }
    for (; first < end; first += blockBars)
        for (Step& step : stage) {
            const std::size_t begin = std::max(first, step.from);
            const std::size_t until = std::min({first + blockBars, end, step.to});
            if (begin >= until)
                continue;
            if (step.isPassing)
                step.base = begin;
            combineStep(step, begin, until);
        }
}

void BarPass::run(const BarFrame& frame, std::size_t from, std::size_t to)
{
    prepare(frame, from, to);
    if (std::exchange(hasDone_, false))
        for (Step& step : steps_)
            step.doneFrom = step.doneTo = 0;
    while (!compute(0, to)) {
        if (hasAcross_)
            throw NeedsWholeHistory{};
        hasDone_ = true;
        for (std::size_t i = 0; i < wanting_; ++i) // what needs no more bars stays as it is
            if (!steps_[i].liesInPlace()) {
                steps_[i].doneFrom = steps_[i].from;
                steps_[i].doneTo = steps_[i].to;
            }
        deepen();
        prepare(frame, from, to);
    }
    restore();
}

void BarPass::deepen()
{
    isMovable_ = false;
    Step& step = steps_[wanting_];
    require(step.reach < to_, "BarPass: a kernel wants more than the whole history");
    deepened_.emplace_back(wanting_, step.reach);
    step.reach = 4 * std::max<std::size_t>(step.reach, 32);
}

void BarPass::restore()
{
    for (; !deepened_.empty(); deepened_.pop_back())
        steps_[deepened_.back().first].reach = deepened_.back().second;
}

std::span<const double> BarPass::values(std::size_t target) const
{
    const Step& step = steps_[targets_.at(target)];
    return {step.valueAt(from_), to_ - from_};
}

bool BarPass::compute(Step& step, std::size_t from, std::size_t to)
{
    const Node& node = *step.node;
    switch (step.op) {
    case Op::Constant:
        return true; // its store was filled when it was made
    case Op::TextConstant:
        textConstant(step, from, to);
        return true;
    case Op::BarColumn:
        barColumn(step, from, to);
        return true;
    case Op::BarDay:
        for (std::size_t bar = from; bar < to; ++bar)
            step.store[bar - step.from] = frame_.days[bar].serial();
        return true;
    case Op::BarNumber:
        for (std::size_t bar = from; bar < to; ++bar)
            step.store[bar - step.from] = static_cast<double>(bar + 1);
        return true;
    case Op::Indicator:
        return indicator(step, from, to);
    case Op::Prior:
        prior(step, from, to);
        return true;
    case Op::OnBar:
    case Op::OnDay:
    case Op::AtYearEnd:
    case Op::AsTraded:
        pick(step, from, to);
        return true;
    case Op::Contains:
        contains(step, from, to);
        return true;
    case Op::Weekly:
    case Op::Monthly:
    case Op::Minutes:
        step.scaled->fill(frame_, from, step.storeOf(from, to));
        return true;
    case Op::OtherStock:
    case Op::Composite:
        step.other->fill(frame_.days.subspan(from, to - from), step.storeOf(from, to));
        return true;
    default:
        break;
    }
    if (isAcross(step.op)) {
        acrossColumn(step, from, to);
    } else {
        fillLeaf(node, frame_, from, step.storeOf(from, to));
    }
    return true;
}

/// The number of a text among those of the market; each has its own.
void BarPass::textConstant(Step& step, std::size_t from, std::size_t to)
{
    if (step.textsOf != frame_.market) {
        const auto number = frame_.market->texts().find(step.node->text);
        step.number = number ? static_cast<double>(*number) : -1.0; // equals no text of the market
        step.textsOf = frame_.market;
    }
    std::ranges::fill(step.storeOf(from, to), step.number);
}

void BarPass::combineStep(Step& step, std::size_t from, std::size_t to)
{
    if (isOfTwo(step.op) && steps_[step.inputs[1]].op == Op::Constant)
        return combineWith(step.op, steps_[step.inputs[0]].valueAt(from),
                           steps_[step.inputs[1]].node->number, step.storeOf(from, to));
    std::array<const double*, 8> few{};
    std::vector<const double*> many;
    std::span<const double*> inputs =
        std::span(few).first(std::min<std::size_t>(step.inputs.size(), 8));
    if (step.inputs.size() > few.size()) {
        many.resize(step.inputs.size());
        inputs = many;
    }
    for (std::size_t i = 0; i < inputs.size(); ++i)
        inputs[i] = steps_[step.inputs[i]].valueAt(from);
    combine(step.op, inputs, step.storeOf(from, to));
}

void BarPass::barColumn(Step& step, std::size_t from, std::size_t to)
{
    const auto inPlace = barsInPlace(frame_, step.node->barField, step.from, step.to);
    step.at = inPlace.empty() ? step.store.data() : inPlace.data();
    if (inPlace.empty())
        frame_.market->adjusted(frame_.instrument, step.node->barField, frame_.footing, from,
                                step.storeOf(from, to));
}

bool BarPass::indicator(Step& step, std::size_t from, std::size_t to)
{
    // All inputs are cut to the bars that this part needs, whatever more others asked of them.
    const Node& node = *step.node;
    const std::size_t reach = depth_ == Depth::WholeHistory ? from : std::min(from, step.reach);
    const std::size_t first = from - reach;
    std::array<indicators::Values, 5> columns;
    for (std::size_t i = 0; i < step.inputs.size(); ++i) {
        const Step& input = steps_[step.inputs[i]];
        columns.at(i) = {input.valueAt(first), to - first};
    }
    return node.indicator->compute(
        {std::span(columns).first(step.inputs.size()), node.settings, {first, from}},
        step.storeOf(from, to));
}

void BarPass::acrossColumn(Step& step, std::size_t from, std::size_t to)
{
    const std::span<const Day> sessions = surroundings_.market.sessions();
    const AcrossValues& across = surroundings_.across.at(step.id);
    const bool isStock = frame_.market == &surroundings_.market; // a line has no rank among stocks
    const std::size_t row = plan_.isOfTheDay(step.id) ? 0
                            : !isStock                ? Groups::none
                            : across.rows.empty()     ? frame_.instrument
                                                      : across.rows[frame_.instrument];
    auto session = static_cast<std::size_t>(std::ranges::lower_bound(sessions, frame_.days[from]) -
                                            sessions.begin());
    for (std::size_t bar = from; bar < to;) {
        while (sessions[session] < frame_.days[bar])
            ++session;
        const std::size_t place = across.places[session];
        std::size_t count = 0; // bars on sessions that stand together in the table
        while (bar + count < to && session + count < sessions.size() &&
               frame_.days[bar + count] == sessions[session + count] &&
               across.places[session + count] == place + count)
            ++count;
        if (row != Groups::none)
            across.table.copyInstrument(row, place, step.storeOf(bar, bar + count));
        else
            std::ranges::fill(step.storeOf(bar, bar + count), missing);
        bar += count;
        session += count;
    }
}

void BarPass::prior(Step& step, std::size_t from, std::size_t to)
{
    const Step& input = steps_[step.inputs[0]];
    const auto count = static_cast<std::size_t>(step.node->count);
    if (step.from >= count) { // where its input lies
        step.at = input.valueAt(step.from - count);
        return;
    }
    step.at = step.store.data();
    const std::size_t known = std::clamp(count, from, to); // bars before it have none
    double* out = step.store.data() + (from - step.from);
    out = std::fill_n(out, known - from, missing);
    if (known < to)
        std::copy_n(input.valueAt(known - count), to - known, out);
}

/// Values that stand on other bars of the same input, or on another footing.
void BarPass::pick(Step& step, std::size_t from, std::size_t to)
{
    const Node& node = *step.node;
    const Step& input = steps_[step.inputs[0]];
    const auto count = static_cast<std::size_t>(node.count);
    const auto take = [&](std::size_t bar, bool isThere, std::size_t source) {
        step.store[bar - step.from] = isThere ? *input.valueAt(source) : missing;
    };
    const std::size_t dayEnd =
        node.op == Op::OnDay ? barsBy(frame_, Day::fromSerial(static_cast<int>(node.number))) : 0;
    for (std::size_t bar = from; bar < to; ++bar) {
        switch (node.op) {
        case Op::OnBar:
            take(bar, count >= 1 && bar + 1 >= count, count - 1);
            break;
        case Op::OnDay: // before that day nobody knew
            take(bar,
                 dayEnd > 0 && bar + 1 >= dayEnd &&
                     frame_.days[bar].serial() >= static_cast<int>(node.number),
                 dayEnd - 1);
            break;
        case Op::AtYearEnd: {
            const bool isSameYear =
                bar > from && frame_.days[bar].date().year() == frame_.days[bar - 1].date().year();
            if (isSameYear) {
                step.store[bar - step.from] = step.store[bar - step.from - 1];
            } else {
                const std::size_t end = yearEndBefore(bar);
                take(bar, end > 0, end - 1);
            }
            break;
        }
        default: {
            const double factor =
                frame_.market->priceFactor(frame_.instrument, frame_.days[bar], frame_.footing);
            const double value = *input.valueAt(bar);
            step.store[bar - step.from] =
                node.unit == Unit::Shares ? value * factor : value / factor;
        }
        }
    }
}

void BarPass::contains(Step& step, std::size_t from, std::size_t to)
{
    const market::TextTable& texts = surroundings_.market.texts();
    const std::string sought = lowerCase(step.node->text);
    double number = missing;
    double answer = missing;
    for (std::size_t bar = from; bar < to; ++bar) {
        const double own = *steps_[step.inputs[0]].valueAt(bar);
        if (own != number)
            answer = isMissing(own) || own < 0.0
                         ? missing
                         : (lowerCase(texts.text(static_cast<std::uint32_t>(own))).find(sought) !=
                                    std::string::npos
                                ? 1.0
                                : 0.0);
        number = own;
        step.store[bar - step.from] = answer;
    }
}

} // namespace sieve::engine
