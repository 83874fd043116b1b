#pragma once

#include "core/conditions/groups.h"
#include "core/conditions/stance.h"
#include "core/conditions/trend_state.h"

#include <array>
#include <vector>

namespace sieve::conditions {

/// A line with its states at each horizon, in the order of `horizons`.
struct LineReading {
    Line line;
    std::array<TrendReading, 3> trends;
};

/// The state of the whole market on every session by the rules of a book. Each session's part is
/// made of what was known then, so that an as-of day shows the part up to it.
struct Reading {
    MarketBook book;
    std::vector<LineReading> lines; ///< see marketLines; the rules are put to the first
    std::vector<RuleHistory> rules; ///< a rule of the book, over the first line
    std::vector<double> stance;     ///< a bar of the first line, see stanceOver
    bool isProvisional = false;     ///< the newest session still runs

    const Line& market() const { return lines.front().line; }
};

/// Errors: Stopped. Rules that do not check give their errors and no states.
Reading readMarket(engine::Evaluator& evaluator, const language::Names& names,
                   const MarketBook& book, const Progress& progress = {});

} // namespace sieve::conditions
