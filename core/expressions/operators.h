#pragma once

#include "core/expressions/plan.h"

#include <string_view>

namespace sieve::expressions {

/// What a sign of the language does. Requires: one that the parser lets through.
Op comparisonNamed(std::string_view name); ///< < <= > >= == !=
Op arithmeticNamed(std::string_view name); ///< + - * / ^

/// The comparison that says the same with its sides changed.
Op mirrored(Op comparison);

} // namespace sieve::expressions
