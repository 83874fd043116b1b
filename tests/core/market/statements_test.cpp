#include "core/market/statements.h"

#include "demo_market/dice.h"
#include "tests/core/made_market.h"

#include <catch2/catch.hpp>

namespace sieve::market {

namespace {

const std::uint32_t revenue = *statementItemNamed("revenue");
const std::uint32_t assets = *statementItemNamed("total_assets");

/// Years of filings as they come: late, restated, some left out, ends that drift by days.
std::vector<StatementRow> filings(demo_market::Dice& dice)
{
    std::vector<StatementRow> rows;
    Day end = test::day("2012-12-31");
    for (int quarter = 0; quarter < 40; ++quarter) {
        end = end.plusMonths(3);
        for (const std::uint32_t item : {revenue, assets}) {
            if (dice.chance(0.06))
                continue;
            const Day drifted = end.plusDays(static_cast<int>(dice.below(9)) - 4);
            const Day known = drifted.plusDays(20 + static_cast<int>(dice.below(90)));
            rows.push_back({item, Period::Quarter, drifted, known, dice.between(1.0, 9.0)});
            if (dice.chance(0.15))
                rows.push_back({item, Period::Quarter, drifted, known.plusDays(200), 5.0});
            if (quarter % 4 == 3)
                rows.push_back({item, Period::Year, drifted, known, dice.between(4.0, 36.0)});
        }
    }
    return rows;
}

bool areSame(const std::optional<Known>& a, const std::optional<Known>& b)
{
    if (!a || !b)
        return a.has_value() == b.has_value();
    return a->value == b->value && a->periodEnd == b->periodEnd && a->knownOn == b->knownOn;
}

/// The figure by the definition alone: of the rows known on the day, by the calendar.
std::optional<double> byDefinition(const std::vector<StatementRow>& rows, std::uint32_t item,
                                   int back, Day day)
{
    std::optional<Day> newest;
    Day newestOfAll = Report::none;
    for (const StatementRow& row : rows)
        if (row.period == Period::Quarter && row.knownOn <= day && row.periodEnd <= day) {
            newestOfAll = std::max(newestOfAll, row.periodEnd);
            if (row.item == item)
                newest = std::max(newest.value_or(row.periodEnd), row.periodEnd);
        }
    if (!newest || newestOfAll.plusMonths(-3) > newest->plusDays(20))
        return std::nullopt;
    const Day sought = newest->plusMonths(-3 * back);
    const StatementRow* found = nullptr;
    for (const StatementRow& row : rows)
        if (row.item == item && row.period == Period::Quarter && row.knownOn <= day &&
            row.periodEnd <= day && std::abs(row.periodEnd - sought) <= 20 &&
            (!found || row.periodEnd > found->periodEnd ||
             (row.periodEnd == found->periodEnd && row.knownOn >= found->knownOn)))
            found = &row;
    return found ? std::optional(found->value) : std::nullopt;
}

} // namespace

TEST_CASE("Item figures: for days in order or not they are those of the statements", "[market]")
{
    demo_market::Dice dice(static_cast<std::uint64_t>(GENERATE(range(1, 21))));
    const std::vector<StatementRow> rows = filings(dice);
    const Statements statements(rows);
    const auto one = [](Day) { return 1.0; };
    std::vector<Day> days;
    for (Day day = test::day("2012-06-01"); day < test::day("2024-06-01");
         day = day.plusDays(1 + static_cast<int>(dice.below(60))))
        days.push_back(day);
    if (dice.chance(0.5))
        for (std::size_t i = 0; i < days.size(); i += 3)
            std::swap(days[i], days[dice.below(days.size())]);
    const int back = static_cast<int>(dice.below(6));
    ItemFigures quarters(statements, revenue, Period::Quarter);
    ItemFigures years(statements, assets, Period::Year);
    ItemFigures sums(statements, revenue, Period::Quarter);
    for (const Day day : days) {
        INFO("on " << day.iso() << ", " << back << " back");
        const auto figure = quarters.figure(back, day);
        CHECK(areSame(figure, statements.figure(revenue, Period::Quarter, back, day)));
        CHECK(areSame(years.figure(back % 2, day),
                      statements.figure(assets, Period::Year, back % 2, day)));
        CHECK(areSame(sums.trailingTwelveMonths(back, day, one),
                      statements.trailingTwelveMonths(revenue, back, day, one)));
        const auto want = byDefinition(rows, revenue, back, day);
        REQUIRE(figure.has_value() == want.has_value());
        if (want)
            CHECK(figure->value == *want);
    }
}

TEST_CASE("Statements: an item's rows are those of its own, by quarter and by year", "[market]")
{
    demo_market::Dice dice(5);
    std::vector<StatementRow> rows = filings(dice);
    const Statements statements(rows);
    std::size_t all = 0;
    for (std::uint32_t item = 0; item < statementItemCount; ++item)
        for (const Period period : {Period::Quarter, Period::Year}) {
            const auto own = statements.rowsOf(item, period);
            const auto isOwn = [&](const StatementRow& row) {
                return row.item == item && row.period == period;
            };
            CHECK(std::ranges::all_of(own, isOwn));
            CHECK(own.size() == static_cast<std::size_t>(std::ranges::count_if(rows, isOwn)));
            all += own.size();
        }
    CHECK(all == rows.size());
    CHECK(Statements().rowsOf(revenue, Period::Quarter).empty());
    CHECK_FALSE(Statements().figure(revenue, Period::Year, 0, test::day("2020-01-01")));
}

TEST_CASE("Statements: places that a damaged file tells lead nowhere", "[market]")
{
    demo_market::Dice dice(6);
    std::vector<StatementRow> rows = filings(dice);
    sortStatements(rows);
    const std::vector<Report> reports = reportsOf(rows);
    const ItemBegins sound = itemBeginsOf(rows);
    const std::size_t place = 2 * revenue;
    for (const auto& [from, to] : {std::pair(9U, 8U), std::pair(0U, 1'000'000U),
                                   std::pair(4'000'000'000U, 4'000'000'001U)}) {
        ItemBegins begins = sound;
        begins.at(place) = from;
        begins.at(place + 1) = to;
        const Statements statements(rows, &begins, reports);
        CHECK(statements.rowsOf(revenue, Period::Quarter).empty());
        CHECK_FALSE(statements.figure(revenue, Period::Quarter, 0, test::day("2020-06-01")));
        CHECK(statements.boundsOf(revenue, Period::Quarter)[0] == from);
    }
    const Statements whole(rows, &sound, reports);
    CHECK(whole.figure(revenue, Period::Quarter, 0, test::day("2020-06-01")));
    CHECK(Statements().boundsOf(revenue, Period::Year).empty());
}

} // namespace sieve::market
