#include "core/engine/evaluator.h"
#include "core/language/checker.h"
#include "core/language/functions.h"
#include "core/language/number.h"
#include "core/language/syntax.h"
#include "tests/core/made_market.h"

#include <catch2/catch.hpp>

namespace sieve::language {

namespace {

struct Bench {
    market::MarketPtr market = test::marketOf({
        test::recordOf("AAAA", {10, 11, 12, 11, 13}),
        test::recordOf("BBBB", {20, 20, 20, 20, 20}, "Water"),
        test::recordOf("CCCC", {5, 4, 3, 2, 1}, ""),
    });
    engine::Evaluator evaluator{market};
    engine::Plan plan;
    Names names{Vocabulary::builtIn(), std::nullopt};

    double last(std::string_view text, std::size_t stock = 0)
    {
        const auto checked = check(text, names, plan);
        if (!checked)
            FAIL(text << ": " << sentence(checked.error()));
        return (*evaluator.column(plan, checked->node, market->sessions().back()))[stock];
    }
    LocatedError error(std::string_view text)
    {
        const auto checked = check(text, names, plan);
        if (checked)
            FAIL(text << " was accepted");
        return checked.error();
    }
};

} // namespace

TEST_CASE("Numbers: endings and signs are read, all else is refused", "[language]")
{
    CHECK(parseNumber("0.8")->value == 0.8);
    CHECK(parseNumber("2M")->value == 2e6);
    CHECK(parseNumber("30k")->value == 30'000);
    CHECK(parseNumber("1.5B")->value == 1.5e9);
    CHECK(parseNumber("-1.5%")->value == -0.015);
    CHECK(parseNumber("15%")->unit == Unit::Percent);
    for (const char* bad : {"", "nan", "inf", "1.2.3", "5x", "2MM", "%", "1e5"})
        CHECK_FALSE(parseNumber(bad));
}

TEST_CASE("Language: what binds tighter is computed first", "[language]")
{
    Bench bench;
    CHECK(bench.last("1 + 2 * 3") == 7);
    CHECK(bench.last("(1 + 2) * 3") == 9);
    CHECK(bench.last("-2 ^ 2") == -4);
    CHECK(bench.last("2 ^ 3 ^ 2") == 512);
    CHECK(bench.last("2 ^ -1") == 0.5);
    CHECK(bench.last("8 / 4 / 2") == 1);
    CHECK(bench.last("5 - 3 - 1") == 1);
    CHECK(bench.last("1 < 2 and 2 < 3 or no") == 1);
    CHECK(bench.last("not 1 > 2") == 1);
    CHECK(bench.last("1 < 2 <= 2 < 3") == 1);
    CHECK(bench.last("1 < 3 < 2") == 0);
    CHECK(bench.last("5% == 0.05") == 1);
    CHECK(bench.last("2k + # two thousand\n 1") == 2001);
}

TEST_CASE("Language: prices and their past", "[language]")
{
    Bench bench;
    CHECK(bench.last("close") == 13);
    CHECK(bench.last("prior(close)") == 11);
    CHECK(bench.last("prior(close, 4)") == 10);
    CHECK(isMissing(bench.last("prior(close, 5)")));
    CHECK(bench.last("change(close, 4)") == Approx(0.3));
    CHECK(bench.last("highest(close, 3)") == 13);
    CHECK(bench.last("lowest(close, 3)") == 11);
    CHECK(bench.last("sum(close, 2)") == 24);
    CHECK(bench.last("count(close > prior(close), 3)") == 2);
    CHECK(bench.last("crosses_above(close, 12)") == 1);
    CHECK(bench.last("crosses_below(close, 12)") == 0);
    CHECK(bench.last("since(close < prior(close))") == 1);
    CHECK(bench.last("streak(close < prior(close))", 2) == 4);
    CHECK(bench.last("rising(close, 1)") == 1);
    CHECK(bench.last("traded_value") == 13 * 5000);
    CHECK(bench.last("bars") == 5);
}

TEST_CASE("Language: texts, sets and days", "[language]")
{
    Bench bench;
    CHECK(bench.last("sector == \"Energy\"") == 1);
    CHECK(bench.last("sector != \"Energy\"", 1) == 1);
    CHECK(isMissing(bench.last("sector == \"Energy\"", 2))); // it has none
    CHECK(bench.last("kind in (\"share\", \"fund\")") == 1);
    CHECK(bench.last("kind not in (\"share\", \"fund\")") == 0);
    CHECK(bench.last("kind in (\"fund\", \"trust\", \"share\")") == 1); // the last of them
    CHECK(bench.last("kind in (\"fund\", \"trust\")") == 0);
    CHECK(bench.last("kind not in (\"fund\", \"trust\")") == 1);
    CHECK(bench.last("day - 2024-01-01 in (3, 4)") == 1);
    CHECK(bench.last("symbol == \"Never seen\"") == 0);
    CHECK(bench.last("day == 2024-01-05") == 1);
    CHECK(bench.last("day - 2024-01-01") == 4);
    CHECK(bench.last("2024-01-01 + 4 == day") == 1);
}

TEST_CASE("Language: logic has three values", "[language]")
{
    Bench bench;
    const std::string unknown = "prior(close, 99) > 0";
    CHECK(isMissing(bench.last(unknown)));
    CHECK(isMissing(bench.last(unknown + " and yes")));
    CHECK(bench.last(unknown + " and no") == 0);
    CHECK(bench.last(unknown + " or yes") == 1);
    CHECK(isMissing(bench.last(unknown + " or no")));
    CHECK(isMissing(bench.last("not " + unknown)));
    CHECK(bench.last("known(prior(close, 99))") == 0);
    CHECK(bench.last("or_else(prior(close, 99), 7)") == 7);
    CHECK(isMissing(bench.last("if(" + unknown + ", 1, 2)")));
}

TEST_CASE("Language: what cannot be computed is missing, never zero", "[language]")
{
    Bench bench;
    for (const char* text :
         {"1 / 0", "0 / 0", "sqrt(-1)", "log(0)", "growth(5, -2)", "growth(5, 0)", "0 ^ -1",
          "(0 - 8) ^ 0.5", "10 ^ 300 * 10 ^ 300", "rsi(sma(close, 5), 3)", "ttm(eps)", "no_data"}) {
        INFO(text);
        CHECK(isMissing(bench.last(text)));
    }
    CHECK(isMissing(bench.last("rsi(close, 3)", 1))); // it never moved
}

TEST_CASE("Language: percentiles, ranks and medians over the stocks of a day", "[language]")
{
    Bench bench; // closes 13, 20, 1
    CHECK(bench.last("rank(close)", 1) == 1);
    CHECK(bench.last("rank(close)", 2) == 3);
    CHECK(bench.last("percentile(close)") == Approx(50));
    CHECK(bench.last("median(close)", 2) == 13);
    CHECK(bench.last("mean(close)") == Approx(34.0 / 3));
    CHECK(bench.last("count_of(close > 10)") == 2);
    CHECK(bench.last("share_of(close > 10)") == Approx(2.0 / 3));
    CHECK(bench.last("rank(close, within = sector)") == 1);
    CHECK(isMissing(bench.last("rank(close, within = sector)", 2))); // it has no sector
    CHECK(bench.last("sma(rank(close), 2)", 1) == 1);
    bench.names.universe = checkCondition("close < 15", bench.names, bench.plan)->node;
    CHECK(bench.last("rank(close, within = universe)") == 1);
    CHECK(isMissing(bench.last("rank(close, within = universe)", 1)));
}

TEST_CASE("Language: every mistake has its place and a remedy", "[language]")
{
    struct Row {
        const char* text;
        std::size_t line;
        std::size_t column;
        std::size_t length;
        const char* problem;
        const char* remedy;
    };
    const Row rows[] = {
        {"close > smaa(close, 200)", 1, 9, 4, "no function 'smaa'", "did you mean sma(x, n)?"},
        {"clos > 5", 1, 1, 4, "no field 'clos'", "did you mean close?"},
        {"close >", 1, 8, 0, "the expression ends too early", "write a field"},
        {"close > 5 volume", 1, 11, 6, "'volume' is not expected here", "join two conditions"},
        {"(close > 5", 1, 11, 0, "')' is missing", "write )"},
        {"close > 5)", 1, 10, 1, "')' is not expected here", "take it out"},
        {"close = 5", 1, 7, 1, "'=' is not expected here", "compare with =="},
        {"close > 5 and\n  sector == \"Ene", 2, 13, 4, "a text without its closing", "end it"},
        {"close > 5x", 1, 10, 1, "unknown ending of a number", "use k, M, B or %"},
        {"close > ?", 1, 9, 1, "'?' has no meaning here", "take it out"},
        {"day > 2023-02-29", 1, 7, 10, "there is no day 2023-02-29", "write year-month-day"},
        {"close and volume > 1", 1, 1, 5, "a number stands where a condition", "compare it"},
        {"1 + symbol", 1, 5, 6, "a text cannot be computed with", "use a field that is a number"},
        {"symbol + 1", 1, 1, 6, "a text cannot be computed with", "use a field that is a number"},
        {"sector > \"A\"", 1, 1, 12, "texts have no order", "=="},
        {"sector == 5", 1, 1, 11, "a text is compared with a number", "quotes"},
        {"sma(close)", 1, 1, 10, "sma needs 'n'", "write sma(x, n)"},
        {"sma(close, 2, 3)", 1, 15, 1, "sma takes no more arguments", "write sma(x, n)"},
        {"sma(close, 0)", 1, 12, 1, "0 is out of range", "from 1 to 2000"},
        {"sma(close, volume)", 1, 12, 6, "'n' must be a whole number", "from 1 to 2000"},
        {"sma(close, m = 3)", 1, 16, 1, "sma has no argument 'm'", "its arguments are x, n"},
        {"sma(x = close, x = 3, n = 2)", 1, 20, 1, "the argument 'x' is given twice", "keep one"},
        {"revenue > 5", 1, 1, 7, "'revenue' is an item of the statements", "ttm(revenue)"},
        {"ttm(equity)", 1, 1, 11, "'equity' stands on a balance sheet", "quarter(equity)"},
        {"ttm(turnover)", 1, 5, 8, "this is no item of the statements", "revenue"},
        {"rank(close, within = county)", 1, 22, 6, "this is no group of stocks", "industry"},
        {"close(5)", 1, 1, 8, "'close' is a field and takes no arguments", "write close"},
        {"change(sector)", 1, 1, 14, "in change: in growth: a text", "quotes"},
        {"day + day", 1, 1, 9, "days cannot be computed with like this", "subtract"},
        {"day * 2", 1, 1, 7, "days cannot be computed with like this", "subtract"},
        {"day > 5", 1, 1, 7, "a day is compared with a number", "compare two of a kind"},
        {"contains(close, word = \"kelp\")", 1, 10, 5, "words are looked for in texts",
         "contains(name"},
        {"contains(name, word = kelp)", 1, 23, 4, "a text in quotes is needed", "\""},
        {"estimate(joy)", 1, 10, 3, "this is nothing that analysts estimate", "one of eps, "},
        {"held(cats)", 1, 6, 4, "this is no kind of owner", "funds"},
        {"group_rank(close, of = county)", 1, 24, 6, "this is no group of stocks", "of = sector"},
        {"composite(close, weight = gold)", 1, 27, 4, "this is no way to weigh", "equal or cap"},
        {"count_of(close > 5, stocks = idle)", 1, 30, 4, "this does not say which",
         "all or traded"},
        {"on_day(close, volume)", 1, 8, 5, "a day is needed", "2025-03-14"},
        {"on_list(name = \"Harbour\")", 1, 1, 25, "no list 'Harbour'", "one of your lists"},
        {"as_traded(rsi(close, 14))", 1, 1, 25, "only prices and volumes", "as_traded(volume)"},
        {"if(close > 5, sector, volume)", 1, 1, 29, "one side is a text, the other a number",
         "two of a kind"},
        {"or_else(close, sector)", 1, 1, 22, "one side is a number, the other a text",
         "two of a kind"},
        {"", 1, 1, 0, "nothing is written yet", "for example"},
    };
    Bench bench;
    for (const Row& row : rows) {
        INFO(row.text);
        const LocatedError error = bench.error(row.text);
        INFO(sentence(error));
        CHECK(error.where.line == row.line);
        CHECK(error.where.column == row.column);
        CHECK(error.where.length == row.length);
        CHECK(error.problem.find(row.problem) == 0);
        CHECK(error.remedy.find(row.remedy) != std::string::npos);
    }
}

TEST_CASE("Language: a price compared with a percentage is warned of", "[language]")
{
    Bench bench;
    const auto checked = check("close > 5%", bench.names, bench.plan);
    REQUIRE(checked);
    REQUIRE(checked->warnings.size() == 1);
    CHECK(checked->warnings[0].problem == "money is compared with percent");
    CHECK(check("day_change > 5%", bench.names, bench.plan)->warnings.empty());
    CHECK(check("close > 5", bench.names, bench.plan)->warnings.empty());
    const auto likely = check("day_change > 5", bench.names, bench.plan);
    REQUIRE(likely->warnings.size() == 1);
    CHECK(likely->warnings[0].problem == "5 is 500 %");
    CHECK(check("day_change > 500%", bench.names, bench.plan)->warnings.empty());
    CHECK(check("day_change > 2.9", bench.names, bench.plan)->warnings.empty());
    CHECK(check("day_change > 3", bench.names, bench.plan)->warnings.size() == 1);
    CHECK(check("rsi(close, 14) > 100", bench.names, bench.plan)->warnings.empty());
    CHECK(check("rsi(close, 14) > 101", bench.names, bench.plan)->warnings.size() == 1);
    CHECK(check("rsi(close, 14) != 101", bench.names, bench.plan)->warnings.empty());
}

TEST_CASE("Language: nothing typed can exhaust the machine", "[language]")
{
    Bench bench;
    CHECK(bench.error(std::string(300, '(') + "1" + std::string(300, ')')).problem.find("nested") ==
          0);
    CHECK(bench.error(std::string(300, '-') + "close").problem.find("nested") == 0);
    std::string nots;
    for (int i = 0; i < 500; ++i)
        nots += "not ";
    CHECK(bench.error(nots + "yes").problem.find("nested") == 0);
    CHECK(bench.error(std::string(1'000'000, '1')).problem.find("an expression of 1000000") == 0);
    std::string sum = "1";
    for (int i = 0; i < 5000; ++i)
        sum += "+1";
    CHECK(bench.error(sum).problem.find("more than 4000 words") == 0);
    std::string doubling = "close"; // each change() uses its argument twice: parts must be shared
    for (int i = 0; i < 60; ++i)
        doubling = "change(" + doubling + ")";
    CHECK(isMissing(bench.last(doubling)));
    CHECK(bench.plan.size() < 1000);
    CHECK_FALSE(check("close > \"\xFF\xFE", bench.names, bench.plan));
    CHECK_FALSE(check(std::string_view("close\0> 5", 9), bench.names, bench.plan));
}

TEST_CASE("Language: equal parts are one part of the plan", "[language]")
{
    Bench bench;
    const auto a = check("close > sma(close, 20)", bench.names, bench.plan);
    const std::size_t parts = bench.plan.size();
    const auto b = check("close > sma( close , n=20 )", bench.names, bench.plan);
    CHECK(a->node == b->node);
    CHECK(bench.plan.size() == parts);
}

} // namespace sieve::language
