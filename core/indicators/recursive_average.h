#pragma once

#include "core/base/missing.h"

#include <span>

namespace sieve::indicators {

/// An average that never forgets: the plain mean of the first `period` defined inputs, then each
/// new input enters with one fixed weight. The state of every recursive kernel.
/// Missing: undefined inputs at the start are skipped; a later one leaves the average as it was.
class RecursiveAverage {
public:
    RecursiveAverage(int period, double weight) : period_(period), weight_(weight) {}
    static RecursiveAverage exponential(int period) { return {period, 2.0 / (period + 1.0)}; }
    static RecursiveAverage wilder(int period) { return {period, 1.0 / period}; }

    /// Takes one input and gives the average after it; missing until `period` inputs were defined.
    double step(double input)
    {
        if (!isMissing(input)) {
            if (seen_ < period_)
                average_ += (input - average_) / ++seen_;
            else
                average_ += weight_ * (input - average_);
        }
        return seen_ < period_ ? missing : average_;
    }

private:
    int period_;
    double weight_;
    int seen_ = 0;
    double average_ = 0.0;
};

/// Exponential moving average, weight 2 / (period + 1), seeded by the mean of the first `period`.
/// Shape:    values[n], oldest first, from the instrument's first bar -> average[n], aligned;
///           missing until `period` values were defined.
/// Requires: period >= 1, equal sizes; else std::logic_error.
void exponentialMovingAverage(std::span<const double> values, int period,
                              std::span<double> average);

/// Wilder's average, weight 1 / period; else as exponentialMovingAverage.
/// Source:   J. Welles Wilder, "New Concepts in Technical Trading Systems" (1978).
void wilderAverage(std::span<const double> values, int period, std::span<double> average);

} // namespace sieve::indicators
