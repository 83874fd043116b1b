#include "core/engine/evaluator.h"
#include "core/language/checker.h"
#include "tests/core/indicators/reference_vectors.h"

#include "core/market/market.h"

#include <catch2/catch.hpp>
#include <utility>

// The vectors are put through the whole engine, so that warm-up and reach are held to them too.

namespace sieve {

namespace {

using test::ReferenceTable;

market::InstrumentRecord recordOf(const ReferenceTable& input, const char* symbol)
{
    market::InstrumentRecord record;
    record.instrument.symbol = symbol;
    for (const std::string& text : input.texts("date"))
        record.bars.days.push_back(*Day::parse(text));
    record.bars.open = input["open"];
    record.bars.high = input["high"];
    record.bars.low = input["low"];
    record.bars.close = input["close"];
    record.bars.volume = input["volume"];
    return record;
}

/// The series, and beside it the line that betas and correlations are against.
market::MarketPtr marketOf(const ReferenceTable& input)
{
    std::vector<market::InstrumentRecord> records;
    records.push_back(recordOf(input, "REFR"));
    records.push_back(recordOf(ReferenceTable("inputs/benchmark.csv"), "ZBENCH"));
    records.back().instrument.kind = market::InstrumentKind::Index;
    return std::make_shared<const market::Market>(
        market::MarketDescription{"Reference", "1", "vl", "ZBENCH"}, std::move(records));
}

enum class Scale { Close, Hundred, One, Volume };

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
    {"donchian_mid_252", "(highest(high, 252) + lowest(low, 252)) / 2"},
    {"highest_close_252", "highest(close, 252)"},
    {"lowest_close_252", "lowest(close, 252)"},
    {"highest_high_prior_252", "prior(highest(high, 252))"},
    {"lowest_low_prior_20", "prior(lowest(low, 20))"},
    {"stdev_sample_20", "stdev(close, 20) * sqrt(20 / 19)"},
    {"bb_lower_20_2", "bollinger_lower(close, 20, 2)"},
    {"bb_width_20_2", "bollinger_width(close)", Scale::One},
    {"bb_pctb_20_2", "bollinger_place(close)", Scale::One},
    {"macd_line", "macd"},
    {"macd_signal", "macd_signal"},
    {"macd_hist", "macd_histogram(close, 12, 26, 9)"},
    {"stoch_fastk", "stochastic_fast(14)", Scale::Hundred},
    {"stoch_k", "stochastic_k(14, 3)", Scale::Hundred},
    {"stoch_d", "stochastic_d", Scale::Hundred},
    {"willr_14", "williams_r(14)", Scale::Hundred},
    {"plus_di_14", "plus_di(14)", Scale::Hundred},
    {"minus_di_14", "minus_di(14)", Scale::Hundred},
    {"dx_14", "dx(14)", Scale::Hundred},
    {"adx_14", "adx(14)", Scale::Hundred},
    {"cci_20", "cci(20)", Scale::Hundred},
    {"obv", "obv", Scale::Volume},
    {"mfi_14", "mfi(14)", Scale::Hundred},
    {"cmf_20", "cmf(20)", Scale::One},
    {"ad_line", "accumulation", Scale::Volume},
    {"dpo_20", "detrended(close, 20)"},
    {"kelt_mid_20_2", "ema(typical_price, 20)"},
    {"kelt_upper_20_2", "keltner_upper(20, 2)"},
    {"kelt_lower_20_2", "keltner_lower"},
    {"linreg_slope_20", "slope(close, 20)"},
    {"linreg_value_20", "trend_value(close, 20)"},
    {"beta_60", "beta(60)", Scale::One},
    {"corr_60", "correlation(change(close), benchmark(change(close)), 60)", Scale::One},
    {"beta_252", "beta", Scale::One},
    {"corr_252", "correlation(change(close), benchmark(change(close)), n = 252)", Scale::One},
    {"updown_vol_50", "up_down_volume(50)", Scale::One},
    {"psar", "parabolic_stop"},
    {"avwap_0", "vwap_since(bars == 1)"},
    {"avwap_100", "vwap_since(bars == 101)"},
};

double largestOf(const std::vector<double>& values)
{
    double largest = 0;
    for (const double value : values)
        largest = std::max(largest, isMissing(value) ? 0.0 : std::abs(value));
    return largest;
}

} // namespace

TEST_CASE("Reference vectors: every series of the language agrees from its first bar on",
          "[language][reference]")
{
    const auto* series = GENERATE("trend", "meanrev", "volgap", "flat", "zerovol", "short", "penny",
                                  "huge", "constant");
    const ReferenceTable input(std::string("inputs/") + series + ".csv");
    const ReferenceTable expected(std::string("expected/") + series + ".csv");
    const market::MarketPtr market = marketOf(input);
    engine::Evaluator evaluator(market);
    engine::Plan plan;
    const language::Names names{language::Vocabulary::builtIn(), std::nullopt};
    const Day last = market->bars(0).days.back();
    for (const Vector& vector : vectors) {
        INFO(series << " " << vector.column);
        const auto checked = check(vector.expression, names, plan);
        REQUIRE(checked);
        const auto bars = input["close"].size();
        std::vector<double> scale = input["close"];
        if (vector.scale == Scale::Hundred)
            scale.assign(bars, 100.0);
        if (vector.scale == Scale::One)
            scale.assign(bars, 1.0);
        if (vector.scale == Scale::Volume)
            scale.assign(bars, largestOf(expected[vector.column]));
        test::checkAgrees(evaluator.history(plan, checked->node, 0, last), expected[vector.column],
                          scale);
    }
}

TEST_CASE("Reference vectors: percentile, rank and z-score across stocks agree",
          "[language][reference]")
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
    engine::Evaluator evaluator(market);
    engine::Plan plan;
    const language::Names names{language::Vocabulary::builtIn(), std::nullopt};
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
