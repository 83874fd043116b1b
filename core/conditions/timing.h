#pragma once

#include "core/conditions/line.h"
#include "core/conditions/market_book.h"

#include <optional>
#include <string>
#include <vector>

namespace sieve::conditions {

/// A timing rule over a line's history.
struct RuleHistory {
    std::vector<std::optional<bool>> on = {};         ///< a bar; nothing where it cannot be said
    std::optional<LocatedError> error = std::nullopt; ///< then there is no history
    bool isErrorInLeave = false;
};

/// All rules at once, so that what they share is counted once.
/// Errors: Stopped. A rule that does not check gives its error.
std::vector<RuleHistory> ruleHistories(engine::Evaluator& evaluator, const language::Names& names,
                                       const Line& line, std::span<const TimingRule> rules,
                                       const Progress& progress = {});

/// One part of a condition's outermost `and` on one day.
struct RulePart {
    std::string text;
    std::optional<bool> holds; ///< nothing where it cannot be said
    /// Of a part that compares figures: what stands on either side, and by how much the first must
    /// move for the part to hold (or, where it holds, to fail) in its own unit; else missing.
    std::string field;
    double value = missing;
    double bound = missing;
    double distance = missing;
    Unit unit = Unit::Plain;
    /// The line's close on the next session that would turn the part: the nearest one within
    /// `mostMove` of the newest, sought in steps of one percent and then halved to a millionth.
    /// Missing where none does, or where the part also asks what a close of the line cannot tell
    /// (breadth, another line, volume).
    double turningClose = missing;
};
inline constexpr double mostMove = 0.25;

/// A condition's parts as they stood on the line's newest bar by `day`; empty for one that does not
/// check, or when the line has no bar yet.
/// Errors: Stopped.
std::vector<RulePart> partsOf(engine::Evaluator& evaluator, const language::Names& names,
                              const Line& line, std::string_view condition, Day day,
                              const Progress& progress = {});

} // namespace sieve::conditions
