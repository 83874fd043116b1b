#pragma once

#include "core/engine/plan.h"

#include <string_view>

namespace sieve::language {

/// The operation that a sign of the language stands for. Requires: one that the parser lets
/// through.
engine::Op comparisonNamed(std::string_view name); ///< < <= > >= == !=
engine::Op arithmeticNamed(std::string_view name); ///< + - * / ^

} // namespace sieve::language
