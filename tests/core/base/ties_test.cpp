#include "core/base/ties.h"

#include "core/base/missing.h"

#include <catch2/catch.hpp>
#include <cstdint>
#include <random>

namespace sieve {

TEST_CASE("Ties: what is equal on paper is equal, and cents are told apart", "[base]")
{
    const double sum = 0.1 + 0.2;
    REQUIRE(sum != 0.3);
    CHECK(isTied(sum, 0.3));
    CHECK(isAtLeast(0.3, sum));
    CHECK(isAtMost(sum, 0.3));
    CHECK_FALSE(isGreater(sum, 0.3));
    CHECK_FALSE(isLess(0.3, sum));
    CHECK(differenceOf(sum, 0.3) == 0.0);
    CHECK(sumOf(sum, -0.3) == 0.0);
    for (const double price : {0.01, 1.0, 999.99, 123'456.78, 9'999'999.99}) {
        CHECK(isGreater(price + 0.01, price));
        CHECK(isLess(-price - 0.01, -price));
        CHECK_FALSE(isTied(price + 0.01, price));
        CHECK(differenceOf(price + 0.01, price) != 0.0);
    }
    CHECK(isGreater(1e-300, 0.0)); // nothing is equal to 0 but 0
    CHECK(isTied(0.0, -0.0));
    CHECK(isGreater(1e308, -1e308)); // their difference is no figure
    CHECK_FALSE(isTied(1e308, -1e308));
}

TEST_CASE("Ties: nothing holds of what is missing", "[base]")
{
    for (const auto& [a, b] : {std::pair(missing, 1.0), {1.0, missing}, {missing, missing}}) {
        CHECK_FALSE(isGreater(a, b));
        CHECK_FALSE(isLess(a, b));
        CHECK_FALSE(isAtLeast(a, b));
        CHECK_FALSE(isAtMost(a, b));
        CHECK_FALSE(isTied(a, b));
        CHECK(isMissing(sumOf(a, b)));
        CHECK(isMissing(differenceOf(a, b)));
    }
}

TEST_CASE("Ties: sums of cents compare as whole cents do", "[base]")
{
    std::mt19937 random(3);
    for (int round = 0; round < 20'000; ++round) {
        // Two sums of prices; every other time the second one has the same cents in another order.
        std::int64_t centsA = 0;
        std::int64_t centsB = 0;
        double a = 0.0;
        double b = 0.0;
        for (int i = 0; i < 40; ++i) {
            const auto cents = static_cast<std::int64_t>(random() % 20'000);
            centsA += cents;
            a += static_cast<double>(cents) / 100.0;
        }
        centsB = centsA + (round % 2 == 0 ? 0 : static_cast<std::int64_t>(random() % 3) - 1);
        b = static_cast<double>(centsB - 7) / 100.0 + 0.07;
        REQUIRE(isGreater(a, b) == (centsA > centsB));
        REQUIRE(isAtLeast(a, b) == (centsA >= centsB));
        REQUIRE(isTied(a, b) == (centsA == centsB));
    }
}

} // namespace sieve
