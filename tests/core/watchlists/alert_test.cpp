#include "core/watchlists/alert_watch.h"

#include "core/screens/name_book.h"
#include "core/screens/run.h"
#include "tests/core/made_market.h"

#include <algorithm>
#include <catch2/catch.hpp>

namespace sieve::watchlists {

namespace {

using test::day;
using What = Alert::What;
using Repeat = Alert::Repeat;

Alert levelAt(double level, const char* since = "2024-01-01", Repeat repeat = Repeat::Once)
{
    Alert alert;
    alert.id = 7;
    alert.what = What::Level;
    alert.about.symbol = "AAAA";
    alert.since = day(since);
    alert.level = level;
    alert.repeat = repeat;
    return alert;
}

Alert ruleOn(const std::string& rule, std::int64_t list, Repeat repeat = Repeat::EachCrossing)
{
    Alert alert;
    alert.id = 8;
    alert.what = What::Rule;
    alert.rule = rule;
    alert.about.list = list;
    alert.since = day("2024-01-01");
    alert.repeat = repeat;
    return alert;
}

/// A market with alerts and lists over it.
struct Watching {
    engine::Evaluator evaluator;
    screens::NameBook book;
    std::vector<Shared<Alert>> alerts;
    std::vector<Shared<Watchlist>> lists;

    explicit Watching(market::MarketPtr market) : evaluator(std::move(market)) {}

    std::vector<Raised> told(const Alert& alert, const char* after = "2024-01-01",
                             const char* to = "2024-12-31")
    {
        alerts = {alert};
        return watch({alerts, lists}, evaluator, book.names(), day(after), day(to)).raised;
    }
    std::vector<std::string> days(const Alert& alert, const char* after = "2024-01-01",
                                  const char* to = "2024-12-31")
    {
        std::vector<std::string> days;
        for (const Raised& raised : told(alert, after, to))
            days.push_back(raised.on.iso());
        return days;
    }
};
using Days = std::vector<std::string>;

/// Closes from Monday 2024-01-01; highs and lows are a percent away.
market::MarketPtr oneStock(const std::vector<double>& closes)
{
    return test::marketOf({test::recordOf("AAAA", closes)});
}

} // namespace

TEST_CASE("Alert: a level is told when it is reached, from the side on which the price stood",
          "[watchlists]")
{
    Watching above(oneStock({38, 39, 39.8, 41, 38, 40.5, 41}));
    // The high of the third day is 40.198.
    CHECK(above.days(levelAt(40)) == Days{"2024-01-03"});
    CHECK(above.days(levelAt(40, "2024-01-01", Repeat::EachCrossing)) ==
          Days{"2024-01-03", "2024-01-08"});
    CHECK(above.days(levelAt(40, "2024-01-01", Repeat::OnceADay)) ==
          Days{"2024-01-03", "2024-01-04", "2024-01-08", "2024-01-09"});
    // It is set at a close above: told when the price comes down to it.
    CHECK(above.days(levelAt(40, "2024-01-04")) == Days{"2024-01-05"});
    const auto told = above.told(levelAt(40)).at(0);
    CHECK(told.symbol == "AAAA");
    CHECK(told.value == 39.8); // the close of the day
    CHECK(told.alert == 7);
    CHECK(told.words == "reached 40.00");
    CHECK(above.days(levelAt(90)).empty());
}

TEST_CASE("Alert: a level stays where it is when shares are split", "[watchlists]")
{
    auto record = test::recordOf("AAAA", {38, 39, 19.8, 20.4, 19}); // two for one on the third day
    record.actions.push_back({record.bars.days[2], market::ActionKind::Split, 2.0});
    Watching split(test::marketOf({record}));
    CHECK(split.days(levelAt(40.5)) == Days{"2024-01-04"}); // 20.25 by then
    CHECK(split.told(levelAt(40.5)).at(0).value == 20.4);
}

TEST_CASE("Alert: held off, quiet and off", "[watchlists]")
{
    Watching watching(oneStock({38, 41, 38, 41, 38, 41, 38, 41, 38, 41}));
    Alert alert = levelAt(40, "2024-01-01", Repeat::EachCrossing);
    CHECK(watching.days(alert) ==
          Days{"2024-01-02", "2024-01-04", "2024-01-08", "2024-01-10", "2024-01-12"});
    alert.holdOff = 3; // not within three sessions after it was told
    CHECK(watching.days(alert) == Days{"2024-01-02", "2024-01-08", "2024-01-12"});
    alert.holdOff = 0;
    alert.quietTo = day("2024-01-08");
    CHECK(watching.days(alert) == Days{"2024-01-10", "2024-01-12"});
    alert.repeat = Repeat::Once; // what was not told does not count
    CHECK(watching.days(alert) == Days{"2024-01-10"});
    alert.isOn = false;
    CHECK(watching.days(alert).empty());
}

TEST_CASE("Alert: a rule of each stock on a list, while it is on it", "[watchlists]")
{
    Watching watching(test::marketOf({test::recordOf("AAAA", {5, 6, 7, 8, 9, 6, 9}),
                                      test::recordOf("BBBB", {9, 9, 9, 9, 9, 9, 9}),
                                      test::recordOf("CCCC", {9, 5, 9, 5, 9, 5, 9})}));
    Watchlist list{3, "Quay", {{"AAAA", day("2024-01-01")}, {"BBBB", day("2024-01-04")}}};
    list.former = {{{"CCCC", day("2024-01-01")}, day("2024-01-04")}};
    watching.lists = {list};
    const auto told = watching.told(ruleOn("close > 7.5", 3));
    std::vector<std::string> said;
    for (const Raised& raised : told)
        said.push_back(raised.symbol + " " + raised.on.iso());
    CHECK(said == std::vector<std::string>{
                      "CCCC 2024-01-03", // on it from the 1st to the 3rd
                      "AAAA 2024-01-04", // crosses
                      "BBBB 2024-01-04", // held before it came; told when it came
                      "AAAA 2024-01-09", // once more
                  });
    CHECK(told[1].value == 8.0); // what the rule limits
    CHECK(told[1].words == "close > 7.5");
    CHECK(watching.told(ruleOn("close > 7.5", 0)).size() == 4); // all lists
    CHECK(watching.told(ruleOn("close > 7.5", 99)).empty());    // a list that is gone
}

TEST_CASE("Alert: a rule that does not check says so, and the others go on", "[watchlists]")
{
    Watching watching(oneStock({38, 41}));
    Alert wrong = ruleOn("close >", 0);
    wrong.about = {"AAAA", 0};
    watching.alerts = {wrong, levelAt(40)};
    const Watched watched = watch({watching.alerts, {}}, watching.evaluator, watching.book.names(),
                                  day("2024-01-01"), day("2024-01-31"));
    CHECK(watched.raised.size() == 1);
    REQUIRE(watched.errors.size() == 1);
    CHECK(watched.errors[0].first == wrong.id);
}

TEST_CASE("Alert: reports, reviews, plans and comings", "[watchlists]")
{
    auto record = test::recordOf("AAAA", {38, 39, 41, 36, 34, 33, 33, 33});
    record.calendar = {{day("2024-01-10"), market::CalendarKind::Report}};
    Watching watching(test::marketOf({record, test::recordOf("BBBB", {1, 2, 3, 4, 5, 6, 7, 8})}));
    Watchlist list{3, "Quay", {{"AAAA", day("2024-01-01"), 38.0, "cheap"}}};
    list.entries[0].plan = TradePlan{day("2024-01-01"), 40.0, 35.0};
    list.entries[0].page.reviewOn = day("2024-01-06"); // a Saturday
    list.entries.push_back({"BBBB", day("2024-01-03")});
    watching.lists = {list};
    Alert alert = ruleOn("", 3);
    alert.what = What::Report;
    alert.days = 3;
    CHECK(watching.days(alert) == Days{"2024-01-05"}); // Friday: three weekdays to Wednesday
    alert.what = What::Review;
    const auto review = watching.told(alert);
    REQUIRE(review.size() == 1);
    CHECK(review[0].on == day("2024-01-08")); // the first session
    CHECK(review[0].words.find("cheap") != std::string::npos);
    alert.what = What::State;
    std::vector<std::string> states;
    for (const Raised& raised : watching.told(alert))
        states.push_back(raised.on.iso() + raised.words);
    CHECK(states == std::vector<std::string>{"2024-01-02Quay: near", "2024-01-03Quay: triggered",
                                             "2024-01-05Quay: broken"});
    alert.what = What::Change;
    const auto moved = watching.told(alert);
    REQUIRE(moved.size() == 1);
    CHECK(moved[0].on == day("2024-01-03"));
    CHECK(moved[0].words == "Quay: came: BBBB");
}

TEST_CASE("Alert: goes into a text and comes back", "[watchlists]")
{
    Alert alert = levelAt(41.25, "2024-05-02", Repeat::EachCrossing);
    alert.id = 0;
    alert.holdOff = 5;
    alert.words = "the \"pivot\"\nof June";
    alert.isOn = false;
    alert.quietTo = day("2024-06-03");
    CHECK(*alertFromToml(toToml(alert)) == alert);
    Alert rule = ruleOn("close > sma(close, 50)", 12, Repeat::OnceADay);
    rule.id = 0;
    CHECK(*alertFromToml(toToml(rule)) == rule);
    const Raised raised{0, 12, day("2024-05-02"), "AAAA", "reached 41.25", 41.3, true, true};
    CHECK(*raisedFromToml(toToml(raised)) == raised);
    const Raised bare{0, 12, day("2024-05-02")};
    CHECK(*raisedFromToml(toToml(bare)) == bare);
    for (const char* wrong :
         {"", "what = \"level\"\nsince = \"2024-05-02\"", "what = \"bell\"\nsince = \"2024-05-02\"",
          "what = \"rule\"\nsince = \"2024-05-02\"", "what = \"change\"\nsince = \"2024-05-02\"",
          "what = \"report\"\nsince = \"2024-05-02\"\nhold_off = -1",
          "what = \"report\"\nsince = \"2024-05-02\"\ncolour = 1"})
        CHECK_FALSE(alertFromToml(wrong));
}

TEST_CASE("Alert: told the same in one go, day by day, and with the future cut", "[watchlists]")
{
    const auto records = test::eventfulRecords();
    Watching watching(test::marketOf(records));
    const market::Market& market = watching.evaluator.market();
    screens::Screen screen;
    screen.criteria = {{"close > sma(close, 20)"}};
    watching.book.screens["Rising"] = screens::conditionOf(screen);
    const Day first = market.sessions()[40];
    Watchlist byHand{3, "Hand", {}};
    for (std::size_t stock = 0; stock < market.size(); ++stock)
        if (!market.isIndex(stock) && market.isListed(stock, first)) {
            byHand.entries.push_back({market::symbolOn(market.instrument(stock), first), first});
            const double close = priceOn(market, stock, first);
            byHand.entries.back().plan = TradePlan{first, 1.04 * close, 0.9 * close};
        }
    watching.lists = {byHand, Watchlist{4, "Kept", {}, {}, {.screen = "Rising"}}};
    const auto add = [&](Alert alert, What what, std::int64_t list) {
        alert.id = static_cast<std::int64_t>(watching.alerts.size()) + 1;
        alert.what = what;
        alert.since = first;
        alert.about.list = list;
        watching.alerts.emplace_back(alert);
    };
    add(ruleOn("close < prior(lowest(low, 20))", 3), What::Rule, 3);
    add(ruleOn("percentile(change(close, 20)) > 90", 3, Repeat::OnceADay), What::Rule, 3);
    add(ruleOn("close > prior(highest(close, 30))", 3), What::Rule, 4);
    add(ruleOn("", 0), What::State, 3);
    add(ruleOn("", 0), What::Change, 4);
    watching.alerts[0].edit().holdOff = 10;
    const Day last = market.sessions()[260];
    const auto toldUpTo = [&](engine::Evaluator& evaluator, Day after, Day to) {
        Watched watched =
            watch({watching.alerts, watching.lists}, evaluator, watching.book.names(), after, to);
        REQUIRE(watched.errors.empty());
        return watched.raised;
    };
    const auto whole = toldUpTo(watching.evaluator, first, last);
    CHECK(whole.size() > 150);
    for (const auto& alert : watching.alerts) // each of them tells something
        CHECK(std::ranges::count(whole, alert->id, &Raised::alert) > 3);
    std::vector<Raised> parts;
    for (std::size_t at = 40; at < 260; at += 55)
        std::ranges::move(toldUpTo(watching.evaluator, market.sessions()[at],
                                   market.sessions()[std::min<std::size_t>(at + 55, 260)]),
                          std::back_inserter(parts));
    CHECK(parts == whole);
    const Day today = market.sessions()[180];
    engine::Evaluator cut(test::cutAfter(records, today));
    CHECK(toldUpTo(cut, first, today) == toldUpTo(watching.evaluator, first, today));
}

} // namespace sieve::watchlists
