#pragma once

#include "core/base/missing.h"

#include <cstddef>
#include <span>
#include <vector>

namespace sieve::studies {

/// How changes lie: of a few cases, or of all stocks on many days.
struct Spread {
    std::size_t known = 0;
    double mean = missing;
    double deviation = missing; ///< of a sample
    double least = missing;
    double lowerQuarter = missing;
    double median = missing;
    double upperQuarter = missing;
    double most = missing;
    double shareUp = missing; ///< above 0

    friend bool operator==(const Spread&, const Spread&) = default;
};

/// Missing ones are left out of both.
Spread spreadOf(std::span<const double> changes);
double meanOfKnown(std::span<const double> changes); ///< missing where none is known

/// Changes counted by size, each with a weight, where there are too many to keep: mean and shares
/// are exact, quarters are told to a quarter of a percent.
class Histogram {
public:
    static constexpr double width = 0.0025;
    static constexpr std::size_t bins =
        2400; ///< from -100 % to +500 %; the last one holds all above

    Histogram() : weights_(bins, 0.0) {}
    void add(double change, double weight)
    {
        const double place = (change + 1.0) * (1.0 / width);
        const auto bin =
            place >= static_cast<double>(bins) ? bins - 1 : static_cast<std::size_t>(place);
        weights_[bin] += weight;
        sum_ += weight * change;
        squares_ += weight * change * change;
        up_ += change > 0.0 ? weight : 0.0;
        weight_ += weight;
        ++known_;
        least_ = isMissing(least_) || change < least_ ? change : least_;
        most_ = isMissing(most_) || change > most_ ? change : most_;
    }
    void add(const Histogram& other);

    std::span<const double> weights() const { return weights_; }
    double weight() const { return weight_; }
    Spread spread() const;
    double quantile(double share) const; ///< missing while empty

private:
    std::vector<double> weights_;
    double weight_ = 0.0;
    double sum_ = 0.0;
    double squares_ = 0.0;
    double up_ = 0.0;
    std::size_t known_ = 0;
    double least_ = missing;
    double most_ = missing;
};

} // namespace sieve::studies
