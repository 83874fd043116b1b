#pragma once

#include "core/indicators/wide.h"

namespace sieve::indicators {

/// Four figures that are worked on side by side, each as it would be alone. They are handed on by
/// reference: to pass one by value would need the same vector instructions on both sides.
using Four [[gnu::vector_size(32)]] = double;

/// Four where they lie, at any address.
struct [[gnu::packed, gnu::may_alias]] FourAt
{
    Four four;
};

SIEVE_INLINE void load(Four& four, const double* at)
{
    four = reinterpret_cast<const FourAt*>(at)->four;
}

SIEVE_INLINE void store(const Four& four, double* at)
{
    reinterpret_cast<FourAt*>(at)->four = four;
}

/// Makes columns of rows.
SIEVE_INLINE void transpose(Four& a, Four& b, Four& c, Four& d)
{
    const Four evenAB = __builtin_shufflevector(a, b, 0, 4, 2, 6);
    const Four oddAB = __builtin_shufflevector(a, b, 1, 5, 3, 7);
    const Four evenCD = __builtin_shufflevector(c, d, 0, 4, 2, 6);
    const Four oddCD = __builtin_shufflevector(c, d, 1, 5, 3, 7);
    a = __builtin_shufflevector(evenAB, evenCD, 0, 1, 4, 5);
    b = __builtin_shufflevector(oddAB, oddCD, 0, 1, 4, 5);
    c = __builtin_shufflevector(evenAB, evenCD, 2, 3, 6, 7);
    d = __builtin_shufflevector(oddAB, oddCD, 2, 3, 6, 7);
}

} // namespace sieve::indicators
