#pragma once

#include "core/base/missing.h"

#include <cstddef>
#include <limits>
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
        weights_[binOf(change)] += weight;
        sums_.add(change, weight);
    }
    void add(const Histogram& other);

    std::span<const double> weights() const { return weights_; }
    double weight() const { return sums_.weight; }
    Spread spread() const;
    double quantile(double share) const; ///< missing while empty

    /// What is told without the sizes.
    struct Sums {
        double weight = 0.0;
        double sum = 0.0;
        double squares = 0.0;
        double up = 0.0;
        std::size_t known = 0;
        double least = std::numeric_limits<double>::infinity();
        double most = -std::numeric_limits<double>::infinity();

        void add(double change, double by)
        {
            sum += by * change;
            squares += by * change * change;
            up += change > 0.0 ? by : 0.0;
            weight += by;
            ++known;
            least = change < least ? change : least;
            most = change > most ? change : most;
        }
    };
    /// Adds many changes in a row, faster than one by one. Nothing else is to be done to the
    /// histogram while it lives.
    class Adder {
    public:
        explicit Adder(Histogram& to) : to_(to), weights_(to.weights_.data()), sums_(to.sums_) {}
        Adder(const Adder&) = delete;
        Adder& operator=(const Adder&) = delete;
        ~Adder() { to_.sums_ = sums_; }
        void add(double change, double weight)
        {
            weights_[binOf(change)] += weight;
            sums_.add(change, weight);
        }

    private:
        Histogram& to_;
        double* weights_;
        Sums sums_; ///< nobody else has its address: it stays in registers
    };

private:
    static std::size_t binOf(double change)
    {
        const double place = (change + 1.0) * (1.0 / width);
        return place >= static_cast<double>(bins) ? bins - 1 : static_cast<std::size_t>(place);
    }

    std::vector<double> weights_;
    Sums sums_;
};

} // namespace sieve::studies
