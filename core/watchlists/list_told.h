#pragma once

#include "core/base/shared.h"
#include "core/watchlists/checklist.h"
#include "core/watchlists/plan_course.h"
#include "core/watchlists/position.h"
#include "core/watchlists/stays.h"
#include "core/watchlists/stocks.h"

#include <map>
#include <optional>
#include <vector>

namespace sieve::watchlists {

/// Everything about one entry that is computed for a day.
struct EntryTold {
    EntryResult result;
    PlanCourse course;
    Position position;
    double lossAtStop = 0.0;             ///< of what is held; see lossAt
    std::optional<Day> nextReport = {};  ///< of those that are announced by the day
    std::optional<Verdict> verdict = {}; ///< the newest by the day, by any checklist

    /// The stop of the plan in force, in prices of the day; missing: there is none.
    double stop() const { return course.plan ? course.plan->stop : missing; }
};

/// A list as of a day.
struct ListTold {
    Day day = Day::fromSerial(0);
    Watchlist list;                 ///< of one that a screen keeps: who is on it (stays.h)
    std::vector<EntryTold> entries; ///< one an entry of `list`
    Holdings holdings;
    /// Of a list that a screen keeps: who came and went; empty for others.
    std::optional<Stays> stays = {};
    std::optional<LocatedError> error = {}; ///< why the screen cannot be asked; nobody is on it
};

/// What is asked of a list.
struct ListQuestion {
    TradingTerms terms;
    Verdicts verdicts;
};

/// Errors: Stopped.
ListTold tell(const Watchlist& list, engine::Evaluator& evaluator, const language::Names& names,
              const ListQuestion& question, Day day, const Progress& progress = {});

/// How many entries are in each state, of those that occur.
std::map<PlanState, std::size_t> statesOf(const ListTold& told);

} // namespace sieve::watchlists
