#include "core/engine/operators/median.h"

#include "core/indicators/wide.h"

#include <algorithm>
#include <array>
#include <limits>

namespace sieve::engine {

namespace {

/// The farthest of all figures that lie on one side of a value; `none` where there is none there.
template <class Lies, class Farther> SIEVE_INLINE double
neighbour(std::span<const double> figures, double none, Lies lies, Farther farther)
{
    constexpr std::size_t lanes = 8;
    std::array<double, lanes> nearest;
    nearest.fill(none);
    std::size_t i = 0;
    for (; i + lanes <= figures.size(); i += lanes)
        for (std::size_t lane = 0; lane < lanes; ++lane) {
            const double figure = figures[i + lane];
            nearest[lane] = farther(nearest[lane], lies(figure) ? figure : none);
        }
    for (; i < figures.size(); ++i)
        nearest[0] = farther(nearest[0], lies(figures[i]) ? figures[i] : none);
    for (const double each : nearest)
        none = farther(none, each);
    return none;
}

/// The figure next to a value, below or above it.
SIEVE_WIDE double nextBelow(std::span<const double> figures, double value)
{
    return neighbour(
        figures, -std::numeric_limits<double>::infinity(),
        [value](double figure) { return figure < value; },
        [](double a, double b) { return a < b ? b : a; });
}

SIEVE_WIDE double nextAbove(std::span<const double> figures, double value)
{
    return neighbour(
        figures, std::numeric_limits<double>::infinity(),
        [value](double figure) { return figure > value; },
        [](double a, double b) { return b < a ? b : a; });
}

} // namespace

SIEVE_WIDE Counts countAbout(std::span<const double> figures, double value)
{
    Counts counts;
    for (std::size_t i = 0; i < figures.size(); ++i) {
        counts.less += figures[i] < value ? 1U : 0U;
        counts.equal += figures[i] == value ? 1U : 0U;
    }
    return counts;
}

double medianOf(std::span<double> figures)
{
    const auto middle = figures.begin() + static_cast<std::ptrdiff_t>(figures.size() / 2);
    std::nth_element(figures.begin(), middle, figures.end());
    const double below =
        figures.size() % 2 == 1 ? *middle : *std::max_element(figures.begin(), middle);
    return (below + *middle) / 2.0 + 0.0; // one zero only
}

double medianNear(std::span<double> figures, double near)
{
    constexpr int mostSteps = 12;
    const std::size_t middle = figures.size() / 2;
    for (int step = 0; step < mostSteps; ++step) {
        const Counts counts = countAbout(figures, near);
        if (counts.less > middle) {
            near = nextBelow(figures, near);
        } else if (counts.less + counts.equal <= middle) {
            near = nextAbove(figures, near);
        } else {
            const bool isBetween = figures.size() % 2 == 0 && counts.less == middle;
            return ((isBetween ? nextBelow(figures, near) : near) + near) / 2.0 + 0.0;
        }
    }
    return medianOf(figures);
}

} // namespace sieve::engine
