#pragma once

#include "core/screens/screen.h"
#include "core/studies/occurrences.h"
#include "core/studies/prices.h"
#include "core/studies/resampling.h"
#include "core/studies/spread.h"

#include <optional>
#include <string>
#include <vector>

namespace sieve::studies {

/// What is asked: what followed the matches of a screen.
struct FollowingQuestion {
    screens::Screen screen;                  ///< its universe is whom the matches are held against
    std::vector<int> horizons{1, 5, 20, 60}; ///< bars, ascending
    Day from = Day::fromSerial(0);           ///< of the matches
    Day to = Day::fromSerial(0);             ///< at most the as-of day
    /// Of the days from here on nothing was looked at while the screen was made. Changes no figure
    /// of the whole; see bySplit().
    std::optional<Day> setAside = std::nullopt;
    BoughtAt boughtAt = BoughtAt::NextOpen;
    Dividends dividends = Dividends::Reinvested;
    bool isEveryMatch = false; ///< each bar of a run is a case, not its first one alone
    std::vector<std::string> strengths =
        {}; ///< figures of the language, by whose size cases are told
    int resamples = 1000;
    int picks = 999; ///< by chance, on the same days
    std::uint64_t seed = 1;

    friend bool operator==(const FollowingQuestion&, const FollowingQuestion&) = default;
};

inline constexpr std::size_t mostHorizons = 12;
inline constexpr int longestHorizon = 2500;
/// Picks times cases of a test against chance; with more cases there are fewer picks.
inline constexpr std::size_t mostDraws = 6'000'000;
inline constexpr int fewestPicks = 99; ///< with fewer the test is left out

/// A match that is counted.
struct FollowedCase {
    Occurrence of;
    Day day = Day::fromSerial(0);
    double bought =
        missing;         ///< the price (with dividends reinvested: the worth), as `Prices` has it
    bool isFirst = true; ///< of its run
    bool isOverlapping = false; ///< within the longest horizon of an earlier case of the same stock
    bool isGone = false;        ///< its stock was delisted by the as-of day
};

/// What followed after so many bars.
struct FollowedHorizon {
    int bars = 0;
    std::vector<double>
        changes; ///< a case: of the close so many bars on; missing where not known yet
    std::vector<double> others;  ///< a case: the mean change of the universe's stocks from its day
    std::vector<double> lowest;  ///< a case: to the lowest price on the way, 0 or less
    std::vector<double> highest; ///< a case: to the highest, 0 or more
    std::vector<double> barsToBest; ///< a case: the bar, from 1, with the highest price

    Spread own;
    Spread all;        ///< the universe's stocks on the cases' days, a day as heavy as its cases
    Spread repeated;   ///< matches that are no case, as they went on from an earlier one
    Histogram ownHeap; ///< of `own`, for a picture
    Histogram allHeap; ///< of `all`
    double lowMedian = missing;        ///< of `lowest`
    double highMedian = missing;       ///< of `highest`
    double barsToBestMedian = missing; ///< of `barsToBest`
    Resampled sure;                    ///< by days
    double excess = missing;           ///< mean of the cases less that of others
    double effective =
        missing;             ///< as how many independent cases they are worth; see docs/studies.md
    double chance = missing; ///< share of picks by chance, on the same days, that did as well
    double withoutGone =
        missing; ///< the mean, had the stocks that were delisted since been left out
};

/// What followed, as known on a day.
struct Following {
    FollowingQuestion question;
    Day day = Day::fromSerial(0);
    std::vector<FollowedCase> cases; ///< by stock and bar
    std::vector<FollowedHorizon> horizons;
    std::vector<std::vector<double>> strengths; ///< a figure: a value a case
    std::size_t matches = 0;  ///< bars that matched, first ones and those that went on
    std::size_t sessions = 0; ///< asked for
    std::size_t daysWithCases = 0;
    std::size_t mostOnADay = 0;
    std::size_t overlapping = 0;
    std::size_t stocks = 0; ///< with a case
    std::size_t gone = 0;   ///< cases of stocks that were delisted since
    int picks = 0;          ///< that `chance` was told by; 0: none
};

/// Each match is held against what followed all stocks of the screen's universe (without one, of
/// the market) that traded on its day. Indexes are no stocks.
/// Changes: from the price bought at to the close `bars` bars after the match; of a stock that was
///          delisted before that, to its last close.
/// Errors: those of the screen, located in its texts; horizons that are none, not ascending, too
///         many or too long; more than mostOccurrences cases. Stopped.
Result<Following> followingOf(const FollowingQuestion& question, const language::Names& names,
                              engine::Evaluator& evaluator, Day day, const Progress& progress = {});

/// A name for each of some cases, such as the year.
struct CaseGroups {
    std::string by;
    std::vector<std::string> names; ///< in the order in which they are told
    std::vector<std::size_t> of;    ///< a case: its name, or names.size() for none
};
CaseGroups byYear(const Following& following);
/// Before a day and from it on: what was looked at while the screen was made, and what was set
/// aside.
CaseGroups bySplit(const Following& following, Day split);
/// By a text of the instrument; by name, those without one left out.
CaseGroups byText(const Following& following, const market::Market& market, market::TextField field,
                  std::string by);
/// Five parts of as many cases each by a figure's size, the least first; equals stay together.
CaseGroups byStrength(const Following& following, std::size_t strength);
/// By what was said of each session, such as the state of the market. Requires: days ascending.
CaseGroups byDays(const Following& following, std::string by, std::span<const Day> days,
                  std::span<const std::string> names);

/// The newest cases first, at most so many of them, as places among the cases.
std::vector<std::size_t> newestCases(const Following& following, std::size_t most);

/// The cases of one group at one horizon.
struct GroupTold {
    std::string name;
    Spread own;
    double others = missing; ///< the mean
};
/// Shape: a row a name of the groups.
std::vector<GroupTold> groupsTold(const Following& following, const CaseGroups& groups,
                                  std::size_t horizon);

} // namespace sieve::studies
