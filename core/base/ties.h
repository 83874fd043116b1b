#pragma once

#include <cmath>

namespace sieve {

// One rule for ties: two figures are equal when they differ by at most 1e-12 of the larger one.
// Sums, quotients and prices restated for a split keep fifteen digits, so that what is equal on
// paper may differ in the last of them; prices and volumes as people write them differ in the first
// twelve where they differ at all. No figure is equal to 0 but 0 itself: a difference of two equal
// figures is 0.

inline constexpr double tieSlack = 1e-12;

/// What may lie between a figure and one that is equal to it. Of two that are equal or nearly so it
/// does not matter whose it is.
[[gnu::always_inline]] inline double slackOf(double figure)
{
    return tieSlack * std::fabs(figure);
}

/// The same questions as > < >= <= == ask, and no to each where a figure is missing.
[[gnu::always_inline]] inline bool isGreater(double a, double b)
{
    return a - b > slackOf(a);
}
[[gnu::always_inline]] inline bool isLess(double a, double b)
{
    return isGreater(b, a);
}
[[gnu::always_inline]] inline bool isAtMost(double a, double b)
{
    return a - b <= slackOf(a);
}
[[gnu::always_inline]] inline bool isAtLeast(double a, double b)
{
    return isAtMost(b, a);
}
[[gnu::always_inline]] inline bool isTied(double a, double b)
{
    return std::fabs(a - b) <= slackOf(a);
}

/// a + b and a - b; 0 where what is left is no more than the slack.
[[gnu::always_inline]] inline double sumOf(double a, double b)
{
    const double sum = a + b;
    return std::fabs(sum) <= slackOf(a) ? 0.0 : sum;
}
[[gnu::always_inline]] inline double differenceOf(double a, double b)
{
    return sumOf(a, -b);
}

} // namespace sieve
