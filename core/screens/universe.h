#pragma once

#include "core/market/market.h"
#include "core/screens/name_book.h"

#include <string>
#include <string_view>
#include <vector>

namespace sieve::screens {

/// A ready condition for the universe of a screen.
struct UniverseChoice {
    std::string group; ///< "Exchange", "Close at least", …
    std::string title;
    std::string condition;
    bool isExclusive = true; ///< it takes the place of others of its group
};

/// What this market and this person's lists and screens can be narrowed by, group by group.
std::vector<UniverseChoice> universeChoices(const market::Market& market, const NameBook& book);

/// Whether a condition is one of the parts that a universe joins by `and`.
bool holdsCondition(std::string_view universe, std::string_view condition);

/// The universe with the choice put in, in place of what it excludes, or taken out when it was in.
/// What else the universe says stays. A universe that is no grammar is left as it is.
std::string withChoice(std::string_view universe, const UniverseChoice& choice,
                       const std::vector<UniverseChoice>& all);

} // namespace sieve::screens
