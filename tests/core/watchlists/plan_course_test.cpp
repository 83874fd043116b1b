#include "core/watchlists/plan_course.h"

#include "core/market/as_of.h"
#include "core/screens/name_book.h"
#include "tests/core/made_market.h"

#include <algorithm>
#include <catch2/catch.hpp>
#include <random>

namespace sieve::watchlists {

namespace {

using test::day;
using State = PlanState;

/// Bars on weekdays from Monday 2024-01-01.
class Bars {
public:
    Bars& add(double open, double high, double low, double close)
    {
        const Day next = bars_.size() == 0 ? day("2024-01-01") : bars_.days.back().plusWeekdays(1);
        bars_.add({next, open, high, low, close, 1000.0});
        return *this;
    }
    Bars& flat(double close) { return add(close, close, close, close); }
    market::BarsView view() const { return bars_.view(); }
    Day last() const { return bars_.days.back(); }

private:
    market::Bars bars_;
};

TradePlan planFor(const char* on, double entry, double stop, std::vector<double> targets = {})
{
    return {day(on), entry, stop, std::move(targets)};
}

PlanCourse courseOf(const TradePlan& plan, const Bars& bars, std::vector<Trade> trades = {},
                    PlanFigures figures = {})
{
    return courseOf(std::span(&plan, 1), std::span(&figures, 1), trades, bars.view(), {});
}

std::vector<State> statesOf(const PlanCourse& course)
{
    std::vector<State> states;
    for (const StateChange& change : course.changes)
        states.push_back(change.state);
    return states;
}
using States = std::vector<State>;

} // namespace

TEST_CASE("Plan states: from waiting to run too far and back", "[watchlists]")
{
    Bars bars;
    bars.flat(36).flat(38).flat(39).add(39.5, 40.5, 39, 40.2).flat(43).flat(41);
    const TradePlan plan = planFor("2024-01-01", 40, 35, {50});
    const PlanCourse course = courseOf(plan, bars);
    CHECK(statesOf(course) == States{State::Waiting, State::Near, State::Triggered,
                                     State::RunTooFar, State::Triggered});
    CHECK(course.changes[1].on == day("2024-01-03")); // 38 is 5 % away, 39 is 2.5 %
    CHECK(course.changes[2].on == day("2024-01-04"));
    CHECK(course.changes[2].price == 40.2);
    CHECK(course.enteredOn == day("2024-01-04"));
    CHECK(course.enteredAt == 40.0);
    CHECK(course.plan == plan);
}

TEST_CASE("Plan states: a gap over the entry is bought at the open", "[watchlists]")
{
    Bars bars;
    bars.flat(38).add(41, 42, 40.5, 41.5);
    CHECK(courseOf(planFor("2024-01-01", 40, 35), bars).enteredAt == 41.0);
    Bars falling; // an entry from above
    falling.flat(44).add(39, 41, 38.5, 40.5);
    const PlanCourse course = courseOf(planFor("2024-01-01", 40, 35), falling);
    CHECK(course.state() == State::Triggered);
    CHECK(course.enteredAt == 39.0);
}

TEST_CASE("Plan states: the day of the plan itself triggers nothing", "[watchlists]")
{
    Bars bars;
    bars.flat(36).add(38, 42, 37, 38).flat(38);
    CHECK(statesOf(courseOf(planFor("2024-01-02", 40, 35), bars)) == States{State::Waiting});
    SECTION("unless the entry is the close itself")
    {
        const PlanCourse course = courseOf(planFor("2024-01-02", 38, 35), bars);
        CHECK(statesOf(course) == States{State::Triggered});
        CHECK(course.enteredOn == day("2024-01-02"));
    }
}

TEST_CASE("Plan states: broken before it was bought, and so it stays", "[watchlists]")
{
    Bars bars;
    bars.flat(38).add(37, 37, 33, 36).flat(35).flat(41);
    const PlanCourse course = courseOf(planFor("2024-01-01", 40, 35), bars);
    // A low under the stop is not yet a close at it.
    CHECK(statesOf(course) == States{State::Waiting, State::Broken});
    CHECK(course.changes[1].on == day("2024-01-03"));
}

TEST_CASE("Plan states: an entry from above is gone without it at the target", "[watchlists]")
{
    Bars bars;
    bars.flat(44).flat(47).flat(50).flat(41).flat(40);
    const PlanCourse course = courseOf(planFor("2024-01-01", 40, 35, {49}), bars);
    CHECK(statesOf(course) ==
          States{State::Waiting, State::RunTooFar, State::Near, State::Triggered});
}

TEST_CASE("Plan states: held, target after target, stop", "[watchlists]")
{
    Bars bars;
    bars.flat(38).flat(40).add(41, 46, 40, 44).add(44, 51, 44, 50).add(48, 48, 34, 36).flat(39);
    const TradePlan plan = planFor("2024-01-01", 40, 35, {45, 50, 60});
    const PlanCourse course = courseOf(plan, bars, {{day("2024-01-02"), 40, 100}});
    CHECK(statesOf(course) == States{State::Waiting, State::Held, State::TargetReached,
                                     State::TargetReached, State::StopReached});
    CHECK(course.changes[2].target == 1);
    CHECK(course.changes[3].target == 2);
    CHECK(course.changes[3].on == day("2024-01-04"));
    CHECK(course.changes[4].on == day("2024-01-05"));
    CHECK(course.changes[3].level == 50.0);
    CHECK(course.changes[4].level == 35.0);
    CHECK(isMissing(course.changes[1].level));
    SECTION("and sold")
    {
        const PlanCourse sold = courseOf(
            plan, bars, {{day("2024-01-02"), 40, 100}, {day("2024-01-05"), 36, -100, "stop"}});
        CHECK(sold.state() == State::Sold);
    }
    SECTION("part of it sold is still held")
    {
        const PlanCourse part =
            courseOf(plan, bars, {{day("2024-01-02"), 40, 100}, {day("2024-01-04"), 50, -50}});
        CHECK(part.state() == State::StopReached);
    }
}

TEST_CASE("Plan states: on the day of the purchase the close alone counts", "[watchlists]")
{
    Bars bars;
    bars.flat(38).add(36, 52, 34, 41).flat(41);
    CHECK(courseOf(planFor("2024-01-01", 40, 35, {50}), bars, {{day("2024-01-02"), 40, 10}})
              .state() == State::Held);
}

TEST_CASE("Plan states: rules move entry and stop, and say when to leave", "[watchlists]")
{
    Bars bars;
    bars.flat(38).flat(39).flat(41).add(41, 41, 37.5, 40).flat(42);
    PlanFigures figures;
    figures.entry = {40, 40.5, 40.8, 41, 41};
    figures.stop = {missing, 36, 37, 38, 39};
    const TradePlan plan = planFor("2024-01-01", 40, 35);
    const PlanCourse course = courseOf(plan, bars, {}, figures);
    CHECK(course.enteredOn == day("2024-01-03"));
    CHECK(course.enteredAt == 41.0);
    CHECK(course.plan->entry == 41.0);
    CHECK(course.plan->stop == 39.0);
    const std::vector<Trade> bought{{day("2024-01-03"), 41, 10}};
    CHECK(courseOf(plan, bars, bought, figures).state() == State::StopReached); // 37.5 under 38
    figures.stop.clear();
    figures.exit = {0, 0, 0, 1, 0};
    const PlanCourse left = courseOf(plan, bars, bought, figures);
    CHECK(statesOf(left) == States{State::Waiting, State::Held, State::ExitSaysLeave, State::Held});
}

TEST_CASE("Plan states: an entry on a condition is bought at that close", "[watchlists]")
{
    Bars bars;
    bars.flat(38).flat(39.9).flat(44).flat(45);
    PlanFigures figures;
    figures.isEntryCondition = true;
    figures.entry = {1, 0, 1, missing};
    const PlanCourse course = courseOf(planFor("2024-01-01", 40, 35), bars, {}, figures);
    CHECK(statesOf(course) == States{State::Waiting, State::Triggered});
    CHECK(course.enteredAt == 44.0);
    CHECK(course.plan->entry == 40.0);
}

TEST_CASE("Plan states: another plan begins anew, and the days before stay as they were",
          "[watchlists]")
{
    Bars bars;
    bars.flat(38).flat(34).flat(36).flat(41).flat(42);
    const TradePlan plans[] = {planFor("2024-01-01", 40, 35), planFor("2024-01-03", 41, 33)};
    const PlanFigures none[2];
    const PlanCourse course = courseOf(plans, none, {}, bars.view(), {});
    CHECK(statesOf(course) ==
          States{State::Waiting, State::Broken, State::Waiting, State::Triggered});
    CHECK(course.changes[1].on == day("2024-01-02"));
    CHECK(course.plan == plans[1]);
}

TEST_CASE("Plan states: bought without a plan is held, and can be sold", "[watchlists]")
{
    auto record = test::recordOf("AAAA", {38, 40, 42, 44, 46});
    engine::Evaluator evaluator(test::marketOf({record}));
    Entry entry{"AAAA", day("2024-01-01"), 38.0};
    REQUIRE(addTrade(entry, {day("2024-01-03"), 42.0, 10.0}).empty());
    const screens::NameBook book;
    const auto stateOn = [&](const char* on) {
        return coursesOf(std::span(&entry, 1), evaluator, book.names(), {}, day(on)).at(0).state();
    };
    CHECK(stateOn("2024-01-02") == State::None);
    CHECK(stateOn("2024-01-04") == State::Held);
    setPlan(entry, planFor("2024-01-04", 42, 40, {45.5}));
    CHECK(stateOn("2024-01-04") == State::Held);
    CHECK(stateOn("2024-01-05") == State::TargetReached);
    REQUIRE(addTrade(entry, {day("2024-01-05"), 46.0, -10.0}).empty());
    CHECK(stateOn("2024-01-05") == State::Sold);
    setPlan(entry, std::nullopt);
    CHECK(stateOn("2024-01-05") == State::Sold);
}

TEST_CASE("Plan states: rules of the language, and those that do not check", "[watchlists]")
{
    engine::Evaluator evaluator(test::marketOf({test::recordOf("AAAA", {38, 39, 41, 37, 42}),
                                                test::recordOf("BBBB", {20, 21, 22, 23, 24})}));
    std::vector<Entry> entries{{"AAAA", day("2024-01-01"), 38.0},
                               {"BBBB", day("2024-01-01"), 20.0},
                               {"ZZZZ", day("2024-01-01")}};
    for (Entry& entry : entries)
        entry.plan = planFor("2024-01-01", 40, 15);
    entries[0].plan->entryRule = "highest(close, 2)";
    entries[0].plan->stopRule = "close > 5"; // no price
    entries[1].plan->entryRule = "close >= 23";
    entries[1].plan->exitRule = "no_such_field > 1";
    const screens::NameBook book;
    const auto courses = coursesOf(entries, evaluator, book.names(), {}, day("2024-01-05"));
    CHECK(courses[0].errors.size() == 1);
    CHECK(courses[0].plan->entry == 42.0);
    CHECK(courses[0].plan->stop == 15.0);
    CHECK(courses[1].errors.size() == 1);
    CHECK(courses[1].enteredOn == day("2024-01-04"));
    CHECK(courses[1].enteredAt == 23.0);
    CHECK(courses[2].changes.empty()); // the market does not have it
}

namespace {

/// Entries with plans, rules, several plans and trades on stocks of a market, as of its days.
std::vector<Entry> anyEntries(const market::Market& market, std::mt19937& random)
{
    const auto within = [&](double least, double most) {
        return std::uniform_real_distribution(least, most)(random);
    };
    std::vector<Entry> entries;
    for (std::size_t stock = 0; stock < market.size(); ++stock) {
        const auto& bars = market.bars(stock);
        if (bars.size() < 60)
            continue;
        for (int round = 0; round < 4; ++round) {
            std::size_t bar =
                std::uniform_int_distribution<std::size_t>(0, bars.size() - 40)(random);
            const auto planNow = [&] {
                const double close = bars.close[bar];
                TradePlan plan{bars.days[bar], close * within(0.92, 1.08), 0.0, {}};
                plan.stop = plan.entry * within(0.85, 0.99);
                plan.targets = {plan.entry * within(1.02, 1.1), plan.entry * within(1.11, 1.3)};
                if (round == 1)
                    plan.entryRule = "sma(close, 10)";
                if (round == 2)
                    plan.stopRule = "lowest(low, 10)";
                if (round == 3)
                    plan.exitRule = "close < sma(close, 5)";
                return plan;
            };
            const Day added = bars.days[bar];
            Entry entry{market::symbolOn(market.instrument(stock), added), added, bars.close[bar]};
            entry.plan = planNow();
            for (const std::size_t step : {7U, 11U}) {
                bar += step;
                if (within(0, 1) < 0.5)
                    addTrade(entry,
                             {bars.days[bar], bars.close[bar], within(0, 1) < 0.7 ? 10.0 : -10.0});
                if (within(0, 1) < 0.3)
                    setPlan(entry, planNow());
            }
            entries.push_back(std::move(entry));
        }
    }
    return entries;
}

std::vector<StateChange> changesUpTo(const PlanCourse& course, Day day)
{
    std::vector<StateChange> changes;
    std::ranges::copy_if(course.changes, std::back_inserter(changes),
                         [day](const StateChange& change) { return change.on <= day; });
    return changes;
}

} // namespace

TEST_CASE("Plan states: nothing that comes later changes what was told", "[watchlists]")
{
    const auto records = test::eventfulRecords();
    engine::Evaluator whole(test::marketOf(records));
    std::mt19937 random(23);
    const auto entries = anyEntries(whole.market(), random);
    const screens::NameBook book;
    const auto sessions = whole.market().sessions();
    const auto last = coursesOf(entries, whole, book.names(), {}, sessions.back());
    std::size_t seen = 0;
    for (const std::size_t place : {90U, 150U, 201U, 260U}) {
        const Day today = sessions[place];
        INFO(today.iso());
        engine::Evaluator cut(test::cutAfter(records, today));
        const auto then = coursesOf(entries, whole, book.names(), {}, today);
        const auto alone = coursesOf(entries, cut, book.names(), {}, today);
        for (std::size_t i = 0; i < entries.size(); ++i) {
            INFO(entries[i].symbol << " of " << entries[i].addedOn.iso());
            CHECK(then[i].changes == alone[i].changes);
            const auto told = changesUpTo(last[i], today);
            REQUIRE(told.size() == then[i].changes.size());
            for (std::size_t k = 0; k < told.size(); ++k) { // prices may stand on another footing
                CHECK(told[k].on == then[i].changes[k].on);
                CHECK(told[k].state == then[i].changes[k].state);
            }
            seen += told.size();
        }
    }
    CHECK(seen > 300);
}

TEST_CASE("Plan states: a rule says of each day what it said then, whatever splits came later",
          "[watchlists]")
{
    auto record = test::recordOf("AAAA", {38, 39, 51, 26, 27}); // two for one on the fourth day
    record.actions.push_back({record.bars.days[3], market::ActionKind::Split, 2.0});
    engine::Evaluator evaluator(test::marketOf({record}));
    Entry entry{"AAAA", day("2024-01-01"), 38.0};
    entry.plan = planFor("2024-01-01", 60, 30);
    entry.plan->entryRule = "close > 50";
    const screens::NameBook book;
    const auto course =
        coursesOf(std::span(&entry, 1), evaluator, book.names(), {}, day("2024-01-05")).at(0);
    CHECK(course.enteredOn == day("2024-01-03"));
    CHECK(course.enteredAt == Approx(25.5)); // in today's shares
    entry.plan->entryRule = "close + 9";     // a price: of 47, 48, 60, 35 and 36 then
    const auto moved =
        coursesOf(std::span(&entry, 1), evaluator, book.names(), {}, day("2024-01-05")).at(0);
    CHECK(moved.plan->entry == Approx(36.0));
    const auto before =
        coursesOf(std::span(&entry, 1), evaluator, book.names(), {}, day("2024-01-03")).at(0);
    CHECK(before.plan->entry == Approx(60.0));
}

TEST_CASE("Plan states: a split changes none of them", "[watchlists]")
{
    std::mt19937 random(7);
    std::normal_distribution<double> move(0.001, 0.02);
    std::vector<double> closes{50.0};
    while (closes.size() < 120)
        closes.push_back(closes.back() * std::exp(move(random)));
    auto plain = test::recordOf("AAAA", closes);
    auto split = plain;
    constexpr std::size_t at = 60;
    for (std::size_t bar = at; bar < closes.size(); ++bar) {
        for (auto* column :
             {&split.bars.open, &split.bars.high, &split.bars.low, &split.bars.close})
            (*column)[bar] /= 4.0;
        split.bars.volume[bar] *= 4.0;
    }
    split.actions.push_back({split.bars.days[at], market::ActionKind::Split, 4.0});
    engine::Evaluator before(test::marketOf({plain}));
    engine::Evaluator after(test::marketOf({split}));
    auto entries = anyEntries(before.market(), random);
    for (int more = 0; more < 40; ++more)
        std::ranges::move(anyEntries(before.market(), random), std::back_inserter(entries));
    auto same = entries;
    const auto inFour = [&](TradePlan& plan) {
        if (plan.on < split.bars.days[at])
            return;
        plan.entry /= 4.0;
        plan.stop /= 4.0;
        for (double& target : plan.targets)
            target /= 4.0;
    };
    for (Entry& entry : same) {
        inFour(*entry.plan);
        std::ranges::for_each(entry.page.formerPlans, inFour);
        for (Trade& trade : entry.page.trades)
            if (trade.on >= split.bars.days[at]) {
                trade.price /= 4.0;
                trade.shares *= 4.0;
            }
    }
    const screens::NameBook book;
    const Day today = before.market().sessions().back();
    const auto a = coursesOf(entries, before, book.names(), {}, today);
    const auto b = coursesOf(same, after, book.names(), {}, today);
    for (std::size_t i = 0; i < entries.size(); ++i) {
        INFO(i);
        CHECK(statesOf(a[i]) == statesOf(b[i]));
    }
}

} // namespace sieve::watchlists
