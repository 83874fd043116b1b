#include "core/intake/bar_rules.h"

#include "core/intake/bar_spool.h"
#include "tests/core/made_market.h"
#include "tests/own_folder.h"

#include <catch2/catch.hpp>

namespace sieve::intake {

namespace {

ReadBar bar(const char* day, double close, std::uint32_t line, std::uint32_t file = 0,
            double volume = 100.0)
{
    return {{test::day(day).serial(), close, close, close, close, volume}, missing, file, line};
}

struct Ruled {
    std::vector<ReadBar> bars;
    IntakeReport report;
};

Ruled ruled(std::vector<ReadBar> bars, const market::InstrumentRecord& record = {},
            const market::Exchange* exchange = nullptr)
{
    static const std::vector<BarFile> files{{"a.csv", "a.csv", BarScale::Daily, 0, {}},
                                            {"b.csv", "b.csv", BarScale::Daily, 1, {}}};
    Ruled result{std::move(bars), {}};
    const BarContext context{record, exchange, BarScale::Daily, files};
    settleBars(result.bars, context, result.report);
    noteOddBars(result.bars, context, result.report);
    return result;
}

} // namespace

TEST_CASE("Bar rules: what is in order and whole goes through untouched", "[intake]")
{
    const Ruled result = ruled({bar("2024-01-02", 10, 2), bar("2024-01-03", 10.5, 3)});
    CHECK(result.bars.size() == 2);
    CHECK(result.report.findings.empty());
}

TEST_CASE("Bar rules: of two files the first one's bar counts, each file is told of by its name",
          "[intake]")
{
    const Ruled result = ruled({bar("2024-01-03", 11, 2), bar("2024-01-02", 10, 3),
                                bar("2024-01-03", 99, 2, 1), bar("2024-01-04", 11.5, 3, 1)});
    REQUIRE(result.bars.size() == 3);
    CHECK(result.bars[1].bar.close == 11);
    REQUIRE(result.report.findings.size() == 2);
    CHECK(result.report.findings[0].file == "a.csv");
    CHECK(result.report.findings[0].why == "days out of order");
    CHECK(result.report.findings[1].file == "b.csv");
    CHECK(result.report.findings[1].line == 2);
    CHECK(result.report.rowsLeftOut == 1);
}

TEST_CASE("Bar rules: a new bar corrects a former one and is not told", "[intake]")
{
    const Ruled result =
        ruled({bar("2024-01-02", 10, 0), bar("2024-01-03", 11, 0), bar("2024-01-03", 12, 2)});
    REQUIRE(result.bars.size() == 2);
    CHECK(result.bars[1].bar.close == 12);
    CHECK(result.report.findings.empty());
}

TEST_CASE("Bar rules: a jump is told unless a split or spin-off explains it", "[intake]")
{
    const std::vector<ReadBar> jump{bar("2024-01-02", 40, 2), bar("2024-01-03", 20, 3)};
    CHECK(ruled(jump).report.findings.size() == 1);
    market::InstrumentRecord record;
    record.actions = {{test::day("2024-01-03"), market::ActionKind::Split, 2.0}};
    CHECK(ruled(jump, record).report.findings.empty());
    record.actions[0].exDate = test::day("2024-01-04");
    CHECK(ruled(jump, record).report.findings.size() == 1);
    CHECK(ruled({bar("2024-01-02", 40, 2), bar("2024-01-03", 27, 3)}).report.findings.empty());
}

TEST_CASE("Bar rules: idle rows go, but an index may stand still", "[intake]")
{
    const std::vector<ReadBar> idle{bar("2024-01-02", 40, 2), bar("2024-01-03", 40, 3, 0, 0.0),
                                    bar("2024-01-04", 41, 4, 0, 0.0)};
    CHECK(ruled(idle).bars.size() == 2); // a price that moved was made by somebody
    market::InstrumentRecord index;
    index.instrument.kind = market::InstrumentKind::Index;
    CHECK(ruled(idle, index).bars.size() == 3);
}

TEST_CASE("Bar rules: a bar on a holiday is told by the exchange's calendar", "[intake]")
{
    const market::Exchange exchange{"Made",
                                    "",
                                    std::nullopt,
                                    std::nullopt,
                                    {{test::day("2024-01-03")}, {test::day("2024-01-04"), 780}}};
    const Ruled result =
        ruled({bar("2024-01-03", 10, 2), bar("2024-01-04", 10, 3), bar("2024-01-06", 10, 4)}, {},
              &exchange);
    REQUIRE(result.report.findings.size() == 2);
    CHECK(result.report.findings[0].why == "a bar on a holiday of the exchange");
    CHECK(result.report.findings[1].why == "a bar on a weekend");
    CHECK(result.bars.size() == 3);
}

TEST_CASE("Bar rules: a date with a wrong year moves neither the first nor the last session",
          "[intake]")
{
    const market::InstrumentRecord record;
    const std::vector<BarFile> files{{"a.csv", "a.csv", BarScale::Daily, 0, {}}};
    const auto settled = [&](std::vector<ReadBar> bars, const char* takenOn) {
        IntakeReport report;
        settleBars(bars, {record, nullptr, BarScale::Daily, files, test::day(takenOn)}, report);
        CHECK(report.rowsLeftOut == report.findings.size());
        return std::pair(bars.size(), report.findings);
    };
    const auto [kept, findings] =
        settled({bar("1924-01-02", 9, 2), bar("2024-01-03", 10, 3), bar("2024-01-04", 11, 4),
                 bar("2204-01-05", 12, 5), bar("2204-01-08", 12, 6)},
                "2024-01-04");
    CHECK(kept == 2);
    REQUIRE(findings.size() == 3);
    CHECK(findings[0].what == "1924-01-02");
    CHECK(findings[1].line == 5);
    CHECK(findings[1].why == "a day that has not come yet");
    const auto size = [&](std::vector<ReadBar> bars, const char* takenOn) {
        return settled(std::move(bars), takenOn).first;
    };
    // A clock that is behind leaves nothing out; nor does a pause that is over.
    CHECK(size({bar("2024-01-03", 10, 2), bar("2024-01-04", 11, 3)}, "2020-01-01") == 2);
    CHECK(size({bar("2024-01-03", 10, 2), bar("2024-09-04", 11, 3)}, "2024-09-03") == 2);
    CHECK(size({bar("2024-01-03", 10, 2), bar("2024-09-04", 11, 3)}, "2024-09-02") == 1);
    CHECK(size({bar("2024-01-03", 10, 2), bar("2024-07-04", 11, 3)}, "2024-01-03") == 2);
    CHECK(size({bar("2204-01-03", 10, 2)}, "2024-01-03") == 0); // nothing else is known of it
    CHECK(size({bar("2024-01-03", 10, 0), bar("2204-01-03", 10, 0)}, "2024-01-03") == 2);
    CHECK(size({bar("1994-01-03", 10, 2), bar("2014-01-03", 10, 3)}, "2024-01-03") == 2);
}

TEST_CASE("Spool: gives each symbol its bars in their order, however little memory it has",
          "[intake]")
{
    const test::OwnFolder folder;
    for (const std::size_t memory : {1U, 7U, 100'000U}) {
        BarSpool spool(folder.path() / "spool", memory);
        for (std::uint32_t row = 0; row < 500; ++row)
            spool.add("S" + std::to_string(row * 7 % 13), bar("2024-01-02", row, row + 1));
        CHECK(spool.symbols().size() == 13);
        std::size_t all = 0;
        for (const std::string& symbol : spool.symbols()) {
            std::vector<ReadBar> bars;
            spool.append(symbol, bars);
            all += bars.size();
            CHECK(std::ranges::is_sorted(bars, {}, &ReadBar::line));
        }
        CHECK(all == 500);
        std::vector<ReadBar> none;
        spool.append("nobody", none);
        CHECK(none.empty());
    }
    CHECK(std::filesystem::is_empty(folder.path())); // nothing is left beside
}

} // namespace sieve::intake
