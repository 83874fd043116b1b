#include "demo_market/script.h"

#include "demo_market/chronicle.h"
#include "demo_market/minutes.h"
#include "demo_market/text_file.h"
#include "tests/core/made_market.h"

#include <array>
#include <catch2/catch.hpp>
#include <map>
#include <set>
#include <sstream>

namespace sieve::demo_market {

using test::day;

TEST_CASE("Script: goes straight from leg to leg, and ends where the last one does",
          "[demo_market]")
{
    Script script;
    script.legs = {{4, 1.4, 2.0}, {2, 1.2, 0.5}};
    CHECK(script.sessions() == 6);
    CHECK(script.levelAt(0) == Approx(1.1));
    CHECK(script.levelAt(3) == Approx(1.4));
    CHECK(script.levelAt(4) == Approx(1.3));
    CHECK(script.levelAt(5) == Approx(1.2));
    CHECK(script.levelAt(99) == Approx(1.2));
    CHECK(script.volumeAt(3) == 2.0);
    CHECK(script.volumeAt(4) == 0.5);
    CHECK(script.volumeAt(99) == 1.0);
}

TEST_CASE("Script: every one names a session of its own, and fits into the market", "[demo_market]")
{
    std::set<std::string_view> seen;
    for (const Script& script : scripts()) {
        INFO(script.what);
        CHECK(seen.insert(script.what).second);
        CHECK(script.marked >= 0);
        CHECK(script.marked < script.sessions());
        CHECK(script.sessions() < 300);
        for (const auto& [session, gap] : script.gaps)
            CHECK(session < script.sessions());
        for (int session = 0; session < script.sessions(); ++session)
            CHECK(script.levelAt(session) > 0.4);
    }
}

TEST_CASE("Minutes: open, reach, close and trade what their day does", "[demo_market]")
{
    market::Bars bars;
    bars.add({day("2026-08-06"), 10.0, 10.6, 9.7, 10.2, 900});    // ends early
    bars.add({day("2026-08-07"), 10.2, 10.3, 10.0, 10.1, 5'000}); // rests
    bars.add({day("2026-08-10"), 10.1, 10.9, 10.1, 10.8, 12'345});
    const market::Exchange exchange{"Made",
                                    "Atlantic/Cape_Verde",
                                    9 * 60 + 30,
                                    16 * 60,
                                    {{day("2026-08-06"), 13 * 60}, {day("2026-08-07")}}};
    TextFile file;
    addMinutes(file, bars, 60, exchange, 0.6, Dice(4));
    std::istringstream lines(file.text());
    std::map<std::string, std::vector<std::array<double, 5>>> days;
    std::string last;
    for (std::string line; std::getline(lines, line);) {
        CHECK(line > last); // oldest first, none twice
        last = line.substr(0, 17);
        const auto time = Minute::parse(last);
        REQUIRE(time);
        const auto hours = market::sessionHours(exchange, time->day());
        REQUIRE(hours);
        CHECK(*time >= hours->opens);
        CHECK(*time < hours->closes);
        std::array<double, 5> figures{};
        std::istringstream cells(line.substr(18));
        for (double& figure : figures) {
            cells >> figure;
            cells.ignore();
        }
        days[line.substr(0, 10)].push_back(figures);
    }
    REQUIRE(days.size() == 2);
    for (const std::size_t bar : {0U, 2U}) {
        const auto& minutes = days[bars.days[bar].iso()];
        double high = 0.0;
        double low = 1e9;
        double volume = 0.0;
        for (const auto& [open, top, bottom, close, traded] : minutes) {
            high = std::max(high, top);
            low = std::min(low, bottom);
            volume += traded;
            CHECK(traded > 0.0);
            CHECK(top >= std::max(open, close));
            CHECK(bottom <= std::min(open, close));
        }
        CHECK(minutes.front()[0] == bars.open[bar]);
        CHECK(minutes.back()[3] == bars.close[bar]);
        CHECK(high == bars.high[bar]);
        CHECK(low == bars.low[bar]);
        CHECK(volume == bars.volume[bar]);
    }
    CHECK(days[bars.days[0].iso()].size() < days[bars.days[2].iso()].size());
}

TEST_CASE("Chronicle: owners always make up the whole, and drift as they were told to",
          "[demo_market]")
{
    const auto publicAfter = [](double drift) {
        market::InstrumentRecord record = test::recordOf("AAAA.C", {10, 11});
        Chronicle chronicle(record, true, drift, Dice(9));
        for (int quarter = 0; quarter < 20; ++quarter) {
            const Day end = day("2020-03-31").plusMonths(3 * quarter);
            chronicle.reported(end.plusDays(30), market::CalendarTime::BeforeOpen, end, 0.0, 10.0);
        }
        std::map<Day, double> sums;
        for (const market::OwnerRow& row : record.owners) {
            CHECK(row.knownOn >= row.asOf);
            sums[row.asOf] += row.share;
        }
        for (const auto& [asOf, sum] : sums)
            CHECK(sum == Approx(1.0).margin(0.001));
        return record.owners.back().share; // the public stands last
    };
    CHECK(publicAfter(1.0) > publicAfter(0.0));
    CHECK(publicAfter(0.0) > publicAfter(-1.0));
}

TEST_CASE("Chronicle: estimates lie between low and high, and only of those that are followed",
          "[demo_market]")
{
    market::InstrumentRecord record = test::recordOf("AAAA.C", {10, 11});
    Chronicle chronicle(record, true, 0.0, Dice(9));
    chronicle.expect(day("2024-02-01"),
                     {day("2024-03-31"), -0.2, 5e6, 1.1, day("2024-12-31"), 0.0, 0.4}, 0.1);
    REQUIRE(record.estimates.size() == 8); // two of them of dividends
    for (const market::EstimateRow& row : record.estimates) {
        CHECK(row.low < row.mean);
        CHECK(row.mean < row.high);
        CHECK(row.analysts >= 2);
    }
    market::InstrumentRecord small = test::recordOf("BBBB.C", {10, 11});
    Chronicle unfollowed(small, false, 0.0, Dice(9));
    unfollowed.expect(day("2024-02-01"), {day("2024-03-31"), 1, 5e6, 1.1, day("2024-12-31"), 0.0},
                      0);
    CHECK(small.estimates.empty());
}

TEST_CASE("Text file: figures come from whole numbers alone", "[demo_market]")
{
    CHECK(priceText(12.5) == "12.50");
    CHECK(priceText(0.1234) == "0.1234");
    CHECK(priceText(1234.07) == "1234.07");
    CHECK(figureText(-3.0) == "-3");
    CHECK(figureText(-0.25) == "-0.25");
    CHECK(figureText(missing).empty());
    CHECK(figureText(1e12) == "1000000000000");
    CHECK(xmlText("a < b & c") == "a &lt; b &amp; c");
    CHECK(csvCell("a, \"b\"") == "\"a, \"\"b\"\"\"");
    CHECK(csvCell("plain") == "plain");
}

} // namespace sieve::demo_market
