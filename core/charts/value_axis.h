#pragma once

#include <vector>

namespace sieve::charts {

enum class ValueScale {
    Linear,
    Logarithmic, ///< equal steps are equal shares
    Percent,     ///< linear, named by the change from a base
};

/// From which value to which a pane reaches, and how values lie between.
class ValueAxis {
public:
    ValueAxis() = default;
    /// An axis over figures from `least` to `most` with some room at both ends, or to 0 where it
    /// must be in sight. Equal or missing ends get room of their own; logarithmic needs a `least`
    /// above 0 and is linear without. `base`: what percent counts from; linear where it is not
    /// above 0.
    ValueAxis(ValueScale scale, double least, double most, bool beginsAtZero, double base = 0.0);

    ValueScale scale() const { return scale_; }
    double low() const { return low_; }
    double high() const { return high_; }

    /// Where a value stands, from 0 at the low end to 1 at the high end, and beyond both.
    /// Missing: of a missing value, and on a logarithmic axis of one that is not above 0.
    double place(double value) const;
    double valueAt(double place) const;

    struct Tick {
        double value = 0.0;
        double shown = 0.0; ///< what it is named by: the value, or its change from the base
    };
    /// About so many round values between the ends, ascending.
    std::vector<Tick> ticks(int about) const;
    /// Decimals with which neighbouring ticks are told apart.
    int decimals(int about) const;

private:
    double stepFor(int about) const;

    ValueScale scale_ = ValueScale::Linear;
    double low_ = 0.0;
    double high_ = 1.0;
    double base_ = 0.0;
};

} // namespace sieve::charts
