#pragma once

#include "core/engine/plan.h"
#include "core/market/composite.h"

#include <vector>

namespace sieve::engine {

/// Who is on a list, with the days on which it was. One whose symbol the market did not have then
/// is left out.
std::vector<market::Member> membersOf(const market::Market& market, const ListMembers& list);

} // namespace sieve::engine
