#include "core/engine/operators/notices.h"

#include "core/engine/evaluator.h"
#include "core/language/checker.h"
#include "demo_market/dice.h"
#include "tests/core/made_market.h"
#include "tests/core/same_bits.h"

#include <catch2/catch.hpp>

// What stands in the data beside bars, as known on a day.

namespace sieve::engine {

namespace {

using market::EstimateMeasure;
using market::Period;

/// One stock over ten weekdays from Monday 2024-01-01, with a split of 2 for 1 on the 8th.
market::InstrumentRecord stock()
{
    auto record = test::recordOf("AAAA", {20, 20, 20, 20, 20, 10, 10, 10, 10, 10});
    record.actions.push_back({test::day("2024-01-03"), market::ActionKind::Dividend, 1.0});
    record.actions.push_back({test::day("2024-01-08"), market::ActionKind::Split, 2.0});
    const auto estimate = [&](Period period, const char* end, const char* known, double mean) {
        record.estimates.push_back({EstimateMeasure::EarningsPerShare, period, test::day(end),
                                    test::day(known), mean, mean, mean, 5});
    };
    estimate(Period::Year, "2024-12-31", "2023-12-01", 4.0);
    estimate(Period::Year, "2024-12-31", "2024-01-04", 5.0);
    estimate(Period::Year, "2025-12-31", "2024-01-04", 6.0);
    estimate(Period::Quarter, "2023-12-31", "2023-12-01", 1.0);
    record.statements.push_back({*market::statementItemNamed("eps"), Period::Quarter,
                                 test::day("2023-12-31"), test::day("2024-01-05"), 1.2});
    record.owners.push_back(
        {market::OwnerKind::Funds, test::day("2023-09-30"), test::day("2023-11-01"), 7, 0.10});
    record.owners.push_back(
        {market::OwnerKind::Funds, test::day("2023-12-31"), test::day("2024-01-09"), 9, 0.15});
    record.calendar.push_back(
        {test::day("2024-01-10"), market::CalendarKind::Report, market::CalendarTime::AfterClose});
    record.notices.news.push_back(
        {Minute::of(test::day("2024-01-04"), 600), "1", "AAAA wins a Contract", "", ""});
    record.notices.ratings.push_back(
        {test::day("2024-01-02"), "House", market::RatingAction::Raises, 30.0});
    record.notices.ratings.push_back(
        {test::day("2024-01-09"), "Other", market::RatingAction::Keeps, 11.0});
    record.instrument.memberships = {
        {"LINE", test::day("2024-01-03"), std::optional(test::day("2024-01-05"))}};
    record.instrument.optionable = true;
    sortRows(record);
    return record;
}

struct Bench {
    market::MarketPtr market = test::marketOf({stock()});
    std::unique_ptr<Evaluator> evaluator = std::make_unique<Evaluator>(market);
    Plan plan;

    void ask(const market::InstrumentRecord& record)
    {
        market = test::marketOf({record});
        evaluator = std::make_unique<Evaluator>(market);
    }
    double on(const char* day, const char* text)
    {
        const auto checked = language::check(text, {language::Vocabulary::builtIn()}, plan);
        if (!checked)
            FAIL(text << ": " << sentence(checked.error()));
        return (*evaluator->column(plan, checked->node, test::day(day)))[0];
    }
};

} // namespace

TEST_CASE("Estimates: of the running year and the next, on the footing of the day", "[engine]")
{
    Bench bench;
    CHECK(bench.on("2024-01-03", "estimate(eps)") == 4);
    CHECK(isMissing(bench.on("2024-01-03", "estimate(eps, 1)")));
    CHECK(bench.on("2024-01-04", "estimate(eps, ahead = 1)") == 6);
    CHECK(bench.on("2024-01-08", "estimate(eps)") == 2.5); // after the split
    CHECK(bench.on("2024-01-04", "estimate_quarter(eps)") == 1);
    CHECK(isMissing(bench.on("2024-01-05", "estimate_quarter(eps)"))); // reported
    CHECK(bench.on("2024-01-04", "revision(eps, 20)") == Approx(0.25));
    CHECK(bench.on("2024-01-02", "target(1)") == Approx(30.0)); // of that day alone
    CHECK(isMissing(bench.on("2024-01-03", "target(1)")));
    CHECK(bench.on("2024-01-03", "revision(eps, 20)") == 0);
    CHECK(isMissing(bench.on("2024-01-04", "surprise(eps)")));
    CHECK(bench.on("2024-01-05", "surprise(eps)") == Approx(0.2));
    CHECK(bench.on("2024-01-12", "surprise(eps)") == Approx(0.2)); // a split changes no share
}

TEST_CASE("Surprise: is against what was expected on the eve of the report", "[engine]")
{
    auto record = stock();
    const auto expect = [&](const char* known, double mean) {
        record.estimates.push_back({EstimateMeasure::EarningsPerShare, Period::Quarter,
                                    test::day("2023-12-31"), test::day(known), mean, mean, mean,
                                    5});
    };
    expect("2024-01-04", 0.8); // the day before
    expect("2024-01-05", 1.3); // on the day itself: it is known already
    Bench bench;
    bench.ask(record);
    CHECK(bench.on("2024-01-05", "surprise(eps)") == Approx(0.5));
}

TEST_CASE("Owners: by the day on which they became known", "[engine]")
{
    Bench bench;
    CHECK(bench.on("2024-01-08", "held(funds)") == Approx(0.10));
    CHECK(isMissing(bench.on("2024-01-08", "held_change(funds)")));
    CHECK(bench.on("2024-01-09", "held_change(funds)") == Approx(0.05));
    CHECK(bench.on("2024-01-09", "fund_count") == 9);
    CHECK(bench.on("2024-01-09", "holders(funds, 1)") == 7);
    CHECK(isMissing(bench.on("2024-01-09", "held(insiders)")));
}

TEST_CASE("Reports: a date that is due is announced, one that has passed is not", "[engine]")
{
    Bench bench;
    CHECK(bench.on("2024-01-03", "days_to_report") == 7);
    CHECK(bench.on("2024-01-10", "days_to_report") == 0); // after the close
    CHECK(isMissing(bench.on("2024-01-11", "days_to_report")));
    CHECK(isMissing(bench.on("2024-01-04", "days_since_report")));
    CHECK(bench.on("2024-01-08", "days_since_report") == 3);
}

TEST_CASE("News and targets: within so many days", "[engine]")
{
    Bench bench;
    CHECK(bench.on("2024-01-03", "news_within(30)") == 0);
    CHECK(bench.on("2024-01-04", "news_within(1)") == 1);
    CHECK(bench.on("2024-01-05", "news_within(1)") == 0);
    CHECK(bench.on("2024-01-05", "news_within(3, \"contract\")") == 1);
    CHECK(bench.on("2024-01-05", "news_within(3, \"strike\")") == 0);
    CHECK(bench.on("2024-01-03", "target(30)") == 30);
    CHECK(bench.on("2024-01-09", "target(30)") == Approx((15 + 11) / 2.0)); // the split halves one
    CHECK(bench.on("2024-01-09", "target(2)") == 11);
}

TEST_CASE("Dividends, memberships and marks of the instrument", "[engine]")
{
    Bench bench;
    CHECK(bench.on("2024-01-02", "dividends_paid(30)") == 0);
    CHECK(bench.on("2024-01-03", "dividends_paid(30)") == 1);
    CHECK(bench.on("2024-01-08", "dividends_paid(30)") == 0.5);
    CHECK(bench.on("2024-01-08", "dividends_paid(5)") == 0);
    CHECK(bench.on("2024-01-02", "in_index(\"LINE\")") == 0);
    CHECK(bench.on("2024-01-04", "in_index(\"LINE\")") == 1);
    CHECK(bench.on("2024-01-05", "in_index(\"LINE\")") == 0);
    CHECK(bench.on("2024-01-05", "optionable and not shortable") == 1);
    CHECK(bench.on("2024-01-05", "contains(name, \"TIDAL\")") == 1);
}

TEST_CASE("Back in time: on a bar, on a day, at the year's end, as it was traded", "[engine]")
{
    Bench bench;
    CHECK(bench.on("2024-01-12", "on_bar(2, close)") == 10);
    CHECK(bench.on("2024-01-03", "on_bar(2, close)") == 20);
    CHECK(isMissing(bench.on("2024-01-01", "on_bar(2, close)")));
    CHECK(bench.on("2024-01-12", "on_day(2024-01-06, volume)") == 2 * 5000); // Friday's, split
    CHECK(isMissing(bench.on("2024-01-05", "on_day(2024-01-06, volume)")));
    CHECK(isMissing(bench.on("2024-01-05", "year_to_date(close)")));
    CHECK(bench.on("2024-01-12", "as_traded(close)") == 10);
    Plan plan;
    const auto node =
        language::check("as_traded(close)", {language::Vocabulary::builtIn()}, plan)->node;
    CHECK(bench.evaluator->history(plan, node, 0, test::day("2024-01-12"))[0] == 20);
    CHECK(isMissing(bench.on("2024-01-05", "last")));
}

TEST_CASE("Year to date: against the last bar of the year before", "[engine]")
{
    auto record = test::recordOf("AAAA", {1});
    record.bars = test::barsOf({8, 10, 11, 12}, test::day("2023-12-28"));
    const auto market = test::marketOf({record});
    Evaluator evaluator(market);
    Plan plan;
    const auto node =
        language::check("year_to_date(close)", {language::Vocabulary::builtIn()}, plan)->node;
    const auto history = evaluator.history(plan, node, 0, market->sessions().back());
    CHECK(isMissing(history[1]));
    CHECK(history[2] == Approx(0.1));
    CHECK(history[3] == Approx(0.2));
}

TEST_CASE(
    "Leaves: a figure counts from the first bar on or after its day, whatever gaps lie between",
    "[engine]")
{
    for (std::uint64_t seed = 1; seed <= 40; ++seed) {
        demo_market::Dice dice(seed);
        market::InstrumentRecord record = test::recordOf("AAAA", {});
        Day day = test::day("2022-01-03");
        for (int bar = 0; bar < 120; ++bar) {
            record.bars.add({day, 10, 11, 9, 10, 100});
            day = day.plusDays(dice.chance(0.1) ? 2 + static_cast<int>(dice.below(90)) : 1);
        }
        const auto eps = *market::statementItemNamed("eps");
        for (int quarter = 0; quarter < 24; ++quarter) {
            const Day end = test::day("2021-09-30").plusMonths(3 * quarter);
            record.statements.push_back({eps, Period::Quarter, end,
                                         end.plusDays(1 + static_cast<int>(dice.below(80))),
                                         static_cast<double>(quarter)});
        }
        sortRows(record);
        const auto market = test::marketOf({record});
        Plan plan;
        const auto checked =
            language::check("quarter(eps)", {language::Vocabulary::builtIn()}, plan);
        const auto days = market->bars(0).days;
        const auto history = Evaluator(market).history(plan, checked->node, 0, days.back());
        for (std::size_t bar = 0; bar < days.size(); ++bar) {
            INFO("seed " << seed << " bar " << bar << " on " << days[bar].iso());
            const auto known = market->statements(0).figure(eps, Period::Quarter, 0, days[bar]);
            REQUIRE(test::sameBits(history[bar], known ? known->value : missing));
        }
    }
}

TEST_CASE("Estimates: a year that is over is not expected any more, and a gap moves no year",
          "[engine]")
{
    auto record = test::recordOf("AAAA", std::vector<double>(900, 10.0));
    const Day start = record.bars.days.front();
    const auto estimate = [&](const char* end, double mean) {
        record.estimates.push_back({EstimateMeasure::EarningsPerShare, Period::Year, test::day(end),
                                    start.plusDays(-30), mean, mean, mean, 5});
    };
    estimate("2024-12-31", 1.0);
    estimate("2025-12-31", 2.0);
    estimate("2027-12-31", 4.0); // nobody looks at 2026
    sortRows(record);
    const auto market = test::marketOf({record});
    Evaluator evaluator(market);
    Plan plan;
    const auto on = [&](const char* day, const char* text) {
        const auto checked = language::check(text, {language::Vocabulary::builtIn()}, plan);
        REQUIRE(checked);
        return (*evaluator.column(plan, checked->node, test::day(day)))[0];
    };
    CHECK(on("2025-04-28", "estimate(eps)") == 1.0); // waits for its report
    CHECK(on("2025-05-01", "estimate(eps)") == 2.0);
    CHECK(isMissing(on("2025-05-01", "estimate(eps, 1)"))); // 2026, not 2027
    CHECK(on("2025-05-01", "estimate(eps, 2)") == 4.0);
    const auto checked = language::check("estimate(eps)", {language::Vocabulary::builtIn()}, plan);
    const Day last = market->sessions().back();
    const auto history = evaluator.history(plan, checked->node, 0, last);
    const auto days = market->bars(0).days;
    for (std::size_t bar = 0; bar < days.size(); bar += 7) // a day alone as among all
        CHECK(history[bar] == (*evaluator.column(plan, checked->node, days[bar]))[0]);
}

} // namespace sieve::engine
