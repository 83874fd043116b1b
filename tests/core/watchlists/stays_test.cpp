#include "core/watchlists/stays.h"

#include "core/screens/name_book.h"
#include "core/screens/run.h"
#include "core/watchlists/stocks.h"
#include "tests/core/made_market.h"

#include <algorithm>
#include <catch2/catch.hpp>

namespace sieve::watchlists {

namespace {

screens::Screen rising()
{
    screens::Screen screen;
    screen.name = "Rising";
    screen.criteria = {{"close > sma(close, 20)"}, {"close > 3"}};
    return screen;
}

/// A market, a screen and a list that the screen keeps.
struct Kept {
    engine::Evaluator evaluator{test::marketOf(test::eventfulRecords())};
    screens::NameBook book;
    Watchlist list{4, "Climbers", {}, {}, {.screen = "Rising"}};

    Kept()
    {
        book.screens["Rising"] = screens::conditionOf(rising());
        book.lists["Climbers"] = std::make_shared<const engine::ListMembers>();
        book.listScreens["Climbers"] = "Rising";
    }
    const market::Market& market() const { return evaluator.market(); }
    Stays stays(std::span<const Day> days)
    {
        return *staysOf("Rising", book.names(), evaluator, days);
    }
};

std::vector<std::size_t> sortedMembers(const Stays& stays, std::size_t day)
{
    std::vector<std::size_t> members;
    for (const Stay& stay : membersOn(stays, day))
        members.push_back(stay.stock);
    std::ranges::sort(members);
    return members;
}

} // namespace

TEST_CASE("Rule-kept: on each day those whom the screen finds on it", "[watchlists]")
{
    Kept kept;
    const auto sessions = kept.market().sessions();
    const Stays stays = kept.stays(sessions);
    std::size_t moves = 0;
    const auto moved = dayByDay(stays);
    for (std::size_t day = 0; day < sessions.size(); ++day) {
        INFO(sessions[day].iso());
        auto found = run(rising(), kept.book.names(), kept.evaluator, sessions[day]).matches;
        std::ranges::sort(found);
        REQUIRE(sortedMembers(stays, day) == found);
        if (day == 0)
            continue;
        // Who came and went is the difference of the two days.
        const auto before = sortedMembers(stays, day - 1);
        std::vector<std::size_t> came;
        std::vector<std::size_t> went;
        std::ranges::set_difference(found, before, std::back_inserter(came));
        std::ranges::set_difference(before, found, std::back_inserter(went));
        CHECK(moved[day].came == came);
        CHECK(moved[day].went == went);
        const ComingsAndGoings one = between(stays, day - 1, day);
        CHECK(one.came == came);
        CHECK(one.went == went);
        moves += came.size() + went.size();
    }
    CHECK(moves > 50);
    CHECK(moved[0].came.empty());
}

TEST_CASE("Rule-kept: on_list is the membership of the day", "[watchlists]")
{
    Kept kept;
    engine::Plan plan;
    const auto node =
        language::checkCondition("on_list(\"Climbers\")", kept.book.names(), plan)->node;
    const auto sessions = kept.market().sessions();
    const Stays stays = kept.stays(sessions);
    for (std::size_t day = 30; day < sessions.size(); day += 7) {
        INFO(sessions[day].iso());
        const auto column = kept.evaluator.column(plan, node, sessions[day]);
        const auto members = sortedMembers(stays, day);
        for (std::size_t stock = 0; stock < kept.market().size(); ++stock)
            if (!kept.market().isIndex(stock))
                CHECK(((*column)[stock] == 1.0) == std::ranges::binary_search(members, stock));
    }
    // It may stand for the group within which stocks are ranked, but has no line of its own.
    CHECK(language::check("percentile(close, within = on_list(\"Climbers\"))", kept.book.names(),
                          plan));
    const auto line = language::check("list(\"Climbers\", close)", kept.book.names(), plan);
    REQUIRE_FALSE(line);
    CHECK(line.error().problem.find("kept by a screen") != std::string::npos);
}

TEST_CASE("Rule-kept: a list that its screen asks for is refused", "[watchlists]")
{
    Kept kept;
    kept.book.screens["Rising"].criteria = {"on_list(\"Climbers\")"};
    const auto sessions = kept.market().sessions();
    const auto stays = staysOf("Rising", kept.book.names(), kept.evaluator, sessions);
    REQUIRE_FALSE(stays);
    CHECK_FALSE(staysOf("Gone", kept.book.names(), kept.evaluator, sessions));
}

TEST_CASE("Rule-kept: an entry says since when, and what the person wrote", "[watchlists]")
{
    Kept kept;
    const market::Market& market = kept.market();
    const auto days = sessionsBefore(market, market.sessions()[200]);
    REQUIRE(days.size() == 201);
    const Stays stays = kept.stays(days);
    const auto members = membersOn(stays, days.size() - 1);
    REQUIRE(members.size() >= 2);
    Watchlist shown = filled(kept.list, stays, market);
    REQUIRE(shown.entries.size() == members.size());
    for (std::size_t i = 0; i < members.size(); ++i) {
        CHECK(stockOf(shown.entries[i], market) == members[i].stock);
        CHECK(shown.entries[i].addedOn == days[members[i].from]);
        CHECK(shown.entries[i].source == "Rising");
    }
    // What is written to one is kept with the list, and shown wherever the stock comes back.
    Entry& written = entryToWrite(kept.list, market, shown.entries[1]);
    written.reason = "Why not";
    CHECK(kept.list.entries.size() == 1);
    CHECK(&entryToWrite(kept.list, market, shown.entries[1]) == &kept.list.entries[0]);
    shown = filled(kept.list, stays, market);
    CHECK(shown.entries[1].reason == "Why not");
    CHECK(shown.entries[0].reason.empty());
    // Former ones: each stay that ended, the last to leave last.
    CHECK(shown.former.size() ==
          static_cast<std::size_t>(std::ranges::count_if(
              stays.stays, [&](const Stay& stay) { return stay.until < days.size(); })));
    CHECK(std::ranges::is_sorted(shown.former, {}, &FormerEntry::leftOn));
}

TEST_CASE("Stays: of a list that is kept by hand", "[watchlists]")
{
    const auto market = test::marketOf(
        {test::recordOf("AAAA", {1, 2, 3, 4, 5}), test::recordOf("BBBB", {1, 2, 3, 4, 5})});
    const auto days = market->sessions(); // from Monday 2024-01-01
    Watchlist list;
    list.entries = {{"AAAA", test::day("2023-12-01")}, {"BBBB", days[3]}, {"ZZZZ", days[0]}};
    list.former = {{{"BBBB", days[0]}, days[2]}};
    const Stays stays = staysByHand(list, *market, days);
    CHECK(stays.stays == std::vector<Stay>{{0, 0, 5}, {1, 0, 2}, {1, 3, 5}});
    const auto moved = dayByDay(stays);
    CHECK(moved[2].went == std::vector<std::size_t>{1});
    CHECK(moved[3].came == std::vector<std::size_t>{1});
    CHECK(between(stays, 0, 4).came.empty()); // it was there on both
    CHECK(between(stays, 2, 4).came == std::vector<std::size_t>{1});
}

TEST_CASE("Rule-kept: as known on a day, whatever came later", "[watchlists]")
{
    Kept kept;
    const auto records = test::eventfulRecords();
    const Day today = kept.market().sessions()[180];
    engine::Evaluator cut(test::cutAfter(records, today));
    const auto days = sessionsBefore(kept.market(), today);
    const Stays whole = kept.stays(days);
    const Stays then = *staysOf("Rising", kept.book.names(), cut, days);
    CHECK(whole.stays == then.stays);
}

} // namespace sieve::watchlists
