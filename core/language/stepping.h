#pragma once

#include <cstddef>
#include <optional>
#include <string>
#include <string_view>

namespace sieve::language {

/// The expression with its number at a place a step on or back: a whole one by 1, another by its
/// last decimal; never below 0. Where no number lies at the place, that of the nearest one.
/// Missing: empty where there is no number, or no expression.
std::optional<std::string> withNumberStepped(std::string_view expression, std::size_t at, int by);

} // namespace sieve::language
