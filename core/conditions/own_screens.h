#pragma once

#include "core/engine/evaluator.h"
#include "core/language/checker.h"

#include <span>
#include <string>
#include <vector>

namespace sieve::conditions {

/// How the matches of a person's own screens have done since: a reading of the market by what the
/// person looks for.
struct OwnScreensReading {
    std::vector<Day> days;
    std::vector<double> gained1; ///< of the matches of the session before, those that rose; a share
    std::vector<double> gained5; ///< the same of those five sessions ago
    double matches5 = 0.0;       ///< how many these were, on the last day
};

/// Share of the matches of some screens, `sessions` bars ago, whose close has risen since, as an
/// expression of the language; a stock that several screens found counts for each.
/// Requires: at least one screen; names without quotes.
std::string gainedShare(std::span<const std::string> screens, int sessions);

/// Over the newest `sessions` sessions up to `day`; missing on days without a match. Screens whose
/// names hold a quote, or that do not check, are passed over.
/// Errors: Stopped.
OwnScreensReading readOwnScreens(engine::Evaluator& evaluator, const language::Names& names,
                                 std::span<const std::string> screens, Day day,
                                 std::size_t sessions, const Progress& progress = {});

} // namespace sieve::conditions
