#pragma once

// Does it work? What followed matches, how all screens stood, and what a rule would have earned:
//   measures.h      how a series of returns is judged
//   prices.h        what a stock was worth, day by day
//   occurrences.h   where a condition began to hold
//   aftermath.h     what followed, by stop and target
//   following.h     what followed matches, and how much of it chance could explain
//   neighbours.h    two limits moved, and walked forward year by year
//   standings.h     all screens over the same start days
//   portfolio.h     a rule that trades, day by day
//   resampling.h    chance with a stated seed
//   deflation.h     what remains of the best of many tries
//   cautions.h      what weakens an answer, in words
//   study_files.h   questions as TOML
//   kept_run.h      answers that are kept    keeping.h  how they are made, and asked again
//   report.h        an answer as a page
// Formulas, sources and conventions: docs/studies.md.

#include "core/base/missing.h"

#include <cstddef>
#include <optional>
#include <span>
#include <string>
#include <utility>
#include <vector>

namespace sieve::studies {

inline constexpr double daysAYear = 252.0;
inline constexpr double riskFree = 0.02; ///< a year, for the measures that ask for it

/// Where the deepest fall of a series began, ended and was made good, as places among its days.
struct Fall {
    double depth = 0.0;              ///< 0 or less, as a share of the high before
    std::optional<std::size_t> peak; ///< empty: the value before the first day
    std::size_t trough = 0;
    std::optional<std::size_t> recovery; ///< first day back at the high; empty: not yet
    /// Days from the high to the day on which it was made good, or to the last one.
    std::size_t days(std::size_t all) const;
};

/// Worth and fall below the highest worth so far, a day; the worth before the first day is 1.
struct Curve {
    std::vector<double> equity;
    std::vector<double> drawdown; ///< 0 or less
};

/// Shape: n returns -> n.
Curve curveOf(std::span<const double> returns);
/// Empty where the series never fell.
std::optional<Fall> deepestFall(std::span<const double> returns);

/// Measures of daily returns, as fractions unless said otherwise. A year has 252 days; standard
/// deviations are of samples (n - 1). Missing: what cannot be said, such as a ratio to 0.
struct Measures {
    std::size_t days = 0;
    double totalReturn = missing;
    double annualReturn = missing;     ///< geometric
    double annualArithmetic = missing; ///< 252 times the mean
    double volatility = missing;       ///< a year
    double worstFall = missing;        ///< 0 or less
    double sharpe = missing;           ///< mean by deviation, a year
    double sharpeOverRiskFree = missing;
    double sharpeGeometric = missing;
    double sharpeGeometricOverRiskFree = missing;
    double downsideDeviation = missing; ///< a year, below 0, all days in the divisor
    double sortino = missing;
    double sortinoFallingDays = missing; ///< falling days alone in the divisor
    double sortinoOverRiskFree = missing;
    double calmar = missing;     ///< annual return by the worst fall
    double ulcerIndex = missing; ///< in percent points
    double bestDay = missing;
    double worstDay = missing;
    double shareUp = missing;
};

/// How a series of returns went beside another of the same days.
struct BesideBenchmark {
    double beta = missing;
    double alpha = missing; ///< a year
    double correlation = missing;
    double trackingError = missing; ///< a year
    double informationRatio = missing;
};

/// Requires: returns of -1 or more, none missing.
Measures measuresOf(std::span<const double> returns);
/// Requires: as many of both, none missing.
BesideBenchmark besideBenchmark(std::span<const double> returns, std::span<const double> benchmark);

/// Every measure with the name under which it is written, in one order.
std::vector<std::pair<std::string, double>> namedMeasures(const Measures& measures);
std::vector<std::pair<std::string, double>> namedMeasures(const BesideBenchmark& measures);

} // namespace sieve::studies
