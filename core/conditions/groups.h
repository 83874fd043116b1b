#pragma once

#include "core/expressions/evaluator.h"
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
Groups readGroups(expressions::Evaluator& evaluator, const Progress& progress = {});

/// How long ago ranks are told, in sessions: now, a week, a month, a quarter.
inline constexpr std::array<std::size_t, 4> rankAges{0, 5, 21, 63};
inline constexpr std::size_t rankPathSessions = 64;

/// Where a group stood on a session.
struct GroupStanding {
    std::size_t group = 0; ///< its place among the groups
    double members = 0;
    double above = missing;                            ///< see Group
    double change = missing;                           ///< of its line over the sessions asked
    std::array<std::optional<std::size_t>, 4> ranks{}; ///< see rankAges; 1 rose most
    std::vector<double>
        path; ///< its rank on each of the newest sessions, missing where it had none
};

/// The sectors (`sector` empty) or one sector's industries on a session, best first by their change
/// over `span` sessions; those without one stand last. Ranks are among these groups, as they stood
/// on each day; equal changes share the better rank. A group without members has none.
/// Requires: a session of the groups; span >= 1.
std::vector<GroupStanding> rankGroups(const Groups& groups, std::optional<std::size_t> sector,
                                      std::size_t session, std::size_t span);

} // namespace sieve::conditions
