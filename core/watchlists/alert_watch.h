#pragma once

#include "core/conditions/reading.h"
#include "core/watchlists/alert.h"
#include "core/watchlists/list_told.h"

#include <span>
#include <string>
#include <vector>

namespace sieve::watchlists {

/// What alerts are put to.
struct AlertQuestion {
    std::span<const Shared<Alert>> alerts;
    std::span<const Shared<Watchlist>> lists;
    TradingTerms terms = {};
    const conditions::Reading* reading = nullptr; ///< null: rules of the market tell nothing
};

/// What the alerts tell of the sessions after one day up to another, in the order of days, then of
/// alerts. Each day is judged as known at its close, from what an alert was set to (`Alert::since`)
/// on, so that the same is told whether the program ran on that day or not, and nothing is told
/// twice:
///   - a condition, a level or a state crosses when it holds on a bar and did not on the one
///   before;
///     the day on which the alert was set counts as before;
///   - *once*: the first time of each stock; *each crossing*; *once a day*: every day on which it
///     holds;
///   - a stock is told of again after `holdOff` sessions at the earliest; nothing is told up to
///     `quietTo`.
/// An alert that is off, or whose condition does not check, tells nothing; `errors` says of the
/// latter why, an alert's id each.
struct Watched {
    std::vector<Raised> raised;
    std::vector<std::pair<std::int64_t, LocatedError>> errors = {};
};
/// Errors: Stopped.
Watched watch(const AlertQuestion& question, engine::Evaluator& evaluator,
              const language::Names& names, Day after, Day to, const Progress& progress = {});

/// What an alert waits for, in a sentence of the trade: "ABCD at 41.50", "rsi(close, 14) < 30".
std::string sentenceOf(const Alert& alert, std::span<const Shared<Watchlist>> lists);

} // namespace sieve::watchlists
