#include "core/charts/line_chart.h"

#include "core/conditions/reading.h"

#include "tests/core/made_market.h"
#include "tests/core/same_bits.h"

#include <catch2/catch.hpp>

// The chart of a line of the market: its levels, states, panes and what lies over them.

namespace sieve::charts {

namespace {

const std::vector<std::string> breadth{"share_of(close > sma(close, 20))", "smaa(close, 3)"};

struct LineBench {
    market::MarketPtr market = test::marketOf(test::eventfulRecords(900), "S100");
    engine::Evaluator evaluator{market};
    language::Names builtIn{language::Vocabulary::builtIn()};
    conditions::Reading reading =
        conditions::readMarket(evaluator, builtIn, conditions::standardBook());

    conditions::LineShown shown(std::size_t line, std::size_t session)
    {
        return conditions::lineShown(evaluator, builtIn, reading.lines[line], breadth,
                                     market->sessions()[session], {});
    }
};

} // namespace

TEST_CASE("Chart of a line: levels, states and panes, a mistake in its pane", "[charts]")
{
    LineBench bench;
    const conditions::LineShown shown = bench.shown(0, 600);
    const Chart chart = chartOfLine(shown, {}, {});
    const std::size_t size = chart.size();
    REQUIRE(size == shown.bars);
    CHECK(chart.symbol == shown.line.title);
    CHECK(chart.hasClosesOnly);
    REQUIRE(chart.panes.size() == 4); // levels, states, two figures
    for (std::size_t i = 0; i < 3; ++i) {
        const Layer& strip = chart.panes[1].layers[i];
        CHECK(strip.setUp.form == LayerForm::States);
        REQUIRE(strip.values->size() == chart.size());
        for (std::size_t bar = 0; bar < size; ++bar) {
            const auto state = shown.trends[i][bar];
            const double told = (*strip.values)[bar];
            CHECK(isMissing(told) == !state);
            if (state)
                CHECK(told == (*state == conditions::Trend::Rising    ? 1.0
                               : *state == conditions::Trend::Falling ? -1.0
                                                                      : 0.0));
        }
    }
    for (std::size_t bar = 0; bar < size; ++bar)
        CHECK(test::sameBits((*chart.panes[2].layers[0].values)[bar], shown.panes[0].values[bar]));
    CHECK(chart.panes[2].layers[0].unit == Unit::Percent);
    CHECK(chart.panes[3].layers[0].error);
}

TEST_CASE("Chart of a line: weeks have the levels and figures of their last day", "[charts]")
{
    LineBench bench;
    const conditions::LineShown shown = bench.shown(0, 600);
    SetUp weeks;
    weeks.scale = BarScale::Week;
    const Chart chart = chartOfLine(shown, weeks, {});
    const auto& days = chart.daily->days;
    const std::size_t size = chart.size();
    REQUIRE(size < shown.bars / 4);
    for (std::size_t bar = 0; bar < size; ++bar) {
        const auto day =
            static_cast<std::size_t>(std::ranges::find(days, chart.bars->days[bar]) - days.begin());
        CHECK(chart.bars->close[bar] == shown.close(day));
        CHECK(test::sameBits((*chart.panes[2].layers[0].values)[bar], shown.panes[0].values[day]));
    }
    SetUp minutes;
    minutes.scale = BarScale::Minutes; // there are none: days
    CHECK(chartOfLine(shown, minutes, {}).size() == shown.bars);
}

TEST_CASE("Chart of a line: swings, shapes and divergences are switched one by one", "[charts]")
{
    LineBench bench;
    const auto index = std::ranges::find_if(bench.reading.lines,
                                            [](const auto& each) { return each.line.hasRange; });
    REQUIRE(index != bench.reading.lines.end());
    const conditions::LineShown shown =
        bench.shown(static_cast<std::size_t>(index - bench.reading.lines.begin()), 800);
    LineParts parts;
    parts.hasDivergences = false;
    const Chart bare = chartOfLine(shown, {}, parts);
    CHECK(bare.joins.empty());
    CHECK(bare.marks.empty());
    CHECK_FALSE(bare.hasClosesOnly);
    parts.hasSwings = true;
    parts.hasBarMarks = true;
    const Chart full = chartOfLine(shown, {}, parts);
    REQUIRE(shown.swings.size() > 9);
    CHECK(full.joins.size() == shown.swings.size() - 1);
    CHECK(full.joins.back().words == "9");
    CHECK(full.joins.back().to.bar == shown.swings.back().bar);
    CHECK(full.marks.size() == shown.marks.size());
    LineParts retraced;
    retraced.hasDivergences = false;
    const patterns::PricePoint points[] = {{100, 50.0}, {140, 100.0}};
    retraced.retraced = points;
    const Chart laid = chartOfLine(shown, {}, retraced);
    REQUIRE(laid.joins.size() == 1 + patterns::retracementShares.size());
    CHECK(laid.joins[4].words == "50.0 %  75.0");
    CHECK(laid.joins[4].from == Join::End{100, 75.0});
    // A draft takes the place of a state that was read.
    conditions::TrendHistory draft(shown.bars, conditions::Trend::Falling);
    parts.drafts[1] = &draft;
    const Chart drafted = chartOfLine(shown, {}, parts);
    CHECK(drafted.panes[1].layers[1].values->front() == -1.0);
    CHECK(drafted.panes[1].layers[0].values->back() == full.panes[1].layers[0].values->back());
}

TEST_CASE("Chart of a line: divergences are those that the list beside it tells", "[charts]")
{
    LineBench bench;
    const conditions::LineShown shown = bench.shown(0, 880);
    REQUIRE(shown.divergences.size() > 2);
    const Chart chart = chartOfLine(shown, {}, {});
    const std::size_t count = std::min<std::size_t>(shown.divergences.size(), 12);
    REQUIRE(chart.joins.size() == 2 * count);
    for (std::size_t i = 0; i < count; ++i) {
        CHECK(chart.joins[2 * i].from.bar == shown.divergences[i].found.first);
        CHECK(chart.joins[2 * i + 1].to.value == shown.divergences[i].found.secondValue);
        CHECK(chart.joins[2 * i + 1].pane == shown.divergences[i].pane + 2);
    }
    CHECK(chartOfLine(bench.shown(0, 0), {}, {}).joins.empty());
}

} // namespace sieve::charts
