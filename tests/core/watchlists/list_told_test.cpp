#include "core/watchlists/list_told.h"

#include "core/screens/name_book.h"
#include "core/watchlists/list_sheet.h"
#include "core/watchlists/market_call.h"
#include "tests/core/made_market.h"

#include <algorithm>
#include <catch2/catch.hpp>

namespace sieve::watchlists {

namespace {

using test::day;

/// Two stocks, of which the first is split two for one on the third day.
market::MarketPtr smallMarket()
{
    auto first = test::recordOf("AAAA", {40, 44, 24, 26, 25});
    first.actions.push_back({first.bars.days[2], market::ActionKind::Split, 2.0});
    first.calendar = {{day("2024-02-01"), market::CalendarKind::Report}};
    return test::marketOf({first, test::recordOf("BBBB", {10, 11, 12, 13, 14}, "Harbours")});
}

Watchlist planned()
{
    Watchlist list{
        3, "Quay", {{"AAAA", day("2024-01-01"), 40.0}, {"BBBB", day("2024-01-02"), 11.0}}};
    list.entries[0].plan = TradePlan{day("2024-01-01"), 42.0, 36.0, {60.0}};
    (void)addTrade(list.entries[0], {day("2024-01-02"), 44.0, 10.0, "=1+1"});
    list.entries[1].page.notes = {{day("2024-01-02"), "=cmd"}};
    return list;
}

std::string cellText(const exports::Sheet& sheet, std::size_t row, const std::string& column)
{
    const auto at = std::ranges::find(sheet.columns, column) - sheet.columns.begin();
    const exports::Cell& cell = sheet.rows.at(row).at(static_cast<std::size_t>(at));
    if (const auto* text = std::get_if<std::string>(&cell))
        return *text;
    if (const auto* figure = std::get_if<double>(&cell))
        return std::to_string(*figure);
    if (const auto* on = std::get_if<Day>(&cell))
        return on->iso();
    return {};
}

} // namespace

TEST_CASE("List: all that is told of its entries on a day", "[watchlists]")
{
    engine::Evaluator evaluator(smallMarket());
    const screens::NameBook book;
    const Watchlist list = planned();
    const ListTold told = tell(list, evaluator, book.names(), {}, day("2024-01-05"));
    REQUIRE(told.entries.size() == 2);
    const EntryTold& held = told.entries[0];
    CHECK(held.result.highest == Approx(26.26)); // of 44.44, 24.24, 26.26 and 25.25 by now
    CHECK(held.result.lowest == Approx(21.78));  // 43.56 before the split
    CHECK(held.result.sessions == 4);
    CHECK(held.course.state() == PlanState::Held);
    CHECK(held.position.shares == Approx(20.0));
    CHECK(held.lossAtStop == Approx(20.0 * (25.0 - 18.0)));
    CHECK(held.nextReport == day("2024-02-01"));
    CHECK_FALSE(told.entries[1].nextReport);
    CHECK(told.holdings.stocks == 1);
    CHECK(told.holdings.worth == Approx(500.0));
    CHECK(statesOf(told).at(PlanState::Held) == 1);
    CHECK(statesOf(told).at(PlanState::None) == 1);
    // Seen from the day before it was bought.
    const ListTold before = tell(list, evaluator, book.names(), {}, day("2024-01-01"));
    CHECK(before.entries[0].course.state() == PlanState::Waiting);
    CHECK(before.holdings.stocks == 0);
    CHECK(isMissing(before.entries[0].result.highest));
}

TEST_CASE("List: as a sheet, from which nothing can be run", "[watchlists]")
{
    engine::Evaluator evaluator(smallMarket());
    const screens::NameBook book;
    const ListTold told = tell(planned(), evaluator, book.names(), {}, day("2024-01-05"));
    const exports::Sheet sheet = sheetOf(told, &evaluator.market());
    CHECK(cellText(sheet, 0, "symbol") == "AAAA");
    CHECK(cellText(sheet, 0, "state") == "held");
    CHECK(cellText(sheet, 0, "entry") == std::to_string(21.0));
    CHECK(cellText(sheet, 0, "target_1") == std::to_string(30.0));
    CHECK(cellText(sheet, 0, "next_report") == "2024-02-01");
    CHECK(cellText(sheet, 1, "notes") == "2024-01-02: =cmd");
    for (const auto& row : sheet.rows)
        CHECK(row.size() == sheet.columns.size());
    ListTold unknown;
    unknown.list = planned();
    unknown.entries.resize(2);
    const exports::Sheet kept = sheetOf(unknown, nullptr);
    CHECK(cellText(kept, 0, "stop") == std::to_string(36.0)); // as it was planned
    CHECK(cellText(kept, 0, "close").empty());
    const Shared<Watchlist> lists[] = {planned(), Watchlist{4, "Kept", {}, {}, {.screen = "Dips"}}};
    CHECK(exports::toCsv(sheetOf(lists)) == "name,folder,screen,entries,former,archived\n"
                                            "Quay,,,2,0,no\n"
                                            "Kept,,Dips,,,no\n");
}

TEST_CASE("List: the market says to leave by the rule that was chosen", "[watchlists]")
{
    engine::Evaluator evaluator(test::marketOf(test::eventfulRecords()));
    const screens::NameBook book;
    conditions::MarketBook rules = conditions::standardBook();
    rules.rules = {{"Above", "close > sma(close, 20)", "", 100.0, false},
                   {"Storm", "close < prior(lowest(close, 20))", "", 0.0, true}};
    const auto reading = conditions::readMarket(evaluator, book.names(), rules);
    std::size_t leaving = 0;
    std::size_t storms = 0;
    for (const Day today : evaluator.market().sessions()) {
        const auto bar = reading.market().barBy(today);
        const auto above = marketCallOn(reading, {{}, 0.03, 0.05, "Above"}, today);
        if (!bar || !reading.rules[0].on[*bar]) {
            CHECK_FALSE(above);
            continue;
        }
        REQUIRE(above);
        CHECK(above->saysLeave == !*reading.rules[0].on[*bar]);
        CHECK(*above->since <= today);
        leaving += above->saysLeave ? 1 : 0;
        if (const auto storm = marketCallOn(reading, {{}, 0.03, 0.05, "Storm"}, today)) {
            CHECK(storm->saysLeave == *reading.rules[1].on[*bar]);
            storms += storm->saysLeave ? 1 : 0;
        }
        if (const auto all = marketCallOn(reading, {}, today))
            CHECK(all->saysLeave == (reading.stance[*bar] <= 0.0));
    }
    CHECK(leaving > 20);
    CHECK(storms > 0);
    CHECK_FALSE(
        marketCallOn(reading, {{}, 0.03, 0.05, "Gone"}, evaluator.market().sessions().back()));
}

TEST_CASE("Trading terms: go into a text and come back", "[watchlists]")
{
    const TradingTerms terms{{25'000.0, 0.005}, 0.04, 0.08, "Breadth \"first\""};
    CHECK(*tradingTermsFromToml(toToml(terms)) == terms);
    CHECK(*tradingTermsFromToml("account = 5\n") == TradingTerms{{5.0, 0.01}});
    for (const char* wrong :
         {"account = 0", "risk = 2.0", "near = -1.0", "colour = 1", "account ="})
        CHECK_FALSE(tradingTermsFromToml(wrong));
}

} // namespace sieve::watchlists
