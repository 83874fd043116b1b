#include "core/indicators/discount.h"

#include "core/base/missing.h"

#include <catch2/catch.hpp>
#include <cmath>
#include <limits>

namespace sieve::indicators {

TEST_CASE("Implied growth: one year by hand", "[discount]")
{
    // A year of growth g, then 2 % for ever, at 10 %: 13.75 = q (1 + 1.02 / 0.08) = 13.75 q.
    CHECK(impliedGrowth(13.75, 1, 0.10, 0.02) == Approx(0.10).epsilon(1e-12));
    // Growing as much as it is discounted, each of ten years is worth what the last one was.
    CHECK(impliedGrowth(10.0 + 1.02 / 0.07, 10, 0.09, 0.02) == Approx(0.09).epsilon(1e-12));
}

TEST_CASE("Implied growth: summed year by year it gives the multiple again", "[discount]")
{
    for (const double multiple : {0.01, 0.8, 5.0, 14.5, 60.0, 2500.0, 1e9})
        for (const double years : {1.0, 5.0, 10.0, 40.0, 100.0})
            for (const double discount : {0.03, 0.09, 0.2}) {
                const double growth = impliedGrowth(multiple, years, discount, 0.02);
                double earned = 1.0;
                double worth = 0.0;
                for (int year = 1; year <= static_cast<int>(years); ++year) {
                    earned *= 1.0 + growth;
                    worth += earned / std::pow(1.0 + discount, year);
                }
                worth += earned * 1.02 / (discount - 0.02) / std::pow(1.0 + discount, years);
                CHECK(worth == Approx(multiple).epsilon(1e-9));
            }
}

TEST_CASE("Implied growth: what makes no sense has none", "[discount]")
{
    constexpr double infinite = std::numeric_limits<double>::infinity();
    for (const double multiple : {0.0, -3.0, missing, infinite})
        CHECK(isMissing(impliedGrowth(multiple, 10, 0.09, 0.02)));
    CHECK(isMissing(impliedGrowth(15, 0, 0.09, 0.02)));
    CHECK(isMissing(impliedGrowth(15, 101, 0.09, 0.02)));
    CHECK(isMissing(impliedGrowth(15, missing, 0.09, 0.02)));
    CHECK(isMissing(impliedGrowth(15, 10, 0.02, 0.02)));
    CHECK(isMissing(impliedGrowth(15, 10, infinite, 0.02)));
    CHECK(isMissing(impliedGrowth(15, 10, 0.09, -1.0)));
    CHECK(isMissing(impliedGrowth(15, 10, 0.09, missing)));
    CHECK(impliedGrowth(15, 10.9, 0.09, 0.02) == impliedGrowth(15, 10, 0.09, 0.02));
}

} // namespace sieve::indicators
