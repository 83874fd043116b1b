#include "core/studies/spread.h"

#include "core/base/quantile.h"

#include <algorithm>
#include <cmath>

namespace sieve::studies {

Spread spreadOf(std::span<const double> changes)
{
    std::vector<double> known;
    std::ranges::copy_if(changes, std::back_inserter(known),
                         [](double change) { return !isMissing(change); });
    Spread told;
    told.known = known.size();
    if (known.empty())
        return told;
    const auto count = static_cast<double>(known.size());
    double sum = 0.0;
    std::size_t up = 0;
    for (const double change : known) {
        sum += change;
        up += change > 0.0 ? 1U : 0U;
    }
    told.mean = sum / count;
    told.shareUp = static_cast<double>(up) / count;
    double squares = 0.0;
    for (const double change : known)
        squares += (change - told.mean) * (change - told.mean);
    if (known.size() > 1)
        told.deviation = std::sqrt(squares / (count - 1.0));
    std::ranges::sort(known);
    told.least = known.front();
    told.lowerQuarter = quantileOf(known, 0.25);
    told.median = quantileOf(known, 0.5);
    told.upperQuarter = quantileOf(known, 0.75);
    told.most = known.back();
    return told;
}

double meanOfKnown(std::span<const double> changes)
{
    double sum = 0.0;
    double known = 0.0;
    for (const double change : changes)
        if (!isMissing(change)) {
            sum += change;
            known += 1.0;
        }
    return known > 0.0 ? sum / known : missing;
}

void Histogram::add(const Histogram& other)
{
    for (std::size_t bin = 0; bin < bins; ++bin)
        weights_[bin] += other.weights_[bin];
    sums_.weight += other.sums_.weight;
    sums_.sum += other.sums_.sum;
    sums_.squares += other.sums_.squares;
    sums_.up += other.sums_.up;
    sums_.known += other.sums_.known;
    sums_.least = std::min(sums_.least, other.sums_.least);
    sums_.most = std::max(sums_.most, other.sums_.most);
}

double Histogram::quantile(double share) const
{
    if (sums_.known == 0)
        return missing;
    double before = 0.0;
    const double wanted = share * sums_.weight;
    for (std::size_t bin = 0; bin < bins; ++bin) {
        const double here = weights_[bin];
        if (here > 0.0 && before + here >= wanted) {
            const double within = std::clamp((wanted - before) / here, 0.0, 1.0);
            const double at = -1.0 + width * (static_cast<double>(bin) + within);
            return std::clamp(at, sums_.least, sums_.most);
        }
        before += here;
    }
    return sums_.most;
}

Spread Histogram::spread() const
{
    Spread told;
    told.known = sums_.known;
    if (sums_.known == 0)
        return told;
    told.mean = sums_.sum / sums_.weight;
    told.shareUp = sums_.up / sums_.weight;
    if (sums_.known > 1)
        told.deviation =
            std::sqrt(std::max(0.0, sums_.squares / sums_.weight - told.mean * told.mean) *
                      static_cast<double>(sums_.known) / static_cast<double>(sums_.known - 1));
    told.least = sums_.least;
    told.lowerQuarter = quantile(0.25);
    told.median = quantile(0.5);
    told.upperQuarter = quantile(0.75);
    told.most = sums_.most;
    return told;
}

} // namespace sieve::studies
