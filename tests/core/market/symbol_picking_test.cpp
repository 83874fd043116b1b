#include "core/market/symbol_picking.h"

#include "tests/core/made_market.h"

#include <catch2/catch.hpp>

namespace sieve::market {

namespace {

MarketPtr harbour()
{
    std::vector<InstrumentRecord> records;
    for (const char* symbol : {"TAKE.C", "KELP.C", "KELP.T", "VRRA.C", "A-B.C", "LINE"})
        records.push_back(test::recordOf(symbol, {1.0, 2.0}));
    records[3].instrument.formerSymbols.push_back({"OLDN.C", Day::fromSerial(20'000)});
    return test::marketOf(std::move(records));
}

std::string told(const Market& market, std::string_view text)
{
    std::string all;
    for (const PickedSymbol& each : pickSymbols(market, text)) {
        all += (all.empty() ? "" : " ") + each.typed + "=";
        for (const std::size_t instrument : each.instruments)
            all += (all.back() == '=' ? "" : "|") + market.instrument(instrument).symbol;
        all += each.isFormer ? "(former)" : "";
    }
    return all;
}

} // namespace

TEST_CASE("Symbols in a text: from mails, tables, columns and tags", "[market]")
{
    const MarketPtr market = harbour();
    CHECK(told(*market, "I would take $vrra and kelp.t today. Not TAKE.C!") ==
          "vrra=VRRA.C kelp.t=KELP.T TAKE.C=TAKE.C");
    CHECK(told(*market, "take\nvrra\nline\n") == "take=TAKE.C vrra=VRRA.C line=LINE");
    CHECK(told(*market, "symbol\tclose\nVRRA\t12.5\nKELP\t3") ==
          "VRRA=VRRA.C KELP=KELP.C|KELP.T"); // which of the two must be asked
    CHECK(told(*market, "VRRA.C, VRRA, OLDN.C; A-B (#line)") ==
          "VRRA.C=VRRA.C VRRA=VRRA.C OLDN.C=VRRA.C(former) A-B=A-B.C line=LINE");
    CHECK(told(*market, "VRRA.C XYZW.C $nope TIDE") ==
          "VRRA.C=VRRA.C XYZW.C= nope="); // two of four: TIDE may be a word
    CHECK(told(*market, "VRRA.C LINE KELP.C TIDE").ends_with("TIDE="));
    CHECK(told(*market, "they say ABCD.XYZ and ABCD.WXYZ and A.XY are no more") == "ABCD.XYZ=");
    CHECK(told(*market, "Sell VRRA. Buy KELP.T, then A-B-.") ==
          "VRRA=VRRA.C KELP.T=KELP.T A-B=A-B.C"); // the stop of a sentence is no part of it
    CHECK(certainPicks(*market, "LINE KELP VRRA.C OLDN.C NOPE.C line") ==
          std::vector<std::size_t>{3, 5}); // KELP is two's, OLDN.C was VRRA.C
}

TEST_CASE("Symbols in a text: prose, numbers and rubbish give none", "[market]")
{
    const MarketPtr market = harbour();
    CHECK(told(*market, "").empty());
    CHECK(told(*market, "They take the ferry line to the kelp farm every day of the week").empty());
    CHECK(told(*market, "12.5 3e5 ... -- && 99").empty());
    CHECK(told(*market, "\xC3\xA9take take\xC3\xA9 of the day").empty());
    CHECK(told(*market, std::string(100'000, 'A')).empty());
    std::string bytes;
    for (int i = 0; i < 2000; ++i)
        bytes += static_cast<char>((i * 7919) % 256);
    CHECK_NOTHROW(pickSymbols(*market, bytes));
}

} // namespace sieve::market
