#include "core/conditions/mosaic.h"

#include "core/conditions/own_screens.h"
#include "tests/core/made_market.h"

#include <catch2/catch.hpp>

namespace sieve::conditions {

namespace {

market::InstrumentRecord sized(const std::string& symbol, const std::string& sector,
                               const std::string& industry, double shares, double change)
{
    auto record = test::recordOf(symbol, {100.0, 100.0 * (1.0 + change)}, sector);
    record.instrument.industry = industry;
    if (shares > 0.0) {
        const Day begin = test::day("2024-01-01");
        record.shares.push_back({begin, begin, shares});
    }
    return record;
}

struct Bench {
    explicit Bench(std::vector<market::InstrumentRecord> records)
        : market(test::marketOf(std::move(records))), evaluator(market),
          groups(readGroups(evaluator))
    {
    }
    market::MarketPtr market;
    engine::Evaluator evaluator;
    Groups groups;

    Mosaic whole()
    {
        return marketMosaic(evaluator, groups, std::nullopt, market->sessions().back(), 1);
    }
};

double areaOf(const std::vector<MosaicCell>& cells)
{
    double area = 0.0;
    for (const MosaicCell& cell : cells)
        area += cell.width * cell.height;
    return area;
}

} // namespace

TEST_CASE("Mosaic: sectors by size, industries by change, changes by capitalization",
          "[conditions]")
{
    Bench bench({sized("AAAA", "Energy", "Tides", 10, 0.10),
                 sized("BBBB", "Energy", "Peat", 30, -0.10),
                 sized("CCCC", "Water", "Wells", 100, 0.0), sized("DDDD", "Water", "", 0, 0.5)});
    const Mosaic mosaic = bench.whole();
    CHECK(mosaic.isBySize);
    CHECK(mosaic.unsized == 1); // DDDD
    REQUIRE(mosaic.columns.size() == 2);
    CHECK(mosaic.columns[0].name == "Water");
    CHECK(mosaic.columns[1].size == Approx(10 * 110 + 30 * 90));
    CHECK(mosaic.columns[1].change == Approx((1100.0 + 2700.0) / 4000.0 - 1.0));
    CHECK(mosaic.columns[1].parts[0].name == "Tides");
    const auto cells = layOut(mosaic, 0.0);
    CHECK(areaOf(cells) == Approx(1.0));
    CHECK(cells[1].width == Approx(3800.0 / 13800.0));
    CHECK(cells[1].height == Approx(1100.0 / 3800.0));
}

TEST_CASE("Mosaic: sizes are in one currency", "[conditions]")
{
    auto other = sized("BBBB", "Water", "Wells", 10, 0.0);
    other.instrument.currency = test::otherCurrency;
    const market::Market market(
        {"Isles", "1", "vl", "", {}, {{test::otherCurrency, {{test::day("2024-01-01"), 0.25}}}}},
        {sized("AAAA", "Energy", "Tides", 10, 0.0), other});
    engine::Evaluator evaluator(std::make_shared<const market::Market>(market));
    const std::size_t both[] = {0, 1};
    const Mosaic mosaic = sharesMosaic(evaluator, both, market.sessions().back(), 1);
    REQUIRE(mosaic.columns.size() == 2);
    CHECK(mosaic.columns[0].size == 1000.0);
    CHECK(mosaic.columns[1].size == 250.0);
}

TEST_CASE("Mosaic: small parts lie together, and the picture stays full", "[conditions]")
{
    std::vector<market::InstrumentRecord> records;
    for (int i = 0; i < 60; ++i)
        records.push_back(sized("S" + std::to_string(100 + i), "Energy", "Tides",
                                i < 3 ? 1000.0 : 1.0, 0.01 * (i % 5)));
    Bench bench(std::move(records));
    const Mosaic mosaic =
        marketMosaic(bench.evaluator, bench.groups, 0U, bench.market->sessions().back(), 1);
    REQUIRE(mosaic.columns.size() == 1);
    CHECK(mosaic.columns[0].parts.size() == 60);
    const auto cells = layOut(mosaic, 0.02);
    REQUIRE(cells.size() == 4);
    CHECK_FALSE(cells.back().part);
    CHECK(cells.back().together == 57);
    CHECK(areaOf(cells) == Approx(1.0));
}

TEST_CASE("Mosaic: without capitalizations all count the same, nothing divides by zero",
          "[conditions]")
{
    Bench bench(
        {sized("AAAA", "Energy", "Tides", 0, 0.1), sized("BBBB", "Water", "Wells", 0, 0.1)});
    const Mosaic mosaic = bench.whole();
    CHECK_FALSE(mosaic.isBySize);
    CHECK(mosaic.columns[0].size == 1.0);
    Bench bare({test::recordOf("AAAA", {1, 2}, "")});
    CHECK(bare.whole().columns.empty());
    CHECK(layOut(bare.whole(), 0.1).empty());
    const std::size_t all[] = {0};
    const Mosaic list = sharesMosaic(bare.evaluator, all, bare.market->sessions()[0], 5);
    REQUIRE(list.columns.size() == 1);
    CHECK(list.columns[0].name == "no sector");
    CHECK(isMissing(list.columns[0].change));
}

TEST_CASE("Own screens: the share of earlier matches that rose", "[conditions]")
{
    const auto market = test::marketOf({test::recordOf("AAAA", {10, 11, 12, 13, 14, 15, 16}),
                                        test::recordOf("BBBB", {10, 11, 10, 9, 8, 7, 6}),
                                        test::recordOf("CCCC", {10, 9, 8, 9, 10, 11, 12})});
    language::Names names{language::Vocabulary::builtIn()};
    names.screen = [](std::string_view name) -> std::optional<language::ScreenCondition> {
        if (name == "Risen")
            return language::ScreenCondition{"", {"close > prior(close)"}};
        if (name == "Broken")
            return language::ScreenCondition{"", {"close >"}};
        return std::nullopt;
    };
    engine::Evaluator evaluator(market);
    const std::vector<std::string> screens{"Risen", "Broken", "Gone", "A \" in it"};
    const auto reading = readOwnScreens(evaluator, names, screens, market->sessions().back(), 3);
    REQUIRE(reading.days.size() == 3);
    CHECK(reading.matches5 == 2.0);       // AAAA and BBBB had risen on the second session
    CHECK(reading.gained5.back() == 0.5); // and AAAA stands higher
    CHECK(reading.gained1.back() == 1.0);
    // On the session before the last: those that had risen on the one before it, and were higher
    // the next day. On the last but two CCCC had risen too.
    CHECK(reading.gained1 == std::vector<double>{1.0, 1.0, 1.0});
    CHECK(isMissing(
        readOwnScreens(evaluator, names, {}, market->sessions().back(), 3).gained1.back()));
}

TEST_CASE("Mosaic: the full colour stands where nine of ten parts stay below", "[conditions]")
{
    Mosaic mosaic;
    CHECK(fullChange(mosaic) == 0.01);
    mosaic.columns.resize(2);
    for (int part = 0; part < 10; ++part) {
        MosaicPart each;
        each.change = (part % 2 == 0 ? 0.011 : -0.011) * part; // to 9.9 %
        mosaic.columns[part < 5 ? 0U : 1U].parts.push_back(each);
    }
    mosaic.columns[1].parts.push_back({}); // without a change
    CHECK(fullChange(mosaic) == Approx(0.10));
    mosaic.columns[1].parts[3].change = 0.021; // the eighth; the ninth still is 9.9 %
    CHECK(fullChange(mosaic) == Approx(0.10));
    CHECK(colourStrength(-0.05, 0.10) == Approx(0.5));
    CHECK(colourStrength(0.3, 0.10) == 1.0);
}

} // namespace sieve::conditions
