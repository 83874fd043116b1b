#include "tests/core/studies/made_portfolio.h"

namespace sieve::studies {

namespace {

using test::day;

std::string faultOf(const PortfolioRule& rule)
{
    engine::Evaluator evaluator(test::marketOf({test::recordOf("A", {1, 2, 3})}));
    const screens::NameBook book;
    const auto made = runPortfolio(rule, book.names(), evaluator, day("2024-01-03"));
    return made ? "none" : sentence(made.error());
}

struct Row {
    double open, high, low, close;
    double volume = 1000.0;
};

/// A stock whose bars are told one by one.
market::InstrumentRecord stockOf(const std::string& symbol, const std::vector<Row>& rows)
{
    market::InstrumentRecord record = test::recordOf(symbol, std::vector<double>(rows.size(), 1.0));
    for (std::size_t i = 0; i < rows.size(); ++i) {
        record.bars.open[i] = rows[i].open;
        record.bars.high[i] = rows[i].high;
        record.bars.low[i] = rows[i].low;
        record.bars.close[i] = rows[i].close;
        record.bars.volume[i] = rows[i].volume;
    }
    return record;
}

/// What one stock does to a purse of 1000 with the rule.
Portfolio ofOne(const std::vector<Row>& rows, const PortfolioRule& rule)
{
    engine::Evaluator evaluator(test::marketOf({stockOf("A", rows)}));
    return run(rule, evaluator);
}

} // namespace

TEST_CASE("Portfolio: decided at the close, filled at the next open, by hand", "[studies]")
{
    const std::vector<Row> rows{{10, 10, 10, 10}, {20, 25, 20, 25}, {25, 30, 25, 30}};
    const Portfolio made = ofOne(rows, plainRule());
    CHECK(made.equity[0] == Approx(1000.0));
    // 100 shares were wanted at the close of 10; at the open of 20 the money pays for 50.
    REQUIRE(made.fills.size() == 1);
    CHECK(made.fills[0].shares == Approx(50.0));
    CHECK(made.fills[0].price == Approx(20.0));
    CHECK(made.unfilled == 1);
    CHECK(made.equity[1] == Approx(1250.0));
    CHECK(made.equity[2] == Approx(1500.0));
    CHECK(made.invested[2] == Approx(1.0));
    CHECK(made.trades.size() == 1);
    CHECK_FALSE(made.trades[0].left);
    CHECK(made.trades[0].change == Approx(0.5));
    CHECK(made.trades[0].bars == 2);

    PortfolioRule atClose = plainRule();
    atClose.trading.filledAt = Trading::FilledAt::NextClose;
    CHECK(ofOne(rows, atClose).fills[0].price == Approx(25.0));
    PortfolioRule limit = plainRule();
    limit.trading.filledAt = Trading::FilledAt::Limit;
    limit.trading.limit = 0.10;
    CHECK(ofOne(rows, limit).fills.empty());
    CHECK(ofOne(rows, limit).unfilled == 1);
    const std::vector<Row> dips{{10, 10, 10, 10}, {9.5, 9.6, 8.5, 9.2}, {9, 9, 9, 9}};
    CHECK(ofOne(dips, limit).fills.at(0).price == Approx(9.0));
    const std::vector<Row> gaps{{10, 10, 10, 10}, {8.8, 9.6, 8.5, 9.2}, {9, 9, 9, 9}};
    CHECK(ofOne(gaps, limit).fills.at(0).price == Approx(8.8));
}

TEST_CASE("Portfolio: costs, slippage within the day's range, whole shares, volume", "[studies]")
{
    const std::vector<Row> rows{{10, 10, 10, 10}, {10, 10.05, 9, 10}, {10, 10, 10, 10}};
    PortfolioRule rule = plainRule();
    rule.trading.costShare = 0.01;
    rule.trading.costAnOrder = 5.0;
    const Portfolio costs = ofOne(rows, rule);
    // 995 by 10.1 a share
    CHECK(costs.fills[0].shares == Approx(995.0 / 10.1));
    CHECK(costs.fills[0].cost == Approx(5.0 + 0.1 * 995.0 / 10.1));
    CHECK(costs.cash[1] == Approx(0.0).margin(1e-9));
    CHECK(costs.costs == Approx(costs.fills[0].cost));
    rule = plainRule();
    rule.trading.slippage = 0.02; // the high of the day is nearer
    CHECK(ofOne(rows, rule).fills[0].price == Approx(10.05));
    rule.trading.slippage = 0.001;
    CHECK(ofOne(rows, rule).fills[0].price == Approx(10.01));
    rule = plainRule();
    rule.trading.isWhole = true;
    rule.trading.money = 1005.0;
    CHECK(ofOne(rows, rule).fills[0].shares == 100.0);
    CHECK(ofOne(rows, rule).cash[1] == Approx(5.0));
    rule.trading.money = 9.0; // not one share
    CHECK(ofOne(rows, rule).fills.empty());
    rule = plainRule();
    rule.trading.ofVolume = 0.05;
    const Portfolio few = ofOne(rows, rule);
    CHECK(few.fills[0].shares == Approx(50.0));
    CHECK(few.unfilled == 1);
    rule = plainRule();
    rule.trading.costShare = 1.0; // all of the amount once more
    CHECK(ofOne(rows, rule).equity[1] == Approx(500.0));
}

TEST_CASE("Portfolio: every exit by hand", "[studies]")
{
    const auto leaving = [](const std::vector<Row>& rows, const Exits& exits) {
        PortfolioRule rule = plainRule();
        rule.exits = exits;
        const Portfolio made = ofOne(rows, rule);
        REQUIRE(made.trades.size() == 1);
        REQUIRE(made.trades[0].left);
        return made.trades[0];
    };
    const Row start{10, 10, 10, 10};
    Exits stop;
    stop.stop = 0.10;
    Trade trade = leaving({start, {10, 11, 9.5, 10}, {9.8, 10, 8, 9}}, stop);
    CHECK(trade.why == Why::Stopped);
    CHECK(trade.exitPrice == Approx(9.0));
    CHECK(trade.change == Approx(-0.10));
    CHECK(trade.bars == 2);
    trade = leaving({start, {10, 11, 9.5, 10}, {8.5, 10, 8, 9}}, stop); // opens below
    CHECK(trade.exitPrice == Approx(8.5));
    trade = leaving({start, {10, 11, 8.9, 10}, start}, stop); // on the day of the purchase
    CHECK(*trade.left == 1);
    CHECK(trade.exitPrice == Approx(9.0));
    Exits target;
    target.target = 0.20;
    trade = leaving({start, {10, 11, 9, 10}, {11, 12.5, 10, 11}}, target);
    CHECK(trade.why == Why::Reached);
    CHECK(trade.exitPrice == Approx(12.0));
    trade = leaving({start, {10, 11, 9, 10}, {13, 13.5, 12, 13}}, target);
    CHECK(trade.exitPrice == Approx(13.0));
    Exits both = target;
    both.stop = 0.10; // on one bar the stop comes first
    trade = leaving({start, {10, 11, 9.5, 10}, {10, 13, 8, 11}}, both);
    CHECK(trade.why == Why::Stopped);
    Exits trailing;
    trailing.trailing = 0.10;
    trade = leaving({start, {10, 16, 10, 15}, {15, 20, 14, 20}, {19, 19, 17, 18}}, trailing);
    CHECK(trade.why == Why::Trailed);
    CHECK(trade.exitPrice ==
          Approx(18.0)); // below the highest close of 20, not the high of the day
    Exits time;
    time.sessions = 2;
    trade = leaving({start, {10, 11, 9, 10}, {10, 11, 9, 10}, {12, 13, 11, 12}}, time);
    CHECK(trade.why == Why::Expired);
    CHECK(*trade.left == 3); // told at the close of the second bar, sold at the next open
    CHECK(trade.exitPrice == Approx(12.0));
    Exits rule;
    rule.onStock = "close < 9";
    trade = leaving({start, {10, 11, 8, 8.5}, {7, 8, 6, 7}, {7, 7, 7, 7}}, rule);
    CHECK(trade.why == Why::RuleOnStock);
    CHECK(trade.exitPrice == Approx(7.0));
    Exits market;
    market.onMarket = "close < prior(close)";
    trade = leaving({start, {10, 11, 9.9, 11}, {11, 11, 9, 10}, {9.5, 10, 9, 10}}, market);
    CHECK(trade.why == Why::RuleOnMarket);
    CHECK(trade.exitPrice == Approx(9.5));
}

TEST_CASE("Portfolio: sold short, with stop, dividend and borrowing", "[studies]")
{
    PortfolioRule rule = plainRule();
    rule.steps[0].screen.side = screens::ScreenSide::Short;
    rule.trading.borrowing = 0.0;
    const std::vector<Row> falls{{10, 10, 10, 10}, {10, 10, 8, 8}, {8, 8, 5, 5}};
    const Portfolio made = ofOne(falls, rule);
    CHECK(made.fills[0].shares == Approx(-100.0));
    CHECK(made.cash[1] == Approx(2000.0));
    CHECK(made.equity[2] == Approx(1500.0));
    CHECK(made.trades[0].change == Approx(0.5));
    rule.exits.stop = 0.10;
    const Portfolio stopped =
        ofOne({{10, 10, 10, 10}, {10, 10.5, 9, 10}, {10, 12, 10, 12}, {12, 12, 12, 12}}, rule);
    CHECK(stopped.trades[0].why == Why::Stopped);
    CHECK(stopped.trades[0].exitPrice == Approx(11.0));
    CHECK(stopped.equity.back() == Approx(900.0));
    rule.exits.stop = 0.0;
    rule.trading.borrowing = 0.252;
    const Portfolio borrowed = ofOne(falls, rule);
    CHECK(borrowed.equity[2] == Approx(1500.0 - 800.0 * 0.001)); // of the worth the day before
    rule.trading.borrowing = 0.0;
    // It more than doubles: the money is gone, and nothing is traded from then on.
    const Portfolio ruined =
        ofOne({{10, 10, 10, 10}, {10, 10, 10, 10}, {20, 25, 20, 25}, {5, 5, 5, 5}}, rule);
    CHECK(ruined.isRuined);
    CHECK(ruined.equity[2] == Approx(-500.0));
    CHECK(ruined.equity[3] == Approx(-500.0));
    CHECK(measuresOf(ruined.returns()).totalReturn == -1.0);
    // A dividend is paid by who sold short, and got by who holds.
    for (const bool isShort : {true, false}) {
        market::InstrumentRecord record =
            stockOf("A", {{10, 10, 10, 10}, {10, 10, 10, 10}, {9, 9, 9, 9}});
        record.actions.push_back({record.bars.days[2], market::ActionKind::Dividend, 1.0});
        engine::Evaluator evaluator(test::marketOf({record}));
        rule.steps[0].screen.side =
            isShort ? screens::ScreenSide::Short : screens::ScreenSide::Long;
        const Portfolio paid = run(rule, evaluator);
        CHECK(paid.equity[2] == Approx(1000.0));
        CHECK(paid.fills.back().why == Why::Dividend);
    }
}

TEST_CASE("Portfolio: splits, halts and delistings between", "[studies]")
{
    SECTION("a split makes more shares of the same money, and stops move with it")
    {
        market::InstrumentRecord record =
            stockOf("A", {{10, 10, 10, 10}, {10, 10, 10, 10}, {5, 5, 5, 5}, {5, 5, 4.2, 5}});
        record.actions.push_back({record.bars.days[2], market::ActionKind::Split, 2.0});
        engine::Evaluator evaluator(test::marketOf({record}));
        PortfolioRule rule = plainRule();
        rule.exits.stop = 0.10;
        const Portfolio made = run(rule, evaluator);
        CHECK(made.equity[2] == Approx(1000.0));
        REQUIRE(made.trades[0].left);
        CHECK(made.trades[0].exitPrice == Approx(4.5));
        CHECK(made.equity[3] == Approx(900.0));
        checkMoney(made, evaluator.market());
    }
    SECTION("a split between the decision and the fill")
    {
        market::InstrumentRecord record = stockOf("A", {{10, 10, 10, 10}, {5, 5, 5, 5}});
        record.actions.push_back({record.bars.days[1], market::ActionKind::Split, 2.0});
        engine::Evaluator evaluator(test::marketOf({record}));
        const Portfolio made = run(plainRule(), evaluator);
        CHECK(made.fills.at(0).shares == Approx(200.0));
    }
    SECTION("a halt on the day of the exit: it is sold on its next bar")
    {
        market::InstrumentRecord a = stockOf("A", std::vector<Row>(6, Row{10, 10, 10, 10}));
        const market::InstrumentRecord b = stockOf("B", std::vector<Row>(6, Row{1, 1, 1, 1}));
        a.bars.close[1] = 5; // the rule says leave
        for (auto* column :
             {&a.bars.open, &a.bars.high, &a.bars.low, &a.bars.close, &a.bars.volume})
            column->erase(column->begin() + 2, column->begin() + 4);
        a.bars.days.erase(a.bars.days.begin() + 2, a.bars.days.begin() + 4);
        engine::Evaluator evaluator(test::marketOf({a, b}));
        PortfolioRule rule = plainRule();
        rule.exits.onStock = "close < 6";
        const Portfolio made = run(rule, evaluator);
        REQUIRE(made.trades[0].left);
        CHECK(*made.trades[0].left == 4);
        CHECK(made.equity[3] == Approx(500.0)); // as at its newest close
        CHECK(made.equity[5] == Approx(1000.0));
    }
    SECTION("delisted the day after the purchase")
    {
        market::InstrumentRecord a = stockOf("A", {{10, 10, 10, 10}, {10, 10, 8, 8}});
        const market::InstrumentRecord b = stockOf("B", std::vector<Row>(4, Row{1, 1, 1, 1}));
        a.instrument.delistedOn = b.bars.days[2];
        engine::Evaluator evaluator(test::marketOf({a, b}));
        const Portfolio made = run(plainRule(), evaluator);
        CHECK(made.trades[0].why == Why::Delisted);
        CHECK(made.equity.back() == Approx(800.0));
        PortfolioRule half = plainRule();
        half.trading.delistedWorth = 0.5;
        CHECK(run(half, evaluator).equity.back() == Approx(400.0));
    }
    SECTION("no bar on the day of the fill: the order lapses")
    {
        market::InstrumentRecord a = stockOf("A", {{10, 10, 10, 10}});
        const market::InstrumentRecord b = stockOf("B", std::vector<Row>(4, Row{1, 1, 1, 1}));
        engine::Evaluator evaluator(test::marketOf({a, b}));
        const Portfolio made = run(plainRule(), evaluator);
        CHECK(made.fills.empty());
        CHECK(made.unfilled == 1);
    }
}

TEST_CASE("Portfolio: steps by the market, shares, places that keep, money by a figure",
          "[studies]")
{
    const market::InstrumentRecord a = stockOf(
        "A", {{10, 10, 10, 10}, {10, 10, 10, 10}, {12, 12, 12, 12}, {8, 8, 8, 8}, {8, 8, 8, 8}});
    const market::InstrumentRecord b = stockOf("B", std::vector<Row>(5, Row{5, 5, 5, 5}));
    engine::Evaluator evaluator(test::marketOf({a, b}));
    PortfolioRule rule = plainRule();
    rule.steps[0].when = "close > prior(close)";
    PortfolioStep other = rule.steps[0];
    other.when = "close < prior(close)";
    other.isSmallestFirst = true;
    rule.steps.push_back(other);
    const Portfolio made = run(rule, evaluator);
    CHECK(made.step == std::vector<int>{-1, -1, 0, 1, -1});
    CHECK(made.unknownMarket == 1); // the first session has none before it
    CHECK(made.held == std::vector<std::size_t>{0, 0, 0, 1, 1});
    CHECK(made.trades.at(0).stock == 0);
    CHECK(made.trades.at(0).why == Why::Switched);
    CHECK(made.trades.at(1).stock == 1);

    PortfolioRule share = plainRule(2);
    share.steps[0].share = 0.5;
    const Portfolio half = run(share, evaluator);
    CHECK(half.cash[1] == Approx(500.0));
    CHECK(half.held[1] == 2);
    share.steps[0].hold = 4; // two were found: their share is a fourth each
    CHECK(run(share, evaluator).cash[1] == Approx(750.0));
    share.steps[0].weightBy = "close";
    share.steps[0].share = 1.0;
    const Portfolio weighted = run(share, evaluator);
    CHECK(weighted.cash[1] == Approx(0.0).margin(1e-6));
    CHECK(std::abs(weighted.fills[0].money) == Approx(1000.0 * 10 / 15));

    // B is overtaken on the last days; it stays while it is among the best two.
    const market::InstrumentRecord c =
        stockOf("C", {{4, 4, 4, 4}, {4, 4, 4, 4}, {6, 6, 6, 6}, {6, 6, 6, 6}, {6, 6, 6, 6}});
    engine::Evaluator two(test::marketOf({b, c}));
    PortfolioRule keeping = plainRule();
    keeping.rebalancing.every = 1;
    CHECK(run(keeping, two).trades.size() == 2);
    keeping.steps[0].keepWithin = 2;
    CHECK(run(keeping, two).trades.size() == 1);
}

TEST_CASE("Portfolio: when stocks are chosen anew", "[studies]")
{
    std::vector<double> closes;
    for (int i = 0; i < 100; ++i)
        closes.push_back(10.0 + i % 7);
    engine::Evaluator evaluator(test::marketOf({test::recordOf("A", closes)}));
    const auto daysOf = [&](Rebalancing::By by, int every, const std::string& condition = {}) {
        PortfolioRule rule = plainRule();
        rule.rebalancing = {by, every, condition, true};
        return run(rule, evaluator).chosenOn;
    };
    CHECK(daysOf(Rebalancing::By::Sessions, 1) == 100);
    CHECK(daysOf(Rebalancing::By::Sessions, 10) == 10);
    CHECK(daysOf(Rebalancing::By::Weeks, 1) == 20); // from a Monday on
    CHECK(daysOf(Rebalancing::By::Weeks, 2) == 10);
    CHECK(daysOf(Rebalancing::By::Months, 1) == 5); // January to May
    CHECK(daysOf(Rebalancing::By::Condition, 1, "close < prior(close)") == 15);
}

TEST_CASE("Portfolio: before a day and from it on", "[studies]")
{
    const Portfolio made = ofOne(
        {{10, 10, 10, 10}, {10, 20, 10, 20}, {20, 20, 10, 10}, {10, 15, 10, 15}}, plainRule());
    const auto sessions = made.sessions;
    const SplitMeasures split = splitMeasures(made, sessions[2]);
    CHECK(split.before.days == 1);
    CHECK(split.before.totalReturn == Approx(1.0));
    CHECK(split.from.days == 2);
    CHECK(split.from.totalReturn == Approx(-0.25));
    CHECK(splitMeasures(made, sessions[0]).before.days == 0);
    CHECK(splitMeasures(made, lastDay()).from.days == 0);
    CHECK((1.0 + split.before.totalReturn) * (1.0 + split.from.totalReturn) ==
          Approx(1.0 + toldOf(made).measures.totalReturn));

    Portfolio aside = made;
    CHECK_FALSE(asideMeasures(aside));
    aside.rule.setAside = sessions[2];
    REQUIRE(asideMeasures(aside));
    CHECK(asideMeasures(aside)->from.totalReturn == Approx(-0.25));
    aside.rule.setAside = sessions[0]; // all of it is set aside
    CHECK_FALSE(asideMeasures(aside));
    aside.rule.setAside = lastDay();
    CHECK_FALSE(asideMeasures(aside));
}

TEST_CASE("Portfolio: rules with a fault are told, and files come back", "[studies]")
{
    CHECK(faultOf(plainRule()) == "none");
    PortfolioRule rule = plainRule();
    rule.steps.clear();
    CHECK(faultOf(rule).find("0 steps") != std::string::npos);
    rule = plainRule(0);
    CHECK(faultOf(rule).find("0 stocks") != std::string::npos);
    rule = plainRule();
    rule.steps[0].share = 1.5;
    CHECK(faultOf(rule).find("share of the money") != std::string::npos);
    rule = plainRule();
    rule.steps[0].when = "close >";
    CHECK(faultOf(rule).find("in 'close >'") != std::string::npos);
    rule = plainRule();
    rule.steps[0].screen.rankBy = "close > 1";
    CHECK(faultOf(rule).find("rank") != std::string::npos);
    rule = plainRule();
    rule.exits.onStock = "nosuch > 1";
    CHECK(faultOf(rule).find("nosuch") != std::string::npos);
    rule = plainRule();
    rule.trading.costShare = -0.1;
    CHECK(faultOf(rule) != "none");
    rule = plainRule();
    rule.from = day("2030-01-01");
    CHECK(faultOf(rule).find("no session") != std::string::npos);
    rule = plainRule();
    rule.steps[0].when = "no_data > 1"; // never known
    engine::Evaluator evaluator(test::marketOf({test::recordOf("A", {1, 2, 3})}));
    const Portfolio never = run(rule, evaluator);
    CHECK(never.unknownMarket == 3);
    CHECK(never.fills.empty());
    CHECK(never.equity.back() == 1000.0);
    CHECK(isMissing(toldOf(never).measures.sharpe));

    PortfolioRule full = plainRule(7);
    full.steps[0].screen.universe = "close > 1";
    full.steps[0].when = "close > 3";
    full.setAside = day("2020-09-01");
    full.steps[0].isSmallestFirst = true;
    full.steps[0].keepWithin = 12;
    full.steps[0].weightBy = "1 / volume";
    full.steps[0].share = 0.75;
    full.steps[0].screen.side = screens::ScreenSide::Short;
    PortfolioStep cash;
    cash.isCash = true;
    full.steps.push_back(cash);
    full.rebalancing = {Rebalancing::By::Condition, 3, "close > 9", false};
    full.exits = {0.1, 0.2, 0.3, 40, "close < 5", "close < 6"};
    full.trading = {5e4, Trading::FilledAt::Limit, 0.01, 2.5, 0.002, 0.003, 0.04, true, false, 0.05,
                    0.6};
    full.from = day("2021-02-03");
    full.to = day("2022-02-03");
    const ScreenNamed none = [](std::string_view) { return std::nullopt; };
    const auto back = portfolioFromToml(toToml(full), none);
    if (!back)
        FAIL(sentence(back.error()));
    CHECK(*back == full);
    const auto faultIn = [&](const char* toml) {
        const auto read = portfolioFromToml(toml, none);
        return read ? std::string("none") : sentence(read.error());
    };
    CHECK(faultIn("").find("no step") != std::string::npos);
    CHECK(faultIn("[[step]]\ncriteria = [\"close > 1\"]\nholds = 3\n").starts_with("Line 3"));
    CHECK(faultIn("[[step]]\ncriteria = [\"close > 1\"]\n[exits]\nstop = \"x\"\n")
              .starts_with("Line 4"));
    CHECK(faultIn("exits = 3\n[[step]]\ncriteria = [\"close > 1\"]\n").find("no table") !=
          std::string::npos);
    CHECK(faultIn("[[step]]\ncriteria = [\"close > 1\"]\n[trading]\nfilled_at = \"noon\"\n")
              .find("noon") != std::string::npos);
}

} // namespace sieve::studies
