#include "core/watchlists/position.h"

#include "tests/core/made_market.h"

#include <catch2/catch.hpp>

namespace sieve::watchlists {

namespace {

using test::day;

/// Closes from Monday 2024-01-01; on Thursday one share becomes two.
market::MarketPtr halved()
{
    auto record = test::recordOf("AAAA", {40, 44, 48, 25, 26});
    record.actions.push_back({record.bars.days[3], market::ActionKind::Split, 2.0});
    return test::marketOf({record, test::recordOf("BBBB", {10, 11, 12, 13, 14}, "Harbours")});
}

} // namespace

TEST_CASE("Position: several lots, part sales, first bought first sold", "[watchlists]")
{
    const auto market = halved();
    const std::vector<Trade> trades{{day("2024-01-01"), 40.0, 100.0},
                                    {day("2024-01-02"), 44.0, 50.0},
                                    {day("2024-01-05"), 26.0, -220.0}};
    const Position early = positionOf(trades, *market, 0, day("2024-01-03"));
    CHECK(early.shares == 150.0);
    CHECK(early.cost == Approx(6200.0));
    CHECK(early.worth == Approx(150.0 * 48.0));
    CHECK(early.gain == Approx(7200.0 / 6200.0 - 1.0));
    CHECK(early.since == day("2024-01-01"));
    // 300 shares of half the price by now.
    const Position split = positionOf(trades, *market, 0, day("2024-01-04"));
    CHECK(split.shares == 300.0);
    CHECK(split.cost == Approx(6200.0));
    CHECK(split.worth == Approx(7500.0));
    // 200 of the first lot at 20, then 20 of the second at 22.
    const Position part = positionOf(trades, *market, 0, day("2024-01-05"));
    CHECK(part.shares == Approx(80.0));
    CHECK(part.cost == Approx(80.0 * 22.0));
    CHECK(part.realized == Approx(200.0 * 6.0 + 20.0 * 4.0));
    CHECK(part.bought == Approx(6200.0));
    CHECK_FALSE(part.closedOn);
}

TEST_CASE("Position: all sold, and nothing bought", "[watchlists]")
{
    const auto market = halved();
    const std::vector<Trade> trades{{day("2024-01-01"), 10.0, 10.0},
                                    {day("2024-01-03"), 12.0, -10.0}};
    const Position sold = positionOf(trades, *market, 1, day("2024-01-05"));
    CHECK_FALSE(sold.isHeld());
    CHECK(sold.realized == Approx(20.0));
    CHECK(sold.closedOn == day("2024-01-03"));
    CHECK(isMissing(sold.worth));
    CHECK(positionOf(trades, *market, 1, day("2024-01-02")).isHeld()); // not known yet
    CHECK_FALSE(positionOf({}, *market, 1, day("2024-01-05")).since);
}

TEST_CASE("Holdings: what may be lost, by sector", "[watchlists]")
{
    const auto market = halved();
    const Day today = day("2024-01-05");
    const std::vector<Trade> first{{day("2024-01-04"), 25.0, 100.0}};
    const std::vector<Trade> second{{day("2024-01-04"), 13.0, 50.0}};
    const Position a = positionOf(first, *market, 0, today);
    const Position b = positionOf(second, *market, 1, today);
    CHECK(lossAt(a, 26.0, 24.0) == Approx(200.0));
    CHECK(lossAt(a, 26.0, 30.0) == 0.0); // the stop is above the close already
    CHECK(lossAt(a, 26.0, missing) == Approx(2600.0));
    const HeldStock held[] = {{0, a, lossAt(a, 26.0, 24.0), true},
                              {1, b, lossAt(b, 14.0, missing), false}};
    const Holdings all = holdingsOf(held, *market, today);
    CHECK(all.stocks == 2);
    CHECK(all.worth == Approx(2600.0 + 700.0));
    CHECK(all.lossAtStops == Approx(200.0 + 700.0));
    CHECK(all.withoutStop == 1);
    REQUIRE(all.parts.size() == 2);
    CHECK(all.parts[0].sector == "Energy");
    CHECK(all.parts[1].lossAtStops == Approx(700.0));
}

TEST_CASE("Holdings: in the market's currency", "[watchlists]")
{
    const auto market = test::marketOf(test::eventfulRecords());
    std::size_t other = 0;
    while (!market->isInOtherCurrency(other))
        ++other;
    const auto& days = market->bars(other).days;
    const Day today = days[days.size() / 2];
    const double close = market->bars(other).close[days.size() / 2];
    const std::vector<Trade> trades{{today, close, 10.0}};
    const HeldStock held[] = {{other, positionOf(trades, *market, other, today), 0.0, true}};
    const double rate = market->rate(other, today);
    const Holdings all = holdingsOf(held, *market, today);
    if (isMissing(rate)) {
        CHECK(all.withoutRate == 1);
        CHECK(all.worth == 0.0);
    } else {
        CHECK(all.worth == Approx(10.0 * close * rate));
    }
}

} // namespace sieve::watchlists
