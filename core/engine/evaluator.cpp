#include "core/engine/evaluator.h"

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
    : market_(std::move(market)), cacheBudget_(cacheBudget), cache_(cacheBudget)
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
    tbb::parallel_for(std::size_t{0}, targets.size(), [&](std::size_t i) {
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
                      const Progress& progress)
{
    const Asked asked(*market_, plan, targets);
    if (days.size() == 1)
        return Question(*this, asked.plan(), progress).sweep(asked.targets(), days, visit);
    const TargetPlan rewritten = withPlaceLimits(asked.plan(), asked.targets());
    Question(*this, rewritten.plan, progress).sweep(rewritten.targets, days, visit);
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

MinuteHistories Evaluator::minuteHistories(const Plan& plan, std::span<const NodeId> targets,
                                           std::size_t instrument, Day day, int minutes,
                                           const Progress& progress)
{
    MinuteHistories made;
    made.values.resize(targets.size());
    const std::span<const Day> days = market_->bars(instrument).days;
    const auto end = static_cast<std::size_t>(std::ranges::upper_bound(days, day) - days.begin());
    if (end == 0)
        return made;
    ScaledBars scaled;
    scaled.open(dailyFrame(*market_, instrument, market_->footing(instrument, end - 1)),
                Op::Minutes, minutes, end);
    const BarFrame& frame = scaled.frame();
    const std::size_t size = frame.size();
    made.begins.assign(scaled.minutes().begin(), scaled.minutes().end());
    made.ofDays.assign(frame.dailyBars.begin(), frame.dailyBars.end());
    made.bars.days.assign(frame.days.begin(), frame.days.end());
    std::vector<double>* const columns[] = {&made.bars.open, &made.bars.high, &made.bars.low,
                                            &made.bars.close, &made.bars.volume};
    for (std::size_t i = 0; i < std::size(columns); ++i)
        columns[i]->assign(frame.columns.at(i).begin(), frame.columns.at(i).end());
    if (size == 0)
        return made;

    const Asked asked(*market_, plan, targets);
    std::vector<NodeId> own;
    std::vector<NodeId> others;
    for (const NodeId target : asked.targets())
        (asked.plan().isOfOwnBars(target) ? own : others).push_back(target);
    const AcrossTable none;
    const Context context{*market_, none, {}};
    BarPass pass(context, asked.plan(), own);
    pass.run(frame, 0, size);
    const auto daily = others.empty() ? std::vector<std::vector<double>>()
                                      : Question(*this, asked.plan(), progress)
                                            .histories(others, *market_, instrument, 0, end);
    std::size_t ownAt = 0;
    std::size_t otherAt = 0;
    for (std::size_t i = 0; i < targets.size(); ++i) {
        if (asked.plan().isOfOwnBars(asked.targets()[i])) {
            const auto values = pass.values(ownAt++);
            made.values[i].assign(values.begin(), values.end());
            continue;
        }
        const std::vector<double>& values = daily[otherAt++];
        for (std::size_t bar = 0; bar < size; ++bar) {
            const std::size_t of = made.ofDays[bar];
            const bool isLast = bar + 1 == size || made.ofDays[bar + 1] != of;
            made.values[i].push_back(isLast ? values[of] : of > 0 ? values[of - 1] : missing);
        }
    }
    return made;
}

} // namespace sieve::engine
