#include "core/screens/distribution.h"

#include "core/base/missing.h"

#include <algorithm>
#include <cmath>

namespace sieve::screens {

namespace {

double quantile(std::vector<double>& figures, double share)
{
    const auto place = static_cast<std::ptrdiff_t>(share * static_cast<double>(figures.size() - 1));
    std::nth_element(figures.begin(), figures.begin() + place, figures.end());
    return figures[static_cast<std::size_t>(place)];
}

} // namespace

double roundStep(double width)
{
    if (!(width > 0.0) || !std::isfinite(width))
        return missing;
    const double power = std::pow(10.0, std::floor(std::log10(width)));
    for (const double digit : {5.0, 2.0})
        if (digit * power <= width)
            return digit * power;
    return power;
}

double Distribution::stepAt(double figure, double share) const
{
    return roundStep(isLogarithmic ? std::fabs(figure) * (std::pow(high / low, share) - 1.0)
                                   : (high - low) * share);
}

double Distribution::placeOf(double figure) const
{
    if (high == low)
        return 0.5;
    if (!isLogarithmic)
        return (figure - low) / (high - low);
    return figure > 0.0 ? std::log(figure / low) / std::log(high / low) : 0.0;
}

double Distribution::figureAt(double place) const
{
    return isLogarithmic ? low * std::pow(high / low, place) : low + place * (high - low);
}

Distribution distributionOf(std::span<const double> figures, std::size_t bars)
{
    Distribution spread;
    std::vector<double> known;
    for (const double figure : figures)
        if (!isMissing(figure))
            known.push_back(figure);
    spread.noData = figures.size() - known.size();
    if (known.empty() || bars == 0)
        return spread;
    spread.low = quantile(known, 0.01);
    spread.high = quantile(known, 0.99);
    const double tenth = quantile(known, 0.1);
    spread.isLogarithmic = spread.low > 0.0 && quantile(known, 0.9) > 30.0 * tenth;
    spread.counts.assign(bars, 0);
    const double logOfLow = spread.isLogarithmic ? std::log(spread.low) : 0.0;
    const double width =
        spread.isLogarithmic ? std::log(spread.high) - logOfLow : spread.high - spread.low;
    const auto placeOf = [&](double figure) {
        return (spread.isLogarithmic ? std::log(figure) - logOfLow : figure - spread.low) / width;
    };
    for (const double figure : known) {
        if (figure < spread.low || figure > spread.high) {
            ++(figure < spread.low ? spread.below : spread.above);
            continue;
        }
        const auto bar = width > 0.0
                             ? static_cast<std::size_t>(placeOf(figure) * static_cast<double>(bars))
                             : bars / 2;
        ++spread.counts[std::min(bar, bars - 1)];
    }
    return spread;
}

} // namespace sieve::screens
