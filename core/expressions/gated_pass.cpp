#include "core/expressions/gated_pass.h"

#include <algorithm>

namespace sieve::expressions {

namespace {

constexpr std::size_t fewParts = 6;    ///< of a criterion that is cheap
constexpr std::size_t shortReach = 64; ///< bars
constexpr std::size_t longClosed =
    256; ///< bars; for fewer, starting anew costs more than it spares

/// Whether a criterion costs little enough to be asked first.
bool isCheap(const Plan& plan, NodeId criterion)
{
    const std::vector<NodeId> parts = plan.neededAlongBars(std::span(&criterion, 1));
    return parts.size() <= fewParts && std::ranges::none_of(parts, [&plan](NodeId id) {
               const Node& node = plan[id];
               const bool isFar =
                   node.op == Op::Indicator && node.indicator->reach(node.settings) > shortReach;
               return isFar || isAcross(node.op) || changesBars(node.op);
           });
}

std::vector<NodeId> cheapCriteria(const Plan& plan, NodeId screen)
{
    std::vector<NodeId> cheap;
    for (const NodeId criterion : plan[screen].inputs)
        if (isCheap(plan, criterion))
            cheap.push_back(criterion);
    return cheap.size() < plan[screen].inputs.size() ? cheap : std::vector<NodeId>();
}

/// The one target that is worth a gate, if the others cost nothing beside it.
std::optional<std::size_t> screenAmong(const Plan& plan, std::span<const NodeId> targets)
{
    std::optional<std::size_t> screen;
    for (std::size_t i = 0; i < targets.size(); ++i) {
        if (plan[targets[i]].op == Op::BarColumn || plan.isConstant(targets[i]))
            continue;
        if (screen || plan[targets[i]].op != Op::And || cheapCriteria(plan, targets[i]).empty())
            return std::nullopt;
        screen = i;
    }
    return screen;
}

} // namespace

GatedPass::GatedPass(const Surroundings& surroundings, const Plan& plan,
                     std::span<const NodeId> targets, Depth depth)
{
    const std::optional<std::size_t> screen = screenAmong(plan, targets);
    std::vector<NodeId> others;
    for (std::size_t i = 0; i < targets.size(); ++i) {
        placeOf_.push_back(others.size());
        if (i != screen)
            others.push_back(targets[i]);
    }
    others_.emplace(surroundings, plan, others, depth);
    if (!screen)
        return;
    screen_ = *screen;
    gate_.emplace(surroundings, plan, cheapCriteria(plan, targets[screen_]), depth);
    rest_.emplace(surroundings, plan, targets.subspan(screen_, 1), depth);
}

void GatedPass::run(const BarFrame& frame, std::size_t from, std::size_t to)
{
    others_->run(frame, from, to);
    if (!gate_)
        return;
    gate_->run(frame, from, to);
    findOpen(from, to);
    values_.assign(to - from, 0.0);
    for (const Bars& bars : open_) {
        rest_->run(frame, bars.from, bars.to);
        std::ranges::copy(rest_->values(0),
                          values_.begin() + static_cast<std::ptrdiff_t>(bars.from - from));
    }
}

std::span<const double> GatedPass::values(std::size_t target) const
{
    return gate_ && target == screen_ ? std::span(values_) : others_->values(placeOf_.at(target));
}

/// The bars between long runs of such on which a cheap criterion says no.
void GatedPass::findOpen(std::size_t from, std::size_t to)
{
    open_.clear();
    closed_.assign(to - from, 0.0);
    for (std::size_t criterion = 0; criterion < gate_->targets(); ++criterion) {
        const std::span<const double> answers = gate_->values(criterion);
        for (std::size_t i = 0; i < closed_.size(); ++i)
            closed_[i] = answers[i] == 0.0 ? 1.0 : closed_[i];
    }
    for (std::size_t i = 0; i < closed_.size(); ++i) {
        if (closed_[i] == 1.0)
            continue;
        const std::size_t bar = from + i;
        if (open_.empty() || bar >= open_.back().to + longClosed)
            open_.push_back({bar, bar});
        open_.back().to = bar + 1;
    }
}

} // namespace sieve::expressions
