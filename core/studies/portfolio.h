#pragma once

#include "core/base/progress.h"
#include "core/base/result.h"
#include "core/engine/evaluator.h"
#include "core/language/checker.h"
#include "core/screens/screen.h"
#include "core/studies/measures.h"

#include <array>
#include <cstdint>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::studies {

/// What is held while a condition on the market holds: the best of a screen, or nothing.
struct PortfolioStep {
    std::string when = {};  ///< a condition on the market's line; empty: always
    bool isCash = false;    ///< stand aside: the screen is not asked
    screens::Screen screen; ///< whom it takes, by what it ranks; on its side it buys or sells short
    bool isSmallestFirst = false; ///< of what it ranks by
    int hold = 10;                ///< so many stocks, at most mostHeld
    int keepWithin = 0;           ///< who is held stays while among the best so many; 0: as `hold`
    std::string weightBy = {};    ///< a figure above 0 by which money is shared; empty: equally
    double share = 1.0;           ///< of the money, above 0 to 1

    friend bool operator==(const PortfolioStep&, const PortfolioStep&) = default;
};

/// When the stocks are chosen anew. The first session is always such a day, and so is one on which
/// another step comes into force.
struct Rebalancing {
    enum class By { Sessions, Weeks, Months, Condition };

    By by = By::Months;
    int every = 1;              ///< sessions, weeks or months; of these the first session counts
    std::string condition = {}; ///< on the market's line
    bool isReweighing = true;   ///< those who stay are brought to their share again

    friend bool operator==(const Rebalancing&, const Rebalancing&) = default;
};

/// When a stock is sold between. A part that is 0 or empty does not count. Shares are of the mean
/// price that was paid; of a stock sold short, upwards.
struct Exits {
    double stop = 0.0;         ///< so far below it
    double trailing = 0.0;     ///< so far below the highest close since
    double target = 0.0;       ///< so far above it
    int sessions = 0;          ///< after so many bars
    std::string onStock = {};  ///< a condition: sold on the session after
    std::string onMarket = {}; ///< a condition on the market's line: all are sold, none bought

    friend bool operator==(const Exits&, const Exits&) = default;
};

/// How orders are filled, and what they cost.
struct Trading {
    enum class FilledAt { NextOpen, NextClose, Limit };

    double money = 100'000.0; ///< at the start, in the market's currency
    FilledAt filledAt = FilledAt::NextOpen;
    double limit = 0.0; ///< buys this share below the close of the decision; sells at the open
    double costAnOrder = 0.0; ///< money
    double costShare = 0.001; ///< of the amount, to 1
    double slippage = 0.0005; ///< of the price, within the day's range
    double ofVolume = 0.0;    ///< at most this share of the day's volume; 0: without a bound
    bool isWhole = true;      ///< whole shares; what a split leaves of one may be less
    bool hasDividends = true;
    double borrowing = 0.03;    ///< a year, of what is sold short
    double delistedWorth = 1.0; ///< of a delisted stock's last close

    friend bool operator==(const Trading&, const Trading&) = default;
};

struct PortfolioRule {
    std::vector<PortfolioStep> steps; ///< the first whose condition holds is in force; none: cash
    Rebalancing rebalancing;
    Exits exits;
    Trading trading;
    Day from = Day::fromSerial(0); ///< first session on which a decision may be made
    Day to = Day::fromSerial(0);
    /// Of the days from here on nothing was looked at while the rule was made. Changes no trade;
    /// see splitMeasures().
    std::optional<Day> setAside = std::nullopt;

    friend bool operator==(const PortfolioRule&, const PortfolioRule&) = default;
};

inline constexpr int mostHeld = 10'000;
inline constexpr std::size_t mostSteps = 20;

/// Why shares or money changed hands.
enum class Why {
    Chosen,    ///< bought as one of the best
    Reweighed, ///< brought to its share
    Left,      ///< no longer one of the best
    Switched,  ///< another step came into force, or none
    Stopped,
    Trailed,
    Reached, ///< the target
    Expired, ///< held for as long as it may be
    RuleOnStock,
    RuleOnMarket,
    Delisted,
    Dividend, ///< of a stock sold short it is paid
    Borrowing,
    Ruined ///< the money was gone
};
std::string_view whyName(Why why);  ///< "chosen", "reweighed", …
std::string_view whyWords(Why why); ///< for people: "no longer among the best", "stop", …

/// One movement of money. `money` is what came in (or, below 0, went out), costs taken off.
struct Fill {
    std::size_t session = 0; ///< among Portfolio::sessions
    std::size_t stock = 0;
    Why why = Why::Chosen;
    double shares = 0.0;    ///< above 0 bought, below 0 sold; 0 for dividends and borrowing
    double price = missing; ///< a share, in the stock's currency, slippage included
    double money = 0.0;
    double cost = 0.0; ///< taken off `money`
};

/// From the first share of a stock to its last.
struct Trade {
    std::size_t stock = 0;
    std::size_t entered = 0;         ///< session
    std::optional<std::size_t> left; ///< empty: still held at the end
    double paid = 0.0;               ///< for all that was bought (or got for what was sold short)
    double gain = 0.0;       ///< all money that came less all that went, with what is still held
    double change = missing; ///< gain by `paid`
    double entryPrice = missing; ///< of the first order
    double exitPrice = missing;  ///< of the last one; of an open trade its last close
    Why why = Why::Chosen;       ///< it was left
    int bars = 0;                ///< held
    double worst = missing;      ///< change to the lowest close on the way, by the mean price paid
    double best = missing;
};

/// A rule as it would have traded, as known on its last session.
struct Portfolio {
    PortfolioRule rule;
    std::vector<Day> sessions;
    std::vector<double> equity; ///< a session's close, in the market's currency
    std::vector<double> cash;
    std::vector<double>
        invested;          ///< worth of what is held by equity; of shorts, what must be bought back
    std::vector<int> step; ///< in force; -1: none
    std::vector<std::size_t> held;
    std::vector<double> benchmark; ///< its close by that of the first session; empty without one
    std::vector<Fill> fills;
    std::vector<Trade> trades; ///< by entry
    std::size_t chosenOn = 0;  ///< days on which stocks were chosen anew
    std::size_t unfilled = 0;  ///< orders that found no bar, no volume, no money or not their limit
    std::size_t unknownMarket = 0; ///< sessions on which a step's condition could not be told
    double costs = 0.0;
    bool isRuined = false; ///< the money was gone: nothing is traded from then on

    std::vector<double> returns() const;          ///< a session after the first
    std::vector<double> benchmarkReturns() const; ///< likewise
};

/// Decisions are made at a close with what was known then; orders are filled on the next session
/// (docs/studies.md has the order of things on a day).
/// Errors: located in the texts of the rule; numbers out of bounds; no session between. Stopped.
Result<Portfolio> runPortfolio(const PortfolioRule& rule, const language::Names& names,
                               engine::Evaluator& evaluator, Day day,
                               const Progress& progress = {});

/// Measures of the days before a day, and of those from it on, so that what was looked at while a
/// rule was made is told apart from what was set aside.
struct SplitMeasures {
    Measures before;
    Measures from;
};
SplitMeasures splitMeasures(const Portfolio& portfolio, Day split);
/// Those of the day that the rule sets aside; nothing where none of its sessions, or all, lie
/// before it.
std::optional<SplitMeasures> asideMeasures(const Portfolio& portfolio);

/// In sum.
struct PortfolioTold {
    Measures measures;
    std::optional<Measures> ofBenchmark;
    std::optional<BesideBenchmark> beside;
    std::optional<Fall> fall;
    double exposure = missing; ///< mean of `invested`
    double turnover = missing; ///< half of all that was bought and sold by the mean equity, a year
    std::size_t trades = 0;    ///< that were left
    double shareWon = missing;
    double meanChange = missing;
    double gainByLoss = missing; ///< sum of gains by sum of losses
    double meanBars = missing;
    std::size_t delisted = 0; ///< trades that ended so
    /// The end's equity by the start's, less the gains of the three stocks that gained most.
    double withoutBestThree = missing;
    struct Month {
        int year = 0;
        unsigned month = 0;
        double change = missing;
        double benchmark = missing;
    };
    std::vector<Month> months;
    struct Year {
        int year = 0;
        double change = missing;
        double benchmark = missing;
        std::array<double, 12> months{}; ///< missing where there is none
    };
    std::vector<Year> years;
    struct Contribution {
        std::size_t stock = 0;
        double gain = 0.0;      ///< money
        double share = missing; ///< of the money at the start
        std::size_t trades = 0;
    };
    std::vector<Contribution> contributions; ///< the largest gain first
};
PortfolioTold toldOf(const Portfolio& portfolio);

} // namespace sieve::studies
