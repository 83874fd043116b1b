#pragma once

#include <cstddef>
#include <span>

namespace sieve::studies {

// What remains of a good result when it is the best of many that were tried.

/// The Sharpe ratio that the best of so many tries would have by luck alone, had none of them any
/// merit; in the unit of `deviation`, which is that of the tries' ratios.
/// Source:   Bailey and López de Prado 2014, "The Deflated Sharpe Ratio", equation 1.
/// Missing:  fewer than two tries, or a missing deviation.
double luckOfTheBest(std::size_t tries, double deviation);

/// How a strategy's returns lie, a day.
struct ReturnShape {
    std::size_t days = 0;
    double sharpe = 0.0;   ///< mean by deviation, of a day
    double skewness = 0.0; ///< of the population
    double kurtosis = 3.0; ///< likewise; 3 is that of the normal distribution
};

/// The probability that the true Sharpe ratio is above another one, both of a day.
/// Source:   the same, equation 2 (the probabilistic Sharpe ratio of Bailey and López de Prado
/// 2012). Missing:  fewer than three days, or a shape that leaves no spread.
double probabilityAbove(const ReturnShape& shape, double other);

/// The probability that a strategy's true Sharpe ratio is above the one that the best of the tries
/// would have by luck (luckOfTheBest of their sample deviation), with the skewness and kurtosis of
/// its returns taken into account: the deflated Sharpe ratio.
/// Shape:    returns n, a day; sharpes: the daily ratio of each try, missing ones left out.
/// Missing:  as probabilityAbove; returns without spread, fewer than two tries with a ratio.
double deflatedSharpe(std::span<const double> returns, std::span<const double> sharpes);

/// The mean of returns by their standard deviation (n - 1), a day. Missing: as Measures::sharpe.
double dailySharpe(std::span<const double> returns);

/// The probability that at least one of so many independent tries does by chance as well as one
/// that has this probability alone. Source: Šidák 1967. Missing: a missing chance.
double chanceAmong(std::size_t tries, double chance);

} // namespace sieve::studies
