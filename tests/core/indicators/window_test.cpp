#include "core/indicators/window.h"

#include "core/base/missing.h"
#include "core/indicators/bars_since.h"
#include "core/indicators/catalog.h"
#include "core/indicators/recursive_average.h"
#include "core/indicators/relative_strength_index.h"
#include "core/indicators/true_range.h"
#include "demo_market/dice.h"

#include <bit>
#include <catch2/catch.hpp>
#include <set>
#include <vector>

namespace sieve::indicators {

namespace {

std::vector<double> rsiOf(const std::vector<double>& closes, int period)
{
    std::vector<double> rsi(closes.size());
    relativeStrengthIndex(closes, period, rsi);
    return rsi;
}

using Kernel = void (*)(Values, int, std::size_t, std::span<double>);

std::vector<double> of(Kernel kernel, const std::vector<double>& values, int period,
                       std::size_t firstBar = 0)
{
    std::vector<double> out(values.size());
    kernel(values, period, firstBar, out);
    return out;
}

} // namespace

TEST_CASE("Windows: agree with the plain sum, highest and lowest", "[indicators]")
{
    demo_market::Dice dice(3);
    std::vector<double> values;
    for (int i = 0; i < 200; ++i)
        values.push_back(dice.between(-5, 5));
    const int period = GENERATE(1, 2, 3, 7, 50, 199, 200, 201);
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

TEST_CASE("Windows: a bar has the same bits wherever evaluation starts", "[indicators]")
{
    demo_market::Dice dice(4);
    std::vector<double> values;
    for (int i = 0; i < 120; ++i)
        values.push_back(dice.between(1, 1000));
    const int period = GENERATE(2, 5, 13, 40);
    const auto whole = of(simpleMovingAverage, values, period);
    for (std::size_t start = 0; start + static_cast<std::size_t>(period) <= values.size();
         ++start) {
        const std::vector<double> part(values.begin() + static_cast<std::ptrdiff_t>(start),
                                       values.end());
        const auto some = of(simpleMovingAverage, part, period, start);
        for (std::size_t bar = static_cast<std::size_t>(period) - 1; bar < part.size(); ++bar)
            REQUIRE(std::bit_cast<std::uint64_t>(some[bar]) ==
                    std::bit_cast<std::uint64_t>(whole[start + bar]));
    }
}

TEST_CASE("Windows: one that holds a missing value has none, the next has", "[indicators]")
{
    const std::vector<double> values{1, 2, missing, 4, 5, 6};
    for (const Kernel kernel : {windowSum, windowHighest, windowLowest, simpleMovingAverage}) {
        const auto out = of(kernel, values, 2);
        CHECK_FALSE(isMissing(out[1]));
        CHECK(isMissing(out[2]));
        CHECK(isMissing(out[3]));
        CHECK_FALSE(isMissing(out[4]));
    }
}

TEST_CASE("Standard deviation: values that do not move have exactly none", "[indicators]")
{
    std::vector<double> out(5);
    standardDeviation(std::vector<double>(5, 17.35), 3, out);
    CHECK(out[2] == 0.0);
    standardDeviation(std::vector<double>{2, 4, 4, 4, 6}, 5, out);
    CHECK(out[4] == Approx(std::sqrt(8.0 / 5)));
}

TEST_CASE("RSI: agrees with a case worked by hand", "[indicators]")
{
    const auto rsi = rsiOf({10, 11, 10, 12}, 2); // changes +1, -1, +2
    CHECK(isMissing(rsi[1]));                    // two changes are needed
    CHECK(rsi[2] == Approx(50.0));               // gain 1/2, loss 1/2
    CHECK(rsi[3] == Approx(100.0 * 5 / 6));      // gain (1/2 + 2) / 2, loss (1/2 + 0) / 2
}

TEST_CASE("RSI: a price that never moved has none", "[indicators]")
{
    CHECK(isMissing(rsiOf({5, 5, 5, 5}, 2).back())); // a halted stock must not look oversold
}

TEST_CASE("Recursive averages: skip what is missing at the start, bear it later", "[indicators]")
{
    std::vector<double> out(6);
    exponentialMovingAverage(std::vector<double>{missing, 1, 3, missing, 6, 6}, 2, out);
    CHECK(isMissing(out[1]));
    CHECK(out[2] == Approx(2));
    CHECK(out[3] == Approx(2));
    CHECK(out[4] == Approx(2 + (6 - 2) * 2.0 / 3));
}

TEST_CASE("True range: the first bar has none", "[indicators]")
{
    std::vector<double> range(2);
    trueRange(std::vector<double>{11, 15}, std::vector<double>{9, 14}, std::vector<double>{10, 14},
              range);
    CHECK(isMissing(range[0]));
    CHECK(range[1] == Approx(5)); // 15 - 10: the gap counts
}

TEST_CASE("Since and streak: count bars", "[indicators]")
{
    const std::vector<double> held{0, 1, 1, 0, missing, 1};
    std::vector<double> out(6);
    barsSince(held, out);
    CHECK(isMissing(out[0]));
    CHECK(out[2] == 0);
    CHECK(out[4] == 2);
    streak(held, out);
    CHECK(out[2] == 2);
    CHECK(out[3] == 0);
    CHECK(isMissing(out[4]));
    CHECK(out[5] == 1);
}

TEST_CASE("Kernels: refuse a broken promise", "[indicators]")
{
    std::vector<double> two(2);
    CHECK_THROWS_AS(windowSum(std::vector<double>(2), 0, 0, two), std::logic_error);
    CHECK_THROWS_AS(windowSum(std::vector<double>(3), 2, 0, two), std::logic_error);
    CHECK_THROWS_AS(relativeStrengthIndex(std::vector<double>(3), 2, two), std::logic_error);
    CHECK_THROWS_AS(exponentialMovingAverage(std::vector<double>(2), 0, two), std::logic_error);
}

TEST_CASE("Catalogue: every row is whole and its key its own", "[indicators]")
{
    std::set<std::string_view> keys;
    for (const Indicator& each : catalog()) {
        INFO(each.key);
        CHECK(keys.insert(each.key).second);
        CHECK(each.compute != nullptr);
        CHECK_FALSE(each.help.empty());
        CHECK_FALSE(each.inputs.empty());
        CHECK(indicatorNamed(each.key) == &each);
        // One bar and no bar at all are borne.
        const std::vector<double> one{1.0};
        const std::vector<std::span<const double>> columns(each.inputs.size(), one);
        std::vector<double> out(1);
        each.compute(columns, each.period ? std::max(each.period->least, 2) : 0, 0, out);
        const std::vector<std::span<const double>> none(each.inputs.size());
        each.compute(none, each.period ? std::max(each.period->least, 2) : 0, 0, {});
    }
}

} // namespace sieve::indicators
