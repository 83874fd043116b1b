#include "core/language/explanation.h"
#include "tests/core/made_market.h"

#include <catch2/catch.hpp>
#include <functional>

namespace sieve::language {

namespace {

struct Bench {
    market::MarketPtr market = test::marketOf(test::eventfulRecords());
    engine::Evaluator evaluator{market};
    Names names{Vocabulary::builtIn(), std::nullopt};

    Explanation explained(std::string_view text, std::size_t stock = 3)
    {
        auto explanation = explain(text, names, evaluator, stock, market->sessions().back());
        if (!explanation)
            FAIL(sentence(explanation.error()));
        return *std::move(explanation);
    }
    double value(std::string_view text, std::size_t stock = 3)
    {
        engine::Plan plan;
        const auto checked = check(text, names, plan);
        REQUIRE(checked);
        return (*evaluator.column(plan, checked->node, market->sessions().back()))[stock];
    }
};

} // namespace

TEST_CASE("Explanation: every part has the value that it has by itself", "[language]")
{
    Bench bench;
    const Explanation whole = bench.explained(
        "close > sma(close, 20) and (percentile(change(close, 60)) >= 50 or eps_growth > 5%)");
    std::size_t parts = 0;
    const std::function<void(const Explanation&)> look = [&](const Explanation& part) {
        ++parts;
        INFO(part.text);
        const double alone = bench.value(part.text);
        CHECK((part.value == alone || (isMissing(part.value) && isMissing(alone))));
        for (const Explanation& each : part.parts)
            look(each);
    };
    look(whole);
    CHECK(parts > 10);
}

TEST_CASE("Explanation: a field is opened to its formula, down to the data", "[language]")
{
    Bench bench;
    const Explanation change = bench.explained("day_change");
    CHECK(change.meaning == "Change on the day");
    CHECK(change.unit == Unit::Percent);
    REQUIRE(change.parts.size() == 1);
    CHECK(change.parts[0].text == "change(close, 1)");
    CHECK(change.parts[0].value == change.value);
    REQUIRE(change.parts[0].parts.size() == 1); // numbers explain themselves
    CHECK(change.parts[0].parts[0].text == "close");
    CHECK(change.parts[0].parts[0].parts.empty());
}

TEST_CASE("Explanation: names of items and groups have no value and are passed over", "[language]")
{
    Bench bench;
    const Explanation ttm = bench.explained("ttm(eps)");
    CHECK(ttm.parts.empty());
    const Explanation rank = bench.explained("percentile(close, within = sector)");
    REQUIRE(rank.parts.size() == 2);
    CHECK(rank.parts[1].text == "sector");
    CHECK(rank.parts[1].kind == Kind::Text);
}

TEST_CASE("Explanation: tells which bar and which filing a value comes from", "[language]")
{
    auto record = test::recordOf("AAAA", {10, 11, 12, 13, 14, 15});
    record.statements.push_back({*market::statementItemNamed("eps"), market::Period::Quarter,
                                 test::day("2023-09-30"), test::day("2023-11-02"), 2.0});
    const auto market = test::marketOf({record});
    engine::Evaluator evaluator(market);
    const auto explained = explain("close / quarter(eps) > 6.5", {Vocabulary::builtIn()}, evaluator,
                                   0, test::day("2024-01-06"));
    REQUIRE(explained);
    CHECK(explained->distance == Approx(0.5)); // 14 / 2 against 6.5, on Friday the 5th
    const Explanation& ratio = explained->parts[0];
    CHECK(ratio.parts[0].day == test::day("2024-01-05"));
    CHECK(ratio.parts[1].periodEnd == test::day("2023-09-30"));
    CHECK(ratio.parts[1].knownOn == test::day("2023-11-02"));
    CHECK_FALSE(ratio.distance);
}

TEST_CASE("Explanation: tells since when shares, estimates and owners were known so", "[language]")
{
    auto record = test::recordOf("AAAA", {10, 11, 12, 13, 14, 15});
    record.shares.push_back({test::day("2023-12-15"), test::day("2023-12-20"), 5e6, 3e6, 1e5});
    record.estimates.push_back({market::EstimateMeasure::EarningsPerShare, market::Period::Year,
                                test::day("2024-12-31"), test::day("2023-12-21"), 2.5, 3.0, 2.0,
                                7});
    record.owners.push_back(
        {market::OwnerKind::Funds, test::day("2023-09-30"), test::day("2023-11-14"), 40, 0.25});
    const auto market = test::marketOf({record});
    engine::Evaluator evaluator(market);
    struct Row {
        const char* text;
        double value;
        const char* periodEnd;
        const char* knownOn;
    };
    for (const Row& row : {Row{"shares_outstanding", 5e6, "2023-12-15", "2023-12-20"},
                           Row{"estimate(eps)", 2.5, "2024-12-31", "2023-12-21"},
                           Row{"held(funds)", 0.25, "2023-09-30", "2023-11-14"},
                           Row{"holders(funds)", 40, "2023-09-30", "2023-11-14"}}) {
        INFO(row.text);
        const auto explained =
            explain(row.text, {Vocabulary::builtIn()}, evaluator, 0, test::day("2024-01-06"));
        REQUIRE(explained);
        CHECK(explained->value == row.value);
        CHECK(explained->periodEnd == test::day(row.periodEnd));
        CHECK(explained->knownOn == test::day(row.knownOn));
    }
}

TEST_CASE("Explanation: parts of other bars are told on those bars", "[language]")
{
    const auto market = test::marketOf({test::recordOf("AAAA", {10, 11, 12, 13, 14, 20, 21, 22}),
                                        test::recordOf("LINE", {1, 2, 3, 4, 5, 6, 7, 8})},
                                       "LINE");
    engine::Evaluator evaluator(market);
    const auto weekly = explain("weekly(close > prior(close))", {Vocabulary::builtIn()}, evaluator,
                                0, market->sessions().back());
    REQUIRE(weekly);
    const Explanation& comparison = weekly->parts[0];
    CHECK(comparison.text == "close > prior(close)");
    CHECK(comparison.parts[1].value == 14); // the close of the week before
    CHECK(comparison.distance == 8);
    const auto line = explain("benchmark(change(close))", {Vocabulary::builtIn()}, evaluator, 0,
                              market->sessions().back());
    REQUIRE(line);
    CHECK(line->parts[0].value == Approx(8.0 / 7 - 1));
    CHECK(line->parts[0].parts[0].value == 8);
}

TEST_CASE("Explanation: is bounded, and tells errors where they are", "[language]")
{
    Bench bench;
    std::string longText = "close";
    for (int i = 0; i < 800; ++i)
        longText += " + close";
    const std::function<std::size_t(const Explanation&)> count = [&](const Explanation& part) {
        std::size_t parts = 1;
        for (const Explanation& each : part.parts)
            parts += count(each);
        return parts;
    };
    Names names{Vocabulary::builtIn(), std::nullopt};
    const auto explained =
        explain(longText, names, bench.evaluator, 0, bench.market->sessions().back());
    if (explained)
        CHECK(count(*explained) <= mostExplained);
    const auto wrong =
        explain("close > smaa(close, 3)", names, bench.evaluator, 0, bench.market->sessions()[5]);
    REQUIRE_FALSE(wrong);
    CHECK(wrong.error().where.column == 9);
}

TEST_CASE("Explanation: money in another currency is told in both", "[language]")
{
    Bench bench;
    const std::size_t stock = *bench.market->find("S104");
    const Day day = bench.market->sessions().back();
    const double rate = bench.market->rate(stock, day);
    REQUIRE(rate > 0.0);
    const Explanation whole = bench.explained("close > 12 and change(close, 5) > 0", stock);
    const Explanation& comparison = whole.parts.at(0);
    const Explanation& close = comparison.parts.at(0);
    REQUIRE(close.other);
    CHECK(close.other->currency == "dn");
    CHECK(close.other->marketCurrency == "vl");
    CHECK(close.other->inMarket == close.value * rate);
    CHECK(*comparison.distance == Approx(std::fabs(close.value * rate - 12.0)));
    CHECK_FALSE(whole.parts.at(1).parts.at(0).other); // a percentage has no currency
    CHECK_FALSE(bench.explained("close > 12", 3).parts.at(0).other);
}

} // namespace sieve::language
