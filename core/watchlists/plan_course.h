#pragma once

#include "core/base/progress.h"
#include "core/engine/evaluator.h"
#include "core/language/checker.h"
#include "core/watchlists/entry.h"
#include "core/watchlists/trading_terms.h"

#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::watchlists {

/// How a plan stands at the close of a day.
enum class PlanState {
    None,      ///< no plan, and nothing was bought
    Waiting,   ///< for its entry
    Near,      ///< so close to it as the terms say
    Triggered, ///< the entry was reached, nothing was bought yet
    RunTooFar, ///< triggered, and too far above the entry by now; or gone to the target without it
    Broken,    ///< closed at or under the stop before anything was bought
    Held,
    TargetReached, ///< held from here on
    StopReached,
    ExitSaysLeave, ///< the plan's exit rule is true
    Sold,          ///< all that was bought
};
std::string_view stateName(PlanState state); ///< "no plan", "waiting", "near", …

struct StateChange {
    Day on = Day::fromSerial(0);
    PlanState state = PlanState::None;
    std::size_t target = 0; ///< of TargetReached: which is the highest reached, from 1
    double price = missing; ///< the close, in prices of the day that was asked for
    /// Of StopReached the stop on that day, of TargetReached the target just reached; likewise.
    double level = missing;

    friend bool operator==(const StateChange& a, const StateChange& b);
};

/// A price as the trade writes it: "41.50", "0.0125".
std::string priceText(double price);

/// What it says, in a few words: "near", "target 2 reached".
std::string sentenceOf(const StateChange& change);

/// What became of an entry's plans by a day. Prices are those of that day: splits are taken out.
struct PlanCourse {
    /// Each change once, oldest first; the last one is the present state. Empty: none was ever.
    std::vector<StateChange> changes;
    /// In force on the day, where a rule gives a price with that of the day.
    std::optional<TradePlan> plan = {};
    std::optional<Day> enteredOn = {};     ///< when the plan in force said to buy
    double enteredAt = missing;            ///< at which price it would have
    std::vector<LocatedError> errors = {}; ///< rules that do not check; they count as not there

    PlanState state() const { return changes.empty() ? PlanState::None : changes.back().state; }
};

/// What the rules of one plan come to, a value a bar of those below. Empty: there is no such rule.
struct PlanFigures {
    std::vector<double> entry = {};
    bool isEntryCondition = false; ///< 1: bought at that bar's close
    std::vector<double> stop = {};
    std::vector<double> exit = {}; ///< 1: time to leave
};

/// Walks plans, oldest first, over bars on one footing, on which prices of plans and trades stand
/// too. A plan is made at the close of its day and holds until the next one.
///
///   - An entry above the close of the plan's day is reached by a high, one under it by a low, one
///     at it (within a tenth of a percent) at once. A condition is reached at the close.
///   - *Run too far*: a close so far above the entry as the terms say, after it was reached; or,
///     of an entry from above that was not, a close at the first target.
///   - *Broken*: a close at or under the stop; it stays so until another plan is made.
///   - Held: a low at the stop or a high at a target on a day after the purchase, on its own day
///     the close; these stay until another plan is made or all is sold. A stop comes before the
///     exit rule, that before a target.
/// Requires: figures for each plan, each empty or as long as the bars.
PlanCourse courseOf(std::span<const TradePlan> plans, std::span<const PlanFigures> figures,
                    std::span<const Trade> trades, const market::BarsView& bars,
                    const TradingTerms& terms);

/// The same for entries as known on a day; nothing for those that the market does not have. Rules
/// are put to each stock by the evaluator. A rule that does not check is told with each entry.
/// Shape:  one an entry. Errors: Stopped.
std::vector<PlanCourse> coursesOf(std::span<const Entry> entries, engine::Evaluator& evaluator,
                                  const language::Names& names, const TradingTerms& terms, Day day,
                                  const Progress& progress = {});

} // namespace sieve::watchlists
