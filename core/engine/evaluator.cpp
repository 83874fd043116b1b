#include "core/engine/evaluator.h"
#include "core/base/parallel.h"

#include "core/engine/currencies.h"
#include "core/engine/list_members.h"
#include "core/engine/place_limits.h"
#include "core/engine/question.h"
#include "core/engine/scaled_bars.h"

#include <algorithm>

namespace sieve::engine {

namespace {

/// A question as it is put to a market: with money of several currencies brought to one.
class Asked {
public:
    Asked(const market::Market& market, const Plan& plan, std::span<const NodeId> targets)
        : plan_(plan), targets_(targets)
    {
        if (market.hasOtherCurrencies())
            rewritten_ = inOneCurrency(plan, targets);
    }

    const Plan& plan() const { return rewritten_ ? rewritten_->plan : plan_; }
    std::span<const NodeId> targets() const { return rewritten_ ? rewritten_->targets : targets_; }

private:
    const Plan& plan_;
    std::span<const NodeId> targets_;
    std::optional<TargetPlan> rewritten_;
};

/// The members of a part such as Composite; none where the market does not have its group.
std::vector<market::Member> membersBehind(const market::Market& market, const Node& part)
{
    if (part.op == Op::Composite)
        return market::allShares(market);
    if (part.op == Op::ListLine)
        return membersOf(market, *part.list);
    const auto text = market.texts().find(part.text);
    if (!text)
        return {};
    for (const auto field :
         {market::TextField::Sector, market::TextField::Industry, market::TextField::Exchange}) {
        auto members = market::sharesWith(market, field, *text);
        if (!members.empty())
            return members;
    }
    return {};
}

market::MarketPtr lineOf(const market::Market& market, const Node& part)
{
    const std::vector<market::Member> members = membersBehind(market, part);
    if (members.empty())
        return nullptr;
    const auto weight = static_cast<market::Weight>(part.item);
    market::Composite line = market::makeComposite(market, members, weight);
    market::Composite total = market::makeComposite(market, members, weight, market::Return::Total);
    if (part.op != Op::Composite) { // before the first of them there is no such line
        const Day begin = market::beginOf(market, members);
        for (market::Composite* each : {&line, &total}) {
            const auto idle = std::ranges::lower_bound(each->days, begin) - each->days.begin();
            each->days.erase(each->days.begin(), each->days.begin() + idle);
            each->levels.erase(each->levels.begin(), each->levels.begin() + idle);
        }
    }
    return line.days.empty() ? nullptr : market::marketOf(line, total);
}

} // namespace

Evaluator::Evaluator(market::MarketPtr market, std::size_t cacheBudget)
    : market_(std::move(market)), cacheBudget_(cacheBudget), cache_(cacheBudget),
      found_(cacheBudget)
{
    require(market_ != nullptr, "Evaluator: no market");
    for (std::size_t i = 0; i < market_->size(); ++i)
        if (market_->isIndex(i))
            indexes_.push_back(i);
}

market::MarketPtr Evaluator::composite(const Node& part)
{
    constexpr std::size_t mostKept = 64; // who asked for one holds it
    const std::scoped_lock lock(compositeMutex_);
    const LineKey key{part.op, part.item, part.text, part.list};
    const auto known = composites_.find(key);
    if (known != composites_.end())
        return known->second;
    if (composites_.size() >= mostKept)
        composites_.clear();
    return composites_[key] = lineOf(*market_, part);
}

std::vector<ColumnPtr> Evaluator::columns(const Plan& plan, std::span<const NodeId> targets,
                                          Day day, const Progress& progress)
{
    const Asked asked(*market_, plan, targets);
    auto columns = Question(*this, asked.plan(), progress).columns(asked.targets(), day);
    inParallel(targets.size(), [&](std::size_t i) {
        if (!plan.isConstant(targets[i]))
            return;
        Column listed = *columns[i]; // a constant is nobody's before he is listed
        for (std::size_t stock = 0; stock < listed.size(); ++stock)
            if (!market_->isListed(stock, day))
                listed[stock] = missing;
        columns[i] = std::make_shared<Column>(std::move(listed));
    });
    return columns;
}

ColumnPtr Evaluator::column(const Plan& plan, NodeId target, Day day)
{
    const NodeId targets[] = {target};
    return columns(plan, targets, day)[0];
}

std::vector<ColumnPtr> Evaluator::columnsOver(const Plan& plan, NodeId target,
                                              std::span<const Day> days, const Progress& progress)
{
    const Asked asked(*market_, plan, std::span(&target, 1));
    const TargetPlan rewritten = withPlaceLimits(asked.plan(), asked.targets());
    const auto tables =
        Question(*this, rewritten.plan, progress).tablesOver(rewritten.targets, days);
    std::vector<ColumnPtr> columns;
    for (std::size_t day = 0; day < days.size(); ++day) {
        auto column = std::make_shared<Column>(market_->size());
        tables[0].copyDay(day, *column);
        columns.push_back(std::move(column));
    }
    return columns;
}

void Evaluator::sweep(const Plan& plan, std::span<const NodeId> targets, std::span<const Day> days,
                      const std::function<void(const SweepValues&)>& visit,
                      const Progress& progress, std::span<const std::size_t> onlyWhere)
{
    require(onlyWhere.empty() || onlyWhere.size() == targets.size(), "sweep: a gate a target");
    const Asked asked(*market_, plan, targets);
    if (days.size() == 1)
        return Question(*this, asked.plan(), progress)
            .sweep(asked.targets(), days, visit, onlyWhere);
    const TargetPlan rewritten = withPlaceLimits(asked.plan(), asked.targets());
    Question(*this, rewritten.plan, progress).sweep(rewritten.targets, days, visit, onlyWhere);
}

std::vector<std::vector<double>> Evaluator::histories(const Plan& plan,
                                                      std::span<const NodeId> targets,
                                                      std::size_t instrument, Day day,
                                                      const Progress& progress, std::size_t from)
{
    return histories(plan, targets, *market_, instrument, day, from, progress);
}

std::vector<std::vector<double>>
Evaluator::histories(const Plan& plan, std::span<const NodeId> targets, const market::Market& line,
                     std::size_t instrument, Day day, std::size_t from, const Progress& progress)
{
    const std::span<const Day> days = line.bars(instrument).days;
    const auto end = static_cast<std::size_t>(std::ranges::upper_bound(days, day) - days.begin());
    if (end <= from)
        return std::vector<std::vector<double>>(targets.size());
    const Asked asked(*market_, plan, targets);
    return Question(*this, asked.plan(), progress)
        .histories(asked.targets(), line, instrument, from, end);
}

std::vector<std::vector<double>> Evaluator::lineHistories(const Plan& plan,
                                                          std::span<const NodeId> targets,
                                                          const market::Market& line, Day day,
                                                          const Progress& progress)
{
    return histories(plan, targets, line, 0, day, 0, progress);
}

std::vector<double> Evaluator::history(const Plan& plan, NodeId target, std::size_t instrument,
                                       Day day, const Progress& progress)
{
    const NodeId targets[] = {target};
    return std::move(histories(plan, targets, instrument, day, progress)[0]);
}

namespace {

/// The bars that minutes(n, …) stands on, without values.
MinuteHistories barsOf(const ScaledBars& scaled)
{
    const BarFrame& frame = scaled.frame();
    MinuteHistories made;
    made.begins.assign(scaled.minutes().begin(), scaled.minutes().end());
    made.ofDays.assign(frame.dailyBars.begin(), frame.dailyBars.end());
    made.bars.days.assign(frame.days.begin(), frame.days.end());
    std::vector<double>* const columns[] = {&made.bars.open, &made.bars.high, &made.bars.low,
                                            &made.bars.close, &made.bars.volume};
    for (std::size_t i = 0; i < std::size(columns); ++i)
        columns[i]->assign(frame.columns.at(i).begin(), frame.columns.at(i).end());
    return made;
}

/// Values that are known at the close of a day: each bar has that of the day before, and the last
/// of a session its own.
std::vector<double> knownOnBars(std::span<const std::uint32_t> ofDays,
                                std::span<const double> daily)
{
    std::vector<double> values;
    values.reserve(ofDays.size());
    for (std::size_t bar = 0; bar < ofDays.size(); ++bar) {
        const std::size_t day = ofDays[bar];
        const bool isLast = bar + 1 == ofDays.size() || ofDays[bar + 1] != day;
        values.push_back(isLast ? daily[day] : day > 0 ? daily[day - 1] : missing);
    }
    return values;
}

} // namespace

MinuteHistories Evaluator::minuteHistories(const Plan& plan, std::span<const NodeId> targets,
                                           std::size_t instrument, Day day, int minutes,
                                           const Progress& progress)
{
    const std::span<const Day> days = market_->bars(instrument).days;
    const auto end = static_cast<std::size_t>(std::ranges::upper_bound(days, day) - days.begin());
    ScaledBars scaled;
    if (end > 0)
        scaled.open(dailyFrame(*market_, instrument, market_->footing(instrument, end - 1)),
                    Op::Minutes, minutes, end);
    MinuteHistories made = barsOf(scaled);
    made.values.resize(targets.size());
    if (made.bars.size() == 0)
        return made;

    const Asked asked(*market_, plan, targets);
    std::vector<NodeId> own;
    std::vector<NodeId> others;
    for (const NodeId target : asked.targets())
        (asked.plan().isOfOwnBars(target) ? own : others).push_back(target);
    const AcrossTable none;
    const Context context{*market_, none, {}};
    BarPass pass(context, asked.plan(), own);
    pass.run(scaled.frame(), 0, made.bars.size());
    const auto daily = others.empty() ? std::vector<std::vector<double>>()
                                      : Question(*this, asked.plan(), progress)
                                            .histories(others, *market_, instrument, 0, end);
    std::size_t ownAt = 0;
    std::size_t otherAt = 0;
    for (std::size_t i = 0; i < targets.size(); ++i) {
        if (!asked.plan().isOfOwnBars(asked.targets()[i])) {
            made.values[i] = knownOnBars(made.ofDays, daily[otherAt++]);
            continue;
        }
        const auto values = pass.values(ownAt++);
        made.values[i].assign(values.begin(), values.end());
    }
    return made;
}

} // namespace sieve::engine
