#include "core/engine/place_limits.h"

#include "core/engine/operators/values.h"

#include <algorithm>
#include <optional>
#include <utility>

namespace sieve::engine {

namespace {

/// What a figure must keep to, and whether the comparison holds for those that do or for the
/// others.
struct Limit {
    PlaceLimit place;
    bool holdsAbove;
};

std::optional<Limit> limitOf(Op comparison, Op place)
{
    const bool isRank = place == Op::Rank;
    switch (comparison) {
    case Op::GreaterEqual:
        return isRank ? Limit{PlaceLimit::RankBelow, false}
                      : Limit{PlaceLimit::PercentileAtLeast, true};
    case Op::Greater:
        return isRank ? Limit{PlaceLimit::RankAtMost, false}
                      : Limit{PlaceLimit::PercentileAbove, true};
    case Op::LessEqual:
        return isRank ? Limit{PlaceLimit::RankAtMost, true}
                      : Limit{PlaceLimit::PercentileAbove, false};
    case Op::Less:
        return isRank ? Limit{PlaceLimit::RankBelow, true}
                      : Limit{PlaceLimit::PercentileAtLeast, false};
    default:
        return std::nullopt;
    }
}

/// Whether it is a place among groups that no day changes, where one figure serves a whole group.
bool isPlace(const Plan& plan, NodeId id)
{
    const Node& node = plan[id];
    return (node.op == Op::Percentile || node.op == Op::Rank) &&
           (node.inputs.size() == 1 || plan[node.inputs[1]].op == Op::TextField);
}

/// The comparison put in another way; nothing where it is none of a place with a number.
std::optional<Node> restated(Plan& plan, const Node& comparison)
{
    if (comparison.inputs.size() != 2)
        return std::nullopt;
    NodeId place = comparison.inputs[0];
    NodeId number = comparison.inputs[1];
    Op op = comparison.op;
    if (plan.isConstant(place)) {
        std::swap(place, number);
        op = mirrored(op);
    }
    if (!isPlace(plan, place) || !plan.isConstant(number) || isMissing(plan[number].number))
        return std::nullopt;
    const std::optional<Limit> limit = limitOf(op, plan[place].op);
    if (!limit)
        return std::nullopt;
    const NodeId figure = plan[place].inputs[0];
    Node least = plan[place];
    least.op = Op::LeastPlaced;
    least.place = limit->place;
    least.number = plan[number].number;
    least.kind = plan[figure].kind;
    least.unit = plan[figure].unit;
    Node answer = comparison;
    answer.op = limit->holdsAbove ? Op::GreaterEqual : Op::Less;
    answer.inputs = {figure, plan.add(std::move(least))};
    return answer;
}

} // namespace

TargetPlan withPlaceLimits(const Plan& plan, std::span<const NodeId> targets)
{
    TargetPlan made;
    rewrite(plan, targets, made, [&made](Node node) {
        const std::optional<Node> other = restated(made.plan, node);
        return made.plan.add(other.value_or(std::move(node)));
    });
    return made;
}

} // namespace sieve::engine
