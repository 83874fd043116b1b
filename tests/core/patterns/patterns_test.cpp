#include "core/patterns/bar_marks.h"
#include "core/patterns/swings.h"
#include "demo_market/dice.h"

#include <algorithm>
#include <catch2/catch.hpp>
#include <set>

namespace sieve::patterns {

namespace {

struct Ranges {
    std::vector<double> high;
    std::vector<double> low;

    market::BarsView view() const
    {
        market::BarsView bars;
        bars.high = high;
        bars.low = low;
        return bars;
    }
};

std::vector<double> wander(std::uint64_t seed, std::size_t bars)
{
    demo_market::Dice dice(seed);
    std::vector<double> values{100.0};
    while (values.size() < bars)
        values.push_back(values.back() * (1.0 + 0.02 * dice.bell()));
    return values;
}

} // namespace

TEST_CASE("Swings: turn when the reversal has come, and are known on that bar", "[patterns]")
{
    const std::vector<double> line{100, 104, 110, 108, 104.5, 103, 106, 109, 120, 113};
    const auto swings = swingsByReversal(line, line, 0.05);
    REQUIRE(swings.size() == 4);
    CHECK(swings[0] == Swing{Turn::Low, 0, 100.0, 2}); // 110 is over 105
    CHECK(swings[1] == Swing{Turn::High, 2, 110.0, 4});
    CHECK(swings[2] == Swing{Turn::Low, 5, 103.0, 7});
    CHECK(swings[3] == Swing{Turn::High, 8, 120.0, 9});
}

TEST_CASE("Swings: highs and lows take turns, lie apart by the reversal, and nothing later changes "
          "them",
          "[patterns]")
{
    for (std::uint64_t seed = 1; seed <= 40; ++seed) {
        INFO("seed " << seed);
        const auto close = wander(seed, 300);
        std::vector<double> high;
        std::vector<double> low;
        for (const double value : close) {
            high.push_back(value * 1.004);
            low.push_back(value * 0.996);
        }
        const auto swings = swingsByReversal(high, low, 0.06);
        REQUIRE(swings.size() > 2);
        for (std::size_t i = 1; i < swings.size(); ++i) {
            REQUIRE(swings[i].turn != swings[i - 1].turn);
            REQUIRE(swings[i].bar > swings[i - 1].bar);
            REQUIRE(swings[i].knownOn > swings[i].bar);
            const auto [less, more] = std::minmax(swings[i].price, swings[i - 1].price);
            REQUIRE(more >= less * 1.06 * (1.0 - 1e-12));
        }
        const std::size_t cut = 150 + seed;
        const auto then =
            swingsByReversal(std::span(high).first(cut), std::span(low).first(cut), 0.06);
        std::vector<Swing> known;
        for (const Swing& swing : swings)
            if (swing.knownOn < cut)
                known.push_back(swing);
        REQUIRE(then == known);
    }
}

TEST_CASE("Swings: missing bars, flat lines and no bars at all", "[patterns]")
{
    CHECK(swingsByReversal({}, {}, 0.05).empty());
    const std::vector<double> flat(50, 10.0);
    CHECK(swingsByReversal(flat, flat, 0.01).empty());
    CHECK(turningPoints(flat, 3).empty());
    const std::vector<double> gaps{100, missing, 110, missing, 90};
    CHECK(swingsByReversal(gaps, gaps, 0.05).size() == 2);
    CHECK_THROWS_AS(swingsByReversal(flat, flat, 0.0), std::logic_error);
}

TEST_CASE("Turning points: nothing within reach tops them, the first of equals counts",
          "[patterns]")
{
    const std::vector<double> line{1, 2, 5, 5, 2, 1, 0, 1, 2};
    const auto points = turningPoints(line, 2);
    REQUIRE(points.size() == 2);
    CHECK(points[0] == Swing{Turn::High, 2, 5.0, 4});
    CHECK(points[1] == Swing{Turn::Low, 6, 0.0, 8});
    CHECK(turningPoints(std::vector<double>{1, 2, 5, missing, 2, 1}, 2).empty());
    CHECK(turningPoints(std::vector<double>{1, 3, 2, 9}, 1).front() ==
          Swing{Turn::High, 1, 3.0, 2}); // what comes later does not matter
    CHECK(turningPoints(std::vector<double>{9, 1, 3, 2}, 1).back() == Swing{Turn::High, 2, 3.0, 3});
}

TEST_CASE("Retracement: how much of a move was taken back", "[patterns]")
{
    CHECK(retraced(100, 200, 150) == Approx(0.5));
    CHECK(retraced(200, 100, 161.8) == Approx(0.618));
    CHECK(retraced(100, 200, 90) == Approx(1.1));
    CHECK(isMissing(retraced(100, 100, 90)));
    for (const double share : retracementShares)
        CHECK(retraced(120, 80, retracementPrice(120, 80, share)) == Approx(share).margin(1e-12));
}

TEST_CASE("Marks: gaps, inside and outside days", "[patterns]")
{
    const Ranges bars{{10, 12, 11.5, 13, 9, 9}, {9, 11, 11.2, 9.5, 8, 9}};
    CHECK(markedBars(bars.view()) == std::vector<MarkedBar>{{Mark::GapUp, 1, 1},
                                                            {Mark::InsideDay, 2, 2},
                                                            {Mark::OutsideDay, 3, 3},
                                                            {Mark::GapDown, 4, 4}});
}

TEST_CASE("Marks: an island stands wholly apart and is left once", "[patterns]")
{
    const Ranges top{{10, 13, 13.5, 10.5, 8}, {9, 12, 12.2, 9.5, 7}};
    const auto marks = markedBars(top.view());
    REQUIRE(marks.size() == 4);
    CHECK(marks[0] == MarkedBar{Mark::GapUp, 1, 1});
    CHECK(marks[1] == MarkedBar{Mark::GapDown, 3, 3});
    CHECK(marks[2] == MarkedBar{Mark::IslandTop, 3, 1});
    CHECK(marks[3] == MarkedBar{Mark::GapDown, 4, 4});
    const Ranges bottom{{10, 7, 6.5, 9.5}, {9, 6, 6, 8}}; // the same upside down
    const auto below = markedBars(bottom.view());
    CHECK(std::ranges::find(below, MarkedBar{Mark::IslandBottom, 3, 1}) != below.end());
    const Ranges noIsland{{10, 13, 12.5, 9.7}, {9, 12, 9.9, 9}}; // it came back below its begin
    for (const MarkedBar& mark : markedBars(noIsland.view()))
        CHECK(mark.mark != Mark::IslandTop);
}

TEST_CASE("Marks: each has a name of its own", "[patterns]")
{
    std::set<std::string_view> names;
    for (const Mark mark : {Mark::GapUp, Mark::GapDown, Mark::IslandTop, Mark::IslandBottom,
                            Mark::InsideDay, Mark::OutsideDay})
        names.insert(markName(mark));
    CHECK(names.size() == 6);
    CHECK(names.count("") == 0);
}

TEST_CASE("Marks: a line of closes and missing bars bear none", "[patterns]")
{
    const Ranges closes{{10, 12, 9}, {10, 12, 9}};
    CHECK(markedBars(closes.view()).empty());
    const Ranges holes{{10, missing, 14}, {9, missing, 13}};
    CHECK(markedBars(holes.view()).empty());
}

TEST_CASE("Retracement: the most that was taken back, by lows of a rise and highs of a fall",
          "[patterns]")
{
    const std::vector<double> highs{20.0, 18.0, 19.0};
    const std::vector<double> lows{19.0, 14.0, 16.0};
    CHECK(mostRetraced(10.0, 20.0, highs, lows) == Approx(0.6));
    CHECK(mostRetraced(30.0, 14.0, highs, lows) == Approx(6.0 / 16.0));
    CHECK(mostRetraced(10.0, 20.0, {}, {}) == 0.0);
}

TEST_CASE("Retracement: a point is the nearest swing, else the extreme near it, else the close",
          "[patterns]")
{
    const std::vector<double> closes{10, 11, 12, 11, 10, 11, 12, 13, 12, 11};
    std::vector<double> highs = closes;
    std::vector<double> lows = closes;
    highs[7] = 14.0;
    lows[4] = 9.0;
    const std::vector<Swing> swings{{Turn::High, 2, 12.5, 4}};
    CHECK(pointNear(swings, highs, lows, closes, 4, true, 2) == PricePoint{2, 12.5});
    CHECK(pointNear(swings, highs, lows, closes, 5, true, 2) == PricePoint{7, 14.0});
    CHECK(pointNear(swings, highs, lows, closes, 5, false, 2) == PricePoint{4, 9.0});
    CHECK(pointNear({}, highs, lows, closes, 9, false, 0) == PricePoint{9, 11.0});
    CHECK(pointNear({}, highs, lows, closes, 0, false, 3) == PricePoint{0, 10.0});
    CHECK(pointNear({}, highs, lows, closes, 9, true, 6) == PricePoint{7, 14.0});
}

TEST_CASE("Swings: the first may be a high, where the line begins with a fall", "[patterns]")
{
    const std::vector<double> line{100, 97, 94, 93, 99, 100};
    const auto swings = swingsByReversal(line, line, 0.05);
    REQUIRE(swings.size() == 2);
    CHECK(swings[0].turn == Turn::High);
    CHECK(swings[0].bar == 0);
    CHECK(swings[0].knownOn == 2);
    CHECK(swings[1].turn == Turn::Low);
    CHECK(swings[1].bar == 3);
}

} // namespace sieve::patterns
