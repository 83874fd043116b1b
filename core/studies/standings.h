#pragma once

#include "core/screens/screen.h"
#include "core/studies/prices.h"
#include "core/studies/spread.h"

#include "core/base/progress.h"
#include "core/base/result.h"
#include "core/engine/evaluator.h"
#include "core/language/checker.h"

#include <cstdint>
#include <optional>
#include <span>
#include <string>
#include <vector>

namespace sieve::studies {

/// How all screens would have done, had their matches been bought on many days.
struct StandingsQuestion {
    std::vector<screens::Screen> screens;
    std::vector<Day>
        starts; ///< sessions, ascending: at whose close the screens are put (startDays)
    std::optional<int> held;      ///< sessions after the start; empty: to the end
    Day end = Day::fromSerial(0); ///< at most the as-of day
    int best = 0; ///< so many by each screen's ranking; 0: as many as the screen keeps, else all
    std::string weights =
        {}; ///< a figure of the language, by which money is shared; empty: equally
    Dividends dividends = Dividends::Reinvested;
    int picks = 199; ///< by chance
    std::uint64_t seed = 1;

    friend bool operator==(const StandingsQuestion&, const StandingsQuestion&) = default;
};

inline constexpr std::size_t mostScreens = 2000;
inline constexpr std::size_t mostStarts = 6000;
/// Of a screen whose money is not shared equally, where it keeps all.
inline constexpr int mostWeighted = 1000;
/// Picks by chance of all screens together; with more there are fewer of each.
inline constexpr std::size_t mostPicksByChance = 100'000'000;

/// The sessions from a day to another, every so many, the first of them included.
std::vector<Day> startDays(const market::Market& market, Day from, Day to, std::size_t every = 1);

/// One screen over all starts. Gains are of money that is bought with at the next open and sold
/// for at the close of the end; of a screen that looks for falls, of money that is sold short, and
/// so are those that it stands beside.
struct Standing {
    std::vector<double> gains;      ///< a start; missing without a match that could be bought
    std::vector<std::size_t> picks; ///< a start: how many were bought
    std::vector<double> all;        ///< a start: the mean of all stocks of its universe
    std::vector<double> benchmark;  ///< a start
    Spread gain;                    ///< over starts
    double meanAll = missing;       ///< over the starts that have a gain, as the next
    double meanBenchmark = missing;
    double shareAboveAll = missing; ///< of starts that have a gain
    double shareAboveBenchmark = missing;
    std::size_t empty = 0;      ///< starts without a pick
    std::size_t fewer = 0;      ///< starts with fewer than wanted, the empty ones among them
    double meanPicks = missing; ///< over all starts
    double chance = missing; ///< share of pickings by chance that did as well; see docs/studies.md
    int pickings = 0;
    /// A session from the first start to the end: the worth of money that lies in what all starts
    /// hold, a start as heavy as another when it buys; where nothing is held it lies still.
    std::vector<double> curve;
    double worstFall = missing; ///< of the curve
};

struct Standings {
    StandingsQuestion question;
    std::vector<Day> sessions;                       ///< from the first start to the end
    std::vector<std::size_t> startAt;                ///< a start: its place among the sessions
    std::vector<Standing> of;                        ///< a screen
    std::vector<std::optional<LocatedError>> faults; ///< a screen: then nothing of it is told
    std::vector<double> benchmarkCurve;
};

/// A match is bought at the open of its first bar after the start, and sold at the close of its
/// newest bar by the end; of a delisted stock that is its last close. One without a bar between
/// is left out. A start whose end has not come by the question's end is left out.
/// Errors: of the weights, located in them; no screen, no start, too many. Stopped.
Result<Standings> standingsOf(const StandingsQuestion& question, const language::Names& names,
                              engine::Evaluator& evaluator, const Progress& progress = {});

/// What a screen bought on one start.
struct StandingPick {
    std::size_t stock = 0;
    double weight = 0.0;
    double gain = missing; ///< as in Standing::gains
};
/// By market order. Errors: as standingsOf, of one screen.
Result<std::vector<StandingPick>> picksOn(const StandingsQuestion& question, std::size_t screen,
                                          std::size_t start, const language::Names& names,
                                          engine::Evaluator& evaluator,
                                          const Progress& progress = {});

/// The gain of the starts that bear each name. Shape: a row a name, in the order of `names`.
/// Requires: a place among `names`, or names.size(), a start.
std::vector<Spread> gainsBy(const Standing& standing, std::span<const std::size_t> places,
                            std::size_t names);

/// How the screens of one side do together, a start: the mean of their gains, and the share of them
/// that gained. Missing where none has a gain.
struct Health {
    std::vector<double> gain;
    std::vector<double> share;
};
Health healthOf(const Standings& standings, screens::ScreenSide side);

} // namespace sieve::studies
