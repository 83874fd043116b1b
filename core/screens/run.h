#pragma once

#include "core/engine/evaluator.h"
#include "core/screens/guidance.h"
#include "core/screens/screen.h"

#include <cstddef>
#include <optional>
#include <span>
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
    std::vector<LimitFigures> limits; ///< see limitsOf
};

struct ScreenRun {
    Day day = Day::fromSerial(0);
    std::size_t universe = 0;        ///< stocks that the criteria are put to
    std::vector<std::size_t> stocks; ///< these, in the market's order
    std::vector<CriterionCount> criteria;
    std::optional<LocatedError> universeError; ///< then every stock is in
    std::optional<LocatedError> rankError;     ///< then they stand by symbol
    std::size_t passing = 0;                   ///< before the best are taken
    std::vector<std::size_t> matches; ///< instruments, best first; equals by symbol, missing last
    Guidance guidance;
};

/// Puts the screen to all stocks listed on `day` (indexes are none). A stock passes on a plain yes
/// only. A criterion that is off or has an error lets all pass; one that is off is counted alone
/// all the same.
ScreenRun run(const Screen& screen, const language::Names& names, engine::Evaluator& evaluator,
              Day day, const Progress& progress = {});

/// The figure below which `percent` of a hundred stand, among the stocks that pass all above a
/// criterion, of what its limit shows (see LimitFigures::shown); empty where nothing is known.
std::optional<double> figureAtPercent(const Screen& screen, const language::Names& names,
                                      engine::Evaluator& evaluator, Day day, std::size_t criterion,
                                      std::size_t limit, double percent,
                                      const Progress& progress = {});

/// Who passes a screen on one day and not on another.
struct Changes {
    std::vector<std::size_t> entered; ///< instruments, in the market's order
    std::vector<std::size_t> left;
    std::vector<std::size_t> stayed;
};

/// What became of a screen's matches from one day to another, each as known on that day; before the
/// best are taken, so that a stock does not leave because another came.
Changes changesBetween(const Screen& screen, const language::Names& names,
                       engine::Evaluator& evaluator, Day from, Day to,
                       const Progress& progress = {});

/// How many stocks there are on a day, and how many of them pass. An index is none.
struct DayCount {
    std::size_t passing = 0;
    std::size_t stocks = 0;
};

/// Counts a condition on each of some days, ascending, each as known on that day.
/// Errors: Stopped, when `progress` says so.
std::vector<DayCount> countOver(const engine::Plan& plan, engine::NodeId condition,
                                engine::Evaluator& evaluator, std::span<const Day> days,
                                const Progress& progress = {});

/// A screen as parts of a plan: its universe (where it has one), the condition that all criteria
/// which are on make with it, and what it ranks by (money in the market's currency). A criterion
/// with an error lets all pass.
struct ScreenNodes {
    std::optional<engine::NodeId> universe;
    engine::NodeId condition = 0;
    std::optional<engine::NodeId> rank;
};
ScreenNodes nodesOf(const Screen& screen, const language::Names& names,
                    const market::Market& market, engine::Plan& plan);
/// What is wrong with a screen, the first thing: in its universe, a criterion or its rank.
std::optional<LocatedError> faultOf(const Screen& screen, const language::Names& names);

/// How many pass on each of some days, ascending, each as known on that day.
/// Errors: Stopped, when `progress` says so. A criterion with an error lets all pass.
std::vector<std::size_t> passingOver(const Screen& screen, const language::Names& names,
                                     engine::Evaluator& evaluator, std::span<const Day> days,
                                     const Progress& progress = {});

/// The screen as one condition, as passes("…") takes it: all criteria that are on.
language::ScreenCondition conditionOf(const Screen& screen);

} // namespace sieve::screens
