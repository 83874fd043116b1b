#include "core/screens/guidance.h"

#include "core/screens/run.h"
#include "tests/core/made_market.h"

#include <catch2/catch.hpp>
#include <cmath>

namespace sieve::screens {

namespace {

/// A hundred stocks whose closes are 1 to 100 and whose volumes run the other way.
struct Bench {
    market::MarketPtr market;
    engine::Evaluator evaluator;

    Bench() : market(made()), evaluator(market) {}

    ScreenRun run(std::vector<std::string> criteria)
    {
        Screen screen;
        for (std::string& text : criteria)
            screen.criteria.push_back({std::move(text)});
        return screens::run(screen, {language::Vocabulary::builtIn()}, evaluator,
                            market->sessions().back());
    }

private:
    static market::MarketPtr made()
    {
        std::vector<market::InstrumentRecord> records;
        for (int i = 1; i <= 100; ++i) {
            records.push_back(test::recordOf(std::to_string(1000 + i), {50.0, 1.0 * i}));
            records.back().bars.volume[1] = 1000.0 * (101 - i);
        }
        return test::marketOf(std::move(records));
    }
};

} // namespace

TEST_CASE("Limits: a bound is written anew as the language writes it", "[screens]")
{
    const language::Names names{language::Vocabulary::builtIn()};
    const auto moved = [&](const std::string& text, std::size_t limit, double bound) {
        engine::Plan plan;
        return withBound(text, limitsOf(text, names, plan).at(limit), bound);
    };
    CHECK(moved("42 <= rsi(close, 14) < 68", 1, 70) == "42 <= rsi(close, 14) < 70");
    CHECK(moved("-1.5% <= week_change <= 2%", 0, -0.025) == "-2.5% <= week_change <= 2%");
    CHECK(moved("sma(traded_value, 30) >= 2M", 0, 250'000) == "sma(traded_value, 30) >= 250k");
    CHECK(moved("market_cap > 5M", 0, 12.5e9) == "market_cap > 12.5B");
    CHECK(moved("rsi(close, 14) > -3 # r\u00e9", 0, -0.0) == "rsi(close, 14) > 0 # r\u00e9");
    CHECK(moved("close > sma(close, 50)", 0, 3) == "close > sma(close, 50)"); // no number
    engine::Plan plan;
    const auto limit = limitsOf("close > 12", names, plan).at(0);
    CHECK(withBound("close", limit, 3) == "close"); // of another text
    for (const double figure : {0.015, 12.0, 1234.5, 2e6, -0.4})
        for (const Unit unit : {Unit::Plain, Unit::Percent, Unit::Money}) { // reads as it was
            const std::string text = "close + 0 > " + boundText(figure, unit);
            const auto again = limitsOf(text, names, plan);
            REQUIRE(again.size() == 1);
            CHECK(*again[0].fixed == Approx(figure));
        }
}

TEST_CASE("Distribution: steps are round, and grow with the figure on a logarithmic scale",
          "[screens]")
{
    CHECK(roundStep(0.07) == Approx(0.05));
    CHECK(roundStep(3.0) == 2.0);
    CHECK(isMissing(roundStep(0.0)));
    const Distribution plain{0.0, 50.0, false, {}, 0, 0, 0};
    CHECK(plain.stepAt(40.0, 0.02) == 1.0);
    const Distribution wide{1.0, 1e6, true, {}, 0, 0, 0};
    CHECK(wide.stepAt(1e5, 0.02) > 1000.0 * wide.stepAt(10.0, 0.02));
}

TEST_CASE("Limits: against a figure of its own a field is shown by its distance", "[screens]")
{
    Bench bench;
    const ScreenRun run = bench.run({"close > 50 * volume / volume", "close >= 0"});
    const LimitFigures& limit = run.criteria[0].limits[0];
    CHECK(limit.shown(99) == Approx(1.0)); // 100 stands 100 % above 50
    CHECK(limit.shownBound() == 0.0);
    CHECK(limit.shownUnit() == Unit::Percent);
    CHECK(run.guidance.spreads[0].low < 0.0);
    Screen screen;
    screen.criteria = {{"close <= 80"}, {"close > 0"}};
    const language::Names names{language::Vocabulary::builtIn()};
    const Day day = bench.market->sessions().back();
    CHECK(figureAtPercent(screen, names, bench.evaluator, day, 0, 0, 100) == 100.0);
    CHECK(figureAtPercent(screen, names, bench.evaluator, day, 1, 0, 100) == 80.0);
    CHECK(figureAtPercent(screen, names, bench.evaluator, day, 1, 0, 0) == 1.0);
    CHECK_FALSE(figureAtPercent(screen, names, bench.evaluator, day, 7, 0, 50));
}

TEST_CASE("Limits: of comparisons, whichever way round, and of nothing else", "[screens]")
{
    const language::Names names{language::Vocabulary::builtIn()};
    engine::Plan plan;
    const auto limits = limitsOf("42 <= rsi(close, 14) < 68", names, plan);
    REQUIRE(limits.size() == 2);
    CHECK(limits[0].field == "rsi(close, 14)");
    CHECK(limits[0].op == engine::Op::GreaterEqual);
    CHECK(limits[0].fixed == 42);
    CHECK(limits[1].op == engine::Op::Less);
    CHECK(limits[1].where.column == 24);
    CHECK(limits[0].unit == Unit::Points);
    const auto turned = limitsOf("5% > day_change", names, plan);
    REQUIRE(turned.size() == 1);
    CHECK(turned[0].field == "day_change");
    CHECK(turned[0].op == engine::Op::Less);
    const auto open = limitsOf("close > 0.8 * sma(close, 50)", names, plan);
    REQUIRE(open.size() == 1);
    CHECK_FALSE(open[0].fixed);
    CHECK(open[0].bound == "0.8 * sma(close, 50)");
    for (const char* none : {"in_uptrend", "sector == \"Energy\"", "close > 1 or close < 2",
                             "not close > 1", "close == 5"})
        CHECK(limitsOf(none, names, plan).empty());
}

TEST_CASE("Criteria: are the parts of the outermost and, as they are written", "[screens]")
{
    CHECK(criteriaOf("close > 1 and (volume > 2 or close > 3) and  rsi(close)>5") ==
          std::vector<std::string>{"close > 1", "(volume > 2 or close > 3)", "rsi(close)>5"});
    CHECK(criteriaOf("close > 1 or close > 2").size() == 1);
}

TEST_CASE("Near misses: only one criterion, only by a limit, the nearest first", "[screens]")
{
    Bench bench;
    const ScreenRun run = bench.run({"close >= 80", "volume >= 10k"});
    CHECK(run.passing == 12);    // closes of 80 to 91
    CHECK(mostNearMisses == 50); // as the page for users says
    REQUIRE(run.guidance.nearMisses.size() == mostNearMisses);
    const NearMiss& nearest = run.guidance.nearMisses[0];
    CHECK(nearest.criterion == 0);
    CHECK(nearest.figure == 79);
    CHECK(nearest.bound == 80);
    CHECK(nearest.distance == 1);
    CHECK(nearest.unit == Unit::Money);
    CHECK(run.guidance.nearMisses[1].criterion == 1); // a volume of 9k
    CHECK(run.guidance.nearMisses[1].distance == 1000);
    CHECK(run.guidance.mostCostly == 0U);
}

TEST_CASE("Near misses: those of several criteria are set in order by the width of each",
          "[screens]")
{
    Bench bench;
    // Half a step of volume, a whole one of the close, one and a half, two, …
    const auto nearest = [&bench](const char* close) {
        const ScreenRun run = bench.run({close, "volume >= 10500"});
        std::vector<std::pair<std::size_t, double>> misses;
        for (std::size_t i = 0; i < 6; ++i)
            misses.emplace_back(run.guidance.nearMisses.at(i).criterion,
                                run.guidance.nearMisses.at(i).distance);
        return misses;
    };
    const std::vector<std::pair<std::size_t, double>> wanted{{1, 500}, {0, 1},    {1, 1500},
                                                             {0, 2},   {1, 2500}, {0, 3}};
    CHECK(nearest("close >= 80") == wanted);
    CHECK(nearest("close + 1000 >= 1080") == wanted); // far from nothing, and as wide
}

TEST_CASE("Counts: over days they are of all criteria together", "[screens]")
{
    Bench bench;
    Screen screen;
    screen.criteria = {{"close >= 80"}, {"volume >= 10k"}, {"close < 90"}, {"close > 99", false}};
    const language::Names names{language::Vocabulary::builtIn()};
    const auto sessions = bench.market->sessions();
    const auto counts = passingOver(screen, names, bench.evaluator, sessions);
    REQUIRE(counts.size() == 2);
    CHECK(counts[0] == 0); // all closed at 50 then
    CHECK(counts[1] == 10);
    screen.criteria.clear();
    CHECK(passingOver(screen, names, bench.evaluator, sessions) ==
          std::vector<std::size_t>{100, 100});
}

TEST_CASE("Guidance: two criteria that let ten or more of the same pass repeat each other",
          "[screens]")
{
    Bench bench;
    CHECK(bench.run({"close >= 91", "volume <= 10k"}).guidance.repetitions ==
          std::vector<CriterionPair>{{0, 1}});
    CHECK(bench.run({"close >= 92", "volume <= 9k"}).guidance.repetitions.empty());
}

TEST_CASE("Counts: a criterion with a mistake lets all pass, and says so", "[screens]")
{
    Bench bench;
    const ScreenRun run = bench.run({"close >", "close >= 80"});
    CHECK(run.criteria[0].error);
    CHECK(run.criteria[0].alone == 100);
    CHECK(run.criteria[0].leftAfter == 100);
    CHECK(run.criteria[0].noData == 0);
    CHECK(run.criteria[1].alone == 21);
    CHECK(run.passing == 21);
}

TEST_CASE("Near misses: a figure that stands on a bound it must pass is the nearest", "[screens]")
{
    Bench bench;
    const ScreenRun run = bench.run({"close > 99"});
    CHECK(run.guidance.nearMisses[0].figure == 99);
    CHECK(run.guidance.nearMisses[0].distance == 0);
}

TEST_CASE("Loosening: the next round step that adds somebody, and how many", "[screens]")
{
    Bench bench;
    const ScreenRun run = bench.run({"close >= 80", "1k <= volume <= 5k"});
    REQUIRE(run.guidance.loosenings[1]);
    const Loosening& wider = *run.guidance.loosenings[1];
    CHECK(wider.limit == 1); // under 1k there is nobody
    CHECK(wider.bound > 5000);
    Screen loosened;
    loosened.criteria = {{"close >= 80"}, {"1k <= volume <= " + std::to_string(wider.bound)}};
    CHECK(screens::run(loosened, {language::Vocabulary::builtIn()}, bench.evaluator, run.day)
              .passing == run.passing + wider.adds);
}

TEST_CASE("Loosening: begins with one round step of at most a twentieth of the width", "[screens]")
{
    Bench bench;
    const ScreenRun run = bench.run({"close >= 80", "volume >= 1"});
    REQUIRE(run.guidance.loosenings[0]);
    // Closes are 1 to 100: 4.95 would be a twentieth, 2 is the round step below it.
    CHECK(run.guidance.loosenings[0]->bound == 78.0);
    CHECK(run.guidance.loosenings[0]->adds == 2);
}

TEST_CASE("Guidance: idle, contrary and repeated criteria", "[screens]")
{
    Bench bench;
    const Guidance guidance =
        bench.run({"close > 0", "close > 60", "close < 40", "close >= 61", "volume > 90k"})
            .guidance;
    CHECK(guidance.idle == std::vector<std::size_t>{0});
    CHECK(guidance.contradictions == std::vector<CriterionPair>{{1, 2}, {1, 4}, {2, 3}, {3, 4}});
    CHECK(guidance.repetitions == std::vector<CriterionPair>{{1, 3}});
}

TEST_CASE("Guidance: without stocks, criteria or limits there is none", "[screens]")
{
    Bench bench;
    CHECK(bench.run({}).guidance.nearMisses.empty());
    const Guidance none = bench.run({"no", "known(ttm(eps))"}).guidance;
    CHECK(none.nearMisses.empty());
    CHECK_FALSE(none.loosenings[0]);
    CHECK(none.spreads[0].counts.empty());
}

TEST_CASE("Distribution: counts every figure once, strays and unknowns apart", "[screens]")
{
    std::vector<double> figures{missing, 1e9, -1e9};
    for (int i = 0; i < 400; ++i)
        figures.push_back(i);
    const Distribution spread = distributionOf(figures, 10);
    std::size_t sum = spread.below + spread.above + spread.noData;
    for (const std::size_t count : spread.counts)
        sum += count;
    CHECK(sum == figures.size());
    CHECK(spread.noData == 1);
    CHECK(spread.low < 10);
    CHECK(spread.high > 390);
    CHECK(spread.high < 1000);
    CHECK_FALSE(spread.isLogarithmic);
    CHECK(spread.figureAt(spread.placeOf(123)) == Approx(123));
}

TEST_CASE("Distribution: what spans magnitudes is drawn by them", "[screens]")
{
    std::vector<double> figures;
    for (int i = 0; i < 300; ++i)
        figures.push_back(std::pow(10.0, i / 50.0));
    const Distribution spread = distributionOf(figures, 6);
    CHECK(spread.isLogarithmic);
    for (const std::size_t count : spread.counts)
        CHECK(count > 40);
    CHECK(spread.figureAt(spread.placeOf(5000)) == Approx(5000));
    CHECK(distributionOf(std::vector<double>{}).counts.empty());
    CHECK(distributionOf(std::vector<double>{7, 7, 7}, 4).placeOf(7) == 0.5);
}

TEST_CASE("Changes: who entered and who left between two days", "[screens]")
{
    auto up = test::recordOf("UPUP", {1, 10});
    auto down = test::recordOf("DOWN", {10, 1});
    auto same = test::recordOf("SAME", {10, 10});
    const auto market = test::marketOf({up, down, same});
    engine::Evaluator evaluator(market);
    Screen screen;
    screen.criteria = {{"close > 5"}};
    screen.keep = 1;
    const language::Names names{language::Vocabulary::builtIn()};
    const auto days = market->sessions();
    const Changes changes = changesBetween(screen, names, evaluator, days[0], days[1]);
    const auto symbols = [&](const std::vector<std::size_t>& stocks) {
        std::vector<std::string> all;
        for (const std::size_t stock : stocks)
            all.push_back(market->instrument(stock).symbol);
        return all;
    };
    CHECK(symbols(changes.entered) == std::vector<std::string>{"UPUP"});
    CHECK(symbols(changes.left) == std::vector<std::string>{"DOWN"});
    CHECK(symbols(changes.stayed) == std::vector<std::string>{"SAME"});
    CHECK(passingOver(screen, names, evaluator, days) == std::vector<std::size_t>{2, 2});
}

TEST_CASE("Passes: a screen uses a screen, its own universe inside, a cycle is told with its path",
          "[screens]")
{
    const auto market = test::marketOf(
        {test::recordOf("AAAA", {10}), test::recordOf("BBBB", {20}), test::recordOf("CCCC", {30})});
    engine::Evaluator evaluator(market);
    std::map<std::string, Screen, std::less<>> screens;
    screens["large"].universe = "close >= 20";
    screens["large"].criteria = {{"rank(close, within = universe) == 2"}, {"no", false}};
    screens["a"].criteria = {{"passes(\"b\")"}};
    screens["b"].criteria = {{"close > 1"}, {"passes(\"a\")"}};
    language::Names names{language::Vocabulary::builtIn()};
    names.screen = [&](std::string_view name) {
        const auto found = screens.find(name);
        return found == screens.end() ? std::nullopt : std::optional(conditionOf(found->second));
    };
    Screen screen;
    screen.criteria = {{"passes(\"large\")"}, {"passes(\"a\")"}, {"passes(\"none\")"}};
    const ScreenRun run = screens::run(screen, names, evaluator, market->sessions().back());
    CHECK(run.criteria[0].alone == 1);
    CHECK(run.matches == std::vector<std::size_t>{1});
    REQUIRE(run.criteria[1].error);
    CHECK(run.criteria[1].error->problem.find("screen \"a\" → screen \"b\" → screen \"a\"") !=
          std::string::npos);
    CHECK(run.criteria[2].error->problem == "no screen 'none'");
}

TEST_CASE("Lists: who is on one is known by the day", "[screens]")
{
    const auto market = test::marketOf(
        {test::recordOf("AAAA", {10, 10, 10, 10}), test::recordOf("BBBB", {20, 20, 20, 20})});
    engine::Evaluator evaluator(market);
    engine::ListMembers members;
    members.stays = {{"BBBB", test::day("2024-01-02"), test::day("2024-01-04")}};
    const auto list = std::make_shared<const engine::ListMembers>(members);
    language::Names names{language::Vocabulary::builtIn()};
    names.list = [&](std::string_view name) { return name == "mine" ? list : nullptr; };
    Screen screen;
    screen.criteria = {{"on_list(\"mine\")"}};
    const auto days = market->sessions();
    CHECK(passingOver(screen, names, evaluator, days) == std::vector<std::size_t>{0, 1, 1, 0});
    screen.criteria = {{"rank(close, within = on_list(\"mine\")) == 1"}};
    CHECK(screens::run(screen, names, evaluator, days[1]).matches == std::vector<std::size_t>{1});
}

TEST_CASE("Limits: nothing is short of a bound that it equals on paper", "[screens]")
{
    Limit limit;
    limit.op = engine::Op::GreaterEqual;
    CHECK(limit.shortfall(0.3, 0.1 + 0.2) == 0.0);
    CHECK(limit.shortfall(0.29, 0.1 + 0.2) == Approx(0.01));
    limit.op = engine::Op::LessEqual;
    CHECK(limit.shortfall(0.1 + 0.2, 0.3) == 0.0);
    // What it equals keeps it out where it had to pass it, and is told as such.
    const market::MarketPtr market =
        test::marketOf({test::recordOf("AAAA", {0.1 + 0.2}), test::recordOf("BBBB", {0.5})});
    engine::Evaluator evaluator(market);
    Screen screen;
    screen.criteria = {{"close > 0.3", true, {}}};
    const ScreenRun result = screens::run(screen, {language::Vocabulary::builtIn()}, evaluator,
                                          market->sessions().back());
    CHECK(result.passing == 1);
    REQUIRE(result.guidance.nearMisses.size() == 1);
    CHECK(result.guidance.nearMisses[0].instrument == 0);
}

} // namespace sieve::screens
