#include "core/screens/groups.h"
#include "core/screens/scatter.h"
#include "core/screens/why.h"
#include "tests/core/made_market.h"

#include <catch2/catch.hpp>

// What is shown of a screen's answer: why a stock is in or out, its groups, its scatter.

namespace sieve::screens {

namespace {

/// Ten stocks with closes 1 to 10, the odd ones of another sector, the last without a volume.
struct Bench {
    market::MarketPtr market;
    engine::Evaluator evaluator;
    language::Names names{language::Vocabulary::builtIn()};

    Bench() : market(made()), evaluator(market) {}

    Day day() const { return market->sessions().back(); }
    static Screen screen(std::vector<Criterion> criteria, const std::string& universe = {})
    {
        Screen screen;
        screen.universe = universe;
        screen.criteria = std::move(criteria);
        return screen;
    }

private:
    static market::MarketPtr made()
    {
        std::vector<market::InstrumentRecord> records;
        for (int i = 1; i <= 10; ++i) {
            records.push_back(test::recordOf(std::to_string(1000 + i), {50.0, 1.0 * i},
                                             i % 2 == 0 ? "Water" : "Energy"));
            records.back().bars.volume[1] = i == 10 ? missing : 100.0 * i;
        }
        return test::marketOf(std::move(records));
    }
};

} // namespace

TEST_CASE("Why: each criterion with the figure, its limit and the distance", "[screens]")
{
    Bench bench;
    const Screen screen = Bench::screen(
        {{"3 <= close < 8"}, {"volume >= 500"}, {"close > smaa(close)"}, {"close > 100", false}},
        "close > 1");
    const Why out = why(screen, bench.names, bench.evaluator, 1, bench.day()); // close 2
    CHECK(out.isInUniverse);
    CHECK_FALSE(out.passes);
    REQUIRE(out.criteria.size() == 4);
    CHECK(out.criteria[0].passes == false);
    REQUIRE(out.criteria[0].sides.size() == 2);
    CHECK(out.criteria[0].sides[0].figure == 2.0);
    CHECK(out.criteria[0].sides[0].bound == 3.0);
    CHECK(out.criteria[0].sides[0].shortfall == 1.0);
    CHECK(out.criteria[0].sides[1].shortfall == 0.0);
    REQUIRE(out.criteria[1].parts);
    CHECK(out.criteria[1].parts->distance == 300.0);
    CHECK(out.criteria[2].error);
    CHECK_FALSE(out.criteria[2].passes);
    CHECK_FALSE(out.criteria[3].isOn);

    const Why in = why(screen, bench.names, bench.evaluator, 5, bench.day());
    CHECK(in.passes); // what has a mistake or is off keeps nobody out
    const Why unknown = why(screen, bench.names, bench.evaluator, 9, bench.day());
    CHECK_FALSE(unknown.criteria[1].passes);
    CHECK(isMissing(unknown.criteria[1].sides[0].figure));
    CHECK_FALSE(why(screen, bench.names, bench.evaluator, 0, bench.day()).isInUniverse);
}

TEST_CASE("Why: says of every stock what the run says", "[screens]")
{
    const auto market = test::marketOf(test::eventfulRecords(), "S100");
    engine::Evaluator evaluator(market);
    const language::Names names{language::Vocabulary::builtIn()};
    const Screen screen = Bench::screen({{"close > sma(close, 20)"}, {"rsi(close, 14) <= 70"}});
    const Day day = market->sessions()[250];
    const ScreenRun run = screens::run(screen, names, evaluator, day);
    for (const std::size_t stock : run.stocks)
        CHECK(why(screen, names, evaluator, stock, day).passes ==
              (std::ranges::find(run.matches, stock) != run.matches.end()));
}

TEST_CASE("Groups of matches: counted against the universe, nobody lost", "[screens]")
{
    Bench bench;
    const ScreenRun run =
        screens::run(Bench::screen({{"close >= 7"}}), bench.names, bench.evaluator, bench.day());
    const auto groups =
        groupMatches(*bench.market, run.matches, run.stocks, market::TextField::Sector);
    REQUIRE(groups.size() == 2);
    CHECK(groups[0].name == "Energy"); // two each: by name
    CHECK(groups[0].matches.size() == 2);
    CHECK(groups[0].inUniverse == 5);
    CHECK(groups[0].share == 0.5);
    CHECK(groups[1].expected == 0.5);
    CHECK(groupMatches(*bench.market, {}, {}, market::TextField::Sector).empty());
    const auto none = groupMatches(*bench.market, {}, run.stocks, market::TextField::Currency);
    REQUIRE(none.size() == 1);
    CHECK(none[0].name.empty()); // not known
    CHECK(none[0].share == 0.0);
}

TEST_CASE("Scatter: who passes stands last, who has no figure is counted, limits are found",
          "[screens]")
{
    Bench bench;
    const ScreenRun run = screens::run(Bench::screen({{"close >= 7"}, {"volume > 0"}}), bench.names,
                                       bench.evaluator, bench.day());
    const Scatter scatter =
        scatterOf(run, {"close", "volume", "close * 2"}, bench.names, bench.evaluator);
    REQUIRE(scatter.points.size() == 9);
    CHECK(scatter.leftOut == 1); // without a volume
    CHECK_FALSE(scatter.points[5].passes);
    for (std::size_t i = 6; i < 9; ++i)
        CHECK(scatter.points[i].passes);
    CHECK(scatter.points[0].size == 0.0);
    CHECK(scatter.points[8].size == Approx(8.0 / 9.0)); // the tenth is larger
    REQUIRE(scatter.axes[0].bounds.size() == 1);
    CHECK(scatter.axes[0].bounds[0].at == 7.0);
    CHECK(scatter.axes[1].bounds[0].criterion == 1);
    CHECK(scatter.axes[2].bounds.empty());
    const Scatter wrong = scatterOf(run, {"clse", "volume", ""}, bench.names, bench.evaluator);
    CHECK(wrong.axes[0].column.error);
    CHECK(wrong.axes[2].column.error);
    CHECK(wrong.points.empty());
}

} // namespace sieve::screens
