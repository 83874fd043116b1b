#include "core/charts/ticks.h"

#include <catch2/catch.hpp>

namespace sieve::charts {

namespace {

/// Weekdays from Monday 2023-12-18 on.
std::vector<Day> weekdays(int count)
{
    std::vector<Day> days;
    for (Day day = *Day::parse("2023-12-18"); static_cast<int>(days.size()) < count;
         day = day.plusDays(1))
        if (!day.isWeekend())
            days.push_back(day);
    return days;
}

} // namespace

TEST_CASE("Ticks: the step follows from how many bars are seen", "[charts]")
{
    CHECK(stepFor(60) == CalendarStep::Week);
    CHECK(stepFor(60.5) == CalendarStep::Month);
    CHECK(stepFor(330) == CalendarStep::Month);
    CHECK(stepFor(331) == CalendarStep::Quarter);
    CHECK(stepFor(1100) == CalendarStep::Quarter);
    CHECK(stepFor(1101) == CalendarStep::Year);
}

TEST_CASE("Ticks: weeks begin on Monday, and a year's first session is named by the year",
          "[charts]")
{
    const auto days = weekdays(15);
    const std::vector<SessionTick> all{{5, CalendarStep::Week}, {10, CalendarStep::Year}};
    CHECK(sessionTicks(days, -0.8, 14.8) == all); // the first Monday has none before it
    CHECK(sessionTicks(days, 5.2, 14.8) == std::vector<SessionTick>{all[1]});
    CHECK(sessionTicks(days, 5.0, 9.9) == std::vector<SessionTick>{all[0]});
    CHECK(sessionTicks({}, 0.0, 10.0).empty());
}

TEST_CASE("Ticks: a week of holidays does not hide the next Monday", "[charts]")
{
    std::vector<Day> days = weekdays(15);
    days.erase(days.begin() + 1, days.begin() + 5); // Monday, then Monday a week later
    CHECK(sessionTicks(days, 0.0, 3.0) == std::vector<SessionTick>{{1, CalendarStep::Week}});
}

TEST_CASE("Ticks: months, quarters and years", "[charts]")
{
    const auto days = weekdays(1500);
    const auto dayOf = [&](const SessionTick& tick) { return days[tick.bar].iso(); };
    const auto months = sessionTicks(days, 0.0, 100.0);
    REQUIRE(months.size() == 5);
    const auto weeks = sessionTicks(days, 1400.0, 1450.0); // however far from the first bar
    REQUIRE(weeks.size() >= 9);
    CHECK(weeks[1].names == CalendarStep::Week);
    CHECK(dayOf(months[0]) == "2024-01-01");
    CHECK(months[0].names == CalendarStep::Year);
    CHECK(dayOf(months[1]) == "2024-02-01");
    CHECK(dayOf(months[4]) == "2024-05-01");
    CHECK(months[4].names == CalendarStep::Month);
    const auto quarters = sessionTicks(days, 0.0, 400.0);
    REQUIRE(quarters.size() == 6);
    CHECK(dayOf(quarters[1]) == "2024-04-01");
    CHECK(dayOf(quarters[5]) == "2025-04-01");
    const auto years = sessionTicks(days, 0.0, 1499.0);
    REQUIRE(years.size() == 6);
    CHECK(dayOf(years[5]) == "2029-01-01");
}

TEST_CASE("Ticks: as many decimals as a step needs", "[charts]")
{
    CHECK(decimalsFor(50) == 0);
    CHECK(decimalsFor(2.5) == 1);
    CHECK(decimalsFor(0.25) == 2);
    CHECK(decimalsFor(0.1 + 0.2) == 1); // not the last bits
    CHECK(decimalsFor(1e-9) == 6);
}

} // namespace sieve::charts
