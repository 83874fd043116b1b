#pragma once

#include "core/conditions/trend_state.h"
#include "core/expressions/evaluator.h"
#include "core/market/composite.h"

#include <string>
#include <vector>

namespace sieve::conditions {

/// A composite with its states at each horizon.
struct Line {
    std::string title;
    market::Composite composite;
    std::vector<TrendHistory> trends; ///< a horizon, in the order of `horizons`
};

/// A share of stocks, by session of the market.
struct BreadthSeries {
    std::string title;
    std::string condition; ///< of the language
    std::vector<double> shares;
};

/// The state of the whole market on every session; each session's part is made of what was known
/// then, so that an as-of day shows the part up to it.
struct Reading {
    std::vector<Day> sessions;
    std::vector<Line> lines;
    std::vector<BreadthSeries> breadth;
};

/// Errors: Stopped when `progress` says so.
Reading readMarket(expressions::Evaluator& evaluator, const Progress& progress = {});

} // namespace sieve::conditions
