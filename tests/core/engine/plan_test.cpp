#include "core/engine/plan.h"

#include "core/engine/across.h"
#include "core/engine/bar_pass.h"
#include "core/engine/operators/values.h"
#include "core/language/checker.h"
#include "core/language/functions.h"
#include "tests/core/made_market.h"

#include <catch2/catch.hpp>

namespace sieve::engine {

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
    across(part, figures,
           groups.empty() ? StockGroups::all(figures.size()) : StockGroups::of(groups, yesNo), out);
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

TEST_CASE("Logic: three values, as Kleene has them", "[engine]")
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

TEST_CASE("Arithmetic: what is missing or not finite stays missing", "[engine]")
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

TEST_CASE("Across: worked by hand, with equals and missing", "[engine]")
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

TEST_CASE("Across: groups stand apart, those without one stand outside", "[engine]")
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

TEST_CASE("Plan: constants are computed once, equal parts are shared", "[engine]")
{
    Plan plan;
    const language::Names names{language::Vocabulary::builtIn(), std::nullopt};
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

TEST_CASE("Plan: a key names what is computed, in any plan", "[engine]")
{
    const language::Names names{language::Vocabulary::builtIn(), std::nullopt};
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

TEST_CASE("Bar pass: a windowed question touches only the bars it needs", "[engine]")
{
    const auto market = test::marketOf({test::recordOf("AAAA", std::vector<double>(300, 10.0))});
    Plan plan;
    const language::Names names{language::Vocabulary::builtIn(), std::nullopt};
    const auto reach = [&](const char* text) {
        const NodeId target[] = {check(text, names, plan)->node};
        const AcrossTable none;
        const Context context{*market, none, {}};
        BarPass pass(context, plan, target);
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

TEST_CASE("Plan: what asks for texts alone is steady", "[engine]")
{
    Plan plan;
    const language::Names names{language::Vocabulary::builtIn()};
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

TEST_CASE("Functions: every one is known by its form, and the nearest name is near", "[engine]")
{
    const language::Vocabulary& vocabulary = language::Vocabulary::builtIn();
    const auto all = signatures(vocabulary);
    const auto formOf = [&](const char* name) {
        const auto found = std::ranges::find(all, name, &language::Signature::name);
        return found == all.end() ? std::string() : found->form;
    };
    CHECK(formOf("sma") == "sma(x, n)");
    CHECK(formOf("rsi") == "rsi(x, n = 14)");
    CHECK(formOf("atr") == "atr(n = 14)");
    CHECK(formOf("true_range") == "true_range");
    CHECK(formOf("percentile") == "percentile(x, within = all)");
    CHECK(formOf("change") == "change(x, n = 1)");
    CHECK(formOf("ttm") == "ttm(item, back = 0)");
    for (const language::Signature& signature : all) {
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

TEST_CASE("Ranks: figures that differ in their last digits only are told apart", "[engine]")
{
    std::vector<double> figures;
    std::vector<double> wanted;
    for (int i = 0; i < 400; ++i) { // too many for the plain sort, all with one upper half
        figures.push_back(1.0 + 1e-11 * ((i * 7) % 400));
        wanted.push_back(400.0 - (i * 7) % 400);
    }
    checkSame(acrossOf(Op::Rank, figures), wanted);
}

TEST_CASE("Ranks: figures that are equal on paper share their place", "[engine]")
{
    // 0.1 + 0.2 and 0.3; a price of 90 for three halves, times three halves.
    checkSame(acrossOf(Op::Rank, {0.1 + 0.2, 0.3, 0.4, 0.2}), {2, 2, 1, 4});
    std::vector<double> many(300, 60.0);
    for (std::size_t i = 0; i < 300; i += 2)
        many[i] = std::nextafter(60.0, i % 4 == 0 ? 100.0 : 0.0);
    checkSame(acrossOf(Op::Percentile, many), std::vector<double>(300, 50.0));
}

} // namespace sieve::engine
