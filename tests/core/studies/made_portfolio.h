#pragma once

#include "core/market/as_of.h"
#include "core/screens/name_book.h"
#include "core/studies/portfolio.h"
#include "core/studies/study_files.h"
#include "tests/core/made_market.h"

#include <catch2/catch.hpp>
#include <cmath>
#include <map>
#include <optional>

/// Rules for tests, run, and held to the money.
namespace sieve::studies {

/// Everything, the largest close first; no costs and no slippage, fractions of shares.
inline PortfolioRule plainRule(int hold = 1)
{
    PortfolioRule rule;
    PortfolioStep step;
    step.screen.criteria.push_back({"close > 0"});
    step.screen.rankBy = "close";
    step.hold = hold;
    rule.steps.push_back(step);
    rule.rebalancing.by = Rebalancing::By::Sessions;
    rule.rebalancing.every = 1000;
    rule.trading.money = 1000.0;
    rule.trading.costShare = rule.trading.slippage = 0.0;
    rule.trading.isWhole = false;
    rule.to = lastDay();
    return rule;
}

inline Portfolio run(const PortfolioRule& rule, engine::Evaluator& evaluator,
                     std::optional<Day> when = std::nullopt)
{
    const screens::NameBook book;
    auto made = runPortfolio(rule, book.names(), evaluator,
                             when.value_or(evaluator.market().sessions().back()));
    if (!made)
        FAIL(sentence(made.error()));
    return *std::move(made);
}

/// Money is neither made nor lost between the fills.
inline void checkMoney(const Portfolio& portfolio, const market::Market& market)
{
    double cash = portfolio.rule.trading.money;
    const auto newestRate = [&](std::size_t stock, std::size_t at) {
        double rate = market.rate(stock, portfolio.sessions[at]);
        for (std::size_t back = at; isMissing(rate) && back > 0; --back)
            rate = market.rate(stock, portfolio.sessions[back - 1]);
        return rate;
    };
    std::map<std::size_t, double> shares;
    std::size_t next = 0;
    std::map<std::size_t, std::size_t> bars;
    for (std::size_t at = 0; at < portfolio.sessions.size(); ++at) {
        // Splits come before what is traded on their day.
        for (auto& [stock, held] : shares) {
            const auto bar = market::lastBarBy(market, stock, portfolio.sessions[at]);
            held /= market.priceFactor(stock, market.bars(stock).days[bars[stock]],
                                       market.footing(stock, *bar));
            bars[stock] = *bar;
        }
        for (; next < portfolio.fills.size() && portfolio.fills[next].session == at; ++next) {
            const Fill& fill = portfolio.fills[next];
            cash += fill.money;
            if (fill.shares == 0.0)
                continue;
            shares[fill.stock] += fill.shares;
            bars[fill.stock] = *market::lastBarBy(market, fill.stock, portfolio.sessions[at]);
            const double rate = newestRate(fill.stock, at);
            if (fill.why != Why::Delisted)
                CHECK(fill.money + fill.cost ==
                      Approx(-fill.shares * fill.price * rate).margin(1e-6));
        }
        double worth = 0.0;
        for (const auto& [stock, held] : shares)
            if (std::abs(held) > 1e-9)
                worth += held * market.bars(stock).close[bars[stock]] * newestRate(stock, at);
        CHECK(std::abs(cash - portfolio.cash[at]) < 0.005);
        CHECK(std::abs(cash + worth - portfolio.equity[at]) < 0.005);
    }
    CHECK(next == portfolio.fills.size());
    double gains = 0.0;
    for (const Trade& trade : portfolio.trades)
        gains += trade.gain;
    CHECK(gains == Approx(portfolio.equity.back() - portfolio.rule.trading.money).margin(0.005));
}

} // namespace sieve::studies
