#include "core/engine/evaluator.h"
#include "core/language/checker.h"
#include "tests/core/made_market.h"

#include <array>
#include <catch2/catch.hpp>
#include <cmath>

// Values of whole expressions, worked by hand.

namespace sieve::engine {

TEST_CASE("Evaluator: a constant is nobody's before he is listed", "[engine]")
{
    auto late = test::recordOf("LATE", {7});
    auto early = test::recordOf("WELL", {5, 6, 7});
    late.bars.days = {early.bars.days[2]};
    Evaluator evaluator(test::marketOf({late, early}));
    Plan plan;
    const auto five = language::check("5", {language::Vocabulary::builtIn()}, plan);
    REQUIRE(five);
    const NodeId targets[] = {five->node};
    const auto before = evaluator.columns(plan, targets, early.bars.days[0]);
    CHECK(isMissing((*before[0])[0]));
    CHECK((*before[0])[1] == 5.0);
    CHECK((*evaluator.columns(plan, targets, early.bars.days[2])[0])[0] == 5.0);
}

TEST_CASE("Texts: one that the market does not have equals itself and nothing else", "[engine]")
{
    Evaluator evaluator(
        test::marketOf({test::recordOf("ADEAR", {40, 60}), test::recordOf("BCHEAP", {40, 45})}));
    const Day last = evaluator.market().sessions().back();
    const auto valuesOf = [&](const char* text) {
        Plan plan;
        const auto checked = language::check(text, {language::Vocabulary::builtIn()}, plan);
        REQUIRE(checked);
        return *evaluator.column(plan, checked->node, last);
    };
    using Values = std::vector<double>;
    const auto same = [&](const char* text, const Values& wanted) {
        INFO(text);
        const auto got = valuesOf(text);
        CHECK(Values(got.begin(), got.end()) == wanted);
    };
    same("\"a\" == \"b\"", {0, 0});
    same("\"a\" == \"a\"", {1, 1});
    same("\"a\" != \"b\"", {1, 1});
    same("if(close > 50, \"dear\", \"cheap\") == \"dear\"", {1, 0});
    same("if(close > 50, \"dear\", \"cheap\") in (\"cheap\", \"other\")", {0, 1});
    same("contains(if(close > 50, \"dear\", \"cheap\"), \"EA\")", {1, 1});
    same("contains(if(close > 50, \"dear\", \"cheap\"), \"dea\")", {1, 0});
    same("if(close > 50, sector, \"cheap\") == \"Energy\"", {1, 0});
    const auto texts = valuesOf("if(close > 50, sector, \"never seen before\")");
    CHECK(evaluator.market().texts().textOf(texts[0]) == "Energy");
    CHECK(evaluator.market().texts().textOf(texts[1]) == "never seen before");
}

TEST_CASE("Other bars: what lies far back is found from one day as from all", "[engine]")
{
    std::vector<double> closes(600, 10.0);
    closes[40] = 99.0; // more than two years before the last bar
    Evaluator evaluator(test::marketOf({test::recordOf("AAAA", closes)}));
    const Day last = evaluator.market().sessions().back();
    for (const char* text :
         {"weekly(since(high > 50))", "monthly(since(high > 50))",
          "weekly(value_when(high > 50, high))", "monthly(value_when(high > 50, low))",
          "weekly(streak(high < 50))", "monthly(ema(close, 20))"}) {
        INFO(text);
        Plan plan;
        const auto checked = language::check(text, {language::Vocabulary::builtIn()}, plan);
        REQUIRE(checked);
        const double alone = (*evaluator.column(plan, checked->node, last))[0];
        const double among = evaluator.history(plan, checked->node, 0, last).back();
        CHECK_FALSE(isMissing(alone));
        CHECK(alone == Approx(among));
    }
}

TEST_CASE("Conditions: of many parts each counts, along bars as on a day", "[engine]")
{
    Evaluator evaluator(test::marketOf({test::recordOf("AAAA", {30, 50})}));
    const Day last = evaluator.market().sessions().back();
    std::string all = "close > 0";
    std::string any = "close < 0";
    std::string in = "sector in (\"s0\"";
    for (int part = 1; part < 12; ++part) {
        all += " and close > " + std::to_string(part);
        any += " or close < " + std::to_string(part);
        in += ", \"s" + std::to_string(part) + "\"";
    }
    const std::pair<std::string, double> cases[] = {{all, 1},      {all + " and close > 60", 0},
                                                    {any, 0},      {any + " or close < 60", 1},
                                                    {in + ")", 0}, {in + ", \"Energy\")", 1}};
    for (const auto& [text, wanted] : cases) {
        INFO(text);
        Plan plan;
        const auto checked = language::check(text, {language::Vocabulary::builtIn()}, plan);
        REQUIRE(checked);
        CHECK((*evaluator.column(plan, checked->node, last))[0] == wanted);
        CHECK(evaluator.history(plan, checked->node, 0, last) ==
              std::vector<double>{wanted, wanted});
    }
}

TEST_CASE("Benchmark: its change goes over the sessions of the stock's own", "[engine]")
{
    // The stock does not trade on three sessions, over which the benchmark goes from 100 to 110.
    market::InstrumentRecord index = test::recordOf("ZZZZ", {100, 101, 104, 107, 110, 99});
    index.instrument.kind = market::InstrumentKind::Index;
    market::InstrumentRecord stock = test::recordOf("AAAA", {10, 10.2, 0, 0, 12.24, 9.792});
    market::Bars traded;
    for (const std::size_t bar : {0U, 1U, 4U, 5U})
        traded.add(stock.bars.at(bar));
    stock.bars = traded;
    // What the benchmark is told in may change in between: two for one.
    const bool isSplit = GENERATE(false, true);
    if (isSplit) {
        for (auto* column :
             {&index.bars.open, &index.bars.high, &index.bars.low, &index.bars.close})
            for (std::size_t bar = 4; bar < 6; ++bar)
                (*column)[bar] /= 2.0;
        index.actions.push_back({index.bars.days[4], market::ActionKind::Split, 2.0});
    }
    const market::MarketPtr market = test::marketOf({stock, index}, "ZZZZ");
    Evaluator evaluator(market);
    const auto historyOf = [&](const char* text) {
        Plan plan;
        const auto checked = language::check(text, {language::Vocabulary::builtIn()}, plan);
        REQUIRE(checked);
        return evaluator.history(plan, checked->node, 0, market->sessions().back());
    };
    const auto changes = historyOf("change(benchmark(close))");
    CHECK(changes[1] == Approx(0.01));
    CHECK(changes[2] == Approx(110.0 / 101.0 - 1.0));
    CHECK(changes[3] == Approx(-0.1));
    const std::array<double, 3> x{0.01, 110.0 / 101.0 - 1.0, -0.1};
    const std::array<double, 3> y{0.02, 0.2, -0.2};
    const double meanX = (x[0] + x[1] + x[2]) / 3.0;
    const double meanY = (y[0] + y[1] + y[2]) / 3.0;
    double above = 0.0;
    double below = 0.0;
    double both = 0.0;
    for (std::size_t i = 0; i < 3; ++i) {
        above += (x[i] - meanX) * (y[i] - meanY);
        below += (x[i] - meanX) * (x[i] - meanX);
        both += (y[i] - meanY) * (y[i] - meanY);
    }
    CHECK(historyOf("beta(3)")[3] == Approx(above / below));
    CHECK(historyOf("correlation(change(close), change(benchmark(close)), 3)")[3] ==
          Approx(above / std::sqrt(below * both)));
    CHECK(historyOf("change(close, 2) - change(benchmark(close), 2)")[3] ==
          Approx(9.792 / 10.2 - 99.0 / 101.0));
    for (std::size_t bar = 1; bar < 4; ++bar) { // a screen of that day sees the same
        Plan plan;
        const auto checked =
            language::check("change(benchmark(close))", {language::Vocabulary::builtIn()}, plan);
        CHECK((*evaluator.column(plan, checked->node, stock.bars.days[bar]))[0] ==
              Approx(changes[bar]).margin(1e-15));
    }
}

} // namespace sieve::engine
