#include "core/base/missing.h"
#include "core/charts/bar_scale.h"
#include "core/charts/comparison.h"
#include "core/charts/reduction.h"
#include "core/charts/value_axis.h"
#include "core/charts/viewport.h"
#include "tests/core/made_market.h"

#include <catch2/catch.hpp>
#include <random>

// Where bars and values lie: what is in sight, how values run, what pixels can show.

namespace sieve::charts {

namespace {

std::vector<double> valuesOf(const std::vector<ValueAxis::Tick>& ticks)
{
    std::vector<double> values;
    for (const auto& tick : ticks)
        values.push_back(tick.value);
    return values;
}

} // namespace

TEST_CASE("Bars: places among days lie among weeks, and come back", "[charts]")
{
    // Ten weekdays from a Monday, and a Monday: two weeks and a begun one.
    const market::Bars daily = test::barsOf(std::vector<double>(11, 10.0));
    const auto ends = barEnds(daily.days, BarScale::Week);
    REQUIRE(ends == std::vector<std::size_t>{4, 9, 10});
    const BarPlaces weeks(ends, BarScale::Week);
    CHECK(weeks.sessionsEach() == 5.0);
    const auto onWeeks = [&](double place) { return weeks.onScale(place); };
    CHECK(onWeeks(0.0) == Approx(-0.4)); // the first of five across the bar
    CHECK(onWeeks(2.0) == Approx(0.0));
    CHECK(onWeeks(4.0) == Approx(0.4));
    CHECK(onWeeks(4.5) == Approx(0.5));
    CHECK(onWeeks(7.0) == Approx(1.0));
    CHECK(onWeeks(10.0) == Approx(2.0)); // alone in its week
    CHECK(onWeeks(15.5) == Approx(3.5));
    CHECK(onWeeks(-5.5) == Approx(-1.5));
    const BarPlaces days(barEnds(daily.days, BarScale::Day), BarScale::Day);
    for (const double place : {-3.0, 0.0, 0.25, 4.0, 5.5, 9.9, 10.0, 22.0}) {
        CHECK(weeks.onDays(onWeeks(place)) == Approx(place).margin(1e-9));
        CHECK(days.onScale(place) == Approx(place).margin(1e-9));
        CHECK(days.onDays(place) == Approx(place).margin(1e-9));
    }
}

TEST_CASE("Value axis: linear, with room at both ends and round ticks", "[charts]")
{
    const ValueAxis axis(ValueScale::Linear, 10.0, 20.0, false);
    CHECK(axis.low() == Approx(9.4));
    CHECK(axis.high() == Approx(20.6));
    CHECK(axis.place(9.4) == Approx(0.0));
    CHECK(axis.place(15.0) == Approx(0.5));
    CHECK(axis.valueAt(0.5) == Approx(15.0));
    CHECK(valuesOf(axis.ticks(5)) == std::vector<double>{10.0, 12.5, 15.0, 17.5, 20.0});
    CHECK(axis.decimals(5) == 1);
    CHECK(valuesOf(axis.ticks(2)) == std::vector<double>{10.0, 20.0});
    CHECK(axis.decimals(2) == 0);
}

TEST_CASE("Value axis: logarithmic, equal steps are equal shares", "[charts]")
{
    const ValueAxis axis(ValueScale::Logarithmic, 10.0, 1000.0, false);
    CHECK(axis.scale() == ValueScale::Logarithmic);
    CHECK(axis.place(100.0) == Approx(0.5));
    CHECK(axis.place(10.0) - axis.place(20.0) == Approx(axis.place(40.0) - axis.place(80.0)));
    CHECK(axis.valueAt(axis.place(37.0)) == Approx(37.0));
    CHECK(isMissing(axis.place(0.0)));
    CHECK(valuesOf(axis.ticks(5)) == std::vector<double>{10, 20, 50, 100, 200, 500, 1000});
    const ValueAxis narrow(ValueScale::Logarithmic, 10.0, 20.0, false); // as on a linear one
    CHECK(valuesOf(narrow.ticks(5)) == std::vector<double>{10.0, 12.5, 15.0, 17.5, 20.0});
    CHECK(ValueAxis(ValueScale::Logarithmic, 0.0, 5.0, false).scale() == ValueScale::Linear);
    CHECK(ValueAxis(ValueScale::Logarithmic, 1.0, 5.0, true).scale() == ValueScale::Linear);
}

TEST_CASE("Value axis: percent counts from the base", "[charts]")
{
    const ValueAxis axis(ValueScale::Percent, 80.0, 120.0, false, 100.0);
    const auto ticks = axis.ticks(4);
    CHECK(valuesOf(ticks) == std::vector<double>{80.0, 100.0, 120.0});
    CHECK(ticks[0].shown == Approx(-0.2));
    CHECK(ticks[2].shown == Approx(0.2));
    CHECK(axis.decimals(4) == 0);
    CHECK(ValueAxis(ValueScale::Percent, 1, 2, false, 0.0).scale() == ValueScale::Linear);
    CHECK(ValueAxis(ValueScale::Percent, 1, 2, false, missing).scale() == ValueScale::Linear);
}

TEST_CASE("Value axis: zero in sight, one value, none, very small and very large ones", "[charts]")
{
    const ValueAxis volume(ValueScale::Linear, 40.0, 100.0, true);
    CHECK(volume.low() == 0.0);
    CHECK(volume.high() == Approx(106.0));
    const ValueAxis below(ValueScale::Linear, -100.0, -40.0, true);
    CHECK(below.high() == 0.0);
    CHECK(below.low() == Approx(-106.0));
    const ValueAxis both(ValueScale::Linear, -10.0, 30.0, true);
    CHECK(both.low() < -10.0);
    CHECK(both.high() > 30.0);
    for (const auto& [least, most] : {std::pair(5.0, 5.0),
                                      {0.0, 0.0},
                                      {missing, missing},
                                      {0.0001, 0.0001},
                                      {9e5, 9e5},
                                      {-3.0, -3.0},
                                      {1e-7, 2e-7}}) {
        const ValueAxis axis(ValueScale::Linear, least, most, false);
        CHECK(axis.high() > axis.low());
        CHECK(axis.ticks(5).size() >= 2);
        CHECK(axis.ticks(5).size() <= 12);
        if (!isMissing(least))
            CHECK((axis.place(least) > 0.0 && axis.place(least) < 1.0));
    }
}

TEST_CASE("Viewport: shows all, the newest, zooms about a place and stays among the bars",
          "[charts]")
{
    Viewport view(1000);
    CHECK(view.from() == -0.5);
    CHECK(view.first() == 0);
    CHECK(view.end() == 1000);
    CHECK(view.to() > 1000.0); // room ahead
    view.showNewest(100);
    CHECK(view.first() == 900);
    CHECK(view.end() == 1000);
    CHECK(view.width() == Approx(100 / 0.96));
    view.zoom(0.5, 950.0);
    CHECK(view.width() == Approx(50 / 0.96));
    CHECK((950.0 - view.from()) / view.width() == Approx((950.0 - 899.5) / (100 / 0.96)));
    view.pan(-1e9);
    CHECK(view.from() == -0.5);
    view.pan(1e9);
    CHECK(view.end() == 1000);
    CHECK(view.to() == Approx(999.5 + view.width() * Viewport::roomAhead));
    view.zoom(1e-9, 990.0);
    CHECK(view.width() == Viewport::leastBars);
    view.zoom(1e9, 990.0);
    CHECK(view.width() == Approx(1000 / 0.96));
    CHECK(view.from() == -0.5);
}

TEST_CASE("Viewport: no bars and one bar", "[charts]")
{
    Viewport none(0);
    CHECK(none.first() == 0);
    CHECK(none.end() == 0);
    none.zoom(0.5, 0.0);
    none.pan(3.0);
    CHECK(none.end() == 0);
    Viewport one(1);
    CHECK(one.first() == 0);
    CHECK(one.end() == 1);
    CHECK(one.width() == Viewport::leastBars);
}

TEST_CASE("Viewport: another scale of bars keeps the days in sight", "[charts]")
{
    std::vector<Day> days;
    for (Day day = test::day("2020-01-01"); days.size() < 1000; day = day.plusDays(1))
        if (!day.isWeekend())
            days.push_back(day);
    std::vector<Day> weeks;
    for (std::size_t i = 0; i < days.size(); ++i)
        if (i + 1 == days.size() ||
            days[i + 1].weekday().iso_encoding() < days[i].weekday().iso_encoding())
            weeks.push_back(days[i]);
    Viewport view(days.size());
    view.showNewest(250);
    view.pan(-300.0);
    const Day first = days[view.first()];
    const Day last = days[view.end() - 1];
    const Viewport weekly = view.movedTo(days, weeks);
    CHECK(std::abs(weeks[weekly.first()] - first) <= 7);
    CHECK(std::abs(weeks[weekly.end() - 1] - last) <= 7);
    const Viewport back = weekly.movedTo(weeks, days);
    CHECK(std::abs(days[back.first()] - first) <= 10);
    CHECK(std::abs(days[back.end() - 1] - last) <= 10);
    view.showNewest(250);
    CHECK(view.movedTo(days, weeks).end() == weeks.size());
    CHECK(view.movedTo(days, {}).end() == 0);
}

TEST_CASE("Comparison: a line counts from its first value in sight", "[charts]")
{
    const std::vector<double> other{50, missing, 100, 110, missing, 120};
    const std::vector<double> closes{8, 9, 10, 11, 12, 13};
    CHECK(changeInSight(other, 1, 6, 2) == 0.0);
    CHECK(changeInSight(other, 1, 6, 5) == Approx(0.2));
    CHECK(isMissing(changeInSight(other, 1, 6, 4)));
    CHECK(isMissing(changeInSight(other, 4, 5, 3))); // none in sight
    CHECK(isMissing(changeInSight(other, 1, 6, 6)));
    const auto drawn = fromFirstClose(other, closes, 1, 6);
    CHECK(drawn[2] == Approx(9.0)); // at the first close in sight
    CHECK(drawn[5] == Approx(10.8));
    CHECK(drawn[0] == Approx(4.5)); // and so before
    CHECK(isMissing(drawn[4]));
}

TEST_CASE("Reduction: a column keeps its first, highest, lowest and last", "[charts]")
{
    const std::vector<double> line{1, 5, 2, 3, missing, 4, 9, 8, 7};
    std::vector<std::size_t> breaks;
    const auto reduced = reducedLine(line, 0, line.size(), {0.0, 3.0, 10}, &breaks);
    CHECK(reduced == std::vector<ColumnExtent>{{0, 1, 5, 1, 2}, {1, 3, 4, 3, 4}, {2, 9, 9, 7, 7}});
    CHECK(breaks.empty()); // within a column nobody can see it
    const auto wide = reducedLine(line, 2, line.size(), {0.0, 1.0, 100}, &breaks);
    CHECK(wide.front() == ColumnExtent{2, 2, 2, 2, 2});
    CHECK(breaks == std::vector<std::size_t>{2});                        // before the 4
    CHECK(reducedLine(line, 0, line.size(), {4.0, 1.0, 3}).size() == 2); // 4 missing, 5 and 6
    const std::vector<double> open{10, 11, 12};
    const std::vector<double> high{14, 15, 13};
    const std::vector<double> low{9, 8, 11};
    const std::vector<double> close{12, 9, 13};
    CHECK(reducedBars(open, high, low, close, 0, 3, {0.0, 3.0, 1}) ==
          std::vector<ColumnExtent>{{0, 10, 15, 8, 13}});
}

TEST_CASE("Reduction: agrees with looking at every bar of each column", "[charts]")
{
    std::mt19937 random(3);
    for (int round = 0; round < 50; ++round) {
        std::vector<double> line(1 + random() % 3000);
        for (double& value : line)
            value = random() % 9 == 0 ? missing : static_cast<double>(random() % 1000);
        const ColumnScale scale{static_cast<double>(random() % 50) - 10.0,
                                0.1 + static_cast<double>(random() % 100) / 10.0,
                                1 + random() % 400};
        const std::size_t first = random() % line.size();
        const auto reduced = reducedLine(line, first, line.size(), scale);
        std::size_t next = 0;
        for (std::size_t column = 0; column < scale.columns; ++column) {
            std::vector<double> inside;
            for (std::size_t bar = first; bar < line.size(); ++bar)
                if (const double place = scale.placeOf(bar);
                    place >= static_cast<double>(column) &&
                    place < static_cast<double>(column) + 1.0 && !isMissing(line[bar]))
                    inside.push_back(line[bar]);
            if (inside.empty())
                continue;
            REQUIRE(next < reduced.size());
            REQUIRE(reduced[next++] == ColumnExtent{column, inside.front(),
                                                    std::ranges::max(inside),
                                                    std::ranges::min(inside), inside.back()});
        }
        CHECK(next == reduced.size());
    }
}

} // namespace sieve::charts
