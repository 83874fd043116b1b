#pragma once

#include "core/expressions/evaluator.h"
#include "core/expressions/vocabulary.h"
#include "core/screens/screen.h"

#include <cstddef>
#include <optional>
#include <vector>

namespace sieve::screens {

/// What one criterion does. Counts are of stocks in the universe.
struct CriterionCount {
    std::size_t alone = 0;             ///< pass it, whatever the others say
    std::size_t leftAfter = 0;         ///< pass it and all that stand above it
    std::size_t moreWithout = 0;       ///< would pass the screen if it were not there
    std::size_t noData = 0;            ///< of which it cannot be said
    std::optional<LocatedError> error; ///< it does not count while it has one
    std::vector<LocatedError> warnings;
};

struct ScreenRun {
    Day day = Day::fromSerial(0);
    std::size_t universe = 0; ///< stocks that the criteria are put to
    std::vector<CriterionCount> criteria;
    std::optional<LocatedError> universeError; ///< then every stock is in
    std::optional<LocatedError> rankError;     ///< then they stand by symbol
    std::size_t passing = 0;                   ///< before the best are taken
    std::vector<std::size_t> matches;          ///< instruments, best first; missing ranks last
};

/// Puts the screen to all stocks listed on `day` (indexes are none). A stock passes on a plain yes
/// only. A criterion that is off or has an error lets all pass; one that is off is counted alone
/// all the same.
ScreenRun run(const Screen& screen, const expressions::Vocabulary& vocabulary,
              expressions::Evaluator& evaluator, Day day);

} // namespace sieve::screens
