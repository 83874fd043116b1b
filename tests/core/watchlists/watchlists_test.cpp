#include "core/watchlists/stocks.h"
#include "tests/core/made_market.h"

#include <catch2/catch.hpp>

namespace sieve::watchlists {

namespace {

using test::day;

Card card(const char* symbol, Mark mark = Mark::Open)
{
    return {symbol, day("2024-01-02"), mark, "Screen one", ""};
}

/// OLDC bore QUAY until 2024-01-04 and PIER since; another company took QUAY on 2024-01-08.
market::MarketPtr reusedSymbol()
{
    auto first = test::recordOf("PIER", {10, 11, 12, 13, 14, 15, 16, 17});
    first.instrument.formerSymbols = {{"QUAY", day("2024-01-04")}};
    auto second = test::recordOf("QUAY", {50, 51});
    second.bars.days = {day("2024-01-08"), day("2024-01-09")};
    return test::marketOf({first, second});
}

} // namespace

TEST_CASE("Tray: filling anew keeps what was decided, and why", "[watchlists]")
{
    const auto market = test::marketOf({test::recordOf("AAAA", {1}), test::recordOf("BBBB", {1}),
                                        test::recordOf("CCCC", {1}), test::recordOf("DDDD", {1})});
    const Day today = market->sessions()[0];
    const std::size_t first[] = {0, 1, 2};
    Tray tray = filled({}, *market, first, today, "Screen one");
    tray.mark(1, Mark::Kept, "cheap");
    const std::size_t second[] = {1, 3};
    tray = filled(tray, *market, second, today, "Screen two");
    CHECK(tray.cards() == std::vector<Card>{{"BBBB", today, Mark::Kept, "Screen two", "cheap"},
                                            {"DDDD", today, Mark::Open, "Screen two", ""}});
    CHECK(tray.counts().kept == 1);
    CHECK(tray.counts().open == 1);
    const std::size_t more[] = {3, 0, 0, 1};
    CHECK(addTo(tray, *market, more, today, "by hand") == 1);
    REQUIRE(tray.cards().size() == 3);
    CHECK(tray.cards()[2] == Card{"AAAA", today, Mark::Open, "by hand", ""});
    CHECK(placeIn(tray, *market, 3) == std::optional<std::size_t>(1));
    CHECK_FALSE(placeIn(tray, *market, 2));
}

TEST_CASE("Tray: the next is the next undecided, those for later come at the end", "[watchlists]")
{
    Tray tray({card("A"), card("B", Mark::Later), card("C")});
    CHECK(*tray.nextUndecided(0) == 2);
    tray.mark(0, Mark::Kept, "");
    CHECK(*tray.nextUndecided(0) == 2);
    tray.mark(2, Mark::Dropped, "dear");
    CHECK(tray.cards()[2].reason == "dear");
    CHECK(*tray.nextUndecided(2) == 1);
    tray.mark(1, Mark::Dropped, "");
    CHECK_FALSE(tray.nextUndecided(1));
    CHECK_FALSE(Tray().nextUndecided(0));
}

TEST_CASE("Tray: marks have names that come back", "[watchlists]")
{
    for (const Mark mark : {Mark::Open, Mark::Kept, Mark::Dropped, Mark::Later})
        CHECK(markNamed(markName(mark)) == mark);
    CHECK_FALSE(markNamed("burnt"));
}

TEST_CASE("Gain: since the day it was added, splits taken out", "[watchlists]")
{
    auto record = test::recordOf("AAAA", {40, 44, 24, 20});
    record.actions.push_back({record.bars.days[2], market::ActionKind::Split, 2.0});
    record.instrument.delistedOn = day("2024-02-01");
    const auto market = test::marketOf({record});
    const auto& days = market->bars(0).days;
    const Entry entry{"AAAA", days[0], priceOn(*market, 0, days[0])};
    CHECK(entry.priceThen == 40);
    CHECK(resultOf(entry, *market, days[1]).gain == Approx(0.1));
    CHECK(resultOf(entry, *market, days[1]).priceThen == 40);
    CHECK(resultOf(entry, *market, days[2]).gain == Approx(0.2));
    CHECK(resultOf(entry, *market, days[2]).priceThen ==
          Approx(20)); // as 24 stands after the split
    CHECK(resultOf(entry, *market, days[3]).gain == Approx(0.0).margin(1e-12));
    const EntryResult gone = resultOf(entry, *market, day("2024-03-01"));
    CHECK(gone.isDelisted);
    CHECK(gone.price == 20);
    const Entry later{"AAAA", days[2], 24.0};
    CHECK(isMissing(resultOf(later, *market, days[1]).gain)); // not yet added
    CHECK_FALSE(resultOf({"ZZZZ", days[0], 1}, *market, days[1]).stock);
    CHECK(isMissing(resultOf({"AAAA", days[0]}, *market, days[1]).gain));
}

TEST_CASE("Gain: none yet on the day on which it was added", "[watchlists]")
{
    const auto market = test::marketOf({test::recordOf("AAAA", {40, 44})});
    const Day first = market->bars(0).days[0];
    const EntryResult result = resultOf({"AAAA", first, 40.0}, *market, first);
    CHECK(result.price == 40.0);
    CHECK(result.gain == 0.0);
}

TEST_CASE("Watchlist: a stock stands on it once, as it came first", "[watchlists]")
{
    const auto market = test::marketOf({test::recordOf("AAAA", {40}), test::recordOf("BBBB", {7})});
    const Day today = market->sessions()[0];
    Watchlist list{1, "Harbour names", {}};
    putOnto(list, *market, std::vector<std::size_t>{1}, today, "cheap", "Screen one");
    putOnto(list, *market, std::vector<std::size_t>{1}, today, "again", "");
    CHECK_FALSE(placeOn(list, *market, 0));
    CHECK(placeOn(list, *market, 1) == std::optional<std::size_t>(0));
    CHECK(list.entries == std::vector<Entry>{{"BBBB", today, 7.0, "cheap", "Screen one"}});
    putOnto(list, *market, std::vector<std::size_t>{0, 1, 0}, today, "both", "");
    REQUIRE(list.entries.size() == 2);
    CHECK(list.entries[1] == Entry{"AAAA", today, 40.0, "both", ""});
}

TEST_CASE("Watchlist: who left is remembered with day, price and reason", "[watchlists]")
{
    const auto market = test::marketOf({test::recordOf("AAAA", {40, 44, 48})});
    const auto& days = market->bars(0).days;
    Watchlist list{1, "Harbour names", {}};
    putOnto(list, *market, std::vector<std::size_t>{0}, days[1], "cheap", "");
    const Entry entry = list.entries[0];
    takeOff(list, 0, market.get(), days[2], "sold");
    CHECK(list.entries.empty());
    CHECK(list.former == std::vector<FormerEntry>{{entry, days[2], 48.0, "sold"}});

    putOnto(list, *market, std::vector<std::size_t>{0}, days[2], "again", "");
    takeOff(list, 0, market.get(), days[0], ""); // looked at from a day before it came
    CHECK(list.former[1].leftOn == days[2]);
    list.entries.push_back(entry);
    takeOff(list, 0, nullptr, days[2], "");
    CHECK(isMissing(list.former[2].priceLeft));
    CHECK(list.former[2] == list.former[2]); // a missing price equals itself
}

TEST_CASE("Watchlist: a symbol that another company bears now still means the one of its day",
          "[watchlists]")
{
    const auto market = reusedSymbol();
    const std::size_t older = *market->find("PIER");
    const std::size_t younger = *market->find("QUAY");
    CHECK(market->find("QUAY", day("2024-01-03")) == std::optional(older));
    CHECK(market->find("QUAY", day("2024-01-04")) == std::optional(younger)); // nobody's: as now
    CHECK(market->find("QUAY", day("2024-01-09")) == std::optional(younger));

    Watchlist list{1, "Quays", {}};
    putOnto(list, *market, std::vector<std::size_t>{older}, day("2024-01-03"), "", "");
    putOnto(list, *market, std::vector<std::size_t>{younger}, day("2024-01-09"), "", "");
    REQUIRE(list.entries.size() == 2);
    CHECK(list.entries[0].symbol == "QUAY"); // both, each on its day
    CHECK(list.entries[1].symbol == "QUAY");
    CHECK(stockOf(list.entries[0], *market) == std::optional(older));
    CHECK(stockOf(list.entries[1], *market) == std::optional(younger));
    CHECK(resultOf(list.entries[0], *market, day("2024-01-09")).price < 20);

    const std::size_t both[] = {older};
    Tray tray = filled({}, *market, both, day("2024-01-03"), "");
    const std::size_t more[] = {younger};
    CHECK(addTo(tray, *market, more, day("2024-01-09"), "") == 1);
    CHECK(placeIn(tray, *market, older) == std::optional<std::size_t>(0));
    CHECK(placeIn(tray, *market, younger) == std::optional<std::size_t>(1));
}

} // namespace sieve::watchlists
