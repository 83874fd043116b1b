#pragma once

#include "core/engine/evaluator.h"
#include "core/language/checker.h"

#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::language {

/// Money of an instrument in another currency than the market's.
struct OtherMoney {
    std::string currency;
    std::string marketCurrency;
    double inMarket = missing; ///< in that of the market; missing where no rate is known
};

/// One part of an expression with its value for one stock on one day.
struct Explanation {
    std::string text;    ///< the part as it is written
    std::string meaning; ///< of a field: its title; else empty
    Kind kind = Kind::Number;
    Unit unit = Unit::Plain;
    double value = missing;
    std::optional<OtherMoney> other; ///< of money that is in another currency
    std::optional<double> distance;  ///< of a comparison: how far its sides stand apart
    std::optional<Day> day;          ///< of the bar that it comes from
    std::optional<Day> periodEnd;   ///< of what was filed or estimated: the period that it is about
    std::optional<Day> knownOn;     ///< and the day on which it became known
    std::vector<Explanation> parts; ///< of a field: its formula; else the parts that have a value
};

/// The tree of an expression with the value of every part, on the stock's newest bar by `day`, and
/// the dates of what comes from the data. Parts of other bars (weekly, benchmark, …) are told on
/// those bars.
/// Shape:  as deep as the expression with the formulas of its fields; at most `mostExplained`
/// parts. Errors: those of check().
Result<Explanation> explain(std::string_view text, const Names& names, engine::Evaluator& evaluator,
                            std::size_t instrument, Day day);

inline constexpr std::size_t mostExplained = 500;

} // namespace sieve::language
