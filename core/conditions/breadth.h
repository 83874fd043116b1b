#pragma once

#include "core/expressions/evaluator.h"

#include <string_view>
#include <vector>

namespace sieve::conditions {

/// The share of shares for which a condition of the language holds, on each session; those of which
/// it cannot be said are left out of the count.
/// Shape:   a fraction a session of the market, missing where it can be said of none.
/// Errors:  std::logic_error when the condition is wrong: it is the program's own; Stopped.
std::vector<double> shareOver(expressions::Evaluator& evaluator, std::string_view condition,
                              const Progress& progress = {});

} // namespace sieve::conditions
