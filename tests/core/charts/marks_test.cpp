#include "core/charts/marks.h"

#include "core/base/missing.h"
#include "core/charts/chart.h"
#include "tests/core/made_market.h"

#include <catch2/catch.hpp>

// What is marked on which bar, by a stock whose events are made by hand.

namespace sieve::charts {

namespace {

using market::ActionKind;

/// Ten weekdays from Monday 2024-01-01 with closes of 10 to 19.
market::InstrumentRecord stock()
{
    auto record = test::recordOf("AAAA.C", {10, 11, 12, 13, 14, 15, 16, 17, 18, 19});
    record.actions = {{test::day("2023-12-20"), ActionKind::Dividend, 9.0}, // before its first bar
                      {test::day("2024-01-03"), ActionKind::Dividend, 0.5},
                      {test::day("2024-01-03"), ActionKind::SpinOff, 1.25},
                      {test::day("2024-01-06"), ActionKind::Split, 2.0}, // a Saturday
                      {test::day("2024-01-10"), ActionKind::Split, 0.1}};
    const auto state = [&](const char* item, market::Period period, const char* end,
                           const char* known, double value) {
        record.statements.push_back(
            {*market::statementItemNamed(item), period, test::day(end), test::day(known), value});
    };
    state("eps", market::Period::Quarter, "2023-09-30", "2024-01-02", 1.0);
    state("revenue", market::Period::Quarter, "2023-09-30", "2024-01-03", 5.0); // the same report
    state("revenue", market::Period::Year, "2023-12-31", "2024-01-05", 20.0);
    state("eps", market::Period::Quarter, "2023-12-31", "2024-01-09", 1.1);
    record.estimates.push_back({market::EstimateMeasure::EarningsPerShare, market::Period::Quarter,
                                test::day("2023-12-31"), test::day("2023-12-01"), 2.0, 2.0, 2.0,
                                3});
    record.notices.news.push_back(
        {Minute::of(test::day("2024-01-04"), 600), "1", "A quay is opened", "", ""});
    record.notices.ratings.push_back(
        {test::day("2024-01-04"), "Tern Research", market::RatingAction::Raises, 12.5});
    record.notices.ratings.push_back(
        {test::day("2024-01-08"), "Quay House", market::RatingAction::Ends});
    return record;
}

struct Bench {
    engine::Evaluator evaluator{test::marketOf({stock()})};

    std::vector<Mark> marks(std::vector<MarkKind> kinds, const char* day = "2024-01-12",
                            BarScale scale = BarScale::Day)
    {
        SetUp setUp;
        setUp.marks = std::move(kinds);
        setUp.scale = scale;
        const language::Names names{language::Vocabulary::builtIn()};
        return makeChart(evaluator, names, setUp, 0, test::day(day)).marks;
    }
};

} // namespace

TEST_CASE("Marks: dividends and splits on their first day, by bar", "[charts]")
{
    Bench bench;
    const auto marks = bench.marks({MarkKind::Split, MarkKind::Dividend});
    REQUIRE(marks.size() == 4);
    CHECK(marks[0] ==
          Mark{MarkKind::Dividend, 2, test::day("2024-01-03"), "Dividend of 0.5 a share."});
    CHECK(marks[1].text == "Spin-off of 1.25 a share.");
    CHECK(marks[2] == Mark{MarkKind::Split, 5, test::day("2024-01-06"), // on Monday's bar
                           "Split: 2 new shares for one."});
    CHECK(marks[3].text == "Split: one new share for 10.");
    CHECK(bench.marks({MarkKind::Split}, "2024-01-08").size() == 1); // nothing later
    CHECK(bench.marks({}).empty());
}

TEST_CASE("Marks: a report tells its earnings, its surprise and the move of its day", "[charts]")
{
    Bench bench;
    const auto marks = bench.marks({MarkKind::Report});
    REQUIRE(marks.size() == 3);
    CHECK(marks[0].bar == 1); // of shares as they are on the last day, as the prices are
    CHECK(marks[0].text == "Report of the quarter to 2023-09-30. Earnings a share 5.00. The price "
                           "went +10.0 % that day.");
    CHECK(marks[1].text.starts_with("Report of the year to 2023-12-31."));
    CHECK(marks[2].day == test::day("2024-01-09"));
    CHECK(marks[2].text == "Report of the quarter to 2023-12-31. Earnings a share 11.00, 10.0 % "
                           "above what was expected. The price went +6.7 % that day.");
    CHECK(bench.marks({MarkKind::Report}, "2024-01-08").size() == 2);
}

TEST_CASE("Marks: news and opinions, on bars of weeks too", "[charts]")
{
    Bench bench;
    const auto marks = bench.marks({MarkKind::Rating, MarkKind::News});
    REQUIRE(marks.size() == 3);
    CHECK(marks[0] == Mark{MarkKind::News, 3, test::day("2024-01-04"), "A quay is opened"});
    CHECK(marks[1].text == "Tern Research raises, target 12.50.");
    CHECK(marks[2].text == "Quay House ends.");
    const auto weeks =
        bench.marks({MarkKind::Rating, MarkKind::News}, "2024-01-12", BarScale::Week);
    REQUIRE(weeks.size() == 3);
    CHECK(weeks[0].bar == 0);
    CHECK(weeks[1].bar == 0);
    CHECK(weeks[2].bar == 1);
}

TEST_CASE("Set-up: kinds of marks are kept, and only known ones read", "[charts]")
{
    SetUp setUp;
    setUp.marks = {MarkKind::News, MarkKind::Rating};
    CHECK(setUpFromToml(toToml(setUp))->marks == setUp.marks);
    setUp.marks.clear();
    CHECK(setUpFromToml(toToml(setUp))->marks.empty());
    CHECK(setUpFromToml("[[pane]]\n")->marks == SetUp().marks);
    const auto refused = setUpFromToml("marks = [\"party\"]\n[[pane]]\n");
    REQUIRE_FALSE(refused);
    CHECK(refused.error().problem == "'party' is no kind of mark");
}

TEST_CASE("Marks: entries of lists stand on their days with their reasons, of this stock alone",
          "[charts]")
{
    watchlists::Watchlist quay{1, "Quay", {}, {}};
    quay.entries = {{"AAAA.C", test::day("2024-01-04"), 13.0, "base", ""},
                    {"BBBB.C", test::day("2024-01-04"), 2.0, "another", ""},
                    {"AAAA.C", test::day("2024-01-15"), 19.0, "later than all bars", ""}};
    watchlists::Watchlist pier{2, "Pier", {}, {}};
    pier.former = {{{"AAAA.C", test::day("2024-01-02"), missing, "", ""},
                    test::day("2024-01-09"),
                    16.0,
                    "too slow"}};
    const std::vector<Shared<watchlists::Watchlist>> lists{quay, pier};
    engine::Evaluator evaluator(test::marketOf({stock()}));
    SetUp setUp;
    setUp.marks = {MarkKind::Entry};
    const language::Names names{language::Vocabulary::builtIn()};
    const auto marks =
        makeChart(evaluator, names, setUp, 0, test::day("2024-01-12"), {}, lists).marks;
    REQUIRE(marks.size() == 3);
    CHECK(marks[0].bar == 1);
    CHECK(marks[0].text == "Put on “Pier”.");
    CHECK(marks[1].text == "Put on “Quay” at 13.00: base");
    CHECK(marks[1].day == test::day("2024-01-04"));
    CHECK(marks[2].text == "Taken off “Pier”: too slow");
    // As of a day before it left, nothing tells of that.
    CHECK(makeChart(evaluator, names, setUp, 0, test::day("2024-01-05"), {}, lists).marks.size() ==
          2);
}

TEST_CASE("Marks: shapes and turns of bars, on the chart's footing", "[charts]")
{
    auto record = test::recordOf("AAAA.C", {10, 10, 13, 13, 13, 11, 10, 10});
    record.bars.high = {10.5, 10.5, 13.5, 13.8, 13.2, 11.5, 10.5, 10.4};
    record.bars.low = {9.5, 9.5, 12.5, 12.2, 12.8, 10.5, 9.5, 9.6};
    auto turning = test::recordOf("BBBB.C", {10, 10.5, 12, 13, 12.8, 11.5, 10, 10.2});
    for (std::size_t bar = 0; bar < 8; ++bar) {
        turning.bars.high[bar] = turning.bars.close[bar] + 0.1;
        turning.bars.low[bar] = turning.bars.close[bar] - 0.1;
    }
    engine::Evaluator evaluator(test::marketOf({record, turning}));
    const auto texts = [&](MarkKind kind, std::size_t instrument = 0) {
        SetUp setUp;
        setUp.marks = {kind};
        const language::Names names{language::Vocabulary::builtIn()};
        std::vector<std::string> told;
        for (const Mark& mark :
             makeChart(evaluator, names, setUp, instrument, test::day("2024-02-01")).marks)
            told.push_back(std::to_string(mark.bar) + " " + mark.text);
        return told;
    };
    using Texts = std::vector<std::string>;
    CHECK(texts(MarkKind::Gap) ==
          Texts{"2 Gap up from 10.50 to 12.50.", "5 Gap down from 12.80 to 11.50."});
    CHECK(texts(MarkKind::Island) == Texts{"5 Island top since 2024-01-03."});
    CHECK(texts(MarkKind::Inside) == Texts{"4 Inside day.", "7 Inside day."});
    CHECK(texts(MarkKind::Outside) == Texts{"3 Outside day."});
    CHECK(texts(MarkKind::Swing, 1) == Texts{"0 Swing low at 9.90, known since 2024-01-03.",
                                             "3 Swing high at 13.10, known since 2024-01-08."});
}

TEST_CASE("Marks: a layer marks the bars on which its condition begins to hold", "[charts]")
{
    engine::Evaluator evaluator(
        test::marketOf({test::recordOf("AAAA.C", {10, 12, 13, 9, 12, 9, 12, 13})}));
    const language::Names names{language::Vocabulary::builtIn()};
    SetUp setUp;
    setUp.marks = {};
    setUp.panes[0].layers = {{"close > 11", "", LayerForm::Marks},
                             {"close", "", LayerForm::Marks},
                             {"close > ", "", LayerForm::Marks}};
    const Chart chart = makeChart(evaluator, names, setUp, 0, test::day("2024-02-01"));
    REQUIRE(chart.marks.size() == 3);
    CHECK(chart.marks[0].kind == MarkKind::Match);
    CHECK(chart.marks[0].bar == 1);
    CHECK(chart.marks[0].text == "close > 11 (2 bars)");
    CHECK(chart.marks[1].text == "close > 11 (1 bar)");
    CHECK(chart.marks[2].bar == 6);
    CHECK(chart.marks[2].text == "close > 11 (2 bars, and still)");
    CHECK_FALSE(chart.panes[0].layers[0].error);
    CHECK(chart.panes[0].layers[1].error);
    CHECK(chart.panes[0].layers[2].error);
    CHECK(*setUpFromToml(toToml(setUp)) == setUp);
}

TEST_CASE("Marks: divergences join prices and the pane below, known once they showed themselves",
          "[charts]")
{
    auto record = test::recordOf("AAAA", {});
    std::vector<double> closes;
    std::vector<double> volumes;
    for (int bar = 0; bar < 120; ++bar) { // two tops, the second higher on less volume
        const double top = bar < 60 ? 100.0 - std::abs(bar - 30) : 104.0 - std::abs(bar - 85);
        closes.push_back(top);
        volumes.push_back(bar < 60 ? 1000.0 - 10.0 * std::abs(bar - 30)
                                   : 600.0 - 10.0 * std::abs(bar - 85));
    }
    record.bars = test::barsOf(closes);
    record.bars.volume = volumes;
    engine::Evaluator evaluator(test::marketOf({record}));
    const language::Names names{language::Vocabulary::builtIn()};
    SetUp setUp;
    setUp.marks = {MarkKind::Divergence};
    setUp.panes.push_back({});
    setUp.panes[1].layers = {{"volume"}};
    const Day last = record.bars.days.back();
    const Chart chart = makeChart(evaluator, names, setUp, 0, last);
    REQUIRE(chart.marks.size() == 1);
    const Mark& mark = chart.marks[0];
    CHECK(mark.kind == MarkKind::Divergence);
    CHECK(mark.bar > 85);
    CHECK(mark.text.starts_with("Weakening: a higher high of the price"));
    REQUIRE(chart.joins.size() == 2);
    CHECK(chart.joins[0] == Join{0, {30, 100.0}, {85, 104.0}, PalettePart::Fall});
    CHECK(chart.joins[1].pane == 1);
    CHECK(chart.joins[1].from.value == 1000.0);
    CHECK(chart.joins[1].to.value == 600.0);
    // A day before it was known there is nothing.
    const Chart before = makeChart(evaluator, names, setUp, 0, record.bars.days[mark.bar - 1]);
    CHECK(before.marks.empty());
    CHECK(before.joins.empty());
}

} // namespace sieve::charts
