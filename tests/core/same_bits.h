#pragma once

#include "core/base/missing.h"

#include <algorithm>
#include <bit>
#include <cstdint>
#include <span>

namespace sieve::test {

/// Whether two figures are the same to the last bit, or both missing.
inline bool sameBits(double a, double b)
{
    return (isMissing(a) && isMissing(b)) ||
           std::bit_cast<std::uint64_t>(a) == std::bit_cast<std::uint64_t>(b);
}

/// The same of each value of two columns.
inline bool sameBits(std::span<const double> a, std::span<const double> b)
{
    return std::ranges::equal(a, b, [](double x, double y) { return sameBits(x, y); });
}

} // namespace sieve::test
