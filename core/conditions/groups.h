#pragma once

#include "core/engine/evaluator.h"
#include "core/language/checker.h"
#include "core/market/composite.h"

#include <array>
#include <optional>
#include <string>
#include <vector>

namespace sieve::conditions {

/// A sector, or an industry of one, as a line of its shares at equal weight.
struct Group {
    std::string name;
    std::optional<std::size_t> sector; ///< of an industry: its place among the groups
    std::vector<std::size_t> shares;   ///< instruments, listed or not
    market::Composite line;
    std::vector<double> members; ///< a session: shares that are listed
    std::vector<double> above;   ///< a session: of them, above their 50-day average; a share
};

/// A market's groups: each sector, followed by its industries. Shares without a sector are in none.
struct Groups {
    std::vector<Day> sessions;
    std::vector<Group> all;
};

/// Errors: Stopped when `progress` says so.
Groups readGroups(engine::Evaluator& evaluator, const Progress& progress = {});

/// The condition of the language that picks a group's shares.
std::string conditionOf(const Groups& groups, std::size_t group);

/// How long ago ranks are told, in sessions: now, a week, a month, a quarter.
inline constexpr std::array<std::size_t, 4> rankAges{0, 5, 21, 63};
inline constexpr std::size_t rankPathSessions = 64;

/// What groups are ranked by: a figure a group on each of the newest sessions up to one, oldest
/// first.
struct GroupFigures {
    std::size_t session = 0;
    Unit unit = Unit::Percent;
    std::vector<std::vector<double>> values; ///< a group: the newest `rankPathSessions` at most
};

/// The change of each group's line over `span` sessions. Requires: a session of the groups;
/// span >= 1.
GroupFigures changesOver(const Groups& groups, std::size_t session, std::size_t span);
/// The median of a figure of the language over each group's shares, as known on each session.
/// Errors: the text's, located; Stopped.
Result<GroupFigures> mediansOf(engine::Evaluator& evaluator, const language::Names& names,
                               const Groups& groups, std::string_view figure, std::size_t session,
                               const Progress& progress = {});

/// Where a group stood on a session.
struct RankedGroup {
    std::size_t group = 0; ///< its place among the groups
    double members = 0;
    double above = missing;                            ///< see Group
    double figure = missing;                           ///< what it is ranked by
    std::array<std::optional<std::size_t>, 4> ranks{}; ///< see rankAges; 1 has most
    std::vector<double>
        path; ///< its rank on each of the newest sessions, missing where it had none
};

/// The sectors (`sector` empty) or one sector's industries on the figures' session, the largest
/// figure first; those without one stand last. Ranks are among these groups, as they stood on each
/// day; equal figures share the better rank. A group without members has none.
std::vector<RankedGroup> rankGroups(const Groups& groups, std::optional<std::size_t> sector,
                                    const GroupFigures& figures);

/// A group's shares that are listed on a day, the greatest figure first; those without one stand
/// last, equal ones in the market's order.
/// Shape: figures[market], or empty: all without one.
std::vector<std::size_t> rankShares(const Group& group, const market::Market& market, Day day,
                                    std::span<const double> figures);

} // namespace sieve::conditions
