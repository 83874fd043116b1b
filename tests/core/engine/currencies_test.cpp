#include "core/engine/currencies.h"

#include "core/engine/evaluator.h"
#include "core/language/checker.h"
#include "tests/core/made_market.h"
#include "tests/core/same_bits.h"

#include <catch2/catch.hpp>
#include <map>

// Money of stocks in two currencies, by figures worked out by hand.

namespace sieve::engine {

namespace {

/// Closes of three stocks on five days. DUNE.C is in dn, of which one is worth 0.50 vl until the
/// third day, from which on it is worth 2.00.
struct Bench {
    explicit Bench(bool hasRates = true)
    {
        auto dune = test::recordOf("DUNE.C", {30, 30, 30, 30, 40});
        dune.instrument.currency = "dn";
        auto level = test::recordOf("LEVL.C", {100, 100, 100, 100, 100});
        level.instrument.kind = market::InstrumentKind::Index;
        const Day begin = test::day("2023-12-29");
        dune.shares.push_back({begin, begin, 10});
        std::vector<market::InstrumentRecord> records{
            test::recordOf("AAAA.C", {20, 20, 20, 20, 20}), dune,
            test::recordOf("BBBB.C", {40, 40, 40, 40, 40}), level};
        for (std::size_t i : {0U, 2U}) {
            records[i].shares.push_back({begin, begin, 10});
            records[i].instrument.currency = i == 0 ? "vl" : ""; // that of the market
        }
        market::MarketDescription description{"Isles", "1", "vl", "LEVL.C"};
        if (hasRates)
            description.currencies = {
                {"dn", {{test::day("2024-01-01"), 0.5}, {test::day("2024-01-03"), 2.0}}},
                {"zz", {{begin, 7.0}}}};
        market = std::make_shared<const market::Market>(description, std::move(records));
        evaluator = std::make_unique<Evaluator>(market);
    }

    /// The values of a stock on each of the five days; each is the same asked in three ways.
    std::vector<double> values(const std::string& text, const char* symbol)
    {
        INFO(text << " of " << symbol);
        Plan plan;
        const auto checked = language::check(text, {language::Vocabulary::builtIn()}, plan);
        if (!checked)
            FAIL(sentence(checked.error()));
        const std::size_t stock = *market->find(symbol);
        const auto over = evaluator->columnsOver(plan, checked->node, market->sessions());
        const auto history =
            evaluator->history(plan, checked->node, stock, market->sessions().back());
        std::vector<double> values;
        for (std::size_t day = 0; day < market->sessions().size(); ++day) {
            values.push_back(
                (*evaluator->column(plan, checked->node, market->sessions()[day]))[stock]);
            CHECK(test::sameBits(values.back(), (*over[day])[stock]));
            CHECK(test::sameBits(values.back(), history[day]));
        }
        return values;
    }

    market::MarketPtr market;
    std::unique_ptr<Evaluator> evaluator;
};

using Values = std::vector<double>;

} // namespace

TEST_CASE("Currencies: a figure is shown in its own, and converted by the rate of the day",
          "[engine]")
{
    Bench bench;
    CHECK(bench.values("close", "DUNE.C") == Values{30, 30, 30, 30, 40});
    CHECK(bench.values("converted(close)", "DUNE.C") == Values{15, 15, 60, 60, 80});
    CHECK(bench.values("converted(close)", "AAAA.C") == Values{20, 20, 20, 20, 20});
    CHECK(bench.values("converted(market_cap)", "BBBB.C") == Values(5, 400.0));
    CHECK(bench.values("sma(converted(close), 2)", "DUNE.C")[2] == 37.5);
    CHECK(bench.values("prior(converted(close), 1)", "DUNE.C")[2] == 15.0);
}

TEST_CASE("Currencies: what is compared with other stocks, or a written amount, is converted",
          "[engine]")
{
    Bench bench;
    // In vl: 20 and 40 beside 15, 15, 60, 60, 80.
    CHECK(bench.values("rank(close)", "DUNE.C") == Values{3, 3, 1, 1, 1});
    CHECK(bench.values("rank(close)", "BBBB.C") == Values{1, 1, 2, 2, 2});
    CHECK(bench.values("median(close)", "AAAA.C") == Values{20, 20, 40, 40, 40});
    CHECK(bench.values("total_of(market_cap)", "DUNE.C") == Values{750, 750, 1200, 1200, 1400});
    CHECK(bench.values("rank(log(close))", "DUNE.C") == Values{3, 3, 1, 1, 1});
    CHECK(bench.values("rank(1 / close)", "DUNE.C") == Values{1, 1, 3, 3, 3});
    CHECK(bench.values("rank(close) <= 1", "DUNE.C") == Values{0, 0, 1, 1, 1});
    CHECK(bench.values("close > 25", "DUNE.C") == Values{0, 0, 1, 1, 1});
    CHECK(bench.values("25 < close", "DUNE.C") == Values{0, 0, 1, 1, 1});
    CHECK(bench.values("close > if(close > 0, 25, 7)", "DUNE.C") == Values{0, 0, 1, 1, 1});
    CHECK(bench.values("log(close) > log(25)", "DUNE.C") == Values{0, 0, 1, 1, 1});
    CHECK(bench.values("max(close, 25)", "DUNE.C") == Values{25, 25, 60, 60, 80});
    CHECK(bench.values("close > median(close)", "DUNE.C") == Values{0, 0, 1, 1, 1});
    CHECK(bench.values("market_cap / total_of(market_cap)", "DUNE.C") ==
          Values{150.0 / 750, 150.0 / 750, 600.0 / 1200, 600.0 / 1200, 800.0 / 1400});
    CHECK(bench.values("close / benchmark(close)", "DUNE.C") == Values{0.15, 0.15, 0.6, 0.6, 0.8});
    CHECK(bench.values("index(\"DUNE.C\", close)", "AAAA.C") == Values{15, 15, 60, 60, 80});
    CHECK(bench.values("close > index(\"DUNE.C\", close)", "AAAA.C") == Values{1, 1, 0, 0, 0});
    CHECK(bench.values("count(close > 25, 3)", "DUNE.C")[4] == 3);
    CHECK(bench.values("converted(median(close))", "DUNE.C")[0] == 20); // once is enough
}

TEST_CASE("Currencies: what is compared within one stock is left as it is", "[engine]")
{
    Bench bench;
    Plan plan;
    for (const char* text :
         {"close > sma(close, 2)", "change(close, 1)", "close / high", "close > 0",
          "log(close) - log(prior(close, 1)) > 0.05", "percentile(change(close, 2))", "rsi(close)",
          "close < sqrt(high * low)", "close / sqrt(high * low) > 1.01", "volume > 1000",
          "or_else(ttm(eps), 0)", "atr(2) / close > 2%", "correlation(close, volume, 3) > 0.5"}) {
        INFO(text);
        const auto checked = language::check(text, {language::Vocabulary::builtIn()}, plan);
        REQUIRE(checked);
        CHECK_FALSE(dependsOnRates(plan, checked->node));
    }
    CHECK(bench.values("change(close, 1)", "DUNE.C")[2] == 0.0);
    CHECK(bench.values("close > prior(close, 1)", "DUNE.C")[2] == 0.0);
}

TEST_CASE("Currencies: without a rate money meets that of no other", "[engine]")
{
    Bench bench(false);
    CHECK(isMissing(bench.values("rank(close)", "DUNE.C")[4]));
    CHECK(isMissing(bench.values("close > 25", "DUNE.C")[4]));
    CHECK(bench.values("rank(close)", "AAAA.C") == Values(5, 2.0)); // of two
    CHECK(bench.values("close > sma(close, 2)", "DUNE.C")[4] == 1.0);
    CHECK(bench.values("percentile(change(close, 1))", "DUNE.C")[4] > 50.0);
}

TEST_CASE("Currencies: only money is converted, and only where a market has several", "[engine]")
{
    Plan plan;
    const auto volume =
        language::check("converted(volume)", {language::Vocabulary::builtIn()}, plan);
    REQUIRE_FALSE(volume);
    CHECK(volume.error().problem == "only money has a currency");
    const NodeId count = language::check("volume", {language::Vocabulary::builtIn()}, plan)->node;
    CHECK(inMarketCurrency(plan, count) == count);
    const auto market = test::marketOf({test::recordOf("AAAA.C", {20, 21})});
    CHECK_FALSE(market->hasOtherCurrencies());
    CHECK(market->rate(0, test::day("1990-01-01")) == 1.0);
}

TEST_CASE("Currencies: a rate holds for 45 days, and none is known before the first", "[engine]")
{
    const std::vector<market::ExchangeRate> rates{{test::day("2024-01-10"), 0.5},
                                                  {test::day("2024-01-20"), 0.6}};
    CHECK(isMissing(rateOn(rates, test::day("2024-01-09"))));
    CHECK(rateOn(rates, test::day("2024-01-10")) == 0.5);
    CHECK(rateOn(rates, test::day("2024-01-19")) == 0.5);
    CHECK(rateOn(rates, test::day("2024-01-20")) == 0.6);
    CHECK(rateOn(rates, test::day("2024-03-05")) == 0.6); // 45 days
    CHECK(isMissing(rateOn(rates, test::day("2024-03-06"))));
}

TEST_CASE("Currencies: the market's is the dataset's, or that of most", "[engine]")
{
    using Told = std::map<std::string, std::size_t>;
    CHECK(market::commonCurrency("vl", Told{{"dn", 9}}) == "vl");
    CHECK(market::commonCurrency("", Told{{"dn", 2}, {"vl", 3}}) == "vl");
    CHECK(market::commonCurrency("", Told{{"dn", 3}, {"vl", 3}}) == "dn");
    CHECK(market::commonCurrency("", Told{}).empty());
    auto one = test::recordOf("AAAA.C", {1});
    one.instrument.currency = "dn";
    const market::Market market({"Isles", "1", "", ""}, {one, test::recordOf("BBBB.C", {1})});
    CHECK(market.currency() == "dn");
    CHECK_FALSE(market.hasOtherCurrencies()); // the other names none, and so has this one
    one.instrument.kind = market::InstrumentKind::Index;
    auto other = test::recordOf("BBBB.C", {1});
    other.instrument.currency = "vl";
    const market::Market withIndex({"Isles", "1", "", ""}, {one, other});
    CHECK(withIndex.currency() == "vl");
    CHECK_FALSE(withIndex.hasOtherCurrencies()); // whatever an index names
}

} // namespace sieve::engine
