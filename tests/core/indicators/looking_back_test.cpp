#include "core/indicators/looking_back.h"

#include "core/base/missing.h"
#include "core/indicators/running_totals.h"
#include "core/indicators/trailing_stops.h"

#include <catch2/catch.hpp>
#include <vector>

namespace sieve::indicators {

TEST_CASE("Since, streak and value when: count bars", "[indicators]")
{
    const std::vector<double> held{0, 1, 1, 0, missing, 1};
    std::vector<double> out(6);
    REQUIRE(barsSince(held, Span::whole(), out));
    CHECK(isMissing(out[0]));
    CHECK(out[2] == 0);
    CHECK(out[4] == 2);
    REQUIRE(streak(held, Span::whole(), out));
    CHECK(out[2] == 2);
    CHECK(out[3] == 0);
    CHECK(isMissing(out[4]));
    CHECK(out[5] == 1);
    const std::vector<double> values{10, 11, 12, 13, 14, 15};
    REQUIRE(valueWhen(held, values, Span::whole(), out));
    CHECK(isMissing(out[0]));
    CHECK(out[4] == 12);
    CHECK(out[5] == 15);
}

TEST_CASE("Since: what was not found in a part of the bars asks for more", "[indicators]")
{
    const std::vector<double> never(4, 0.0);
    double out = 0;
    CHECK_FALSE(barsSince(never, Span{7, 10}, std::span(&out, 1)));
    CHECK_FALSE(streak(std::vector<double>(4, 1.0), Span{7, 10}, std::span(&out, 1)));
    CHECK(streak(never, Span{7, 10}, std::span(&out, 1)));
    CHECK(out == 0.0);
}

TEST_CASE("Volume-weighted average: starts anew on each bar that begins one", "[indicators]")
{
    const std::vector<double> price{3, 6, 9};
    const std::vector<double> volume{1, 3, 1};
    std::vector<double> out(3);
    REQUIRE(volumeWeightedSince(std::vector<double>{1, 0, 1}, price, price, price, volume,
                                Span::whole(), out));
    CHECK(out[0] == 3);
    CHECK(out[1] == Approx((3 + 18) / 4.0));
    CHECK(out[2] == 9);
}

TEST_CASE("Trailing stop: follows a rise, never steps back, and turns when closed through",
          "[indicators]")
{
    const std::vector<double> closes{100, 110, 106, 99, 98, 103};
    const std::vector<double> ranges(6, 2.0);
    std::vector<double> stop(6);
    trailAtRange(closes, ranges, 3, Span::whole(), stop);
    CHECK(stop == std::vector<double>{94, 104, 104, 105, 104, 104});
}

TEST_CASE("Running totals: a bar without a volume adds nothing and ends nothing", "[indicators]")
{
    const std::vector<double> highs{4, 7, 10, 10};
    const std::vector<double> lows{2, 5, 8, 6};
    const std::vector<double> closes{3, 7, 10, 7};
    const std::vector<double> volumes{10, missing, 5, 4};
    std::vector<double> out(4);
    onBalanceVolume(closes, volumes, Span::whole(), out);
    CHECK(out == std::vector<double>{10, 10, 15, 11});
    accumulationLine(highs, lows, closes, volumes, Span::whole(), out);
    CHECK(out == std::vector<double>{0, 0, 5, 3});
    REQUIRE(volumeWeightedSince(std::vector<double>{1, 0, 0, 0}, closes, closes, closes, volumes,
                                Span::whole(), out));
    CHECK(out[1] == 3);
    CHECK(out[2] == Approx((30 + 50) / 15.0));
}

} // namespace sieve::indicators
