#include "core/engine/evaluator.h"
#include "core/language/checker.h"
#include "tests/core/made_market.h"

#include <catch2/catch.hpp>
#include <cmath>
#include <cstdint>
#include <fmt/format.h>
#include <numeric>
#include <random>

// Prices in whole cents with many ties, also across splits: every answer is that of whole numbers.

namespace sieve::engine {

namespace {

/// Prices of one stock in whole units of its newest footing, and what was traded: `ratio` units are
/// a cent before the split, one is afterwards.
struct Stock {
    std::vector<std::int64_t> open, high, low, close;
    std::size_t splitBar = 0;
    std::int64_t shares = 1; ///< new ones for `old` ones
    std::int64_t old = 1;

    double traded(const std::vector<std::int64_t>& units, std::size_t bar) const
    {
        // A unit is a cent over `shares`, so that prices on both sides of the split are whole.
        const double cents = static_cast<double>(units[bar]) / static_cast<double>(shares);
        return bar < splitBar ? cents * static_cast<double>(shares) / static_cast<double>(old) / 100
                              : cents / 100;
    }
};

Stock stockOf(std::mt19937& random, std::int64_t level, std::int64_t shares, std::int64_t old)
{
    Stock stock;
    stock.shares = shares;
    stock.old = old;
    stock.splitBar = 60;
    std::int64_t close = level * shares * old;
    // Whole cents before the split are multiples of `old` units, after it of `shares` ones.
    const std::int64_t step = std::lcm(shares, old);
    const auto moved = [&](std::int64_t from, std::int64_t most) {
        return from +
               step * (static_cast<std::int64_t>(random() % static_cast<unsigned>(2 * most + 1)) -
                       most);
    };
    for (int bar = 0; bar < 120; ++bar) {
        const std::int64_t open = moved(close, 1);
        close = moved(open, 2);
        stock.open.push_back(open);
        stock.close.push_back(close);
        stock.high.push_back(std::max(open, close) +
                             step * static_cast<std::int64_t>(random() % 3));
        stock.low.push_back(std::min(open, close) - step * static_cast<std::int64_t>(random() % 3));
    }
    return stock;
}

market::InstrumentRecord recordOf(const std::string& symbol, const Stock& stock)
{
    market::InstrumentRecord record;
    record.instrument.symbol = symbol;
    record.bars = test::barsOf(std::vector<double>(stock.close.size(), 1.0));
    for (std::size_t bar = 0; bar < stock.close.size(); ++bar) {
        record.bars.open[bar] = stock.traded(stock.open, bar);
        record.bars.high[bar] = stock.traded(stock.high, bar);
        record.bars.low[bar] = stock.traded(stock.low, bar);
        record.bars.close[bar] = stock.traded(stock.close, bar);
        record.bars.volume[bar] = 100.0;
    }
    if (stock.shares != stock.old)
        record.actions.push_back(
            {record.bars.days[stock.splitBar], market::ActionKind::Split,
             static_cast<double>(stock.shares) / static_cast<double>(stock.old)});
    return record;
}

std::int64_t sumTo(const std::vector<std::int64_t>& values, std::size_t bar, std::size_t count)
{
    return std::accumulate(values.begin() + static_cast<std::ptrdiff_t>(bar + 1 - count),
                           values.begin() + static_cast<std::ptrdiff_t>(bar + 1), std::int64_t{0});
}

} // namespace

TEST_CASE("Ties: prices in cents are compared as whole numbers are", "[engine]")
{
    std::mt19937 random(11);
    std::vector<Stock> stocks;
    std::vector<market::InstrumentRecord> records;
    for (const std::int64_t level : {70, 900, 12'345, 250'000, 4'000'000})
        for (const auto& [shares, old] :
             {std::pair<std::int64_t, std::int64_t>{1, 1}, {2, 1}, {3, 2}, {7, 3}, {1, 10}}) {
            stocks.push_back(stockOf(random, level, shares, old));
            records.push_back(recordOf(fmt::format("S{}", 100 + stocks.size()), stocks.back()));
        }
    const market::MarketPtr market = test::marketOf(std::move(records));
    using Exact = std::function<double(const Stock&, std::size_t)>;
    const auto yes = [](bool holds) { return holds ? 1.0 : 0.0; };
    const std::vector<std::pair<const char*, Exact>> questions{
        {"close > prior(close)",
         [&](const Stock& s, std::size_t b) { return yes(s.close[b] > s.close[b - 1]); }},
        {"close == prior(close)",
         [&](const Stock& s, std::size_t b) { return yes(s.close[b] == s.close[b - 1]); }},
        {"change(close) >= 0",
         [&](const Stock& s, std::size_t b) { return yes(s.close[b] >= s.close[b - 1]); }},
        {"close - prior(close) > 0",
         [&](const Stock& s, std::size_t b) { return yes(s.close[b] > s.close[b - 1]); }},
        {"high + low == prior(high) + prior(low)",
         [&](const Stock& s, std::size_t b) {
             return yes(s.high[b] - s.high[b - 1] == s.low[b - 1] - s.low[b]);
         }},
        {"upward_movement > 0",
         [&](const Stock& s, std::size_t b) {
             const std::int64_t up = s.high[b] - s.high[b - 1];
             return yes(up > 0 && up > s.low[b - 1] - s.low[b]);
         }},
        {"downward_movement > 0",
         [&](const Stock& s, std::size_t b) {
             const std::int64_t down = s.low[b - 1] - s.low[b];
             return yes(down > 0 && down > s.high[b] - s.high[b - 1]);
         }},
        {"sma(close, 20) >= sma(close, 40)",
         [&](const Stock& s, std::size_t b) {
             return yes(2 * sumTo(s.close, b, 20) >= sumTo(s.close, b, 40));
         }},
        {"sum(close, 5) > sum(prior(close, 5), 5)",
         [&](const Stock& s, std::size_t b) {
             return yes(sumTo(s.close, b, 5) > sumTo(s.close, b - 5, 5));
         }},
        {"close == highest(close, 10)",
         [&](const Stock& s, std::size_t b) {
             const auto end = s.close.begin() + static_cast<std::ptrdiff_t>(b + 1);
             return yes(*std::max_element(end - 10, end) == s.close[b]);
         }},
        {"crosses_above(close, sma(close, 3))",
         [&](const Stock& s, std::size_t b) {
             return yes(3 * s.close[b] > sumTo(s.close, b, 3) &&
                        3 * s.close[b - 1] <= sumTo(s.close, b - 1, 3));
         }},
        {"obv - prior(obv)",
         [&](const Stock& s, std::size_t b) {
             // Before the split so many shares are `shares` for `old`.
             const double volume =
                 b < s.splitBar ? 100.0 * static_cast<double>(s.shares) / static_cast<double>(s.old)
                                : 100.0;
             return s.close[b] > s.close[b - 1]   ? volume
                    : s.close[b] < s.close[b - 1] ? -volume
                                                  : 0.0;
         }},
    };
    Evaluator evaluator(market);
    for (const auto& [text, exact] : questions) {
        Plan plan;
        const auto checked =
            language::check(text, {language::Vocabulary::builtIn(), std::nullopt}, plan);
        INFO(text);
        REQUIRE(checked);
        std::size_t ties = 0;
        for (std::size_t stock = 0; stock < stocks.size(); ++stock) {
            const auto history =
                evaluator.history(plan, checked->node, stock, market->sessions().back());
            for (std::size_t bar = 40; bar < history.size(); ++bar) {
                INFO(market->instrument(stock).symbol << " on bar " << bar);
                REQUIRE(history[bar] ==
                        Approx(exact(stocks[stock], bar)).epsilon(1e-9).margin(0.0));
                ties += stocks[stock].close[bar] == stocks[stock].close[bar - 1] ? 1U : 0U;
            }
        }
        CHECK(ties > 200);
    }
}

TEST_CASE("Ties: dividends that add up to the same were not cut", "[engine]")
{
    // 0.29 three times, and 0.87 at once: the sums differ in their last bits.
    market::InstrumentRecord record = test::recordOf("AAAA", std::vector<double>(20, 10.0));
    REQUIRE(0.29 + 0.29 + 0.29 + 0.0 != 0.87 + 0.0 + 0.0 + 0.0);
    for (int quarter = 0; quarter < 24; ++quarter) {
        const Day end = test::day("2018-03-31").plusMonths(3 * quarter);
        const bool isInParts = quarter / 4 % 2 == 0;
        const double paid =
            isInParts ? (quarter % 4 == 3 ? 0.0 : 0.29) : (quarter % 4 == 0 ? 0.87 : 0.0);
        record.statements.push_back({*market::statementItemNamed("dividends_per_share"),
                                     market::Period::Quarter, end, end.plusDays(1), paid});
    }
    const market::MarketPtr market = test::marketOf({record});
    Evaluator evaluator(market);
    Plan plan;
    const auto checked = language::check("dividend_kept_5_years",
                                         {language::Vocabulary::builtIn(), std::nullopt}, plan);
    REQUIRE(checked);
    CHECK((*evaluator.column(plan, checked->node, market->sessions().back()))[0] == 1.0);
}

} // namespace sieve::engine
