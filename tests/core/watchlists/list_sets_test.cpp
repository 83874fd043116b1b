#include "core/watchlists/list_sets.h"

#include "tests/core/made_market.h"

#include <algorithm>
#include <catch2/catch.hpp>
#include <random>
#include <set>

namespace sieve::watchlists {

namespace {

using test::day;

Watchlist listOf(std::initializer_list<const char*> symbols, const char* on = "2024-01-02")
{
    Watchlist list;
    for (const char* symbol : symbols)
        list.entries.push_back({symbol, day(on), 10.0});
    return list;
}

std::vector<std::string> symbolsOf(const std::vector<Entry>& entries)
{
    std::vector<std::string> symbols;
    for (const Entry& entry : entries)
        symbols.push_back(entry.symbol);
    return symbols;
}

using Symbols = std::vector<std::string>;

} // namespace

TEST_CASE("Lists: joined, in common, and one without another", "[watchlists]")
{
    const Watchlist a = listOf({"CCCC", "AAAA", "BBBB"});
    const Watchlist b = listOf({"DDDD", "BBBB", "CCCC"});
    const Watchlist c = listOf({"BBBB"});
    const Watchlist* lists[] = {&a, &b, &c};
    CHECK(symbolsOf(combined(lists, SetOf::Any, nullptr)) ==
          Symbols{"CCCC", "AAAA", "BBBB", "DDDD"});
    CHECK(symbolsOf(combined(lists, SetOf::All, nullptr)) == Symbols{"BBBB"});
    CHECK(symbolsOf(combined(lists, SetOf::FirstOnly, nullptr)) == Symbols{"AAAA"});
    CHECK(combined({}, SetOf::All, nullptr).empty());
}

TEST_CASE("Lists: a stock under its former symbol is the same stock", "[watchlists]")
{
    auto first = test::recordOf("PIER", {10, 11, 12, 13, 14, 15, 16, 17});
    first.instrument.formerSymbols = {{"QUAY", day("2024-01-04")}};
    auto second = test::recordOf("QUAY", {50, 51});
    second.bars.days = {day("2024-01-08"), day("2024-01-09")};
    const auto market = test::marketOf({first, second});
    const Watchlist early = listOf({"QUAY"}, "2024-01-02"); // PIER by now
    const Watchlist late = listOf({"PIER", "QUAY"}, "2024-01-09");
    const Watchlist* lists[] = {&late, &early};
    const auto all = combined(lists, SetOf::Any, market.get());
    REQUIRE(all.size() == 2);
    CHECK(all[0].symbol == "QUAY"); // as it was called when it was added first
    CHECK(all[0].addedOn == day("2024-01-02"));
    CHECK(all[1].addedOn == day("2024-01-09"));
    CHECK(combined(lists, SetOf::All, market.get()).size() == 1);
}

TEST_CASE("Lists: what was written to a stock on either list stays", "[watchlists]")
{
    Watchlist a = listOf({"AAAA"}, "2024-01-05");
    Watchlist b = listOf({"AAAA", "BBBB"}, "2024-01-02");
    a.entries[0].reason = "Strong";
    a.entries[0].plan = TradePlan{day("2024-01-05"), 10.0, 9.0};
    a.entries[0].page.tags = {"one", "both"};
    a.entries[0].page.notes = {{day("2024-01-05"), "later"}};
    a.entries[0].page.sign = Sign::Cross;
    b.entries[0].reason = "Cheap";
    b.entries[0].page.tags = {"both", "two"};
    b.entries[0].page.notes = {{day("2024-01-02"), "first"}};
    b.entries[0].page.trades = {{day("2024-01-03"), 10.0, 5.0}};
    append(a, b.entries, nullptr);
    REQUIRE(symbolsOf(a.entries) == Symbols{"AAAA", "BBBB"});
    const Entry& both = a.entries[0];
    CHECK(both.addedOn == day("2024-01-02"));
    CHECK(both.reason == "Cheap; Strong");
    CHECK(both.plan == TradePlan{day("2024-01-05"), 10.0, 9.0});
    CHECK(both.page.tags == std::vector<std::string>{"both", "two", "one"});
    CHECK(both.page.notes ==
          std::vector<Note>{{day("2024-01-02"), "first"}, {day("2024-01-05"), "later"}});
    CHECK(both.page.trades.size() == 1);
    CHECK(both.page.sign == Sign::Cross);
    const auto once = a.entries;
    append(a, b.entries, nullptr); // what is there already is not said twice
    CHECK(a.entries == once);
}

TEST_CASE("Lists: entries are moved together and sorted by a figure", "[watchlists]")
{
    Watchlist list = listOf({"A", "B", "C", "D", "E"});
    moveEntries(list, {3, 0}, 2);
    CHECK(symbolsOf(list.entries) == Symbols{"B", "A", "D", "C", "E"});
    moveEntries(list, {0}, 5);
    CHECK(symbolsOf(list.entries) == Symbols{"A", "D", "C", "E", "B"});
    moveEntries(list, {2, 3}, 0);
    CHECK(symbolsOf(list.entries) == Symbols{"C", "E", "A", "D", "B"});
    const double figures[] = {2.0, missing, 1.0, 2.0, 3.0};
    sortEntries(list, figures, true);
    CHECK(symbolsOf(list.entries) == Symbols{"A", "C", "D", "B", "E"});
    const double others[] = {missing, 5.0, 7.0, missing, 5.0};
    sortEntries(list, others, false);
    CHECK(symbolsOf(list.entries) == Symbols{"D", "C", "E", "A", "B"});
}

TEST_CASE("Lists: sets and moves lose nobody", "[watchlists]")
{
    std::mt19937 random(20261130);
    const auto among = [&](std::size_t count) {
        return std::uniform_int_distribution<std::size_t>(0, count - 1)(random);
    };
    const auto anyList = [&] {
        std::vector<std::string> symbols;
        for (char letter = 'A'; letter <= 'L'; ++letter)
            if (among(2) == 0)
                symbols.emplace_back(1, letter);
        std::ranges::shuffle(symbols, random);
        Watchlist list;
        for (const std::string& symbol : symbols)
            list.entries.push_back({symbol, day("2024-01-02")});
        return list;
    };
    const auto setOf = [](const std::vector<Entry>& entries) {
        const Symbols symbols = symbolsOf(entries);
        return std::set(symbols.begin(), symbols.end());
    };
    for (int round = 0; round < 300; ++round) {
        Watchlist a = anyList();
        const Watchlist b = anyList();
        const Watchlist* lists[] = {&a, &b};
        const auto any = setOf(combined(lists, SetOf::Any, nullptr));
        const auto all = setOf(combined(lists, SetOf::All, nullptr));
        const auto first = setOf(combined(lists, SetOf::FirstOnly, nullptr));
        CHECK(any.size() + all.size() == a.entries.size() + b.entries.size());
        CHECK(first.size() + all.size() == a.entries.size());
        if (a.entries.empty())
            continue;
        const auto before = setOf(a.entries);
        const std::size_t count = a.entries.size();
        std::vector<std::size_t> places;
        for (std::size_t place = 0; place < count; ++place)
            if (among(3) == 0)
                places.push_back(place);
        moveEntries(a, places, among(count + 1));
        CHECK(a.entries.size() == count);
        CHECK(setOf(a.entries) == before);
    }
}

} // namespace sieve::watchlists
