#pragma once

#include "core/base/shared.h"
#include "core/charts/set_up.h"
#include "core/market/market.h"
#include "core/watchlists/watchlist.h"

#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::charts {

/// A line that a chart's prices can be compared with.
struct Comparable {
    std::string kind;       ///< "index", "sector", "your list", …
    std::string title;      ///< its name, of an instrument after the symbol
    std::string expression; ///< of the language
};

/// The benchmark and all shares together, indexes, the person's lists, sectors, exchanges,
/// industries, then all other instruments. One with a quotation mark in its name cannot be said in
/// the language and is left out.
std::vector<Comparable> comparables(const market::Market& market,
                                    std::span<const Shared<watchlists::Watchlist>> lists);

/// The set-up with the line laid over the prices, from one start, in a colour that the others do
/// not have as long as there is one, on a percent scale.
/// Missing: empty where it has as many layers as can be read.
std::optional<SetUp> comparedWith(SetUp setUp, const Comparable& other);

} // namespace sieve::charts
