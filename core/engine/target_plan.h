#pragma once

#include "core/engine/plan.h"

#include <span>
#include <vector>

namespace sieve::engine {

/// A plan with its targets.
struct TargetPlan {
    Plan plan;
    std::vector<NodeId> targets;
};

/// Puts the same question in another way: goes through what the targets need, inputs first, and
/// hands each part to `add(node)`, which adds it to the plan of `made` and gives its place there.
/// The inputs of a part that is handed out are those of the new plan.
template <class Add>
void rewrite(const Plan& plan, std::span<const NodeId> targets, TargetPlan& made, Add add)
{
    std::vector<char> isNeeded(plan.size());
    for (const NodeId target : targets)
        isNeeded[target] = 1;
    for (auto id = static_cast<NodeId>(plan.size()); id-- > 0;)
        if (isNeeded[id])
            for (const NodeId input : plan[id].inputs)
                isNeeded[input] = 1;
    std::vector<NodeId> now(plan.size()); // a part's place in the new plan
    for (NodeId id = 0; id < plan.size(); ++id) {
        if (!isNeeded[id])
            continue;
        Node node = plan[id];
        for (NodeId& input : node.inputs)
            input = now[input];
        now[id] = add(std::move(node));
    }
    for (const NodeId target : targets)
        made.targets.push_back(now[target]);
}

} // namespace sieve::engine
