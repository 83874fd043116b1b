#pragma once

#include "core/engine/target_plan.h"

#include <span>

namespace sieve::engine {

/// The same question with each comparison of a percentile or rank with a number, such as
/// `percentile(x) >= 65`, put as one of the figure itself with the least figure whose place keeps
/// to that limit. A place never falls as the figure grows, so the answers are the same; but finding
/// one figure a day costs a tenth of ordering all stocks, and is kept as one value instead of
/// thousands. Over many days only: for one day places are kept, so that a moved limit costs
/// nothing.
TargetPlan withPlaceLimits(const Plan& plan, std::span<const NodeId> targets);

} // namespace sieve::engine
