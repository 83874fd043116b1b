#pragma once

#include <cstdint>
#include <span>

namespace sieve::engine {

/// How many figures are less than a value, and how many equal it.
struct Counts {
    std::uint64_t less = 0;
    std::uint64_t equal = 0;
};
/// Missing: a missing figure is neither.
Counts countAbout(std::span<const double> figures, double value);

/// The middle figure, or the mean of the two in the middle; reorders the figures.
/// Requires: at least one, none missing.
double medianOf(std::span<double> figures);
/// The same, found by steps from a value that is thought to lie near.
double medianNear(std::span<double> figures, double near);

} // namespace sieve::engine
