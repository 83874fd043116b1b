#include "core/indicators/window.h"
#include "demo_market/dice.h"
#include "tests/core/same_bits.h"

#include <catch2/catch.hpp>
#include <cmath>
#include <vector>

namespace sieve::indicators {

using test::sameBits;

namespace {

std::vector<double> figures(std::size_t count, double gaps = 0.0)
{
    demo_market::Dice dice(11);
    std::vector<double> values;
    for (std::size_t i = 0; i < count; ++i)
        values.push_back(dice.chance(gaps) ? missing : dice.between(-3, 7) * 1e3);
    return values;
}

std::vector<double> sumsOf(std::span<const double> values, int period)
{
    std::vector<double> sums(values.size());
    windowSum(values, period, Span::whole(), sums);
    return sums;
}

/// The sum of bars [from, to) alone, given no more bars before them than their windows reach.
std::vector<double> sumsOfSome(std::span<const double> values, int period, std::size_t from,
                               std::size_t to)
{
    const auto reach = static_cast<std::size_t>(period) - 1;
    const std::size_t first = from - std::min(from, reach);
    std::vector<double> sums(to - from);
    windowSum(values.subspan(first, to - first), period, {first, from}, sums);
    return sums;
}

void requireSameBits(double a, double b)
{
    CAPTURE(a, b);
    REQUIRE(sameBits(a, b));
}

} // namespace

TEST_CASE("Window sums: a bar has the same bits alone and among any others", "[indicators]")
{
    // Lengths below, at and beyond the pieces in which a block is added up, whole ones and others.
    const int period = GENERATE(1, 2, 3, 4, 5, 7, 8, 9, 15, 16, 17, 23, 24, 31, 40, 64, 180, 263);
    const auto values = figures(600, 0.004);
    const auto all = sumsOf(values, period);
    for (std::size_t bar = 0; bar < values.size(); ++bar)
        requireSameBits(sumsOfSome(values, period, bar, bar + 1)[0], all[bar]);
    demo_market::Dice dice(4);
    for (int turn = 0; turn < 60; ++turn) {
        const std::size_t from = dice.below(values.size());
        const std::size_t to = from + 1 + dice.below(values.size() - from);
        const auto some = sumsOfSome(values, period, from, to);
        for (std::size_t bar = from; bar < to; ++bar)
            requireSameBits(some[bar - from], all[bar]);
    }
}

TEST_CASE("Window sums: rounded no worse than one after another", "[indicators]")
{
    const int period = GENERATE(2, 6, 13, 50, 200);
    const auto values = figures(700);
    const auto sums = sumsOf(values, period);
    const auto length = static_cast<std::size_t>(period);
    for (std::size_t bar = length - 1; bar < values.size(); ++bar) {
        long double exact = 0.0L;
        long double size = 0.0L;
        for (std::size_t i = bar + 1 - length; i <= bar; ++i) {
            exact += static_cast<long double>(values[i]);
            size += std::fabs(static_cast<long double>(values[i]));
        }
        const double bound = static_cast<double>(size) * period * 1.2e-16;
        CAPTURE(period, bar);
        REQUIRE(std::fabs(sums[bar] - static_cast<double>(exact)) <= bound);
    }
}

TEST_CASE("Window sums: whole numbers are exact", "[indicators]")
{
    std::vector<double> values;
    for (int i = 0; i < 400; ++i)
        values.push_back(i);
    const int period = GENERATE(1, 9, 40, 77);
    const auto sums = sumsOf(values, period);
    for (int bar = period - 1; bar < 400; ++bar) // the mean of first and last, so many times
        REQUIRE(sums[static_cast<std::size_t>(bar)] == (2.0 * bar - period + 1) / 2.0 * period);
}

TEST_CASE("Window sums: missing exactly where a window is short or holds a missing value",
          "[indicators]")
{
    const int period = GENERATE(1, 5, 8, 21, 40);
    const auto values = figures(500, 0.02);
    const auto sums = sumsOf(values, period);
    std::size_t known = 0; // how many in a row, up to the bar
    for (std::size_t bar = 0; bar < values.size(); ++bar) {
        known = isMissing(values[bar]) ? 0 : known + 1;
        CAPTURE(period, bar);
        REQUIRE(isMissing(sums[bar]) == (known < static_cast<std::size_t>(period)));
    }
}

TEST_CASE("Window sums: what is on no bar that was asked for is not looked at", "[indicators]")
{
    auto values = figures(300);
    const auto clean = sumsOf(values, 30);
    values[120] = missing; // the bar before the first window's first
    const auto some = sumsOfSome(values, 30, 150, 200);
    for (std::size_t bar = 150; bar < 200; ++bar)
        requireSameBits(some[bar - 150], clean[bar]);
}

TEST_CASE("Window sums: no zero has a sign", "[indicators]")
{
    const int period = GENERATE(1, 3, 8, 12);
    const std::vector<double> values(60, -0.0);
    for (const double sum : sumsOf(values, period))
        CHECK((isMissing(sum) || !std::signbit(sum)));
    CHECK_FALSE(std::signbit(sumsOfSome(values, period, 50, 51)[0]));
}

TEST_CASE("Window sums: a longer window than history has none", "[indicators]")
{
    const auto values = figures(20);
    for (const double sum : sumsOf(values, 21))
        CHECK(isMissing(sum));
    CHECK_FALSE(isMissing(sumsOf(values, 20).back()));
    CHECK(sumsOf({}, 5).empty());
}

} // namespace sieve::indicators
