#include "core/market/as_of.h"
#include "demo_market/climate.h"
#include "demo_market/dataset.h"

#include <catch2/catch.hpp>
#include <set>

namespace sieve::demo_market {

TEST_CASE("Demo market: has the size and the variety that the program shows", "[demo_market]")
{
    const DemoMarket market = makeMarket(20260930);
    CHECK(market.records.size() >= 150);
    std::set<std::string> symbols;
    std::set<std::string> names;
    std::set<std::string> sectors;
    int listed = 0;
    int delisted = 0;
    int split = 0;
    int paying = 0;
    for (const market::InstrumentRecord& record : market.records) {
        const market::Instrument& instrument = record.instrument;
        INFO(instrument.symbol);
        CHECK(symbols.insert(instrument.symbol).second);
        CHECK(names.insert(instrument.name).second);
        CHECK(instrument.symbol.size() == 6);
        REQUIRE(record.bars.size() > 20);
        if (instrument.kind == market::InstrumentKind::Share)
            sectors.insert(instrument.sector);
        listed += isMissing(instrument.offerPrice) ? 0 : 1;
        delisted += instrument.delistedOn ? 1 : 0;
        split += record.splits.empty() ? 0 : 1;
        paying += record.dividends.empty() ? 0 : 1;
        if (instrument.delistedOn)
            CHECK(record.bars.days.back() < *instrument.delistedOn);
    }
    CHECK(sectors.size() == sectorCount);
    CHECK(listed >= 20);
    CHECK(delisted >= 5);
    CHECK(split >= 5);
    CHECK(paying >= 30);
    const Day first = market.records.back().bars.days.front();
    CHECK(*Day::parse("2026-09-30") - first > 5 * 365);
}

TEST_CASE("Demo market: another seed makes another market", "[demo_market]")
{
    CHECK(makeMarket(1).records[0].bars.close != makeMarket(2).records[0].bars.close);
}

TEST_CASE("Demo market: no session on weekends and holidays", "[demo_market]")
{
    for (const Day day : sessionsBetween(*Day::parse("2024-01-01"), *Day::parse("2024-12-31"))) {
        CHECK_FALSE(day.isWeekend());
        CHECK(day.iso() != "2024-01-01");
        CHECK(day.iso() != "2024-12-25");
    }
}

} // namespace sieve::demo_market
