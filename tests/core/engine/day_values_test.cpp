#include "core/engine/across.h"
#include "core/engine/evaluator.h"
#include "core/language/checker.h"
#include "demo_market/dice.h"
#include "tests/core/made_market.h"

#include <bit>
#include <catch2/catch.hpp>
#include <tbb/global_control.h>

namespace sieve::engine {

namespace {

/// 300 stocks, so that sums run over several blocks of neighbours; some miss sessions.
market::MarketPtr manyStocks()
{
    static const market::MarketPtr market = [] {
        demo_market::Dice dice(11);
        std::vector<market::InstrumentRecord> records;
        for (int stock = 0; stock < 300; ++stock) {
            std::vector<double> closes{10.0 + stock * 0.1};
            while (closes.size() < 60)
                closes.push_back(closes.back() * (1.0 + 0.02 * dice.bell()));
            auto record = test::recordOf("S" + std::to_string(1000 + stock), closes,
                                         stock % 3 == 0 ? "Energy" : "Water");
            if (stock % 7 == 0) {
                const market::Bars whole = std::move(record.bars);
                record.bars = {};
                for (std::size_t bar = 0; bar < whole.size(); ++bar)
                    if (bar < 40 || bar >= 43)
                        record.bars.add(whole.at(bar));
            }
            if (stock == 5)
                record.instrument.kind = market::InstrumentKind::Index;
            records.push_back(std::move(record));
        }
        return test::marketOf(std::move(records));
    }();
    return market;
}

NodeId nodeOf(std::string_view text, const language::Names& names, Plan& plan)
{
    const auto checked = check(text, names, plan);
    if (!checked)
        FAIL(text << ": " << sentence(checked.error()));
    return checked->node;
}

/// One value a session, as stock 0 is told it.
std::vector<double> dayByDay(std::string_view text, std::string_view universe = "yes")
{
    Plan plan;
    language::Names names{language::Vocabulary::builtIn(), std::nullopt};
    names.universe = nodeOf(universe, names, plan);
    const NodeId node = nodeOf(text, names, plan);
    Evaluator evaluator(manyStocks());
    std::vector<double> values;
    for (const Day day : manyStocks()->sessions())
        values.push_back((*evaluator.column(plan, node, day))[1]);
    return values;
}

} // namespace

TEST_CASE("Of the day: every instrument is told the same, indexes and strangers too", "[engine]")
{
    Plan plan;
    language::Names names{language::Vocabulary::builtIn(), std::nullopt};
    names.universe = nodeOf("sector == \"Energy\"", names, plan);
    const NodeId node = nodeOf("count_of(close > 0, within = universe)", names, plan);
    Evaluator evaluator(manyStocks());
    const ColumnPtr column = evaluator.column(plan, node, manyStocks()->sessions().back());
    for (const double count : *column)
        REQUIRE(count == 100.0); // every third of 300, and the index is none of them
}

TEST_CASE("Of the day: stocks = traded leaves out who did not trade", "[engine]")
{
    const auto all = dayByDay("count_of(close > 0)");
    const auto traded = dayByDay("count_of(close > 0, stocks = traded)");
    CHECK(all[41] == 299.0);
    CHECK(traded[41] == 299.0 - 43.0); // 0, 7, … 294
    CHECK(traded[39] == 299.0);
    CHECK(traded[43] == 299.0);
}

TEST_CASE("Of the day: many days at once give the bits of each alone, on any number of threads",
          "[engine]")
{
    const std::span<const Day> sessions = manyStocks()->sessions();
    for (const char* universe : {"sector == \"Water\"", "close > sma(close, 5)"})
        for (const char* text :
             {"mean(change(close, 3), within = universe)", "total_of(close, stocks = traded)",
              "share_of(close > prior(close), within = universe, stocks = traded)",
              "median(change(close, 2), within = universe)",
              "running_total(count_of(close > prior(close)) - count_of(close < prior(close)))"}) {
            INFO(text << " in " << universe);
            const auto alone = dayByDay(text, universe);
            for (const std::size_t threads : {1U, 4U}) {
                const tbb::global_control limit(tbb::global_control::max_allowed_parallelism,
                                                threads);
                Plan plan;
                language::Names names{language::Vocabulary::builtIn(), std::nullopt};
                names.universe = nodeOf(universe, names, plan);
                const NodeId node = nodeOf(text, names, plan);
                Evaluator evaluator(manyStocks());
                for (int asked = 0; asked < 2; ++asked) { // the second time from what was kept
                    const auto together = evaluator.columnsOver(plan, node, sessions);
                    for (std::size_t day = 0; day < sessions.size(); ++day)
                        REQUIRE(std::bit_cast<std::uint64_t>((*together[day])[1]) ==
                                std::bit_cast<std::uint64_t>(alone[day]));
                }
            }
        }
}

TEST_CASE("Of the day: who is missing is left out, and nobody's value is missing", "[engine]")
{
    CHECK(valueOfTheDay(Op::Mean, std::vector<double>{1.0, missing, 3.0}) == 2.0);
    CHECK(valueOfTheDay(Op::TotalOf, std::vector<double>{1.0, missing, 3.0}) == 4.0);
    CHECK(valueOfTheDay(Op::CountOf, std::vector<double>{1.0, missing, 0.0}) == 1.0);
    CHECK(valueOfTheDay(Op::Median, std::vector<double>{5.0, missing, 3.0, 4.0}) == 4.0);
    for (const Op op : {Op::Mean, Op::Median, Op::ShareOf, Op::CountOf, Op::TotalOf})
        CHECK(isMissing(valueOfTheDay(op, std::vector<double>{missing, missing})));
}

TEST_CASE("Of groups: many days at once give the bits of each alone, and without groups nothing",
          "[engine]")
{
    const bool hasGroups = GENERATE(true, false);
    const auto market = hasGroups
                            ? manyStocks()
                            : test::marketOf({test::recordOf("A", {1.0, 2.0, 3.0, 4.0, 5.0}, ""),
                                              test::recordOf("B", {2.0, 2.0, 2.0, 2.0, 2.0}, "")});
    const auto days = market->sessions();
    for (const std::string text :
         {"median(close, within = sector)", "mean(change(close, 3), within = sector)",
          "group_rank(change(close, 3), sector)", "count_of(close > 1.5, within = sector)",
          "rank(close, within = sector)"}) {
        INFO(text);
        Plan plan;
        const NodeId node = nodeOf(text, {language::Vocabulary::builtIn(), std::nullopt}, plan);
        Evaluator whole(market,
                        0); // nothing is kept: what is held side by side was worked out twice
        const auto over = whole.columnsOver(plan, node, days);
        std::size_t known = 0;
        for (std::size_t day = 0; day < days.size(); ++day) {
            const ColumnPtr alone = Evaluator(market).column(plan, node, days[day]);
            for (std::size_t stock = 0; stock < market->size(); ++stock) {
                known += isMissing((*alone)[stock]) ? 0U : 1U;
                REQUIRE(std::bit_cast<std::uint64_t>((*over[day])[stock]) ==
                        std::bit_cast<std::uint64_t>((*alone)[stock]));
            }
        }
        CHECK((known > 0) == hasGroups);
    }
}

TEST_CASE("A line beside the market: its own prices, the market's breadth, no rank", "[engine]")
{
    const auto market = manyStocks();
    const market::MarketPtr line =
        market::marketOf(market::makeComposite(*market, market::Weight::Equal));
    Plan plan;
    const language::Names names{language::Vocabulary::builtIn(), std::nullopt};
    const NodeId targets[] = {nodeOf("sma(close, 5)", names, plan),
                              nodeOf("count_of(close > prior(close))", names, plan),
                              nodeOf("rank(close)", names, plan)};
    Evaluator evaluator(market);
    const auto values = evaluator.lineHistories(plan, targets, *line, market->sessions().back());
    const auto counts = dayByDay("count_of(close > prior(close))");
    REQUIRE(values[0].size() == market->sessions().size());
    double sum = 0.0;
    for (std::size_t i = 55; i < 60; ++i)
        sum += line->bars(0).close[i];
    CHECK(values[0][59] == Approx(sum / 5.0));
    CHECK(values[1].back() == counts.back());
    CHECK(isMissing(values[2].back()));
    CHECK(evaluator.lineHistories(plan, targets, *line, market->sessions()[0].plusDays(-9))[0]
              .empty());
}

} // namespace sieve::engine
