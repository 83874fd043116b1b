#include "core/drawings/drawn.h"

#include "core/drawings/hand.h"
#include "core/drawings/snap.h"
#include "core/drawings/time_line.h"
#include "tests/core/made_market.h"

#include <catch2/catch.hpp>
#include <cmath>

// Where drawings lie and what they are worth, by bars that are made by hand.

namespace sieve::drawings {

namespace {

using test::day;

/// Ten weekdays from Monday 2024-01-01 to Friday the 12th with closes of 10 to 19.
const market::Bars& ten()
{
    static const market::Bars bars = test::barsOf({10, 11, 12, 13, 14, 15, 16, 17, 18, 19});
    return bars;
}

Drawing drawing(Tool tool, std::vector<Anchor> anchors)
{
    Drawing made;
    made.tool = tool;
    made.symbol = "AAAA.C";
    made.drawnOn = day("2024-01-12");
    made.anchors = std::move(anchors);
    return made;
}

Anchor at(const char* iso, double price)
{
    return {day(iso), price};
}

double value(const Drawing& of, double share, double bar)
{
    return Drawn(of, ten()).value(share, bar);
}

std::vector<std::string> captions(const Drawing& of, const Sight& sight = {-0.5, 9.5})
{
    std::vector<std::string> words;
    for (const Caption& caption : Drawn(of, ten()).outline(sight).captions)
        words.push_back(caption.text);
    return words;
}

bool has(const std::vector<std::string>& words, const std::string& wanted)
{
    return std::ranges::find(words, wanted) != words.end();
}

} // namespace

TEST_CASE("Drawings: days lie among bars, between them and beyond them")
{
    const std::span<const Day> days = ten().days;
    CHECK(placeOf(days, day("2024-01-01")) == 0.0);
    CHECK(placeOf(days, day("2024-01-08")) == 5.0);
    CHECK(placeOf(days, day("2024-01-06")) == Approx(4.0 + 1.0 / 3.0)); // a Saturday
    CHECK(placeOf(days, day("2024-01-13")) == 9.0);                     // no weekday since Friday
    CHECK(placeOf(days, day("2024-01-15")) == 10.0);
    CHECK(placeOf(days, day("2024-01-26")) == 19.0);
    CHECK(placeOf(days, day("2023-12-29")) == -1.0);
    CHECK(placeOf(days, day("2023-12-22")) == -6.0);
    CHECK(isMissing(placeOf({}, day("2024-01-01"))));
    for (const double place : {-7.0, -6.0, -1.0, 0.0, 4.0, 9.0, 10.0, 14.0, 15.0, 29.0}) {
        CAPTURE(place);
        CHECK(placeOf(days, dayAt(days, place)) == place);
        CHECK_FALSE(dayAt(days, place).isWeekend());
    }
    CHECK(upTo(days, day("2024-01-06")).size() == 5);
    CHECK(upTo(days, day("2023-01-06")).empty());
}

TEST_CASE("Drawings: lines, rays and levels have their price where they are")
{
    const std::vector<Anchor> two{at("2024-01-02", 10.0), at("2024-01-04", 14.0)}; // bars 1 and 3
    const Drawing line = drawing(Tool::Line, two);
    CHECK(value(line, 0.0, 2.0) == 12.0);
    CHECK(value(line, 0.0, 1.0) == 10.0);
    CHECK(isMissing(value(line, 0.0, 0.9)));
    CHECK(isMissing(value(line, 0.0, 3.1)));
    const Drawing ray = drawing(Tool::Ray, two);
    CHECK(value(ray, 0.0, 9.0) == 26.0);
    CHECK(isMissing(value(ray, 0.0, 0.5)));
    const Drawing back = drawing(Tool::Ray, {two[1], two[0]});
    CHECK(value(back, 0.0, 0.0) == 8.0);
    CHECK(isMissing(value(back, 0.0, 3.5)));
    CHECK(isMissing(value(drawing(Tool::Ray, {two[0], two[0]}), 0.0, 1.0))); // through one bar
    const Drawing level = drawing(Tool::Level, {at("2024-01-04", 14.0)});
    CHECK(value(level, 0.0, -3.0) == 14.0);
    CHECK(value(level, 0.7, 99.0) == 14.0);
    Drawing logarithmic = drawing(Tool::Ray, {at("2024-01-02", 10.0), at("2024-01-04", 40.0)});
    logarithmic.isLogarithmic = true;
    CHECK(value(logarithmic, 0.0, 2.0) == Approx(20.0));
    CHECK(value(logarithmic, 0.0, 5.0) == Approx(160.0));
}

TEST_CASE("Drawings: channels, moves and boxes have prices across them")
{
    const Anchor a = at("2024-01-02", 10.0);                                  // bar 1
    const Anchor b = at("2024-01-04", 14.0);                                  // bar 3
    Drawing channel = drawing(Tool::Channel, {a, b, at("2024-01-03", 15.0)}); // 3 over the middle
    CHECK(value(channel, 0.0, 5.0) == 18.0);
    CHECK(value(channel, 1.0, 5.0) == 21.0);
    CHECK(value(channel, 0.5, 5.0) == 19.5);
    CHECK(isMissing(value(channel, 0.0, 0.0)));
    channel.isLogarithmic = true;
    channel.anchors[2].price = std::sqrt(140.0) * 2.0; // twice the line there
    CHECK(value(channel, 1.0, 3.0) == Approx(28.0));
    const Drawing back = drawing(Tool::Retracement, {a, b});
    CHECK(value(back, 0.0, 4.0) == 14.0);
    CHECK(value(back, 1.0, 4.0) == 10.0);
    CHECK(value(back, 0.25, 4.0) == 13.0);
    CHECK(isMissing(value(back, 0.25, 0.0)));
    const Drawing on = drawing(Tool::Extension, {a, b, at("2024-01-08", 12.0)});
    CHECK(value(on, 0.0, 5.0) == 12.0);
    CHECK(value(on, 1.5, 9.0) == 18.0);
    CHECK(isMissing(value(on, 1.0, 4.0)));
    CHECK(value(drawing(Tool::MeasuredMove, {a, b, at("2024-01-08", 12.0)}), 1.0, 6.0) == 16.0);
    const Drawing box = drawing(Tool::Box, {b, a}); // corners in any order
    CHECK(value(box, 0.0, 2.0) == 10.0);
    CHECK(value(box, 1.0, 9.0) == 14.0);
    CHECK(isMissing(value(box, 1.0, 0.0)));
    for (const Tool tool : {Tool::Note, Tool::Arrow, Tool::Swings})
        CHECK(isMissing(value(drawing(tool, {a, b}), 0.0, 2.0)));
}

TEST_CASE("Drawings: an average since a day is the price of all shares traded since")
{
    market::Bars bars = test::barsOf({10, 20, 30});
    bars.high = bars.low = bars.close;
    bars.volume = {100, 100, 300};
    const Drawing average = drawing(Tool::Average, {at("2024-01-02", 1.0)});
    const Drawn drawn(average, bars);
    CHECK(isMissing(drawn.value(0.0, 0.0)));
    CHECK(drawn.value(0.0, 1.0) == 20.0);
    CHECK(drawn.value(0.0, 2.0) == 27.5);
    CHECK(isMissing(drawn.value(0.0, 3.0)));
    CHECK(drawn.points()[0] == Point{1.0, 20.0}); // it stands on its line
    const Outline outline = drawn.outline({-0.5, 2.5});
    REQUIRE(outline.strokes.size() == 1);
    CHECK(outline.strokes[0].points == std::vector<Point>{{1.0, 20.0}, {2.0, 27.5}});
    // A day before the first bar or after the last has none.
    for (const char* iso : {"2023-12-29", "2024-01-05"}) {
        Drawing off = drawing(Tool::Average, {at(iso, 1.0)});
        CHECK(isMissing(Drawn(off, bars).value(0.0, 1.0)));
        CHECK(Drawn(off, bars).outline({-0.5, 2.5}).strokes.empty());
    }
}

TEST_CASE("Drawings: a regression is the line of least squares, worked by hand")
{
    // Closes 10, 14, 12, 16 at 0 to 3: slope 1.6, level 10.6; off by -0.6, 1.8, -1.8, 0.6, whose
    // mean square is 1.8.
    market::Bars bars = test::barsOf({10, 14, 12, 16, 99});
    Drawing regression = drawing(Tool::Regression, {at("2024-01-04", 5.0), at("2024-01-01", 5.0)});
    const Drawn drawn(regression, bars);
    CHECK(drawn.value(0.0, 0.0) == Approx(10.6));
    CHECK(drawn.value(0.0, 3.0) == Approx(15.4));
    CHECK(drawn.value(0.0, 4.0) == Approx(17.0)); // goes on
    CHECK(drawn.value(2.0, 3.0) == Approx(15.4 + 2.0 * std::sqrt(1.8)));
    CHECK(drawn.value(-1.0, 0.0) == Approx(10.6 - std::sqrt(1.8)));
    CHECK(drawn.points()[0].price == Approx(15.4));
    CHECK(drawn.outline({-0.5, 5.0}).strokes.size() == 3);
    // What came after the day on which it was drawn is not in it, though its last point lies there.
    regression.anchors[0].day = day("2024-01-05");
    regression.drawnOn = day("2024-01-04");
    CHECK(Drawn(regression, bars).value(0.0, 3.0) == Approx(15.4));
    regression.drawnOn = day("2024-01-05");
    CHECK(Drawn(regression, bars).value(0.0, 3.0) > 40.0);
    // In shares: closes that double have a straight line.
    Drawing doubles = drawing(Tool::Regression, {at("2024-01-01", 1.0), at("2024-01-03", 1.0)});
    doubles.isLogarithmic = true;
    const Drawn straight(doubles, test::barsOf({10, 20, 40}));
    CHECK(straight.value(0.0, 3.0) == Approx(80.0));
    CHECK(straight.value(2.0, 1.0) == Approx(20.0));
    // One bar has no line.
    doubles.anchors[1] = doubles.anchors[0];
    const Drawn none(doubles, test::barsOf({10, 20, 40}));
    CHECK(isMissing(none.value(0.0, 1.0)));
    CHECK(none.outline({-0.5, 2.5}).strokes.empty());
}

TEST_CASE("Drawings: a point ahead lies so many weekdays after the day it was drawn on, for good")
{
    Drawing ray = drawing(Tool::Ray, {at("2024-01-01", 10.0), at("2024-01-09", 16.0)});
    ray.drawnOn = day("2024-01-03");
    // The market rested on the 8th: by bars the 9th came one sooner, the line does not move.
    market::Bars rested = ten();
    for (auto* column : {&rested.open, &rested.high, &rested.low, &rested.close, &rested.volume})
        column->erase(column->begin() + 5);
    rested.days.erase(rested.days.begin() + 5);
    CHECK(value(ray, 0.0, 6.0) == 16.0);
    CHECK(Drawn(ray, rested).value(0.0, 6.0) == 16.0);
    CHECK(Drawn(ray, test::barsOf({10, 11, 12})).value(0.0, 2.0) == 12.0);
}

TEST_CASE("Drawings: their outlines are lines in sight, curves where the scale bends them")
{
    Drawing ray = drawing(Tool::Ray, {at("2024-01-02", 10.0), at("2024-01-04", 14.0)});
    const auto points = [&](const Sight& sight) {
        const Outline outline = Drawn(ray, ten()).outline(sight);
        REQUIRE(outline.strokes.size() == 1);
        CHECK(outline.handles.size() == 2);
        return outline.strokes[0].points;
    };
    CHECK(points({-0.5, 9.5}) == std::vector<Point>{{1.0, 10.0}, {10.5, 29.0}});
    CHECK(points({4.0, 6.0}) == std::vector<Point>{{3.0, 14.0}, {7.0, 22.0}});
    CHECK(points({-0.5, 9.5, true}).size() == 49);
    ray.isLogarithmic = true;
    CHECK(points({-0.5, 9.5, true}).size() == 2);
    CHECK(Drawn(ray, ten()).outline({-9.0, -5.0}).strokes.empty()); // out of sight
    CHECK(Drawn(ray, market::Bars()).outline({-0.5, 9.5}).handles.empty());
}

TEST_CASE("Drawings: what stands beside them")
{
    Drawing level = drawing(Tool::Level, {at("2024-01-04", 14.0)});
    level.name = "pivot";
    CHECK(captions(level) == std::vector<std::string>{"pivot  14.00"});
    level.anchors[0].price = 0.123456;
    level.name.clear();
    CHECK(captions(level) == std::vector<std::string>{"0.1235"});
    const auto back = captions(
        drawing(Tool::Retracement, {at("2024-01-02", 23.0), at("2024-01-04", 13.0)})); // close 19
    CHECK(has(back, "38.2 %  16.82"));
    CHECK(has(back, "100 %  23.00"));
    CHECK(has(back, "now 60 % back"));
    const auto on = captions(drawing(
        Tool::Extension, {at("2024-01-02", 10.0), at("2024-01-04", 14.0), at("2024-01-05", 13.0)}));
    CHECK(has(on, "161.8 %  19.47"));
    const Drawing move =
        drawing(Tool::MeasuredMove,
                {at("2024-01-02", 10.0), at("2024-01-04", 14.0), at("2024-01-08", 12.5)});
    CHECK(captions(move) == std::vector<std::string>{"16.50, +32.0 %"});
    const Outline path = Drawn(move, ten()).outline({-0.5, 9.5});
    CHECK(path.strokes[0].points.back() == Point{7.0, 16.5}); // as long as the move it repeats
    CHECK(path.strokes[0].hasTip);
    Drawing swings = drawing(Tool::Swings, {at("2024-01-01", 10.0), at("2024-01-02", 20.0),
                                            at("2024-01-04", 14.0), at("2024-01-05", 26.0)});
    CHECK(captions(swings) == std::vector<std::string>{"1", "2 · 60 %", "3 · 200 %"});
    for (int i = 0; i < 5; ++i)
        swings.anchors.push_back(at(i % 2 == 0 ? "2024-01-08" : "2024-01-09", 15.0 + i % 2));
    const auto counted = captions(swings);
    REQUIRE(counted.size() == 8);
    CHECK(counted[4].starts_with("5"));
    CHECK(counted[5].starts_with("a"));
    CHECK(counted[7].starts_with("c"));
    Drawing note = drawing(Tool::Note, {at("2024-01-04", 14.0)});
    note.text = "A quay is opened";
    CHECK(captions(note) == std::vector<std::string>{"A quay is opened"});
    const Outline box =
        Drawn(drawing(Tool::Box, {at("2024-01-02", 10.0), at("2024-01-04", 14.0)}), ten())
            .outline({-0.5, 9.5});
    CHECK(box.areas.size() == 1);
    CHECK(box.strokes[0].points.size() == 5);
}

TEST_CASE("Drawings: a distance in bars, days, money, share and true ranges")
{
    market::Bars bars = test::barsOf(std::vector<double>(40, 50.0));
    bars.high.assign(40, 51.0);
    bars.low.assign(40, 49.0);
    const Distance up = distanceOf({20.0, 50.0}, {25.0, 60.0}, bars);
    CHECK(up.bars == 5.0);
    CHECK(up.days == 7);
    CHECK(up.money == 10.0);
    CHECK(up.change == Approx(0.2));
    CHECK(up.trueRanges == Approx(5.0));
    const Distance back = distanceOf({25.0, 60.0}, {20.0, 50.0}, bars);
    CHECK(back.bars == -5.0);
    CHECK(back.days == -7);
    CHECK(back.trueRanges == Approx(-5.0));
    CHECK(isMissing(distanceOf({0.0, 50.0}, {5.0, 60.0}, bars).trueRanges));
    CHECK(distanceOf({38.0, 50.0}, {44.0, 60.0}, bars).trueRanges == Approx(5.0)); // ahead
    CHECK(isMissing(distanceOf({0.0, 1.0}, {1.0, 2.0}, market::Bars()).trueRanges));
}

TEST_CASE("Drawings: the hand asks for each point and shows the one under the pointer")
{
    Hand hand(Tool::Channel, true);
    CHECK_FALSE(hand.shown());
    CHECK(hand.asks() == "Channel: two points of one side, then one of the other (point 1 of 3)");
    hand.move(at("2024-01-02", 9.0));
    CHECK(hand.shown()->anchors.size() == 3); // all under the pointer
    CHECK(hand.shown()->isLogarithmic);
    CHECK_FALSE(hand.set(at("2024-01-02", 10.0)));
    CHECK_FALSE(hand.set(at("2024-01-02", 10.0))); // the same again is none
    CHECK(hand.pointsSet() == 1);
    CHECK_FALSE(hand.set(at("2024-01-04", 14.0)));
    CHECK_FALSE(hand.isEnough());
    hand.move(at("2024-01-05", 11.0));
    CHECK(hand.shown()->anchors == std::vector<Anchor>{at("2024-01-02", 10.0),
                                                       at("2024-01-04", 14.0),
                                                       at("2024-01-05", 11.0)});
    CHECK(hand.takeBack());
    CHECK(hand.asks() == "Channel: two points of one side, then one of the other (point 2 of 3)");
    CHECK_FALSE(hand.set(at("2024-01-04", 15.0)));
    CHECK(hand.set(at("2024-01-05", 12.0)));
    CHECK(hand.made().anchors[1].price == 15.0);
    Hand swings(Tool::Swings, false);
    CHECK_FALSE(swings.takeBack());
    swings.set(at("2024-01-02", 10.0));
    CHECK_FALSE(swings.isEnough());
    swings.set(at("2024-01-03", 12.0));
    CHECK(swings.isEnough());
    CHECK(swings.asks().ends_with("(point 3 of at most 9)"));
    CHECK(Hand(Tool::Level, false).asks() == "Level: a price");
}

TEST_CASE("Drawings: a point is caught by prices, and by turns from farther")
{
    market::Bars bars = test::barsOf({10, 11, 12, 15, 12, 11, 10, 11});
    bars.high = {10.5, 11.5, 12.5, 15.5, 12.5, 11.5, 10.5, 11.5};
    bars.low = {9.5, 10.5, 11.5, 14.5, 11.5, 10.5, 9.5, 10.5};
    bars.open = bars.close;
    const auto meant = [&](double bar, double price) { // ten pixels a bar, ten a unit of price
        return meantPoint(bars, 0, bars.size(), [=](const Point& place) {
            return std::hypot((place.bar - bar) * 10.0, (place.price - price) * 10.0);
        });
    };
    CHECK(meant(3.0, 16.8) == Point{3.0, 15.5}); // 13 pixels from the top
    CHECK_FALSE(meant(3.0, 17.0));
    CHECK(meant(2.0, 11.9) == Point{2.0, 12.0}); // a close
    CHECK_FALSE(meant(5.0, 12.4));               // nine pixels over a high that is no turn
    CHECK(meant(6.0, 8.3) == Point{6.0, 9.5});
    CHECK_FALSE(meantPoint(bars, 9, 12, [](const Point&) { return 0.0; }));
    bars.high[3] = missing;
    CHECK(meant(3.0, 15.2) == Point{3.0, 15.0});
}

} // namespace sieve::drawings
