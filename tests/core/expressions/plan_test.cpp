#include "core/expressions/plan.h"

#include "core/expressions/across.h"
#include "core/expressions/bar_pass.h"
#include "core/expressions/checker.h"
#include "core/expressions/functions.h"
#include "core/expressions/leaf_fields.h"
#include "core/expressions/operators.h"
#include "core/expressions/unit_rules.h"
#include "core/expressions/values.h"
#include "tests/core/made_market.h"

#include <catch2/catch.hpp>

namespace sieve::expressions {

namespace {

double of(Op op, std::initializer_list<double> inputs)
{
    return combine(op, std::vector<double>(inputs));
}

std::vector<double> acrossOf(Op op, const std::vector<double>& figures,
                             const std::vector<double>& groups = {}, bool yesNo = false)
{
    std::vector<double> out(figures.size());
    Node part;
    part.op = op;
    across(part, figures, groups.empty() ? Groups::all(figures.size()) : Groups::of(groups, yesNo),
           out);
    return out;
}

/// Compares with missing equal to missing.
void checkSame(const std::vector<double>& got, const std::vector<double>& want)
{
    REQUIRE(got.size() == want.size());
    for (std::size_t i = 0; i < got.size(); ++i) {
        INFO("at " << i << ": " << got[i] << ", want " << want[i]);
        CHECK((isMissing(want[i]) ? isMissing(got[i]) : got[i] == Approx(want[i]).margin(1e-12)));
    }
}

} // namespace

TEST_CASE("Logic: three values, as Kleene has them", "[expressions]")
{
    const double values[] = {0.0, missing, 1.0}; // no, unknown, yes
    for (int a = 0; a < 3; ++a)
        for (int b = 0; b < 3; ++b) {
            const double both = of(Op::And, {values[a], values[b]});
            const double either = of(Op::Or, {values[a], values[b]});
            const double least = values[std::min(a, b)];
            const double most = values[std::max(a, b)];
            CHECK((isMissing(least) ? isMissing(both) : both == least));
            CHECK((isMissing(most) ? isMissing(either) : either == most));
        }
    CHECK(of(Op::Not, {0.0}) == 1.0);
    CHECK(isMissing(of(Op::Not, {missing})));
}

TEST_CASE("Arithmetic: what is missing or not finite stays missing", "[expressions]")
{
    for (const Op op : {Op::Add, Op::Subtract, Op::Multiply, Op::Divide, Op::Power, Op::Lesser,
                        Op::Greatest, Op::Less, Op::GreaterEqual, Op::Equal, Op::NotEqual}) {
        CHECK(isMissing(of(op, {missing, 1.0})));
        CHECK(isMissing(of(op, {1.0, missing})));
    }
    CHECK(isMissing(of(Op::Divide, {0.0, 0.0})));
    CHECK(isMissing(of(Op::Multiply, {1e300, 1e300})));
    CHECK(isMissing(of(Op::Power, {-8.0, 0.5})));
    CHECK(isMissing(of(Op::Logarithm, {0.0})));
    CHECK(isMissing(of(Op::SquareRoot, {-1.0})));
    CHECK(of(Op::SquareRoot, {9.0}) == 3.0);
    CHECK(of(Op::Lesser, {3.0, -1.0}) == -1.0);
    CHECK(of(Op::Absolute, {-2.0}) == 2.0);
    CHECK(of(Op::If, {1.0, missing, 7.0}) != 7.0);
    CHECK(of(Op::If, {0.0, missing, 7.0}) == 7.0);
}

TEST_CASE("Across: worked by hand, with equals and missing", "[expressions]")
{
    const std::vector<double> figures{10, 20, 20, missing, 40};
    checkSame(acrossOf(Op::Percentile, figures), {12.5, 50, 50, missing, 87.5});
    checkSame(acrossOf(Op::Rank, figures), {4, 2, 2, missing, 1});
    checkSame(acrossOf(Op::Median, figures), {20, 20, 20, 20, 20});
    checkSame(acrossOf(Op::Mean, figures), {22.5, 22.5, 22.5, 22.5, 22.5});
    const double deviation = std::sqrt((12.5 * 12.5 + 2 * 2.5 * 2.5 + 17.5 * 17.5) / 3);
    checkSame(acrossOf(Op::ZScore, figures),
              {-12.5 / deviation, -2.5 / deviation, -2.5 / deviation, missing, 17.5 / deviation});
    checkSame(acrossOf(Op::ShareOf, {1, 0, missing, 1}), {2.0 / 3, 2.0 / 3, 2.0 / 3, 2.0 / 3});
    checkSame(acrossOf(Op::CountOf, {1, 0, missing, 1}), {2, 2, 2, 2});
}

TEST_CASE("Across: groups stand apart, those without one stand outside", "[expressions]")
{
    const std::vector<double> figures{1, 2, 3, 4, 5};
    checkSame(acrossOf(Op::Rank, figures, {7, 7, 8, missing, 8}), {2, 1, 2, missing, 1});
    checkSame(acrossOf(Op::Median, figures, {7, 7, 8, missing, 8}), {1.5, 1.5, 4, missing, 4});
    checkSame(acrossOf(Op::Rank, figures, {1, 0, 1, missing, 1}, true),
              {3, missing, 2, missing, 1});
    checkSame(acrossOf(Op::Percentile, {9}, {7}), {50});
    checkSame(acrossOf(Op::ZScore, {5, 5, 5}), {missing, missing, missing});
    checkSame(acrossOf(Op::Median, {missing, missing}), {missing, missing});
}

TEST_CASE("Plan: constants are computed once, equal parts are shared", "[expressions]")
{
    Plan plan;
    const Names names{Vocabulary::builtIn(), std::nullopt};
    const auto sum = check("1 + 2 * 3", names, plan);
    CHECK(plan.isConstant(sum->node));
    CHECK(plan[sum->node].number == 7);
    const auto period = check("sma(close, 10 * 2)", names, plan);
    CHECK(plan[period->node].settings.period == 20);
    const auto a = check("in_uptrend", names, plan);
    const auto b = check("close > sma(close, 50) > sma(close, 200) and "
                         "sma(close, 50) > prior(sma(close, 50), 10)",
                         names, plan);
    CHECK(a->node == b->node);
}

TEST_CASE("Plan: a key names what is computed, in any plan", "[expressions]")
{
    const Names names{Vocabulary::builtIn(), std::nullopt};
    Plan one;
    Plan other;
    REQUIRE(check("rsi(volume, 9)", names, other));
    const auto a = check("sma(close, 20) > 5", names, one);
    const auto b = check("sma(close, 20) > 5", names, other);
    CHECK(one.key(a->node) == other.key(b->node));
    std::vector<NodeKey> keys;
    for (const char* text : {"sma(close, 20)",
                             "sma(close, 21)",
                             "sma(open, 20)",
                             "ema(close, 20)",
                             "prior(close, 20)",
                             "close",
                             "open",
                             "ttm(eps)",
                             "ttm(eps, 1)",
                             "quarter(eps)",
                             "ttm(revenue)",
                             "close > 1",
                             "close >= 1",
                             "1 > close",
                             "sector == \"A\"",
                             "sector == \"B\"",
                             "rank(close)",
                             "rank(close, within = sector)",
                             "yes",
                             "1"})
        keys.push_back(one.key(check(text, names, one)->node));
    std::ranges::sort(keys);
    CHECK(std::ranges::adjacent_find(keys) == keys.end());
}

TEST_CASE("Bar pass: a windowed question touches only the bars it needs", "[expressions]")
{
    const auto market = test::marketOf({test::recordOf("AAAA", std::vector<double>(300, 10.0))});
    Plan plan;
    const Names names{Vocabulary::builtIn(), std::nullopt};
    const auto reach = [&](const char* text) {
        const NodeId target[] = {check(text, names, plan)->node};
        const AcrossTable none;
        const Surroundings around{*market, none, {}};
        BarPass pass(around, plan, target);
        std::pair<std::size_t, std::size_t> bars{0, 0};
        pass.prepare(dailyFrame(*market, 0, 0), 250, 251);
        pass.visitAcross([&](NodeId, std::size_t from, std::size_t to) { bars = {from, to}; });
        return bars;
    };
    // The rank stands in for the innermost part.
    CHECK(reach("rank(close)") == std::pair<std::size_t, std::size_t>{250, 251});
    CHECK(reach("sma(rank(close), 20)") == std::pair<std::size_t, std::size_t>{231, 251});
    CHECK(reach("prior(rank(close), 5)") == std::pair<std::size_t, std::size_t>{245, 246});
    CHECK(reach("prior(sma(rank(close), 20), 5)") == std::pair<std::size_t, std::size_t>{226, 246});
    CHECK(reach("ema(rank(close), 4)") == std::pair<std::size_t, std::size_t>{149, 251});
    CHECK(reach("ema(rank(close), 20)") == std::pair<std::size_t, std::size_t>{0, 251});
    CHECK(reach("on_bar(7, rank(close))") == std::pair<std::size_t, std::size_t>{6, 7});
    CHECK(reach("since(rank(close) > 3)") == std::pair<std::size_t, std::size_t>{187, 251});
    CHECK(reach("rank(close) - prior(rank(close), 300)") ==
          std::pair<std::size_t, std::size_t>{250, 251});
}

TEST_CASE("Signs: each does what it says, in both orders of its sides", "[expressions]")
{
    const std::tuple<const char*, double, double, double> comparisons[] = {
        {"<", 1, 0, 0},  {"<=", 1, 0, 1}, {">", 0, 1, 0},
        {">=", 0, 1, 1}, {"==", 0, 0, 1}, {"!=", 1, 1, 0}};
    for (const auto& [sign, less, greater, equal] : comparisons) {
        INFO(sign);
        CHECK(of(comparisonNamed(sign), {1.0, 2.0}) == less);
        CHECK(of(comparisonNamed(sign), {2.0, 1.0}) == greater);
        CHECK(of(comparisonNamed(sign), {2.0, 2.0}) == equal);
    }
    CHECK(of(arithmeticNamed("+"), {6.0, 3.0}) == 9);
    CHECK(of(arithmeticNamed("-"), {6.0, 3.0}) == 3);
    CHECK(of(arithmeticNamed("*"), {6.0, 3.0}) == 18);
    CHECK(of(arithmeticNamed("/"), {6.0, 3.0}) == 2);
    CHECK(of(arithmeticNamed("^"), {6.0, 3.0}) == 216);
}

TEST_CASE("Leaf fields: each stands in the dictionary without a formula, and the other way round",
          "[expressions]")
{
    std::size_t leaves = 0;
    for (const Field& field : Vocabulary::builtIn().fields()) {
        INFO(field.name);
        CHECK((leafFieldNamed(field.name) != nullptr) == field.formula.empty());
        leaves += field.formula.empty() ? 1 : 0;
    }
    CHECK(leaves == 30);
    CHECK(leafFieldNamed("close")->op == Op::BarColumn);
    CHECK_FALSE(leafFieldNamed("closed"));
}

TEST_CASE("Units: of products and quotients", "[expressions]")
{
    CHECK(unitOfProduct(Unit::Money, Unit::Shares) == Unit::Money);
    CHECK(unitOfProduct(Unit::Shares, Unit::Money) == Unit::Money);
    CHECK(unitOfProduct(Unit::Plain, Unit::Money) == Unit::Money);
    CHECK(unitOfProduct(Unit::Money, Unit::Percent) == Unit::Money);
    CHECK(unitOfProduct(Unit::Ratio, Unit::Plain) == Unit::Ratio);
    CHECK(unitOfProduct(Unit::Money, Unit::Money) == Unit::Plain);
    CHECK(unitOfQuotient(Unit::Money, Unit::Money) == Unit::Ratio);
    CHECK(unitOfQuotient(Unit::Plain, Unit::Plain) == Unit::Plain);
    CHECK(unitOfQuotient(Unit::Money, Unit::Shares) == Unit::Money);
    CHECK(unitOfQuotient(Unit::Money, Unit::Ratio) == Unit::Money);
    CHECK(unitOfQuotient(Unit::Days, Unit::Plain) == Unit::Days);
    CHECK(unitOfQuotient(Unit::Money, Unit::Days) == Unit::Plain);
    CHECK(areComparable(Unit::Percent, Unit::Ratio));
    CHECK(areComparable(Unit::Plain, Unit::Points));
    CHECK_FALSE(areComparable(Unit::Money, Unit::Points));
}

TEST_CASE("Plan: what asks for texts alone is steady", "[expressions]")
{
    Plan plan;
    const Names names{Vocabulary::builtIn()};
    const auto isSteady = [&](const char* text) {
        CAPTURE(text);
        const auto checked = check(text, names, plan);
        REQUIRE(checked);
        return plan.isSteady(checked->node);
    };
    CHECK(isSteady("kind == \"share\""));
    CHECK(isSteady("not (sector == \"Harbours\" or contains(name, \"kelp\"))"));
    CHECK(isSteady("1 + 1 == 2"));
    CHECK_FALSE(isSteady("close > 5"));
    CHECK_FALSE(isSteady("kind == \"share\" and close > 5"));
    CHECK_FALSE(isSteady("in_index(\"Anchor 40\")"));
    CHECK_FALSE(isSteady("median(close, within = sector) > 5"));
    CHECK_FALSE(isSteady("ttm(eps) > 1"));
}

TEST_CASE("Functions: every one is known by its form, and the nearest name is near",
          "[expressions]")
{
    const Vocabulary& vocabulary = Vocabulary::builtIn();
    const auto all = signatures(vocabulary);
    const auto formOf = [&](const char* name) {
        const auto found = std::ranges::find(all, name, &Signature::name);
        return found == all.end() ? std::string() : found->form;
    };
    CHECK(formOf("sma") == "sma(x, n)");
    CHECK(formOf("rsi") == "rsi(x, n = 14)");
    CHECK(formOf("atr") == "atr(n = 14)");
    CHECK(formOf("true_range") == "true_range");
    CHECK(formOf("percentile") == "percentile(x, within = all)");
    CHECK(formOf("change") == "change(x, n = 1)");
    CHECK(formOf("ttm") == "ttm(item, back = 0)");
    for (const Signature& signature : all) {
        INFO(signature.name);
        CHECK_FALSE(signature.help.empty());
        CHECK_FALSE(vocabulary.field(signature.name)); // no name means two things
    }
    CHECK(nearestName("clsoe", vocabulary) == "close");
    CHECK(nearestName("volum", vocabulary) == "volume");
    CHECK(nearestName("percntile", vocabulary) == "percentile(x, within = all)");
    CHECK(nearestName("revenu", vocabulary).find("revenue") != std::string::npos);
    CHECK(nearestName("qqqqqqqq", vocabulary).empty());
}

} // namespace sieve::expressions
