#pragma once

#include "core/engine/evaluator.h"

#include <span>
#include <vector>

namespace sieve::watchlists {

/// Parts over a stock's bars from `from` to the newest by `day`, each as it was known on its own
/// bar: on that bar's footing, so that `close > 50` says what it said then, whatever splits came
/// later. Shape: a part, a value a bar. Errors: Stopped.
std::vector<std::vector<double>> historiesAsKnown(engine::Evaluator& evaluator,
                                                  const engine::Plan& plan,
                                                  std::span<const engine::NodeId> parts,
                                                  std::size_t stock, Day day, std::size_t from,
                                                  const Progress& progress = {});

} // namespace sieve::watchlists
