#pragma once

#include "core/base/missing.h"

#include <bit>
#include <cstdint>

namespace sieve::test {

/// Whether two figures are the same to the last bit, or both missing.
inline bool sameBits(double a, double b)
{
    return (isMissing(a) && isMissing(b)) ||
           std::bit_cast<std::uint64_t>(a) == std::bit_cast<std::uint64_t>(b);
}

} // namespace sieve::test
