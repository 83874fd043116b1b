#pragma once

#include "core/engine/evaluator.h"
#include "core/language/checker.h"

#include <span>
#include <vector>

namespace sieve::language {

/// For each field the share of the stocks listed on `day` of which it is known, 0 to 1: what a
/// market's data can answer. Indexes are no stocks. 0 for a field that does not check, and where
/// nothing is listed.
/// Errors: Stopped, when `progress` says so.
std::vector<double> coverage(engine::Evaluator& evaluator, const Names& names,
                             std::span<const Field> fields, Day day, const Progress& progress = {});

} // namespace sieve::language
