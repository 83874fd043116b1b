#pragma once

#include "core/market/market.h"

#include <cstddef>
#include <span>
#include <string>
#include <vector>

namespace sieve::screens {

/// How many of a screen's matches belong to one sector, industry or exchange.
struct MatchGroup {
    std::string name; ///< empty: those of which it is not known
    std::vector<std::size_t> matches;
    std::size_t inUniverse = 0;
    double share = 0.0;    ///< of all matches
    double expected = 0.0; ///< of the universe
};

/// The groups with a member in the universe, the one with the most matches first, equals by name.
/// Shape: `matches` and `universe` are instruments; every match is in the universe.
std::vector<MatchGroup> groupMatches(const market::Market& market,
                                     std::span<const std::size_t> matches,
                                     std::span<const std::size_t> universe,
                                     market::TextField field);

} // namespace sieve::screens
