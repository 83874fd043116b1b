#pragma once

#include "core/base/missing.h"

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <span>

namespace sieve {

/// The value below which a share (0 to 1) of ascending values lies, on the straight line between
/// the two next to it. Missing:  without values. Requires: ascending values, none of them missing.
inline double quantileOf(std::span<const double> ascending, double share)
{
    if (ascending.empty())
        return missing;
    const double place = share * static_cast<double>(ascending.size() - 1);
    const auto below = static_cast<std::size_t>(place);
    const double above = ascending[std::min(below + 1, ascending.size() - 1)];
    return ascending[below] + (place - std::floor(place)) * (above - ascending[below]);
}

} // namespace sieve
