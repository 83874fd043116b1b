#include "core/screens/distribution.h"

#include "core/base/missing.h"
#include "demo_market/dice.h"

#include <algorithm>
#include <catch2/catch.hpp>
#include <numeric>
#include <vector>

namespace sieve::screens {

TEST_CASE(
    "Distribution: its ends are those of the figures in order, and each figure is counted once",
    "[screens]")
{
    demo_market::Dice dice(static_cast<std::uint64_t>(GENERATE(range(1, 9))));
    const auto count = static_cast<std::size_t>(GENERATE(1, 2, 7, 60, 1000));
    std::vector<double> figures;
    for (std::size_t i = 0; i < count; ++i)
        figures.push_back(dice.chance(0.1)   ? missing
                          : dice.chance(0.2) ? 3.0 // many are the same
                                             : dice.between(-5.0, 20.0));
    std::vector<double> sorted;
    std::ranges::copy_if(figures, std::back_inserter(sorted),
                         [](double figure) { return !isMissing(figure); });
    std::ranges::sort(sorted);
    const Distribution spread = distributionOf(figures, 12);
    CHECK(spread.noData == figures.size() - sorted.size());
    if (sorted.empty())
        return;
    const auto at = [&sorted](double share) {
        return sorted[static_cast<std::size_t>(share * static_cast<double>(sorted.size() - 1))];
    };
    CHECK(spread.low == at(0.01));
    CHECK(spread.high == at(0.99));
    CHECK_FALSE((spread.isLogarithmic && spread.low <= 0.0));
    const std::size_t within =
        std::accumulate(spread.counts.begin(), spread.counts.end(), std::size_t{0});
    CHECK(within + spread.below + spread.above == sorted.size());
}

TEST_CASE("Distribution: figures that span powers of ten are told by their powers", "[screens]")
{
    std::vector<double> figures;
    for (int i = 0; i < 200; ++i)
        figures.push_back(1000.0 * (1 + i % 7));
    CHECK_FALSE(distributionOf(figures, 10).isLogarithmic);
    for (int i = 0; i < 200; ++i)
        figures.push_back(1e7 * (1 + i % 7));
    const Distribution spread = distributionOf(figures, 10);
    CHECK(spread.isLogarithmic);
    CHECK(spread.placeOf(spread.low) == Approx(0.0));
    CHECK(spread.placeOf(spread.high) == Approx(1.0));
    CHECK(spread.figureAt(spread.placeOf(5e5)) == Approx(5e5));
}

} // namespace sieve::screens
