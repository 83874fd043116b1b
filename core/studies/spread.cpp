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
    weight_ += other.weight_;
    sum_ += other.sum_;
    squares_ += other.squares_;
    up_ += other.up_;
    if (other.known_ == 0)
        return;
    least_ = known_ == 0 ? other.least_ : std::min(least_, other.least_);
    most_ = known_ == 0 ? other.most_ : std::max(most_, other.most_);
    known_ += other.known_;
}

double Histogram::quantile(double share) const
{
    if (known_ == 0)
        return missing;
    double before = 0.0;
    const double wanted = share * weight_;
    for (std::size_t bin = 0; bin < bins; ++bin) {
        const double here = weights_[bin];
        if (here > 0.0 && before + here >= wanted) {
            const double within = std::clamp((wanted - before) / here, 0.0, 1.0);
            const double at = -1.0 + width * (static_cast<double>(bin) + within);
            return std::clamp(at, least_, most_);
        }
        before += here;
    }
    return most_;
}

Spread Histogram::spread() const
{
    Spread told;
    told.known = known_;
    if (known_ == 0)
        return told;
    told.mean = sum_ / weight_;
    told.shareUp = up_ / weight_;
    if (known_ > 1)
        told.deviation = std::sqrt(std::max(0.0, squares_ / weight_ - told.mean * told.mean) *
                                   static_cast<double>(known_) / static_cast<double>(known_ - 1));
    told.least = least_;
    told.lowerQuarter = quantile(0.25);
    told.median = quantile(0.5);
    told.upperQuarter = quantile(0.75);
    told.most = most_;
    return told;
}

} // namespace sieve::studies
