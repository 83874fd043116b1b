#include "core/watchlists/review.h"

#include "core/screens/name_book.h"
#include "tests/core/made_market.h"

#include <algorithm>
#include <catch2/catch.hpp>

namespace sieve::watchlists {

namespace {

using test::day;

/// Seventy closes that rise by `step` each weekday from Monday 2024-01-01.
std::vector<double> rising(double from, double step)
{
    std::vector<double> closes;
    for (int bar = 0; bar < 70; ++bar)
        closes.push_back(from + step * bar);
    return closes;
}

struct Reviewing {
    engine::Evaluator evaluator;
    screens::NameBook book;
    std::vector<Shared<Watchlist>> lists;
    Tray tray;

    explicit Reviewing(market::MarketPtr market) : evaluator(std::move(market)) {}
    std::vector<ReviewCase> cases(Day to)
    {
        return reviewOf({lists, &tray, {}}, evaluator, book.names(), to);
    }
};

} // namespace

TEST_CASE("Review: gains on the way and to date, against all stocks and the benchmark",
          "[watchlists]")
{
    // AAAA gains 1 a day from 100, BBBB and CCCC stand still, the index gains 10 a day from 1000.
    auto index = test::recordOf("IIII", rising(1000, 10));
    index.instrument.kind = market::InstrumentKind::Index;
    Reviewing of(test::marketOf({test::recordOf("AAAA", rising(100, 1)),
                                 test::recordOf("BBBB", rising(50, 0)),
                                 test::recordOf("CCCC", rising(50, 0)), index},
                                "IIII"));
    Watchlist list{3, "Quay", {{"AAAA", day("2024-01-01"), 100.0, "strong", "Dips"}}};
    list.former = {{{"BBBB", day("2024-01-01"), 50.0, "cheap"}, day("2024-01-10")}};
    of.lists = {list};
    of.tray = Tray({{"CCCC", day("2024-01-01"), Mark::Dropped, "Dips", "dull"},
                    {"AAAA", day("2024-01-01"), Mark::Kept, "Dips", ""}});
    const Day to = of.evaluator.market().sessions()[30];
    const auto cases = of.cases(to);
    REQUIRE(cases.size() == 3); // what was kept in hand stands on the list
    const ReviewCase& strong = cases[0];
    CHECK(strong.gain == Approx(0.30));
    CHECK(strong.after[0] == Approx(0.05));
    CHECK(strong.after[1] == Approx(0.20));
    CHECK(isMissing(strong.after[2])); // sixty days are not over
    CHECK(strong.best == Approx(1.3 * 1.01 - 1.0));
    CHECK(strong.worst == Approx(1.01 * 0.99 - 1.0));
    CHECK(strong.overAll == Approx(0.30)); // the median stock stood still
    CHECK(strong.overBenchmark == Approx(0.0));
    CHECK(strong.end == PlanEnd::NoPlan);
    CHECK(cases[1].decision == Decision::TakenOff);
    CHECK(cases[1].gain == Approx(0.0));
    CHECK(cases[2].decision == Decision::Dropped);
    CHECK(cases[2].list.empty());

    const auto bySource = rowsBy(cases, ReviewBy::Source);
    REQUIRE(bySource.size() == 2);
    CHECK(bySource[0].name == "Dips");
    CHECK(bySource[0].cases.size() == 2);
    CHECK(bySource[0].gained == 0.5);
    CHECK(bySource[0].gain == Approx(0.15)); // between 0.30 and 0
    CHECK(bySource[0].days == 1);
    CHECK(bySource[0].warning == "2 cases say little");
    CHECK(rowsBy(cases, ReviewBy::All).size() == 1);
    CHECK(rowsBy(cases, ReviewBy::Decision).size() == 3);
    CHECK(rowsBy({}, ReviewBy::All).empty());
    // Seen before the entry left: it was kept then.
    CHECK(of.cases(day("2024-01-05"))[1].decision == Decision::Kept);
}

TEST_CASE("Review: how plans ended, and what following them gave", "[watchlists]")
{
    Reviewing of(test::marketOf({test::recordOf("AAAA", rising(100, 1)),    // to the target
                                 test::recordOf("BBBB", rising(100, -0.5)), // never entered
                                 test::recordOf("CCCC", {100, 102, 104, 98, 90, 90, 90, 90}),
                                 test::recordOf("DDDD", {100, 102, 104, 104, 104, 104, 104, 104}),
                                 test::recordOf("EEEE", {100, 102, 104, 100, 99, 99, 99, 99})}));
    Watchlist list{3, "Quay", {}};
    for (const char* symbol : {"AAAA", "BBBB", "CCCC", "DDDD", "EEEE"}) {
        list.entries.push_back({symbol, day("2024-01-01"), 100.0});
        list.entries.back().plan = TradePlan{day("2024-01-01"), 103.0, 95.0, {110.0}};
    }
    list.entries[4].plan->exitRule = "close < 101";
    (void)addTrade(list.entries[0], {day("2024-01-05"), 104.0, 10.0});
    (void)addTrade(list.entries[0], {day("2024-01-08"), 105.0, -5.0});
    of.lists = {list};
    const auto cases = of.cases(day("2024-01-10"));
    REQUIRE(cases.size() == 5);
    // Highs are a percent above the closes: 103 is reached on the bar that closes at 102.
    CHECK(cases[0].end == PlanEnd::Open);
    CHECK(cases[0].byPlan == Approx(107.0 / 103.0 - 1.0));
    CHECK(cases[0].byTrades == Approx((5.0 * 1.0 + 5.0 * 3.0) / 1040.0));
    CHECK(cases[1].end == PlanEnd::NotEntered);
    CHECK(isMissing(cases[1].byPlan));
    CHECK(cases[2].end == PlanEnd::Stop);
    CHECK(cases[2].byPlan == Approx(90.0 / 103.0 - 1.0)); // it opened under the stop
    CHECK(cases[3].end == PlanEnd::Open);
    CHECK(cases[4].end == PlanEnd::Rule);
    CHECK(cases[4].byPlan == Approx(100.0 / 103.0 - 1.0));
    const auto later = of.cases(day("2024-01-31"));
    CHECK(later[0].end == PlanEnd::Target);
    CHECK(later[0].byPlan == Approx(110.0 / 103.0 - 1.0));
    const auto byEnd = rowsBy(later, ReviewBy::End);
    CHECK(std::ranges::count(byEnd, "target", &ReviewRow::name) == 1);
}

TEST_CASE("Review: a stop that follows a rule sells where it stood on its day", "[watchlists]")
{
    Reviewing of(
        test::marketOf({test::recordOf("AAAA", {100, 102, 104, 106, 108, 104, 98, 90, 80})}));
    Watchlist list{3, "Quay", {{"AAAA", day("2024-01-01"), 100.0}}};
    list.entries[0].plan = TradePlan{day("2024-01-01"), 103.0, 95.0};
    list.entries[0].plan->stopRule = "prior(lowest(low, 2))";
    of.lists = {list};
    const auto cases = of.cases(day("2024-01-11"));
    REQUIRE(cases.size() == 1);
    CHECK(cases[0].end == PlanEnd::Stop);
    // On the sixth day the stop stands at the low of the fourth, 104.94; it opened at 104.
    CHECK(cases[0].byPlan == Approx(104.0 / 103.0 - 1.0));
}

TEST_CASE("Review: as known on a day whatever came later, and a warning of many cases of few days",
          "[watchlists]")
{
    const auto records = test::eventfulRecords();
    Reviewing whole(test::marketOf(records));
    const market::Market& market = whole.evaluator.market();
    Watchlist list{3, "All", {}};
    for (const std::size_t place : {40U, 90U}) {
        const Day came = market.sessions()[place];
        for (const std::size_t stock : market::stocksListed(market, came)) {
            Entry entry{market::symbolOn(market.instrument(stock), came), came,
                        priceOn(market, stock, came)};
            entry.plan = TradePlan{
                came, 1.02 * entry.priceThen, 0.9 * entry.priceThen, {1.1 * entry.priceThen}};
            list.entries.push_back(std::move(entry));
        }
    }
    whole.lists = {list};
    const Day today = market.sessions()[200];
    Reviewing cut(test::cutAfter(records, today));
    cut.lists = whole.lists;
    const auto a = whole.cases(today);
    const auto b = cut.cases(today);
    REQUIRE(a.size() == b.size());
    REQUIRE(a.size() >= enoughCases);
    for (std::size_t i = 0; i < a.size(); ++i) {
        INFO(i);
        CHECK(isSameFigure(a[i].gain, b[i].gain));
        CHECK(isSameFigure(a[i].overAll, b[i].overAll));
        CHECK(isSameFigure(a[i].byPlan, b[i].byPlan));
        CHECK(a[i].end == b[i].end);
        for (std::size_t span = 0; span < reviewSpans.size(); ++span)
            CHECK(isSameFigure(a[i].after[span], b[i].after[span]));
    }
    CHECK(rowsBy(a, ReviewBy::All)[0].warning.find("on 2 days") != std::string::npos);
}

} // namespace sieve::watchlists
