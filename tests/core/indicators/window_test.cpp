#include "core/indicators/window.h"

#include "core/base/missing.h"
#include "demo_market/dice.h"

#include <bit>
#include <catch2/catch.hpp>
#include <cmath>
#include <vector>

namespace sieve::indicators {

namespace {

using Kernel = void (*)(Values, int, Span, Out);

std::vector<double> of(Kernel kernel, const std::vector<double>& values, int period)
{
    std::vector<double> out(values.size());
    kernel(values, period, Span::whole(), out);
    return out;
}

} // namespace

TEST_CASE("Windows: agree with the plain sum, highest and lowest", "[indicators]")
{
    demo_market::Dice dice(3);
    std::vector<double> values;
    for (int i = 0; i < 200; ++i)
        values.push_back(dice.between(-5, 5));
    const int period = GENERATE(1, 2, 3, 7, 50, 199, 200, 201, 300);
    const auto sums = of(windowSum, values, period);
    const auto highest = of(windowHighest, values, period);
    const auto lowest = of(windowLowest, values, period);
    for (int bar = 0; bar < 200; ++bar) {
        if (bar + 1 < period) {
            REQUIRE(isMissing(sums[static_cast<std::size_t>(bar)]));
            continue;
        }
        double sum = 0;
        double most = -99;
        double least = 99;
        for (int i = bar + 1 - period; i <= bar; ++i) {
            const double value = values[static_cast<std::size_t>(i)];
            sum += value;
            most = std::max(most, value);
            least = std::min(least, value);
        }
        REQUIRE(sums[static_cast<std::size_t>(bar)] == Approx(sum).margin(1e-12));
        REQUIRE(highest[static_cast<std::size_t>(bar)] == most);
        REQUIRE(lowest[static_cast<std::size_t>(bar)] == least);
    }
}

TEST_CASE("Windows: one that holds a missing value has none, the next has", "[indicators]")
{
    const auto length = GENERATE(std::size_t{6}, std::size_t{600}); // few bars, many bars
    std::vector<double> values(length, 3.0);
    std::copy_n(std::vector<double>{1, 2, missing, 4, 5, 6}.begin(), 6, values.begin());
    for (const Kernel kernel : {windowSum, windowHighest, windowLowest, simpleMovingAverage}) {
        const auto out = of(kernel, values, 2);
        CHECK_FALSE(isMissing(out[1]));
        CHECK(isMissing(out[2]));
        CHECK(isMissing(out[3]));
        CHECK_FALSE(isMissing(out[4]));
    }
}

TEST_CASE("Windows: extremes of many bars and of one are the same, missing ones and zeros too",
          "[indicators]")
{
    demo_market::Dice dice(8);
    std::vector<double> values;
    for (int i = 0; i < 700; ++i)
        values.push_back(dice.chance(0.02) ? missing : std::round(dice.between(-2, 2)) * 0.0);
    const int period = GENERATE(1, 2, 5, 31, 252);
    for (const Kernel kernel : {windowHighest, windowLowest}) {
        const auto all = of(kernel, values, period);
        for (std::size_t bar = static_cast<std::size_t>(period) - 1; bar < values.size(); ++bar) {
            const std::size_t first = bar + 1 - static_cast<std::size_t>(period);
            double one = 0;
            kernel(std::span(values).subspan(first, bar + 1 - first), period, {first, bar},
                   std::span(&one, 1));
            REQUIRE(isMissing(one) == isMissing(all[bar]));
            REQUIRE(std::signbit(one) == std::signbit(all[bar]));
        }
    }
}

TEST_CASE("Standard deviation: values that do not move have exactly none", "[indicators]")
{
    CHECK(of(standardDeviation, std::vector<double>(5, 17.35), 3)[2] == 0.0);
    CHECK(of(standardDeviation, {2, 4, 4, 4, 6}, 5)[4] == Approx(std::sqrt(8.0 / 5)));
    CHECK(of(meanDeviation, std::vector<double>(9, 17.35), 9)[8] == 0.0);
    CHECK(of(meanDeviation, {2, 4, 4, 4, 6}, 5)[4] == Approx(0.8));
}

TEST_CASE("Weighted average: the newest weighs most", "[indicators]")
{
    CHECK(of(weightedMovingAverage, {1, 2, 6}, 3)[2] == Approx((1 + 4 + 18) / 6.0));
}

TEST_CASE("Windows: refuse a broken promise", "[indicators]")
{
    std::vector<double> two(2);
    const std::vector<double> three(3);
    CHECK_THROWS_AS(windowSum(two, 0, Span::whole(), two), std::logic_error);
    CHECK_THROWS_AS(windowSum(three, 2, Span::whole(), two), std::logic_error);
    // Bar 10 of a window of 5 needs bars 6 to 10; 8 and 9 are not enough.
    CHECK_THROWS_AS(windowSum(three, 5, Span{8, 10}, std::span(two).first(1)), std::logic_error);
}

} // namespace sieve::indicators
