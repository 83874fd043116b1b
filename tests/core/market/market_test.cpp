#include "core/market/as_of.h"
#include "tests/core/made_market.h"

#include <catch2/catch.hpp>

namespace sieve::market {

using test::day;

namespace {

Statements quarterly(std::initializer_list<std::tuple<const char*, const char*, double>> filings)
{
    std::vector<StatementRow> rows;
    const std::uint32_t item = *statementItemNamed("revenue");
    for (const auto& [end, known, value] : filings)
        rows.push_back({item, Period::Quarter, day(end), day(known), value});
    return Statements(std::move(rows));
}

double revenue(const Statements& statements, int back, const char* on)
{
    const auto figure =
        statements.figure(*statementItemNamed("revenue"), Period::Quarter, back, day(on));
    return figure ? figure->value : missing;
}

double yearOfRevenue(const Statements& statements, int back, const char* on)
{
    const auto sum = statements.trailingTwelveMonths(*statementItemNamed("revenue"), back, day(on),
                                                     [](Day) { return 1.0; });
    return sum ? sum->value : missing;
}

} // namespace

TEST_CASE("Statements: nothing is known before its day", "[market]")
{
    const Statements statements =
        quarterly({{"2023-03-31", "2023-05-02", 10}, {"2023-06-30", "2023-08-02", 11}});
    CHECK(isMissing(revenue(statements, 0, "2023-05-01")));
    CHECK(revenue(statements, 0, "2023-05-02") == 10);
    CHECK(revenue(statements, 0, "2023-08-01") == 10);
    CHECK(revenue(statements, 0, "2023-08-02") == 11);
    CHECK(revenue(statements, 1, "2023-08-02") == 10);
}

TEST_CASE("Statements: a restatement counts from the day it is known", "[market]")
{
    const Statements statements =
        quarterly({{"2023-03-31", "2023-05-02", 10}, {"2023-03-31", "2023-07-01", 8}});
    CHECK(revenue(statements, 0, "2023-06-30") == 10);
    CHECK(revenue(statements, 0, "2023-07-01") == 8);
}

TEST_CASE("Statements: a gap does not shift the year before", "[market]")
{
    const Statements statements = quarterly({{"2022-03-31", "2022-05-02", 1},
                                             {"2022-06-30", "2022-08-02", 2},
                                             // the third quarter was never filed
                                             {"2022-12-31", "2023-02-02", 4},
                                             {"2023-03-31", "2023-05-02", 5}});
    CHECK(revenue(statements, 4, "2023-06-01") == 1);
    CHECK(isMissing(revenue(statements, 2, "2023-06-01")));
    CHECK(isMissing(yearOfRevenue(statements, 0, "2023-06-01")));
}

TEST_CASE("Statements: four quarters make a year, a year of 52 weeks too", "[market]")
{
    const Statements statements = quarterly({{"2022-04-02", "2022-05-02", 1},
                                             {"2022-07-02", "2022-08-02", 2},
                                             {"2022-10-01", "2022-11-02", 3},
                                             {"2022-12-31", "2023-02-02", 4},
                                             {"2023-04-01", "2023-05-02", 5}});
    CHECK(yearOfRevenue(statements, 0, "2023-03-01") == 10);
    CHECK(yearOfRevenue(statements, 0, "2023-06-01") == 14);
    CHECK(yearOfRevenue(statements, 1, "2023-06-01") == 10);
    CHECK(isMissing(yearOfRevenue(statements, 2, "2023-06-01")));
}

TEST_CASE("Market: sessions are the days on which anything traded", "[market]")
{
    auto a = test::recordOf("AAAA", {1, 2, 3});
    auto b = test::recordOf("BBBB", {1});
    b.bars = test::barsOf({5, 6}, day("2023-12-28"));
    const MarketPtr market = test::marketOf({a, b});
    std::vector<std::string> days;
    for (const Day session : market->sessions())
        days.push_back(session.iso());
    CHECK(days == std::vector<std::string>{"2023-12-28", "2023-12-29", "2024-01-01", "2024-01-02",
                                           "2024-01-03"});
    CHECK(market->sessionOnOrBefore(day("2023-12-31")) == day("2023-12-29"));
    CHECK(market->sessionOnOrBefore(day("2023-12-28")) == day("2023-12-28"));
    CHECK_FALSE(market->sessionOnOrBefore(day("2023-12-27"))); // before all there is none
    CHECK(*market->find("BBBB") == 1);
    CHECK_FALSE(market->find("ZZZZ"));
}

TEST_CASE("As of: bars stand on the footing of that day", "[market]")
{
    auto record = test::recordOf("AAAA", {40, 44, 22, 24, 8});
    record.actions = {{record.bars.days[2], ActionKind::Split, 2.0},
                      {record.bars.days[4], ActionKind::Split, 3.0}};
    const MarketPtr market = test::marketOf({record});
    const auto closes = [&](std::size_t bar) {
        return AsOf(market, market->bars(0).days[bar]).adjustedBars(0).close;
    };
    CHECK(closes(1) == std::vector<double>{40, 44});
    CHECK(closes(3) == std::vector<double>{20, 22, 22, 24});
    const auto all = closes(4);
    CHECK(all[0] == Approx(40.0 / 6));
    CHECK(all[3] == Approx(8));
    CHECK(all[4] == 8);
    const auto volumes = AsOf(market, market->bars(0).days[4]).adjustedBars(0).volume;
    CHECK(volumes[0] == Approx(6000));
    CHECK(volumes[4] == 5000);
    CHECK(market->priceFactor(0, market->bars(0).days[4], 1) == Approx(3)); // looking back
}

TEST_CASE("Bars: one added is the one that comes back, and cutting keeps the first", "[market]")
{
    Bars bars;
    for (int i = 0; i < 3; ++i)
        bars.add({day("2024-01-02").plusDays(i), 10.0 + i, 12.0 + i, 9.0 + i, 11.0 + i, 100.0 * i});
    REQUIRE(bars.size() == 3);
    const Bar second = bars.at(1);
    CHECK(second.day.iso() == "2024-01-03");
    CHECK(second.open == 11);
    CHECK(second.high == 13);
    CHECK(second.low == 10);
    CHECK(second.close == 12);
    CHECK(second.volume == 100);
    CHECK_THROWS_AS(bars.at(3), std::out_of_range);
    bars.truncate(1);
    CHECK(bars.size() == 1);
    CHECK(bars.volume.size() == 1);
    CHECK(bars.at(0).close == 11);
}

TEST_CASE("As of: before the first bar and once delisted there is no bar", "[market]")
{
    auto record = test::recordOf("AAAA", {1, 2, 3});
    record.instrument.delistedOn = day("2024-01-04");
    const MarketPtr market = test::marketOf({record});
    CHECK_FALSE(AsOf(market, day("2023-12-31")).lastBar(0));
    CHECK(*AsOf(market, day("2024-01-02")).lastBar(0) == 1);
    CHECK_FALSE(AsOf(market, day("2024-01-04")).lastBar(0));
}

TEST_CASE("Market: live bars of a day that is a session already add none", "[market]")
{
    const MarketPtr evening =
        test::marketOf({test::recordOf("AAAA", {1, 2, 3}), test::recordOf("BBBB", {5, 6})});
    const Day today = evening->sessions().back(); // BBBB has not traded yet
    const LiveBar live{*evening->find("BBBB"), {today, 6, 8, 6, 7, 100}};
    const Market running(evening, std::span(&live, 1));
    CHECK(running.sessions().size() == 3);
    CHECK(running.bars(1).close.back() == 7.0);
    const LiveBar next{0, {today.plusDays(1), 3, 4, 3, 4, 100}};
    const Market later(evening, std::span(&next, 1));
    REQUIRE(later.sessions().size() == 4);
    CHECK(later.sessions().back() == today.plusDays(1));
}

} // namespace sieve::market
