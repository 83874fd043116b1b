#include "core/watchlists/list_reading.h"

#include "core/exports/sheet.h"
#include "core/screens/name_book.h"
#include "core/watchlists/list_sheet.h"
#include "tests/core/made_market.h"

#include <algorithm>
#include <catch2/catch.hpp>

namespace sieve::watchlists {

namespace {

using test::day;

/// AAAA is split two for one on the third day; BBBB.C was called OLDB before the second.
market::MarketPtr readMarketOf()
{
    auto first = test::recordOf("AAAA", {40, 44, 24, 26, 25});
    first.actions.push_back({first.bars.days[2], market::ActionKind::Split, 2.0});
    auto second = test::recordOf("BBBB.C", {10, 11, 12, 13, 14});
    second.instrument.formerSymbols = {{"OLDB.C", day("2024-01-02")}};
    return test::marketOf({first, second});
}

ListRead readText(const std::string& text, const market::Market* market = nullptr)
{
    const auto table = imports::tableOfText(text);
    REQUIRE(table);
    return readList(*table, market, day("2024-01-05"));
}

std::vector<std::string> notesOf(const ListRead& read)
{
    std::vector<std::string> notes;
    for (const RowNote& note : read.notes)
        notes.push_back(std::to_string(note.line) + (note.isLeftOut ? " out: " : ": ") +
                        note.words);
    return notes;
}
using Notes = std::vector<std::string>;

} // namespace

TEST_CASE("List from a file: what this program wrote comes back", "[watchlists]")
{
    engine::Evaluator evaluator(readMarketOf());
    const screens::NameBook book;
    Watchlist list{
        3,
        "Quay",
        {{"AAAA", day("2024-01-01"), 40.0, "=why", "Dips"}, {"OLDB.C", day("2024-01-01"), 10.0}}};
    Entry& full = list.entries[0];
    full.plan = TradePlan{day("2024-01-01"), 42.0, 36.0, {60.0, 70.0}};
    full.plan->exitRule = "close < sma(close, 50)";
    full.page.category = "base";
    full.page.tags = {"one", "two"};
    full.page.sign = Sign::Diamond;
    full.page.reviewOn = day("2024-03-01");
    full.page.notes = {{day("2024-01-02"), "First\nwith a second line"}, {day("2024-01-03"), "-x"}};
    full.page.links = {"https://example.org/a"};
    const ListTold told = tell(list, evaluator, book.names(), {}, day("2024-01-05"));
    const std::string csv = exports::toCsv(sheetOf(told, &evaluator.market()));
    const ListRead read = readText(csv, &evaluator.market());
    CHECK(notesOf(read) == Notes{});
    REQUIRE(read.entries.size() == 2);
    Entry back = read.entries[0];
    REQUIRE(back.plan); // as it was planned, though the file tells it after the split
    CHECK(back.plan->entry == Approx(42.0));
    CHECK(back.plan->targets.at(1) == Approx(70.0));
    back.plan = full.plan;
    CHECK(back == full);
    CHECK(read.entries[1] == list.entries[1]); // by the symbol of its day
}

TEST_CASE("List from a file: as anybody writes one", "[watchlists]")
{
    const auto market = readMarketOf();
    const ListRead plain = readText("AAAA\nbbbb\n$NEW\n\nAAAA\n", &*market);
    REQUIRE(plain.entries.size() == 3);
    CHECK(plain.entries[0].symbol == "AAAA");
    CHECK(plain.entries[0].addedOn == day("2024-01-05"));
    CHECK(plain.entries[0].priceThen == Approx(25.0));
    CHECK(plain.entries[2].symbol == "NEW");
    CHECK(plain.unknown >= 1);
    CHECK(std::ranges::count(notesOf(plain), "5 out: AAAA stands in the file already") == 1);

    const ListRead rich = readText("Date;Ticker;Price;Why;Mood\n"
                                   "2024-01-02;AAAA;43,50;dip;good\n"
                                   "soon;BBBB.C;cheap;;\n"
                                   "2024-01-03;;5;no symbol;\n"
                                   "2024-01-03;CCCC;1,250;kept;\n",
                                   &*market);
    CHECK(notesOf(rich) == Notes{"1: the column “Mood” is not known and is passed over",
                                 "3: “soon” is no day such as 2025-03-14", "3: “cheap” is no price",
                                 "4 out: no symbol stands in this row",
                                 "5: CCCC is not in this market; it is kept",
                                 "5: “1,250” is no price"});
    REQUIRE(rich.entries.size() == 3);
    CHECK(rich.entries[0] == Entry{"AAAA", day("2024-01-02"), 43.5, "dip"});
    CHECK(rich.entries[1].priceThen == Approx(14.0));
    CHECK(isMissing(rich.entries[2].priceThen));
    CHECK(rich.unknown == 1);
}

TEST_CASE("List from a file: what cannot be read of a row is told and the entry stays",
          "[watchlists]")
{
    const ListRead read = readText("symbol,entry,stop,links,sign\n"
                                   "A,40,41,javascript:x https://example.org,blob\n"
                                   "\"B\"\"C\",1,,,\n"
                                   "עברית,,,,circle\n"
                                   "🐟,,,,\n" +
                                   std::string(300, 'X') + ",,,,\n");
    CHECK(notesOf(read) ==
          Notes{"2: “blob” is no sign", "2: “javascript:x” is no link that may be opened",
                "2: the plan is left out: " + faultOf(TradePlan{day("2024-01-05"), 40.0, 41.0}),
                "3 out: this is no symbol", "6 out: this is no symbol"});
    REQUIRE(read.entries.size() == 3);
    CHECK(read.entries[0].page.links == std::vector<std::string>{"https://example.org"});
    CHECK_FALSE(read.entries[0].plan);
    CHECK(read.entries[1].symbol == "עברית");
    CHECK(read.entries[1].page.sign == Sign::Circle);
    CHECK(readText("").entries.empty());
    CHECK(readText("symbol,why\n").entries.empty());
}

TEST_CASE("List from a file: letters of any language stay whole", "[watchlists]")
{
    const ListRead read = readText("symbol,why\nA, voilà \nB,à\nC,\u00a0x\n");
    REQUIRE(read.entries.size() == 3);
    CHECK(read.entries[0].reason == "voilà");
    CHECK(read.entries[1].reason == "à");
}

TEST_CASE("List from a file: fifty thousand lines", "[watchlists]")
{
    std::string text = "symbol,reason\n";
    for (int row = 0; row < 50'000; ++row)
        text += "S" + std::to_string(row) + ",why\n";
    const auto market = readMarketOf();
    const ListRead read = readText(text, &*market);
    CHECK(read.entries.size() == 50'000);
    CHECK(read.unknown == 50'000);
}

} // namespace sieve::watchlists
