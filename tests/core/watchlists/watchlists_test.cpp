#include "core/watchlists/gain.h"
#include "core/watchlists/tray.h"
#include "tests/core/made_market.h"

#include <catch2/catch.hpp>

namespace sieve::watchlists {

TEST_CASE("Tray: filling anew keeps what was decided", "[watchlists]")
{
    Tray tray;
    tray.fill({"A", "B", "C"}, "Screen one");
    tray.mark(1, Mark::Kept);
    tray.fill({"B", "D"}, "Screen two");
    CHECK(tray.cards() ==
          std::vector<Card>{{"B", Mark::Kept, "Screen two"}, {"D", Mark::Open, "Screen two"}});
    const TrayCounts counts = tray.counts();
    CHECK(counts.kept == 1);
    CHECK(counts.open == 1);
}

TEST_CASE("Tray: the next is the next undecided; those for later come at the end", "[watchlists]")
{
    Tray tray({{"A", Mark::Open, ""}, {"B", Mark::Later, ""}, {"C", Mark::Open, ""}});
    CHECK(*tray.nextUndecided(0) == 2);
    tray.mark(0, Mark::Kept);
    CHECK(*tray.nextUndecided(0) == 2);
    tray.mark(2, Mark::Dropped);
    CHECK(*tray.nextUndecided(2) == 1);
    tray.mark(1, Mark::Dropped);
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
    record.instrument.delistedOn = test::day("2024-02-01");
    const auto market = test::marketOf({record});
    const auto& days = market->bars(0).days;
    const Entry entry{"AAAA", days[0], priceOn(*market, 0, days[0]), "", ""};
    CHECK(entry.priceThen == 40);
    CHECK(resultOf(entry, *market, days[1]).gain == Approx(0.1));
    CHECK(resultOf(entry, *market, days[2]).gain == Approx(0.2));
    CHECK(resultOf(entry, *market, days[3]).gain == Approx(0.0).margin(1e-12));
    const EntryResult gone = resultOf(entry, *market, test::day("2024-03-01"));
    CHECK(gone.isDelisted);
    CHECK(gone.price == 20);
    const Entry later{"AAAA", days[2], 24.0, "", ""};
    CHECK(isMissing(resultOf(later, *market, days[1]).gain)); // not yet added
    CHECK_FALSE(resultOf({"ZZZZ", days[0], 1, "", ""}, *market, days[1]).isKnown);
    CHECK(isMissing(resultOf({"AAAA", days[0], missing, "", ""}, *market, days[1]).gain));
}

TEST_CASE("Gain: none yet on the day on which it was added", "[watchlists]")
{
    const auto market = test::marketOf({test::recordOf("AAAA", {40, 44})});
    const Day first = market->bars(0).days[0];
    const EntryResult standing = resultOf({"AAAA", first, 40.0, "", ""}, *market, first);
    CHECK(standing.price == 40.0);
    CHECK(standing.gain == 0.0);
}

TEST_CASE("Watchlist: finds what stands on it and nothing else", "[watchlists]")
{
    const auto market = test::marketOf({test::recordOf("AAAA", {40}), test::recordOf("BBBB", {7})});
    Watchlist list{1, "Harbour names", {}};
    putOnto(list, *market, 1, market->sessions()[0], "cheap", "Screen one");
    putOnto(list, *market, 1, market->sessions()[0], "again", "");
    CHECK_FALSE(list.find("AAAA"));
    REQUIRE(list.find("BBBB"));
    CHECK(*list.find("BBBB") == Entry{"BBBB", market->sessions()[0], 7.0, "cheap",
                                      "Screen one"}); // once, as it came first
    CHECK(list.entries.size() == 1);
}

} // namespace sieve::watchlists
