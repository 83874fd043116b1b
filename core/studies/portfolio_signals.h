#pragma once

#include "core/studies/match_bars.h"
#include "core/studies/portfolio.h"
#include "core/studies/start_picks.h"

#include <optional>
#include <vector>

namespace sieve::studies {

/// What a rule knows at the close of each of its sessions, all of it asked before trading begins.
struct PortfolioSignals {
    std::vector<int> step;        ///< a session: in force, or -1
    std::vector<char> isChoosing; ///< a session: stocks are chosen anew
    std::vector<char> isOff;      ///< a session: the exit on the market holds
    std::size_t unknownMarket = 0;
    /// A step: its best on the sessions on which it chooses; `choiceAt` says where.
    std::vector<std::shared_ptr<const StartPicks>> picks;
    std::vector<std::size_t> choiceAt; ///< a session: its place among those of its step
    std::vector<MatchedStock> exits; ///< a stock, by bar: the exit on the stock; empty without one
};

/// Requires: a rule whose numbers are sound.
/// Errors: located in its texts. Stopped.
Result<PortfolioSignals> signalsOf(const PortfolioRule& rule, std::span<const Day> sessions,
                                   const language::Names& names, engine::Evaluator& evaluator,
                                   const Progress& progress);

} // namespace sieve::studies
