#pragma once

#include "core/engine/plan.h"

#include <optional>

namespace sieve::engine {

/// The instrument on whose bars a part's input lies: the benchmark, or the one that its symbol
/// names (an empty one: the benchmark). Empty when the market has none, and for every other part.
std::optional<std::size_t> otherInstrument(const Node& node, const market::Market& market);

} // namespace sieve::engine
