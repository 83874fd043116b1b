#include "core/engine/gated_pass.h"

#include "core/engine/operators/values.h"
#include "core/indicators/wide.h"

#include <algorithm>
#include <array>
#include <cstdint>

namespace sieve::engine {

namespace {

/// Of the parts asked together; beyond it, to know first where the answer is no spares more than
/// it costs to begin anew.
constexpr double costAtOnce = 12.0;

/// What a part costs a bar, in comparisons: an estimate, which decides about the order only.
double costOf(const Node& node)
{
    const double cost = operatorOf(node.op).cost;
    if (!node.indicator)
        return cost;
    return cost + static_cast<double>(node.indicator->reach(node.settings)) / 64.0; // a recursion
}

/// A criterion with its parts.
struct Criterion {
    NodeId id = 0;
    std::vector<NodeId> parts;
    double cost = 0.0;

    Criterion(const Plan& plan, NodeId of) : id(of), parts(plan.neededAlongBars(std::span(&of, 1)))
    {
        for (const NodeId part : parts)
            cost += costOf(plan[part]);
    }
    std::size_t reach(const Plan& plan) const
    {
        std::size_t most = 0;
        for (const NodeId part : parts)
            if (plan[part].indicator)
                most = std::max(most, plan[part].indicator->reach(plan[part].settings));
        return most;
    }
};

/// The one target that is worth asking criterion by criterion, if the others cost nothing beside
/// it.
std::optional<std::size_t> screenAmong(const Plan& plan, std::span<const NodeId> targets)
{
    std::optional<std::size_t> screen;
    for (std::size_t i = 0; i < targets.size(); ++i) {
        if (plan[targets[i]].op == Op::BarColumn || plan.isConstant(targets[i]))
            continue;
        if (screen || plan[targets[i]].op != Op::And)
            return std::nullopt;
        screen = i;
    }
    return screen;
}

constexpr std::size_t barsTogether = 16;

/// Whether among each `barsTogether` answers one is other than no.
SIEVE_WIDE void markUndecided(const double* answers, std::size_t blocks, char* marks)
{
    for (std::size_t block = 0; block < blocks; ++block) {
        std::uint64_t open = 0;
        for (std::size_t i = 0; i < barsTogether; ++i)
            open |= answers[block * barsTogether + i] == 0.0 ? 0U : 1U;
        marks[block] = static_cast<char>(open);
    }
}

} // namespace

GatedPass::GatedPass(const Context& context, const Plan& plan, std::span<const NodeId> targets,
                     Depth depth)
    : screen_(screenAmong(plan, targets))
{
    std::vector<NodeId> others;
    for (std::size_t i = 0; i < targets.size(); ++i) {
        placeOf_.push_back(others.size());
        if (i != screen_)
            others.push_back(targets[i]);
    }
    others_.emplace(context, plan, others, depth);
    if (screen_)
        addLevels(context, plan, plan[targets[*screen_]].inputs, depth);
}

void GatedPass::addLevels(const Context& context, const Plan& plan,
                          std::span<const NodeId> criteria, Depth depth)
{
    std::vector<Criterion> all;
    std::vector<NodeId> steady;
    for (const NodeId id : criteria) {
        if (plan.isSteady(id))
            steady.push_back(id);
        else
            all.emplace_back(plan, id);
    }
    if (!steady.empty())
        steady_.emplace(context, plan, steady, depth);
    std::ranges::stable_sort(all, {}, &Criterion::cost);
    for (std::size_t first = 0; first < all.size();) {
        std::vector<NodeId> together;
        double cost = 0.0;
        std::size_t reach = 0;
        for (; first < all.size() && (together.empty() || cost + all[first].cost <= costAtOnce);
             ++first) {
            together.push_back(all[first].id);
            cost += all[first].cost;
            reach = std::max(reach, all[first].reach(plan));
        }
        levels_.push_back(
            {BarPass(context, plan, together, depth), std::clamp<std::size_t>(reach / 4, 64, 256)});
    }
}

void GatedPass::run(const BarFrame& frame, std::size_t from, std::size_t to)
{
    others_->run(frame, from, to);
    if (!screen_)
        return;
    from_ = from;
    values_.assign(to - from, 1.0);
    if (steady_ && from < to) {
        steady_->run(frame, from, from + 1);
        double answer = 1.0;
        for (std::size_t i = 0; i < steady_->targets(); ++i)
            answer = combine(Op::And, std::array{answer, steady_->values(i)[0]});
        values_.assign(to - from, answer);
    }
    selection_.assign(1, {from, to});
    for (Level& level : levels_) {
        narrowSelection(level.farApart);
        for (const Bars& bars : selection_)
            ask(level, frame, bars);
    }
}

/// What a level's criteria make of the answers before them.
void GatedPass::ask(Level& level, const BarFrame& frame, const Bars& bars)
{
    level.pass.run(frame, bars.from, bars.to);
    const auto values = std::span(values_).subspan(bars.from - from_, bars.to - bars.from);
    answers_.assign(1, values.data());
    for (std::size_t i = 0; i < level.pass.targets(); ++i)
        answers_.push_back(level.pass.values(i).data());
    combine(Op::And, answers_, values);
}

/// Leaves out of the open bars long runs of such on which a criterion said no.
void GatedPass::narrowSelection(std::size_t farApart)
{
    nextSelection_.clear();
    for (const Bars& bars : selection_) {
        const std::size_t whole = (bars.to - bars.from) / barsTogether;
        marks_.assign(whole + 1, 1); // a last few bars stay open
        markUndecided(&values_[bars.from - from_], whole, marks_.data());
        bool isNew = true;
        for (std::size_t bar = bars.from; bar < bars.to; bar += barsTogether) {
            if (!marks_[(bar - bars.from) / barsTogether])
                continue;
            if (isNew || bar >= nextSelection_.back().to + farApart)
                nextSelection_.push_back({bar, bar});
            nextSelection_.back().to = std::min(bar + barsTogether, bars.to);
            isNew = false;
        }
    }
    std::swap(selection_, nextSelection_);
}

std::span<const double> GatedPass::values(std::size_t target) const
{
    return target == screen_ ? std::span(values_) : others_->values(placeOf_.at(target));
}

} // namespace sieve::engine
