#pragma once

#include "core/studies/neighbours.h"
#include "core/studies/study_files.h"

#include <string>
#include <vector>

namespace sieve::cli {

/// What the commands of studies may be given beside what all have; a file goes before the options.
struct StudiesRequest {
    studies::FollowingQuestion following;
    studies::StandingsTerms standings;
    std::vector<std::string> screens; ///< by name; empty: what the text or file says, or all
    std::string by;                   ///< what cases are told apart by
    std::string benchmark = "benchmark";
    bool isWorths = false; ///< of measures: worths, not returns
    bool isCurve = false;  ///< day by day
    std::optional<Day> split; ///< the day that parts what was looked at from what was set aside
    bool isStocks = false; ///< of standings: the stocks that were bought
    std::vector<std::size_t> limits{1, 2}; ///< of neighbours: which are moved, of those that can be, from 1
    std::size_t steps = 20;
};

} // namespace sieve::cli
