#pragma once

#include "core/conditions/timing.h"

#include <vector>

namespace sieve::conditions {

/// The share of the money that may be at work on each bar of a line: the shares of the rules that
/// are on, at most all of it, and none while a rule to stand aside is on. A rule of which nothing
/// can be said adds nothing.
/// Shape:   0 to 1 a bar; missing where nothing can be said of any rule.
/// Requires: a history a rule, all as long as the line or empty.
std::vector<double> stanceOver(std::span<const TimingRule> rules,
                               std::span<const RuleHistory> histories, std::size_t bars);

/// How a line went while the stance was one and the same.
struct StanceSpell {
    double stance = 0.0;
    std::size_t sessions = 0;     ///< days that ended with it
    std::size_t spells = 0;       ///< how often it began
    double change = missing;      ///< of the line on the sessions that followed, compounded
    double changeAYear = missing; ///< the same as a rate for 252 sessions
};

/// One a stance that occurred up to `bar`, the largest first. What was known at a close applies to
/// the session after it.
std::vector<StanceSpell> stanceSpells(std::span<const double> stance,
                                      std::span<const double> closes, std::size_t bar);

} // namespace sieve::conditions
