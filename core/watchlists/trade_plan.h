#pragma once

#include "core/base/day.h"
#include "core/base/missing.h"
#include "core/base/result.h"
#include "core/language/renaming.h"
#include "core/market/market.h"

#include <string>
#include <string_view>
#include <vector>

namespace sieve::watchlists {

/// A purchase that is planned: at which price, where it was wrong, what it should reach, and how
/// much of it. Prices are as traded on the day `on`, in the stock's currency; shares likewise.
/// Entry and stop may follow a rule of the language, such as a drawing or an average; the price
/// beside the rule is what it came to on the day `on`.
struct TradePlan {
    Day on = Day::fromSerial(0);
    double entry = missing;
    double stop = missing;            ///< below the entry
    std::vector<double> targets = {}; ///< above the entry, rising
    double shares = missing;          ///< missing: as many as the terms allow
    bool isHalfNow = false;           ///< one half at the entry, the other later
    std::string entryRule = {};       ///< a price, or a condition: bought on the day it comes true
    std::string stopRule = {};        ///< a price
    std::string exitRule = {};        ///< a condition: true when it is time to leave

    friend bool operator==(const TradePlan& a, const TradePlan& b); ///< two missing are equal
};

inline constexpr std::size_t mostTargets = 4;

/// The plan with what is renamed by its new name in all rules.
TradePlan withRenamed(TradePlan plan, const language::Renaming& renaming);

/// What a person is ready to lose.
struct PlanTerms {
    double account = 100'000.0; ///< in the market's currency
    double risk = 0.01;         ///< of the account, that is lost where the stop is reached

    friend bool operator==(const PlanTerms&, const PlanTerms&) = default;
};

/// What a plan comes to.
struct PlanSize {
    double shares = missing;          ///< whole ones: as planned, else as many as the terms allow
    double half = missing;            ///< of them, rounded down
    double worth = missing;           ///< at the entry
    double lost = missing;            ///< where the stop is reached
    double ofAccount = missing;       ///< `lost`, as a fraction
    std::vector<double> rewards = {}; ///< of each target, in units of what is risked
};

/// Why a plan cannot be: no entry or stop, a stop that is not below the entry, a target that is not
/// above it or not above the one before, too many of them. Empty: it can.
std::string faultOf(const TradePlan& plan);

/// The terms with the account in a stock's currency, at the rate that was known on a day.
/// Missing: the account, where none was.
PlanTerms inCurrencyOf(PlanTerms terms, const market::Market& market, std::size_t stock, Day day);

/// Formula: shares = the lesser of account * risk / (entry - stop) and account / entry.
/// Requires: terms in the stock's currency.
/// Missing: all of a plan that has a fault; sizes where the account is.
PlanSize sizeOf(const TradePlan& plan, const PlanTerms& terms);

/// The plan in prices and shares on a footing (market::Market::footing): splits taken out. Its day
/// stays.
TradePlan onFooting(TradePlan plan, const market::Market& market, std::size_t stock,
                    std::size_t footing);
/// The plan in the prices and shares of a day, as if it were made on it.
TradePlan onDay(TradePlan plan, const market::Market& market, std::size_t stock, Day day);

/// One level moved to another price; the others give way no further than the order of levels
/// demands: the stop stays below the entry, targets above it, and rising. Where it cannot be, the
/// level stops a hundredth of the entry before the next one. A rule that gave the level is gone.
struct PlanLevel {
    enum class What { Stop, Entry, Target };
    What what = What::Entry;
    std::size_t target = 0; ///< which, where it is one

    friend bool operator==(const PlanLevel&, const PlanLevel&) = default;
};
TradePlan withLevel(TradePlan plan, const PlanLevel& level, double price);

/// As TOML, and back. An empty text is no plan, and is refused.
/// Errors: located: no TOML, an unknown key, a plan with a fault.
std::string toToml(const TradePlan& plan);
Result<TradePlan> tradePlanFromToml(std::string_view toml);

} // namespace sieve::watchlists
