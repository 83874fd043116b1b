#pragma once

#include "core/engine/operators/operator.h"

#include <array>

namespace sieve::engine {

/// Parameters that several functions have.
inline constexpr std::array anything{Parameter{"x", Accepts::Anything}};
inline constexpr std::array oneFigure{Parameter{"x"}};

// The rows of each family, in the order of their names in op.h; table.cpp puts them together.

std::span<const Operator> constantOperators();
std::span<const Operator> barOperators();
std::span<const Operator> listingOperators();
std::span<const Operator> statementOperators();
std::span<const Operator> shareOperators();
std::span<const Operator> estimateOperators();
std::span<const Operator> noticeOperators();
std::span<const Operator> valueOperators();
std::span<const Operator> alongBarsOperators();
std::span<const Operator> patternOperators();
std::span<const Operator> otherBarsOperators();
std::span<const Operator> acrossStocksOperators();

} // namespace sieve::engine
