#pragma once

#include "core/indicators/wide.h"

#include <array>
#include <cstddef>

namespace sieve::indicators {

/// The sum of term(0) .. term(count - 1) in one fixed order, eight running sums side by side, so
/// that the compiler may use vector instructions and every machine gets the same bits.
template <class Term> SIEVE_INLINE double sumOf(std::size_t count, Term term)
{
    std::array<double, 8> lanes{};
    std::size_t i = 0;
    for (; i + lanes.size() <= count; i += lanes.size())
        for (std::size_t lane = 0; lane < lanes.size(); ++lane)
            lanes[lane] += term(i + lane);
    for (std::size_t lane = 0; i < count; ++i, ++lane)
        lanes[lane] += term(i);
    return ((lanes[0] + lanes[4]) + (lanes[1] + lanes[5])) +
           ((lanes[2] + lanes[6]) + (lanes[3] + lanes[7]));
}

} // namespace sieve::indicators
