#include "core/engine/evaluator.h"
#include "core/language/checker.h"
#include "tests/core/made_market.h"

#include <catch2/catch.hpp>

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

} // namespace sieve::engine
