#include "core/engine/evaluator.h"
#include "core/language/checker.h"
#include "demo_market/dataset.h"
#include "tests/core/made_market.h"
#include "tests/core/same_bits.h"

#include <catch2/catch.hpp>

// Every field of the dictionary on the demo market: cutting off the future changes nothing, and a
// chart's line is made of what a screen would have seen.

namespace sieve::engine {

using test::sameBits;

namespace {

const std::string& benchmarkOf(const std::vector<market::InstrumentRecord>& records)
{
    return std::ranges::find(records, market::InstrumentKind::Index,
                             [](const auto& each) { return each.instrument.kind; })
        ->instrument.symbol;
}

std::vector<market::InstrumentRecord> someRecords()
{
    std::vector<market::InstrumentRecord> records =
        demo_market::makeMarket(20260930, demo_market::Extent::Small).records;
    std::erase_if(records, [n = 0](const market::InstrumentRecord& record) mutable {
        return n++ % 6 != 0 && record.instrument.kind != market::InstrumentKind::Index;
    });
    return records;
}

} // namespace

TEST_CASE("Dictionary: no field knows the future", "[engine]")
{
    const auto records = someRecords();
    const market::MarketPtr whole = test::marketOf(records, benchmarkOf(records));
    const Day day = test::day(GENERATE("2022-03-04", "2024-05-15", "2025-12-30"));
    const market::MarketPtr past = test::cutAfter(records, day, benchmarkOf(records));
    Evaluator knows(whole);
    Evaluator knew(past);
    Plan plan;
    const language::Names names{language::Vocabulary::builtIn(), std::nullopt};
    std::vector<const language::Field*> fields;
    std::vector<NodeId> targets;
    for (const language::Field& field : language::Vocabulary::builtIn().fields()) {
        if (field.kind == Kind::Text)
            continue; // texts have other numbers in another market
        fields.push_back(&field);
        targets.push_back(check(field.name, names, plan)->node);
    }
    const auto now = knows.columns(plan, targets, day);
    const auto then = knew.columns(plan, targets, day);
    for (std::size_t i = 0; i < fields.size(); ++i)
        for (std::size_t stock = 0; stock < whole->size(); ++stock) {
            INFO(fields[i]->name << " of " << whole->instrument(stock).symbol);
            REQUIRE(sameBits((*now[i])[stock], (*then[i])[stock]));
        }
}

TEST_CASE("History: its last value is what a screen sees on that day, splits or not", "[engine]")
{
    const market::MarketPtr market = test::marketOf(someRecords());
    Evaluator evaluator(market);
    Plan plan;
    const language::Names names{language::Vocabulary::builtIn(), std::nullopt};
    for (const char* text :
         {"close", "sma(close, 50)", "ema(volume, 9)", "market_cap", "price_to_earnings", "eps_ttm",
          "strength_63", "offer_price", "average_traded_value", "distance_from_high"}) {
        const NodeId node = check(text, names, plan)->node;
        for (const char* on : {"2023-03-17", "2025-08-08", "2026-09-30"}) {
            const ColumnPtr column = evaluator.column(plan, node, test::day(on));
            for (std::size_t stock = 0; stock < market->size(); stock += 3) {
                if (!market::barOn(*market, stock, test::day(on)))
                    continue;
                INFO(text << " of " << market->instrument(stock).symbol << " on " << on);
                const auto history = evaluator.history(plan, node, stock, test::day(on));
                REQUIRE(sameBits(history.back(), (*column)[stock]));
            }
        }
    }
}

TEST_CASE("Days at once: each is what the day alone would have given", "[engine]")
{
    const market::MarketPtr market = test::marketOf(someRecords());
    Plan plan;
    const language::Names names{language::Vocabulary::builtIn(), std::nullopt};
    const std::span<const Day> sessions = market->sessions();
    std::vector<Day> days; // far apart, so that splits, filings and delistings lie between them
    for (std::size_t session = 200; session < sessions.size(); session += 97)
        days.push_back(sessions[session]);
    for (const char* text :
         {"close > sma(close, 200)", "eps_growth", "percentile(change(close, 20), within = sector)",
          "sma(rank(volume), 3)", "known(price_to_book)", "since(turned_up_today)"}) {
        const NodeId node = check(text, names, plan)->node;
        const auto together = Evaluator(market).columnsOver(plan, node, days);
        for (std::size_t i = 0; i < days.size(); ++i) {
            const ColumnPtr alone = Evaluator(market).column(plan, node, days[i]);
            for (std::size_t stock = 0; stock < market->size(); ++stock) {
                INFO(text << " on " << days[i].iso() << " stock " << stock);
                REQUIRE(sameBits((*alone)[stock], (*together[i])[stock]));
            }
        }
    }
}

} // namespace sieve::engine
