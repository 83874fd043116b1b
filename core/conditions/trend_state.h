#pragma once

#include "core/conditions/line.h"
#include "core/conditions/market_book.h"

#include <cstddef>
#include <optional>
#include <string_view>
#include <vector>

namespace sieve::conditions {

enum class Trend { Rising, Sideways, Falling };
std::string_view trendName(Trend trend); ///< "rising", "sideways", "falling"

/// The state on each bar of a line; empty until there are bars enough to say. A state is made of
/// what was known on its day and never changes in hindsight.
using TrendHistory = std::vector<std::optional<Trend>>;

/// What a rule makes of a line, with what a person should hear of the rule.
struct TrendReading {
    TrendHistory history;
    std::size_t contradictions = 0; ///< bars on which rising and falling both hold: sideways
    std::optional<LocatedError> error = std::nullopt; ///< of the rule; then there is no history
    std::string errorIn = {};                         ///< "rising", "rising_ends", …
};

/// Errors: Stopped. A rule that does not check gives its error.
TrendReading readTrend(engine::Evaluator& evaluator, const language::Names& names, const Line& line,
                       const TrendRule& rule, const Progress& progress = {});

/// For how many bars, up to `bar`, the state has been what it is then; 0 where there is none.
std::size_t ageInBars(const TrendHistory& history, std::size_t bar);

/// The first bar of each state up to `bar`, the newest first.
struct TrendChange {
    std::size_t bar = 0;
    std::optional<Trend> before;
    std::optional<Trend> now;
};
std::vector<TrendChange> changesOf(const TrendHistory& history, std::size_t bar);

/// How often a line was in which state.
struct TrendSummary {
    double rising = missing; ///< share of all bars; missing without bars
    double falling = missing;
    std::size_t changes = 0;
};
TrendSummary summaryOf(const TrendHistory& history);

/// What the rule lacks to be useful, in plain words; empty when nothing: it never turns, or it
/// contradicts itself.
std::string remarkOn(const TrendReading& reading);

} // namespace sieve::conditions
