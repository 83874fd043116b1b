#include "core/studies/measures.h"

#include "core/base/require.h"

#include <algorithm>
#include <cmath>

namespace sieve::studies {

namespace {

double finiteOrMissing(double value)
{
    return std::isfinite(value) ? value : missing;
}

double ratio(double value, double by)
{
    return by == 0.0 ? missing : finiteOrMissing(value / by);
}

double meanOfReturns(std::span<const double> values)
{
    double sum = 0.0;
    for (const double value : values)
        sum += value;
    return ratio(sum, static_cast<double>(values.size()));
}

/// Of a sample. Values that are all the same have none, however their mean was rounded.
double deviationOf(std::span<const double> values)
{
    if (values.size() < 2)
        return missing;
    const auto [least, most] = std::ranges::minmax(values);
    if (least == most)
        return 0.0;
    const double mean = meanOfReturns(values);
    double sum = 0.0;
    for (const double value : values)
        sum += (value - mean) * (value - mean);
    return std::sqrt(sum / static_cast<double>(values.size() - 1));
}

double grownBy(std::span<const double> returns, double less)
{
    double worth = 1.0;
    for (const double each : returns)
        worth *= 1.0 + each - less;
    return worth;
}

double perYear(double worth, std::size_t days)
{
    if (days == 0 || worth < 0.0)
        return missing;
    return finiteOrMissing(std::pow(worth, daysAYear / static_cast<double>(days)) - 1.0);
}

/// The root of the mean square of what lies below 0.
double downside(std::span<const double> returns, double less, bool isOfFallingDays)
{
    double sum = 0.0;
    std::size_t falling = 0;
    for (const double each : returns) {
        const double below = std::min(each - less, 0.0);
        sum += below * below;
        falling += below < 0.0 ? 1U : 0U;
    }
    const std::size_t days = isOfFallingDays ? falling : returns.size();
    return days == 0 ? missing : std::sqrt(sum / static_cast<double>(days));
}

} // namespace

std::size_t Fall::days(std::size_t all) const
{
    const std::size_t from = peak ? *peak + 1 : 0;
    const std::size_t to = recovery.value_or(all == 0 ? 0 : all - 1) + 1;
    return to - from;
}

Curve curveOf(std::span<const double> returns)
{
    Curve curve;
    double worth = 1.0;
    double highest = 1.0;
    for (const double each : returns) {
        worth *= 1.0 + each;
        highest = std::max(highest, worth);
        curve.equity.push_back(worth);
        curve.drawdown.push_back(worth / highest - 1.0);
    }
    return curve;
}

std::optional<Fall> deepestFall(std::span<const double> returns)
{
    const Curve curve = curveOf(returns);
    const auto deepest = std::ranges::min_element(curve.drawdown);
    if (deepest == curve.drawdown.end() || *deepest >= 0.0)
        return std::nullopt;
    Fall fall;
    fall.depth = *deepest;
    fall.trough = static_cast<std::size_t>(deepest - curve.drawdown.begin());
    double highest = 1.0;
    for (std::size_t day = 0; day < fall.trough; ++day)
        if (curve.equity[day] >= highest) {
            highest = curve.equity[day];
            fall.peak = day;
        }
    for (std::size_t day = fall.trough; day < curve.equity.size() && !fall.recovery; ++day)
        if (curve.equity[day] >= highest)
            fall.recovery = day;
    return fall;
}

Measures measuresOf(std::span<const double> returns)
{
    Measures told;
    told.days = returns.size();
    if (returns.empty())
        return told;
    const double free = std::pow(1.0 + riskFree, 1.0 / daysAYear) - 1.0;
    const double root = std::sqrt(daysAYear);
    const double mean = meanOfReturns(returns);
    const double deviation = deviationOf(returns);
    const double worth = grownBy(returns, 0.0);
    told.totalReturn = worth - 1.0;
    told.annualReturn = perYear(worth, returns.size());
    told.annualArithmetic = daysAYear * mean;
    told.volatility = deviation * root;
    told.sharpe = ratio(mean, deviation) * root;
    told.sharpeOverRiskFree = ratio(mean - free, deviation) * root;
    told.sharpeGeometric = ratio(told.annualReturn, told.volatility);
    told.sharpeGeometricOverRiskFree =
        ratio(perYear(grownBy(returns, free), returns.size()), told.volatility);
    const double below = downside(returns, 0.0, false);
    told.downsideDeviation = below * root;
    told.sortino = ratio(mean, below) * root;
    told.sortinoFallingDays = ratio(mean, downside(returns, 0.0, true)) * root;
    told.sortinoOverRiskFree = ratio(mean - free, downside(returns, free, false)) * root;
    const Curve curve = curveOf(returns);
    told.worstFall = std::min(0.0, std::ranges::min(curve.drawdown));
    told.calmar = ratio(told.annualReturn, -told.worstFall);
    double squares = 0.0;
    for (const double fall : curve.drawdown)
        squares += 1e4 * fall * fall;
    told.ulcerIndex = std::sqrt(squares / static_cast<double>(returns.size()));
    told.bestDay = std::ranges::max(returns);
    told.worstDay = std::ranges::min(returns);
    const auto up = std::ranges::count_if(returns, [](double each) { return each > 0.0; });
    told.shareUp = static_cast<double>(up) / static_cast<double>(returns.size());
    return told;
}

BesideBenchmark besideBenchmark(std::span<const double> returns, std::span<const double> benchmark)
{
    require(returns.size() == benchmark.size(), "besideBenchmark: not as many of both");
    BesideBenchmark told;
    if (returns.size() < 2)
        return told;
    const double mean = meanOfReturns(returns);
    const double other = meanOfReturns(benchmark);
    const double deviation = deviationOf(returns);
    const double otherDeviation = deviationOf(benchmark);
    double together = 0.0;
    std::vector<double> differences;
    for (std::size_t day = 0; day < returns.size(); ++day) {
        together += (returns[day] - mean) * (benchmark[day] - other);
        differences.push_back(returns[day] - benchmark[day]);
    }
    together /= static_cast<double>(returns.size() - 1);
    told.beta = ratio(together, otherDeviation * otherDeviation);
    told.alpha = daysAYear * (mean - told.beta * other);
    told.correlation = ratio(together, deviation * otherDeviation);
    const double apart = deviationOf(differences);
    told.trackingError = apart * std::sqrt(daysAYear);
    told.informationRatio = ratio(meanOfReturns(differences), apart) * std::sqrt(daysAYear);
    return told;
}

std::vector<std::pair<std::string, double>> namedMeasures(const Measures& measures)
{
    return {{"n_obs", static_cast<double>(measures.days)},
            {"total_return", measures.totalReturn},
            {"ann_return_geom", measures.annualReturn},
            {"ann_return_arith", measures.annualArithmetic},
            {"ann_vol", measures.volatility},
            {"max_drawdown", measures.worstFall},
            {"sharpe_rf0", measures.sharpe},
            {"sharpe_rf", measures.sharpeOverRiskFree},
            {"sharpe_geom_rf0", measures.sharpeGeometric},
            {"sharpe_geom_rf", measures.sharpeGeometricOverRiskFree},
            {"downside_dev_ann_mar0", measures.downsideDeviation},
            {"sortino_mar0", measures.sortino},
            {"sortino_mar0_alt", measures.sortinoFallingDays},
            {"sortino_mar_rf", measures.sortinoOverRiskFree},
            {"calmar", measures.calmar},
            {"ulcer_index", measures.ulcerIndex},
            {"best_day", measures.bestDay},
            {"worst_day", measures.worstDay},
            {"share_positive_days", measures.shareUp}};
}

std::vector<std::pair<std::string, double>> namedMeasures(const BesideBenchmark& measures)
{
    return {{"beta", measures.beta},
            {"alpha_ann", measures.alpha},
            {"correlation", measures.correlation},
            {"tracking_error_ann", measures.trackingError},
            {"information_ratio", measures.informationRatio}};
}

} // namespace sieve::studies
