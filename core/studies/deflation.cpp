#include "core/studies/deflation.h"

#include "core/base/missing.h"
#include "core/studies/spread.h"

#include <cmath>
#include <numbers>
#include <vector>

namespace sieve::studies {

namespace {

double normalBelow(double z)
{
    return 0.5 * std::erfc(-z / std::numbers::sqrt2);
}

/// Halving until nothing is left to halve: it is asked twice an answer. Requires: 0 < share < 1.
double normalQuantile(double share)
{
    double low = -40.0;
    double high = 40.0;
    for (int step = 0; step < 200; ++step) {
        const double middle = 0.5 * (low + high);
        (normalBelow(middle) < share ? low : high) = middle;
    }
    return 0.5 * (low + high);
}

/// The mean of the deviations from the mean, each to a power.
double momentOf(std::span<const double> values, double mean, int power)
{
    double sum = 0.0;
    for (const double value : values)
        sum += std::pow(value - mean, power);
    return sum / static_cast<double>(values.size());
}

} // namespace

double luckOfTheBest(std::size_t tries, double deviation)
{
    if (tries < 2 || isMissing(deviation))
        return missing;
    const auto count = static_cast<double>(tries);
    const double euler = std::numbers::egamma;
    return deviation * ((1.0 - euler) * normalQuantile(1.0 - 1.0 / count) +
                        euler * normalQuantile(1.0 - 1.0 / (count * std::numbers::e)));
}

double dailySharpe(std::span<const double> returns)
{
    const Spread spread = spreadOf(returns);
    return spread.deviation > 0.0 ? spread.mean / spread.deviation : missing;
}

double probabilityAbove(const ReturnShape& shape, double other)
{
    const double spread = 1.0 - shape.skewness * shape.sharpe +
                          (shape.kurtosis - 1.0) / 4.0 * shape.sharpe * shape.sharpe;
    if (shape.days < 3 || !(spread > 0.0) || isMissing(other))
        return missing;
    return normalBelow((shape.sharpe - other) *
                       std::sqrt(static_cast<double>(shape.days - 1) / spread));
}

double deflatedSharpe(std::span<const double> returns, std::span<const double> sharpes)
{
    const Spread tries = spreadOf(sharpes);
    const double luck = luckOfTheBest(tries.known, tries.deviation);
    const double sharpe = dailySharpe(returns);
    if (isMissing(luck) || isMissing(sharpe))
        return missing;
    const double mean = spreadOf(returns).mean;
    const double variance = momentOf(returns, mean, 2);
    return probabilityAbove({returns.size(), sharpe,
                             momentOf(returns, mean, 3) / std::pow(variance, 1.5),
                             momentOf(returns, mean, 4) / (variance * variance)},
                            luck);
}

double chanceAmong(std::size_t tries, double chance)
{
    return isMissing(chance) ? missing : 1.0 - std::pow(1.0 - chance, static_cast<double>(tries));
}

} // namespace sieve::studies
