#include "core/expressions/checker.h"
#include "core/expressions/evaluator.h"
#include "tests/core/indicators/reference_vectors.h"

#include "core/market/market.h"

#include <catch2/catch.hpp>
#include <utility>

// The vectors are put through the whole engine, so that warm-up and reach are held to them too.

namespace sieve {

namespace {

using test::ReferenceTable;

market::MarketPtr marketOf(const ReferenceTable& input)
{
    market::InstrumentRecord record;
    record.instrument.symbol = "REFR";
    for (const std::string& text : input.texts("date"))
        record.bars.days.push_back(*Day::parse(text));
    record.bars.open = input["open"];
    record.bars.high = input["high"];
    record.bars.low = input["low"];
    record.bars.close = input["close"];
    record.bars.volume = input["volume"];
    std::vector<market::InstrumentRecord> records;
    records.push_back(record);
    return std::make_shared<const market::Market>(market::MarketDescription{}, std::move(records));
}

enum class Scale { Close, Hundred };

struct Vector {
    const char* column;
    const char* expression;
    Scale scale = Scale::Close;
};

constexpr Vector vectors[] = {
    {"sma_5", "sma(close, 5)"},
    {"sma_20", "sma(close, 20)"},
    {"sma_50", "sma(close, 50)"},
    {"sma_200", "sma(close, 200)"},
    {"ema_8", "ema(close, 8)"},
    {"ema_21", "ema(close, 21)"},
    {"ema_50", "ema(close, 50)"},
    {"wma_10", "wma(close, 10)"},
    {"wilder_14", "wilder(close, 14)"},
    {"rsi_2", "rsi(close, 2)", Scale::Hundred},
    {"rsi_14", "rsi(close)", Scale::Hundred},
    {"rsi_21", "rsi(close, n = 21)", Scale::Hundred},
    {"roc_10", "100 * change(close, 10)", Scale::Hundred},
    {"roc_126", "100 * change(close, 126)", Scale::Hundred},
    {"mom_10", "difference(close, 10)"},
    {"tr", "true_range"},
    {"atr_14", "atr(14)"},
    {"natr_14", "natr", Scale::Hundred},
    {"stdev_pop_20", "stdev(close, 20)"},
    {"bb_upper_20_2", "sma(close, 20) + 2 * stdev(close, 20)"},
    {"highest_high_20", "highest(high, 20)"},
    {"lowest_low_20", "lowest(low, 20)"},
    {"highest_close_20", "highest(close, 20)"},
    {"lowest_close_20", "lowest(close, 20)"},
    {"highest_high_252", "highest(high, 252)"},
    {"lowest_low_252", "lowest(low, 252)"},
    {"highest_high_prior_20", "prior(highest(high, 20))"},
    {"lowest_low_prior_252", "prior(lowest(low, 252), 1)"},
    {"donchian_mid_20", "(highest(high, 20) + lowest(low, 20)) / 2"},
    {"macd_line", "ema(close, 12) - ema(close, 26)"},
    {"macd_signal", "ema(ema(close, 12) - ema(close, 26), 9)"},
};

} // namespace

TEST_CASE("Reference vectors: every series of the language agrees from its first bar on",
          "[expressions][reference]")
{
    const auto* series = GENERATE("trend", "meanrev", "volgap", "flat", "zerovol", "short", "penny",
                                  "huge", "constant");
    const ReferenceTable input(std::string("inputs/") + series + ".csv");
    const ReferenceTable expected(std::string("expected/") + series + ".csv");
    const market::MarketPtr market = marketOf(input);
    expressions::Evaluator evaluator(market);
    expressions::Plan plan;
    const expressions::Names names{expressions::Vocabulary::builtIn(), std::nullopt};
    const Day last = market->bars(0).days.back();
    for (const Vector& vector : vectors) {
        INFO(series << " " << vector.column);
        const auto checked = check(vector.expression, names, plan);
        REQUIRE(checked);
        const std::vector<double> scale = vector.scale == Scale::Close
                                              ? input["close"]
                                              : std::vector<double>(input["close"].size(), 100.0);
        test::checkAgrees(evaluator.history(plan, checked->node, 0, last), expected[vector.column],
                          scale);
    }
}

TEST_CASE("Reference vectors: percentile, rank and z-score across stocks agree",
          "[expressions][reference]")
{
    const ReferenceTable input("inputs/cross_section.csv");
    const ReferenceTable expected("expected/cross_section_ranks.csv");
    const auto* field = GENERATE("pe", "dividend_yield", "score", "market_cap");
    // The figure travels as the close; a missing one is a stock that has no bar.
    std::vector<market::InstrumentRecord> records;
    const std::vector<double>& figures = input[field];
    for (std::size_t i = 0; i < figures.size(); ++i) {
        market::InstrumentRecord record;
        record.instrument.symbol = std::to_string(10'000 + i);
        record.instrument.industry = input.texts("industry")[i];
        if (!isMissing(figures[i])) {
            record.bars.days = {*Day::parse("2024-01-02")};
            record.bars.open = record.bars.high = record.bars.low =
                record.bars.close = {figures[i]};
            record.bars.volume = {0.0};
        }
        records.push_back(record);
    }
    const auto market =
        std::make_shared<const market::Market>(market::MarketDescription{}, std::move(records));
    expressions::Evaluator evaluator(market);
    expressions::Plan plan;
    const expressions::Names names{expressions::Vocabulary::builtIn(), std::nullopt};
    const std::string prefix(field);
    for (const auto& [suffix, text] :
         {std::pair("_pr_mid", "percentile(close)"), std::pair("_rank_desc_min", "rank(close)"),
          std::pair("_z_sample", "zscore(close)"),
          std::pair("_pr_mid_in_industry", "percentile(close, within = industry)"),
          std::pair("_minus_industry_median", "close - median(close, within = industry)"),
          std::pair("_z_in_industry", "zscore(close, within = industry)")}) {
        INFO(field << suffix);
        const auto checked = check(text, names, plan);
        REQUIRE(checked);
        const auto column = evaluator.column(plan, checked->node, *Day::parse("2024-01-05"));
        test::checkAgrees(*column, expected[prefix + suffix],
                          std::vector<double>(figures.size(), 100.0));
    }
}

} // namespace sieve
