#pragma once

#include <cmath>
#include <limits>

namespace sieve {

/// A figure that is not known. Anything computed from it is missing too; it sorts last both ways.
inline constexpr double missing = std::numeric_limits<double>::quiet_NaN();

inline bool isMissing(double figure)
{
    return std::isnan(figure);
}

/// Equal, where two figures that are missing are equal too.
inline bool isSameFigure(double a, double b)
{
    return a == b || (isMissing(a) && isMissing(b));
}

} // namespace sieve
