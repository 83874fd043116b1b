#pragma once

#include "core/engine/plan.h"

namespace sieve::engine {

// The place of a figure among those of a group's members. `figures` has one a stock; missing ones
// have no place and count for none.

/// Writes each member's percentile: 100 * (less + equal / 2) / count, equal counting itself.
void percentiles(const Node& part, std::span<const double> figures,
                 std::span<const std::uint32_t> members, std::span<double> out);
/// Writes each member's rank: 1 + number greater.
void ranks(const Node& part, std::span<const double> figures,
           std::span<const std::uint32_t> members, std::span<double> out);

/// The least figure of a member whose place keeps to the part's limit; infinite where none does,
/// missing where no member has a figure. A place never falls as the figure grows.
/// Cost: linear in the members, a tenth of ordering them.
double leastPlaced(const Node& limit, std::span<const double> figures,
                   std::span<const std::uint32_t> members, double near);

} // namespace sieve::engine
