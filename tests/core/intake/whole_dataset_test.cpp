#include "core/intake/take_in.h"
#include "core/market/as_of.h"
#include "core/storage/market_file.h"
#include "tests/core/intake/tiny_dataset.h"
#include "tests/core/made_market.h"

#include <catch2/catch.hpp>
#include <zlib.h>

namespace sieve::intake {

using test::day;

namespace {

namespace fs = std::filesystem;

Intake tiny(const test::OwnFolder& source, const test::OwnFolder& market)
{
    test::writeTinyDataset(source);
    Result<Intake> intake = openSource(source.path(), market.path());
    if (!intake)
        FAIL(intake.error().problem << ": " << intake.error().remedy);
    for (const Finding& finding : intake->report.findings)
        UNSCOPED_INFO(finding.file << ":" << finding.line << " " << finding.why);
    CHECK(intake->report.findings.empty());
    return *std::move(intake);
}

void gzip(const fs::path& path)
{
    std::ifstream file(path, std::ios::binary);
    const std::string text((std::istreambuf_iterator<char>(file)), {});
    gzFile packed = gzopen((path.string() + ".gz").c_str(), "wb");
    gzwrite(packed, text.data(), static_cast<unsigned>(text.size()));
    gzclose(packed);
    fs::remove(path);
}

} // namespace

TEST_CASE("Dataset: every file of the tiny example is taken in", "[intake]")
{
    const test::OwnFolder source;
    const test::OwnFolder folder;
    const market::MarketPtr market = tiny(source, folder).market;
    REQUIRE(market->size() == 3);
    const std::size_t kelp = *market->find("KELP.C");
    const std::size_t gone = *market->find("GONE.C");
    CHECK(market->find("SEAW.C") == kelp); // by its former symbol too
    const market::Instrument& instrument = market->instrument(kelp);
    CHECK(instrument.about == "Kelp, and \"more\"");
    CHECK(instrument.optionable);
    CHECK(market::symbolOn(instrument, day("2024-01-03")) == "SEAW.C");
    CHECK(market::symbolOn(instrument, day("2024-01-04")) == "KELP.C");
    CHECK(market->bars(kelp).size() == 4);
    CHECK(market->bars(gone).size() == 2); // 3 January: no trade, no bar
    CHECK(market->sessions().size() == 4);

    REQUIRE(market->minuteBars(kelp).size() == 2);
    CHECK(market->minuteBars(kelp).minutes[0].iso() == "2024-01-05T10:30Z");
    CHECK(market->minuteBars(kelp).close[1] == 5.3);

    REQUIRE(market->splits(kelp).size() == 1);
    REQUIRE(market->actions(gone).size() == 1);
    CHECK(market->actions(gone)[0].kind == market::ActionKind::SpinOff);
    CHECK(market->calendar(kelp)[0].when == market::CalendarTime::AfterClose);
    const market::Notices notices = market->notices(kelp);
    REQUIRE(notices.news.size() == 1);
    CHECK(notices.news[0].title == "Ossmere opens a kelp dryer");
    CHECK(notices.news[0].time.iso() == "2024-01-05T08:15Z");
    REQUIRE(notices.ratings.size() == 1);
    CHECK(notices.ratings[0].house == "Harbour Research");
    CHECK(market->notices(gone).isEmpty());
}

TEST_CASE("Dataset: nothing is known before its day", "[intake]")
{
    const test::OwnFolder source;
    const test::OwnFolder folder;
    const market::MarketPtr market = tiny(source, folder).market;
    const std::size_t kelp = *market->find("KELP.C");
    const auto revenue = [&](const char* on) {
        return market->statements(kelp)
            .figure(*market::statementItemNamed("revenue"), market::Period::Quarter, 0, day(on))
            ->value;
    };
    CHECK(revenue("2024-01-04") == 1'200'000); // restated a day later
    CHECK(revenue("2024-01-05") == 1'150'000);
    const auto estimate = [&](const char* on) {
        return market::estimateOn(*market, kelp, market::EstimateMeasure::EarningsPerShare,
                                  market::Period::Year, 0, day(on));
    };
    CHECK_FALSE(estimate("2024-01-01"));
    CHECK(estimate("2024-01-04")->mean == 0.8);
    CHECK(estimate("2024-01-05")->mean == 0.95);
    const auto insiders = [&](const char* on) {
        return market::ownersOn(*market, kelp, market::OwnerKind::Insiders, 0, day(on));
    };
    CHECK_FALSE(insiders("2024-01-02"));
    CHECK(insiders("2024-01-03")->share == 0.21);
    CHECK(insiders("2024-01-03")->holders == 7);
    CHECK_FALSE(market::ownersOn(*market, kelp, market::OwnerKind::Insiders, 1, day("2024-01-05")));
    CHECK_FALSE(market::sharesOn(*market, kelp, day("2024-01-02")));
    CHECK(market::sharesOn(*market, kelp, day("2024-01-03"))->outstanding == 1e7);
    const market::Instrument& instrument = market->instrument(kelp);
    CHECK_FALSE(market::isMember(instrument, "CRWX.C", day("2024-01-03")));
    CHECK(market::isMember(instrument, "CRWX.C", day("2024-01-04")));
    const std::size_t gone = *market->find("GONE.C");
    CHECK_FALSE(market::isMember(market->instrument(gone), "CRWX.C", day("2024-01-05")));
    CHECK_FALSE(market::barOn(*market, gone, day("2024-01-05")));
    CHECK(market->bars(gone).close[*market::lastBarBy(*market, gone, day("2026-01-01"))] == 3.5);
}

TEST_CASE("Dataset: total return buys more at the ex-day, and a split does not show", "[market]")
{
    const test::OwnFolder source;
    const test::OwnFolder folder;
    const market::MarketPtr market = tiny(source, folder).market;
    const std::size_t kelp = *market->find("KELP.C");
    std::vector<double> total(4);
    market->totalReturn(kelp, 1, 0, total);
    CHECK(total[0] == Approx(5.1)); // 10.2 on the footing after the split
    CHECK(total[2] == Approx(5.2));
    CHECK(total[3] == Approx(5.5 * (1.0 + 0.05 / 5.5)));
    std::vector<double> tail(2); // the same bits wherever it begins
    market->totalReturn(kelp, 1, 2, tail);
    CHECK(tail[0] == total[2]);
    CHECK(tail[1] == total[3]);
    const std::size_t gone = *market->find("GONE.C");
    std::vector<double> spunOff(2);
    market->totalReturn(gone, 0, 0, spunOff);
    CHECK(spunOff[1] == Approx(3.5 + 0.4));
}

TEST_CASE("Dataset: the exchange's calendar, hours and zone", "[market]")
{
    const test::OwnFolder source;
    const test::OwnFolder folder;
    const market::MarketPtr market = tiny(source, folder).market;
    const market::Exchange* carrow = market->exchange("Carrow");
    REQUIRE(carrow);
    CHECK_FALSE(market::isSessionDay(*carrow, day("2024-01-01")));
    CHECK_FALSE(market::isSessionDay(*carrow, day("2024-01-06")));
    CHECK(market::isSessionDay(*carrow, day("2024-12-24")));
    CHECK(market::isHalfDay(*carrow, day("2024-12-24")));
    CHECK_FALSE(market::sessionHours(*carrow, day("2024-01-01")));
    // An hour behind universal time in winter, none in summer.
    CHECK(market::sessionHours(*carrow, day("2024-01-05"))->opens.iso() == "2024-01-05T10:30Z");
    CHECK(market::sessionHours(*carrow, day("2024-07-05"))->opens.iso() == "2024-07-05T09:30Z");
    CHECK(market::sessionHours(*carrow, day("2024-12-24"))->closes.iso() == "2024-12-24T14:00Z");
    CHECK(market::localDay(*carrow, *Minute::parse("2024-01-05T00:30Z")) == day("2024-01-04"));
    CHECK_FALSE(market->exchange("Nowhere"));
}

TEST_CASE("Dataset: compressed files are the same as plain ones", "[intake]")
{
    const test::OwnFolder source;
    const test::OwnFolder plain;
    const test::OwnFolder packed;
    tiny(source, plain);
    for (const char* file : {"instruments.csv", "statements.csv", "actions.csv",
                             "bars/daily/KELP.C.csv", "bars/minute/KELP.C.csv"})
        gzip(source.path() / file);
    const Result<IntakeReport> report = takeIn({source.path(), packed.path()});
    REQUIRE(report);
    CHECK(report->findings.empty());
    CHECK(plain.read("market.sieve") == packed.read("market.sieve"));
}

TEST_CASE("Dataset: a compressed file that is cut short keeps what came, and is told", "[intake]")
{
    const test::OwnFolder source;
    const test::OwnFolder folder;
    std::string rows = "date,open,high,low,close,volume\n";
    for (Day each = day("2010-01-01"); each < day("2020-01-01"); each = each.plusDays(1))
        if (!each.isWeekend())
            rows += each.iso() + "," + std::to_string(10 + each.serial() % 7) + ",99,1,5,100\n";
    source.write("bars/daily/AAAA.C.csv", rows);
    const fs::path path = source.path() / "bars/daily/AAAA.C.csv";
    gzip(path);
    fs::resize_file(path.string() + ".gz", fs::file_size(path.string() + ".gz") / 2);
    const Result<Intake> intake = openSource(source.path(), folder.path());
    REQUIRE(intake);
    CHECK(intake->market->bars(0).size() > 500);
    CHECK(intake->market->bars(0).size() < 2000);
    CHECK(std::ranges::count(intake->report.findings,
                             std::string("the compressed file is cut short"), &Finding::why) == 1);
}

TEST_CASE("Dataset: a compressed file that grows without end is given up", "[intake]")
{
    const test::OwnFolder source;
    const test::OwnFolder folder;
    source.write("bars/daily/AAAA.C.csv",
                 "date,open,high,low,close,volume\n2024-01-02,1,2,0.5,1.5,100\n");
    const std::string name = (source.path() / "statements.csv.gz").string();
    gzFile bomb = gzopen(name.c_str(), "wb9");
    const std::string lines = "symbol,period_end,period,known_on,item,value\n";
    gzwrite(bomb, lines.data(), static_cast<unsigned>(lines.size()));
    const std::string zeros(1U << 20U, '\n');
    for (int megabyte = 0; megabyte < 300; ++megabyte)
        gzwrite(bomb, zeros.data(), static_cast<unsigned>(zeros.size()));
    gzclose(bomb);
    const Result<IntakeReport> report = takeIn({source.path(), folder.path()});
    REQUIRE(report);
    CHECK(std::ranges::any_of(report->findings, [](const Finding& finding) {
        return finding.why.find("200 times its size") != std::string::npos;
    }));
}

} // namespace sieve::intake
