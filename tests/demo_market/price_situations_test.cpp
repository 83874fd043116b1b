#include "tests/demo_market/whole_market.h"

#include <algorithm>
#include <catch2/catch.hpp>
#include <cmath>

// The shapes of prices that the whole made-up market was promised to hold.

namespace sieve::demo_market {

using market::InstrumentKind;

TEST_CASE("Whole demo market: bases and their breakouts", "[demo_market][whole]")
{
    const Place cup = placeOf("a cup with a handle"); // the map names a session of the breakout
    const double left = extreme(cup, -150, -100, true);
    const double low = extreme(cup, -100, -30, false);
    const double right = extreme(cup, -40, -8, true);
    CHECK(low / left < 0.82);
    CHECK(right / left > 0.93);
    CHECK(extreme(cup, -10, -2, false) / right > 0.88); // a shallow handle
    CHECK(cup.change(-3, 8) > 0.08);
    CHECK(cup.volume(1, 9) > 1.8 * cup.volume(-12, -2));

    const Place flat = placeOf("a flat base");
    CHECK(extreme(flat, -34, -3, true) / extreme(flat, -34, -3, false) < 1.06);
    CHECK(flat.change(-3, 7) > 0.08);

    const Place twice = placeOf("a double bottom"); // the map names the second low
    const double first = extreme(twice, -45, -25, false);
    const double second = extreme(twice, -8, 8, false);
    CHECK(std::fabs(second / first - 1.0) < 0.06);
    CHECK(extreme(twice, -35, -10, true) / first > 1.15);
    CHECK(twice.change(0, 28) > 0.25);

    const Place stairs = placeOf("base after base");
    CHECK(stairs.change(-200, 0) > 0.8);
    CHECK(stairs.change(-25, 0) > 0.18);
    CHECK(std::fabs(stairs.change(2, 27)) < 0.1);
}

TEST_CASE("Whole demo market: runs, pullbacks, tight closes", "[demo_market][whole]")
{
    const Place run = placeOf("fourteen rises");
    int rises = 0;
    for (int session = -14; session <= 0; ++session)
        rises += run.close(session) > run.close(session - 1) ? 1 : 0;
    CHECK(rises >= 14);
    CHECK(run.volume(-4, 1) > 1.4 * run.volume(-14, -9));

    const Place end = placeOf("a run that ends");
    CHECK(end.change(-118, 0) > 0.8);
    CHECK(end.change(0, 26) < -0.2);

    const Place pullback = placeOf("pullbacks to a rising");
    const auto mean = [&](int session) {
        double sum = 0.0;
        for (int back = 0; back < 50; ++back)
            sum += pullback.close(session - back);
        return sum / 50.0;
    };
    CHECK(mean(0) > mean(-20));
    CHECK(extreme(pullback, -5, 2, false) / mean(0) < 1.06);
    CHECK(pullback.change(-18, 0) < 0.0);

    const Place tight = placeOf("closes within one percent");
    CHECK(extreme(tight, -9, 0, true) / extreme(tight, -9, 0, false) < 1.015);
    CHECK(tight.change(-58, -10) > 0.2);
}

TEST_CASE("Whole demo market: gaps at reports, islands, halts", "[demo_market][whole]")
{
    const auto gap = [](const Place& place, int session) {
        return place.bars.open.at(place.at(session)) / place.close(session - 1) - 1.0;
    };
    const Place holds = placeOf("a report with a gap up that holds");
    CHECK(gap(holds, 0) > 0.08);
    CHECK(extreme(holds, 0, 40, false) > holds.close(-1) * 1.05);
    const Place fails = placeOf("a report with a gap up that fails");
    CHECK(gap(fails, 0) > 0.08);
    CHECK(fails.close(20) < fails.close(-1));
    const Place falls = placeOf("a report with a gap down that holds");
    CHECK(gap(falls, 0) < -0.08);
    CHECK(falls.close(38) < falls.close(0));
    const Place closed = placeOf("a report with a gap down that is closed");
    CHECK(gap(closed, 0) < -0.08);
    CHECK(closed.close(30) > closed.close(-1));
    const Place island = placeOf("an island");
    CHECK(gap(island, -6) > 0.06);
    CHECK(gap(island, 0) < -0.06);
    const Place halt = placeOf("a halt");
    CHECK(halt.bars.days.at(halt.bar) - halt.bars.days.at(halt.bar - 1) > 14);
}

TEST_CASE("Whole demo market: listings with their first weeks", "[demo_market][whole]")
{
    const Place young = placeOf("first advance"); // the map names the low after the listing
    const int listing = -static_cast<int>(young.bar);
    const double firstWeekLow =
        *std::min_element(young.bars.low.begin(), young.bars.low.begin() + 5);
    CHECK(extreme(young, listing, listing + 40, true) / young.close(listing) > 1.25);
    CHECK(extreme(young, -4, 2, false) < firstWeekLow);
    CHECK(young.close(16) > firstWeekLow);
    const market::Instrument& instrument = isles().instrument(young.stock);
    CHECK(instrument.listedOn == young.bars.days.front());
    CHECK(instrument.offerPrice > 0.0);
    const auto lockUp = isles().calendar(young.stock);
    CHECK(std::ranges::count(lockUp, market::CalendarKind::LockUpEnd,
                             &market::CalendarEntry::kind) == 1);
    int merged = 0;
    const Place joined = placeOf("a listing by merger");
    for (std::size_t i = 0; i < isles().size(); ++i)
        merged += isles().instrument(i).delistedWhy ==
                          "merged into " + isles().instrument(joined.stock).symbol
                      ? 1
                      : 0;
    CHECK(merged == 2);
}

} // namespace sieve::demo_market
