#include "core/screens/run.h"
#include "tests/core/studies/made_portfolio.h"

#include <algorithm>

// Portfolios against plain loops over the rows, and against the money that must be there.

namespace sieve::studies {

TEST_CASE("Portfolio: agrees with plain loops over the rows", "[studies][twin]")
{
    engine::Evaluator evaluator(test::marketOf(test::eventfulRecords(), "IDX"));
    const market::Market& market = evaluator.market();
    PortfolioRule rule = plainRule(4);
    rule.steps[0].screen.criteria[0].text = "close > sma(close, 10)";
    rule.steps[0].screen.rankBy = "change(close, 10)";
    rule.rebalancing.every = 5;
    rule.trading.costShare = 0.002;
    rule.trading.slippage = 0.001;
    rule.trading.isWhole = true;
    rule.trading.money = 250'000.0;
    rule.exits.stop = 0.06;
    rule.from = market.sessions()[30];
    const Portfolio made = run(rule, evaluator);
    REQUIRE(made.trades.size() > 30);
    checkMoney(made, market);

    // The twin knows shares on the footing of the newest bar of each stock and nothing else.
    struct Held {
        double shares = 0.0;
        double price = 0.0;
        std::size_t bar = 0;
        double rate = 1.0;
        bool isNew = false;
    };
    const screens::NameBook book;
    std::map<std::size_t, Held> held;
    std::vector<std::size_t> leaving;
    struct Order {
        std::size_t stock;
        double shares;
        std::size_t bar;
    };
    std::vector<Order> orders;
    double cash = rule.trading.money;
    const auto barOn = [&](std::size_t stock, Day when) -> std::optional<std::size_t> {
        const auto bar = market::lastBarBy(market, stock, when);
        return bar && market.bars(stock).days[*bar] == when ? bar : std::nullopt;
    };
    const auto trade = [&](std::size_t stock, std::size_t bar, double shares, double about) {
        const auto& bars = market.bars(stock);
        const double rate =
            held.contains(stock) ? held[stock].rate : market.rate(stock, bars.days[bar]);
        if (std::isnan(rate))
            return;
        const double price = shares > 0 ? std::min(about * 1.001, std::max(bars.high[bar], about))
                                        : std::max(about * 0.999, std::min(bars.low[bar], about));
        if (shares > 0)
            shares = std::min(shares, std::floor(cash / (price * rate * 1.002) + 1e-9));
        if (std::abs(shares) < 1e-9 || (shares < 0 && !held.contains(stock)))
            return;
        Held& own = held[stock];
        if (shares > 0)
            own.price = (own.price * own.shares + price * shares) / (own.shares + shares);
        if (own.shares == 0)
            own.isNew = true;
        own.shares += shares;
        own.bar = bar;
        own.rate = rate;
        cash += -shares * price * rate - 0.002 * std::abs(shares) * price * rate;
        if (own.shares < 1e-9)
            held.erase(stock);
    };
    for (std::size_t at = 0; at < made.sessions.size(); ++at) {
        const Day when = made.sessions[at];
        for (auto& [stock, own] : held) {
            own.isNew = false;
            const auto bar = *market::lastBarBy(market, stock, when);
            const auto days = market.bars(stock).days;
            for (const auto& action : market.actions(stock))
                if (action.kind == market::ActionKind::Split && action.exDate > days[own.bar] &&
                    action.exDate <= days[bar]) {
                    own.shares *= action.value;
                    own.price /= action.value;
                }
            for (const auto& action : market.actions(stock))
                if (action.kind != market::ActionKind::Split && action.exDate > days[own.bar] &&
                    action.exDate <= days[bar]) {
                    double after = 1.0; // splits between the dividend and the bar
                    for (const auto& split : market.actions(stock))
                        if (split.kind == market::ActionKind::Split &&
                            split.exDate > action.exDate && split.exDate <= days[bar])
                            after *= split.value;
                    cash += own.shares / after * action.value * own.rate;
                }
            own.bar = bar;
            if (const double rate = market.rate(stock, when); !std::isnan(rate))
                own.rate = rate;
        }
        for (auto it = held.begin(); it != held.end();) {
            const auto gone = market.instrument(it->first).delistedOn;
            if (gone && *gone <= when) {
                cash += it->second.shares * market.bars(it->first).close[it->second.bar] *
                        it->second.rate;
                it = held.erase(it);
            } else {
                ++it;
            }
        }
        for (std::size_t i = 0; i < leaving.size();) {
            const std::size_t stock = leaving[i];
            const auto bar = held.contains(stock) ? barOn(stock, when) : std::nullopt;
            if (held.contains(stock) && !bar) {
                ++i;
                continue;
            }
            if (bar)
                trade(stock, *bar, -held[stock].shares, market.bars(stock).open[*bar]);
            leaving.erase(leaving.begin() + static_cast<std::ptrdiff_t>(i));
        }
        for (const bool isBuying : {false, true})
            for (const Order& order : orders)
                if ((order.shares > 0) == isBuying)
                    if (const auto bar = barOn(order.stock, when)) {
                        double shares = order.shares;
                        const auto days = market.bars(order.stock).days;
                        for (const auto& action : market.actions(order.stock))
                            if (action.kind == market::ActionKind::Split &&
                                action.exDate > days[order.bar] && action.exDate <= when)
                                shares *= action.value;
                        trade(order.stock, *bar, std::trunc(shares + std::copysign(1e-9, shares)),
                              market.bars(order.stock).open[*bar]);
                    }
        orders.clear();
        std::vector<std::size_t> stocks;
        for (const auto& [stock, own] : held)
            stocks.push_back(stock);
        for (const std::size_t stock : stocks) {
            const auto bar = barOn(stock, when);
            if (!bar || std::ranges::find(leaving, stock) != leaving.end())
                continue;
            const double level = held[stock].price * (1.0 - 0.06);
            const auto& bars = market.bars(stock);
            if (!held[stock].isNew && bars.open[*bar] <= level)
                trade(stock, *bar, -held[stock].shares, bars.open[*bar]);
            else if (bars.low[*bar] <= level)
                trade(stock, *bar, -held[stock].shares, level);
        }
        double equity = cash;
        for (const auto& [stock, own] : held)
            equity += own.shares * market.bars(stock).close[own.bar] * own.rate;
        INFO(when.iso() << " " << at);
        REQUIRE(std::abs(equity - made.equity[at]) <= 1e-9 * equity);
        REQUIRE(held.size() == made.held[at]);
        if (at % 5 != 0)
            continue;
        const auto chosen =
            screens::run(rule.steps[0].screen, book.names(), evaluator, when).matches;
        std::vector<std::size_t> best(
            chosen.begin(),
            chosen.begin() + static_cast<std::ptrdiff_t>(std::min<std::size_t>(4, chosen.size())));
        for (const auto& [stock, own] : held)
            if (std::ranges::find(leaving, stock) == leaving.end() &&
                std::ranges::find(best, stock) == best.end())
                leaving.push_back(stock);
        std::ranges::sort(leaving);
        for (const std::size_t stock : best) {
            const auto bar = *market::lastBarBy(market, stock, when);
            const double rate = market.rate(stock, when);
            if (std::isnan(rate) || std::ranges::find(leaving, stock) != leaving.end())
                continue;
            const double close = market.bars(stock).close[bar];
            const double wanted = std::floor(equity / 4.0 / (close * rate * 1.001 * 1.002) + 1e-9);
            const double more = wanted - (held.contains(stock) ? held[stock].shares : 0.0);
            if (std::abs(more) * close * rate > 1e-6 * equity)
                orders.push_back({stock, more, bar});
        }
    }
    const PortfolioTold told = toldOf(made);
    double months = 1.0;
    for (const auto& month : told.months)
        months *= 1.0 + month.change;
    CHECK(months - 1.0 == Approx(told.measures.totalReturn));
    double years = 1.0;
    for (const auto& year : told.years)
        years *= 1.0 + year.change;
    CHECK(years - 1.0 == Approx(told.measures.totalReturn));
    CHECK(told.years.front().months.at(told.months.front().month - 1) ==
          told.months.front().change);
    CHECK(told.trades + made.held.back() == made.trades.size());
    double gains = 0.0;
    for (const auto& own : told.contributions)
        gains += own.gain;
    CHECK(gains == Approx(made.equity.back() - rule.trading.money));
    CHECK(std::ranges::is_sorted(told.contributions, std::ranges::greater{},
                                 &PortfolioTold::Contribution::gain));
}

TEST_CASE("Portfolio: money is conserved under every kind of rule, and the future changes nothing",
          "[studies]")
{
    const auto records = test::eventfulRecords();
    engine::Evaluator whole(test::marketOf(records, "IDX"));
    const Day then = whole.market().sessions()[250];
    engine::Evaluator cut(test::cutAfter(records, then, "IDX"));
    std::vector<PortfolioRule> rules(5, plainRule(5));
    rules[0].rebalancing = {Rebalancing::By::Weeks, 1, {}, true};
    rules[0].steps[0].when = "close > sma(close, 10)";
    rules[1].rebalancing = {Rebalancing::By::Sessions, 1, {}, false};
    rules[1].steps[0].screen.side = screens::ScreenSide::Short;
    rules[1].steps[0].screen.rankBy = "volume";
    rules[1].exits.target = 0.05;
    rules[1].exits.trailing = 0.04;
    rules[2].rebalancing = {Rebalancing::By::Months, 1, {}, true};
    rules[2].trading.isWhole = true;
    rules[2].trading.money = 20'000.0;
    rules[2].trading.costAnOrder = 3.0;
    rules[2].steps[0].weightBy = "volume";
    rules[2].exits.onStock = "close < prior(close, 5)";
    rules[3].rebalancing = {Rebalancing::By::Sessions, 3, {}, true};
    rules[3].trading.filledAt = Trading::FilledAt::NextClose;
    rules[3].exits.sessions = 4;
    rules[3].exits.onMarket = "close < sma(close, 30)";
    rules[4].rebalancing = {Rebalancing::By::Sessions, 2, {}, true};
    rules[4].steps[0].hold = mostHeld; // all there are
    rules[4].trading.ofVolume = 0.01;
    rules[4].trading.costShare = 0.01;
    for (std::size_t i = 0; i < rules.size(); ++i) {
        INFO(i);
        const Portfolio made = run(rules[i], whole);
        CHECK(made.fills.size() > 20);
        checkMoney(made, whole.market());
        const Portfolio early = run(rules[i], cut, then);
        REQUIRE(early.sessions.size() == 251);
        for (std::size_t at = 0; at < early.sessions.size(); ++at)
            CHECK(early.equity[at] == made.equity[at]);
        const Portfolio again = run(rules[i], whole);
        CHECK(again.equity == made.equity);
    }
}

} // namespace sieve::studies
