#pragma once

#include <cstddef>
#include <string_view>

namespace sieve {

/// How many slips of the pen lie between two words: letters to change, add, drop or swap with a
/// neighbour; `enough` when they are that many or more. Letters are bytes.
/// Source: optimal string alignment distance (Damerau 1964, Levenshtein 1966).
std::size_t slipsBetween(std::string_view a, std::string_view b, std::size_t enough);

} // namespace sieve
