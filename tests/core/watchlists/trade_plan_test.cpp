#include "core/watchlists/trade_plan.h"

#include "core/watchlists/stocks.h"
#include "tests/core/made_market.h"

#include <catch2/catch.hpp>

namespace sieve::watchlists {

namespace {

using test::day;
using What = PlanLevel::What;

TradePlan planOf40()
{
    return {day("2024-02-01"), 40.0, 38.0, {44.0, 50.0}};
}

} // namespace

TEST_CASE("Plan: size by hand", "[watchlists]")
{
    // 1 % of 100,000 is lost over 2 a share: 500 shares, worth 20,000.
    const PlanSize size = sizeOf(planOf40(), {100'000.0, 0.01});
    CHECK(size.shares == 500.0);
    CHECK(size.half == 250.0);
    CHECK(size.worth == 20'000.0);
    CHECK(size.lost == 1000.0);
    CHECK(size.ofAccount == Approx(0.01));
    CHECK(size.rewards == std::vector{2.0, 5.0});
    // The account cannot pay for more than 250 shares, whatever may be lost.
    CHECK(sizeOf(planOf40(), {10'000.0, 0.5}).shares == 250.0);
    TradePlan fixed = planOf40();
    fixed.shares = 33.0;
    CHECK(sizeOf(fixed, {10'000.0, 0.5}).half == 16.0);
    CHECK(sizeOf(fixed, {10'000.0, 0.5}).lost == 66.0);
    TradePlan wrong = planOf40();
    wrong.stop = 41.0;
    CHECK(isMissing(sizeOf(wrong, {}).shares));
}

TEST_CASE("Plan: what cannot be is told", "[watchlists]")
{
    CHECK(faultOf(planOf40()).empty());
    const auto fault = [](auto change) {
        TradePlan plan = planOf40();
        change(plan);
        return faultOf(plan);
    };
    CHECK_FALSE(fault([](TradePlan& plan) { plan.entry = missing; }).empty());
    CHECK_FALSE(fault([](TradePlan& plan) { plan.entry = -1.0; }).empty());
    CHECK_FALSE(fault([](TradePlan& plan) { plan.stop = missing; }).empty());
    CHECK_FALSE(fault([](TradePlan& plan) { plan.stop = 40.0; }).empty());
    CHECK_FALSE(fault([](TradePlan& plan) { plan.stop = 0.0; }).empty());
    CHECK_FALSE(fault([](TradePlan& plan) { plan.targets = {40.0}; }).empty());
    CHECK_FALSE(fault([](TradePlan& plan) { plan.targets = {50.0, 50.0}; }).empty());
    CHECK_FALSE(fault([](TradePlan& plan) { plan.targets = {41, 42, 43, 44, 45}; }).empty());
    CHECK_FALSE(fault([](TradePlan& plan) { plan.shares = 0.0; }).empty());
    CHECK(fault([](TradePlan& plan) { plan.targets.clear(); }).empty());
}

TEST_CASE("Plan: a level that is moved stops before the next one", "[watchlists]")
{
    const TradePlan plan = planOf40();
    CHECK(withLevel(plan, {What::Stop}, 36.0).stop == 36.0);
    CHECK(withLevel(plan, {What::Stop}, 45.0).stop == Approx(39.6));
    CHECK(withLevel(plan, {What::Stop}, -3.0).stop == Approx(0.4));
    CHECK(withLevel(plan, {What::Entry}, 42.0).entry == 42.0);
    CHECK(withLevel(plan, {What::Entry}, 60.0).entry == Approx(43.6));
    CHECK(withLevel(plan, {What::Entry}, 1.0).entry == Approx(38.4));
    CHECK(withLevel(plan, {What::Target, 0}, 47.0).targets[0] == 47.0);
    CHECK(withLevel(plan, {What::Target, 0}, 90.0).targets[0] == Approx(49.6));
    CHECK(withLevel(plan, {What::Target, 0}, 10.0).targets[0] == Approx(40.4));
    CHECK(withLevel(plan, {What::Target, 1}, 10.0).targets[1] == Approx(44.4));
    // Wherever any level is put, in whatever order, it stays a plan.
    TradePlan moved = planOf40();
    for (int i = 0; i < 400; ++i) {
        const double price = 0.5 + (i * 37 % 101);
        const PlanLevel levels[] = {
            {What::Stop}, {What::Entry}, {What::Target, 0}, {What::Target, 1}};
        moved = withLevel(moved, levels[i % 4], price);
        INFO(i << ": " << toToml(moved));
        REQUIRE(faultOf(moved).empty());
    }
}

TEST_CASE("Plan: comes back from TOML, what is wrong is located", "[watchlists]")
{
    TradePlan plan = planOf40();
    CHECK(*tradePlanFromToml(toToml(plan)) == plan);
    plan.shares = 120.0;
    plan.isHalfNow = true;
    plan.targets.clear();
    plan.entry = 40.123456789012345;
    CHECK(*tradePlanFromToml(toToml(plan)) == plan);
    CHECK(tradePlanFromToml("on = '2024-02-01'\nentry = 4\nstop = 3\ntargets = [5, 6.5]"));
    CHECK_FALSE(tradePlanFromToml(""));
    CHECK_FALSE(tradePlanFromToml("on = '2024-02-01'\nentry = 4\nstop = 5"));
    CHECK_FALSE(tradePlanFromToml("on = '2024-02-01'\nentry = '4'\nstop = 3"));
    CHECK_FALSE(tradePlanFromToml("on = '2024-02-01'\nentry = 4\nstop = 3\ntargets = ['x']"));
    CHECK_FALSE(tradePlanFromToml("on = '2024-02-01'\nentry = inf\nstop = 3"));
    const auto unknown = tradePlanFromToml("on = '2024-02-01'\nentry = 4\nstop = 3\nmood = 1");
    REQUIRE_FALSE(unknown);
    CHECK(unknown.error().where.line == 4);
}

TEST_CASE("Plan: stands with card or entry, in the prices of the day after a split", "[watchlists]")
{
    auto record = test::recordOf("KELP.C", std::vector<double>(200, 40.0));
    for (std::size_t bar = 100; bar < 200; ++bar) // two for one
        for (auto* column :
             {&record.bars.open, &record.bars.high, &record.bars.low, &record.bars.close})
            (*column)[bar] /= 2.0;
    const Day splitOn = record.bars.days[100];
    record.actions.push_back({splitOn, market::ActionKind::Split, 2.0});
    const auto market = test::marketOf({record});
    TradePlan plan = planOf40();
    plan.shares = 10.0;
    Watchlist list{1, "Mine", {{"KELP.C", day("2024-02-01"), 40.0, {}, {}, plan}}};
    const Day before = record.bars.days[99];
    const Day later = record.bars.days[150];
    CHECK(planOf({}, &list, *market, 0, before)->entry == 40.0);
    const auto now = planOf({}, &list, *market, 0, later);
    REQUIRE(now);
    CHECK(now->entry == 20.0);
    CHECK(now->stop == 19.0);
    CHECK(now->targets == std::vector{22.0, 25.0});
    CHECK(now->shares == 20.0);
    CHECK(now->on == later);
    CHECK(onDay(*now, *market, 0, later) == *now); // it is not divided twice
    CHECK_FALSE(planOf({}, nullptr, *market, 0, later));
    Tray tray(cardsOf(*market, std::vector<std::size_t>{0}, before, {}));
    CHECK(planOf(tray, &list, *market, 0, before)->entry == 40.0);
    TradePlan own = planOf40();
    own.on = before;
    own.entry = 41.0;
    tray.setPlan(0, own);
    CHECK(planOf(tray, &list, *market, 0, before)->entry == 41.0); // the card's comes first
    const Tray again = filled(tray, *market, std::vector<std::size_t>{0}, later, {});
    CHECK(again.cards()[0].plan == own);
}

} // namespace sieve::watchlists
