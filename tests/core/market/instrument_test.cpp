#include "core/market/instrument.h"

#include "core/market/statements.h"
#include "core/market/text_table.h"
#include "tests/core/made_market.h"

#include <catch2/catch.hpp>
#include <set>

namespace sieve::market {

TEST_CASE("Instrument kinds: names come back", "[market]")
{
    for (const InstrumentKind kind :
         {InstrumentKind::Share, InstrumentKind::Fund, InstrumentKind::Trust,
          InstrumentKind::Receipt, InstrumentKind::Index})
        CHECK(instrumentKindNamed(instrumentKindName(kind)) == kind);
    CHECK_FALSE(instrumentKindNamed("spoon"));
    CHECK_FALSE(instrumentKindNamed(""));
}

TEST_CASE("Text table: a text has one number, the empty one 0", "[market]")
{
    TextTable table;
    const auto energy = table.add("Energy");
    CHECK(table.add("Water") != energy);
    CHECK(table.add("Energy") == energy);
    CHECK(table.add("") == 0);
    CHECK(table.text(energy) == "Energy");
    CHECK(*table.find("Water") == 2);
    CHECK_FALSE(table.find("Fire"));
    CHECK(table.size() == 3);
}

TEST_CASE("Statement items: keys are their own, balance items are not summed", "[market]")
{
    std::set<std::string_view> keys;
    for (const StatementItem& item : statementItems()) {
        CHECK(keys.insert(item.key).second);
        CHECK_FALSE(item.title.empty());
    }
    std::vector<StatementRow> rows;
    const std::uint32_t equity = *statementItemNamed("equity");
    for (int quarter = 0; quarter < 4; ++quarter)
        rows.push_back({equity, Period::Quarter, test::day("2023-03-31").plusMonths(3 * quarter),
                        test::day("2024-02-01"), 1.0});
    const Statements statements(rows);
    CHECK(statements.figure(equity, Period::Quarter, 0, test::day("2024-03-01")));
    CHECK_FALSE(statements.trailingTwelveMonths(equity, 0, test::day("2024-03-01"),
                                                [](Day) { return 1.0; }));
}

TEST_CASE("Statements: an item that newer reports leave out is not carried on for ever", "[market]")
{
    const std::uint32_t revenue = *statementItemNamed("revenue");
    const std::uint32_t eps = *statementItemNamed("eps");
    std::vector<StatementRow> rows;
    for (int quarter = 0; quarter < 4; ++quarter) {
        const Day end = test::day("2023-03-31").plusMonths(3 * quarter);
        rows.push_back({eps, Period::Quarter, end, end.plusDays(30), 1.0});
        if (quarter < 2)
            rows.push_back({revenue, Period::Quarter, end, end.plusDays(30), 9.0});
    }
    const Statements statements(rows);
    const auto at = [&](const char* on) {
        return statements.figure(revenue, Period::Quarter, 0, test::day(on));
    };
    CHECK(at("2023-08-15")->value == 9);
    CHECK(at("2023-11-15")); // one report behind: perhaps filed later
    CHECK_FALSE(at("2024-02-15"));
}

TEST_CASE("Statements: known days are told once, in order", "[market]")
{
    std::vector<StatementRow> rows;
    for (const char* known : {"2024-05-01", "2024-02-01", "2024-05-01"})
        rows.push_back({0, Period::Year, test::day("2023-12-31"), test::day(known), 1.0});
    const Statements statements(rows);
    REQUIRE(statements.reports().size() == 2);
    CHECK(statements.reports()[0].knownOn.iso() == "2024-02-01");
}

TEST_CASE(
    "Statements: a trailing sum is of the quarter that it ends with, known with its last part",
    "[market]")
{
    const std::uint32_t revenue = *statementItemNamed("revenue");
    std::vector<StatementRow> rows;
    for (int quarter = 0; quarter < 6; ++quarter) {
        const Day end = test::day("2023-03-31").plusMonths(3 * quarter);
        rows.push_back({revenue, Period::Quarter, end, end.plusDays(40), 10.0 + quarter});
    }
    rows.push_back(
        {revenue, Period::Quarter, test::day("2023-09-30"), test::day("2024-09-02"), 20.0});
    sortStatements(rows);
    const Statements statements(rows);
    const auto sum = [&](int back, const char* on) {
        return statements.trailingTwelveMonths(revenue, back, test::day(on), {});
    };
    const auto newest = sum(0, "2024-08-30");
    REQUIRE(newest);
    CHECK(newest->value == 12 + 13 + 14 + 15);
    CHECK(newest->periodEnd == test::day("2024-06-30"));
    CHECK(newest->knownOn == test::day("2024-06-30").plusDays(40));
    const auto before = sum(1, "2024-08-30");
    REQUIRE(before);
    CHECK(before->value == 11 + 12 + 13 + 14);
    CHECK(before->periodEnd == test::day("2024-03-31"));
    const auto restated = sum(0, "2024-09-03");
    REQUIRE(restated);
    CHECK(restated->value == 20 + 13 + 14 + 15);
    CHECK(restated->knownOn == test::day("2024-09-02"));
    CHECK(restated->periodEnd == test::day("2024-06-30"));
}

} // namespace sieve::market
