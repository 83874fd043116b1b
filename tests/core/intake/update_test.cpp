#include "core/intake/market_folder.h"
#include "core/intake/take_in.h"
#include "core/storage/market_file.h"
#include "tests/core/made_market.h"
#include "tests/own_folder.h"

#include <catch2/catch.hpp>
#include <csignal>
#include <mutex>
#include <sys/resource.h>

namespace sieve::intake {

using test::day;
using test::OwnFolder;

namespace {

namespace fs = std::filesystem;

const std::string head = "date,open,high,low,close,volume\n";
const std::string statementHead = "symbol,period_end,period,known_on,item,value\n";

/// Its period and day are those of a figure of another company in the update: both must stay.
const std::string lateFigure = "AAAA.C,2023-12-31,quarter,2024-01-03,revenue,7\n";

/// A row of every other kind; no update tells them again.
void writeFacts(const OwnFolder& folder)
{
    folder.write("shares.csv", "symbol,date,outstanding,known_on\n"
                               "AAAA.C,2023-12-01,1000,2023-12-20\nBBBB.C,2023-12-01,500,\n");
    folder.write("actions.csv", "symbol,ex_date,kind,value\nAAAA.C,2024-01-03,dividend,0.5\n");
    folder.write("estimates.csv", "symbol,known_on,measure,period,period_end,mean\n"
                                  "AAAA.C,2023-12-01,eps,year,2024-12-31,1.5\n");
    folder.write("owners.csv", "symbol,as_of,known_on,kind,share\n"
                               "AAAA.C,2023-09-30,2023-11-01,insiders,0.25\n");
    folder.write("calendar.csv", "symbol,date,when,kind\nAAAA.C,2024-02-01,after close,report\n");
    folder.write("ratings.csv",
                 "symbol,date,house,action,target\nAAAA.C,2023-12-11,Quay House,starts,14\n");
}

void writeFormer(const OwnFolder& folder)
{
    folder.write("instruments.csv", "symbol,name,sector\nAAAA.C,Ossmere Kelp,Food and sea\n"
                                    "BBBB.C,Torvness Cable,Energy\n");
    folder.write("bars/daily/AAAA.C.csv",
                 head + "2024-01-02,10,11,9,10,100\n2024-01-03,10,12,10,12,90\n");
    folder.write("bars/daily/BBBB.C.csv",
                 head + "2024-01-02,20,21,19,20,100\n2024-01-03,20,22,20,22,90\n");
    folder.write("statements.csv",
                 statementHead + "AAAA.C,2023-09-30,quarter,2023-11-01,revenue,5\n" + lateFigure);
    writeFacts(folder);
}

/// What came since: new bars, a corrected one, a restatement, a listing, a rename, a delisting.
void writeNews(const OwnFolder& folder)
{
    folder.write("instruments.csv", "symbol,name,sector,delisted_on,delisted_why\n"
                                    "AAAA.C,Ossmere Kelp,Food and sea,2024-01-05,bought\n"
                                    "CCCC.T,Garvholm Sensors,Technology,,\n"
                                    "DDDD.C,Torvness Grid,Energy,,\n");
    folder.write("renames.csv", "old_symbol,new_symbol,day\nBBBB.C,DDDD.C,2024-01-04\n");
    folder.write("bars/daily/AAAA.C.csv",
                 head + "2024-01-03,10,12,10,11,95\n2024-01-04,11,12,11,12,80\n");
    folder.write("bars/daily/DDDD.C.csv", head + "2024-01-04,22,23,21,22,70\n");
    folder.write("bars/daily/CCCC.T.csv", head + "2024-01-04,5,6,5,6,70\n");
    folder.write("statements.csv", statementHead +
                                       "AAAA.C,2023-09-30,quarter,2024-01-04,revenue,4\n"
                                       "AAAA.C,2023-09-30,quarter,2023-11-01,revenue,6\n"
                                       "DDDD.C,2023-12-31,quarter,2024-01-03,revenue,8\n");
}

/// The two as one dataset.
void writeWhole(const OwnFolder& folder)
{
    writeNews(folder);
    folder.write("bars/daily/AAAA.C.csv",
                 head + "2024-01-02,10,11,9,10,100\n2024-01-03,10,12,10,11,95\n"
                        "2024-01-04,11,12,11,12,80\n");
    folder.write("bars/daily/BBBB.C.csv",
                 head + "2024-01-02,20,21,19,20,100\n2024-01-03,20,22,20,22,90\n");
    folder.write("statements.csv", statementHead +
                                       "AAAA.C,2023-09-30,quarter,2023-11-01,revenue,6\n"
                                       "AAAA.C,2023-09-30,quarter,2024-01-04,revenue,4\n"
                                       "DDDD.C,2023-12-31,quarter,2024-01-03,revenue,8\n" +
                                       lateFigure);
    writeFacts(folder);
    folder.write("dataset.toml", "name = \"Isles\"\n");
}

IntakeReport takenIn(const OwnFolder& source, const OwnFolder& market, bool isUpdate = false)
{
    Result<IntakeReport> report = takeIn({source.path(), market.path(), {}, isUpdate});
    if (!report)
        FAIL(report.error().problem << ": " << report.error().remedy);
    return *std::move(report);
}

} // namespace

TEST_CASE("Update: leaves the same bytes as an intake of all at once", "[intake]")
{
    const OwnFolder former;
    const OwnFolder news;
    const OwnFolder whole;
    writeFormer(former);
    former.write("dataset.toml", "name = \"Isles\"\n");
    writeNews(news);
    writeWhole(whole);
    const OwnFolder updated;
    const OwnFolder atOnce;
    takenIn(former, updated);
    const IntakeReport report = takenIn(news, updated, true);
    for (const Finding& finding : report.findings)
        UNSCOPED_INFO(finding.file << ":" << finding.line << " " << finding.why);
    CHECK(report.findings.empty());
    takenIn(whole, atOnce);
    CHECK(updated.read("market.sieve") == atOnce.read("market.sieve"));

    const market::MarketPtr market = *storage::openMarket(updated.path());
    REQUIRE(market->size() == 3);
    const std::size_t kelp = *market->find("AAAA.C");
    CHECK(market->bars(kelp).close[1] == 11); // corrected
    CHECK(market->instrument(kelp).delistedWhy == "bought");
    CHECK(market->bars(*market->find("DDDD.C")).size() == 3);
    CHECK(market->find("BBBB.C") == market->find("DDDD.C"));

    takenIn(news, updated, true); // once more changes nothing
    CHECK(updated.read("market.sieve") == atOnce.read("market.sieve"));
}

TEST_CASE("Update: of a market that is not there is refused", "[intake]")
{
    const OwnFolder source;
    const OwnFolder market;
    writeFormer(source);
    const Result<IntakeReport> report = takeIn({source.path(), market.path(), {}, true});
    REQUIRE_FALSE(report);
    CHECK(report.error().problem.find("is not there") != std::string::npos);
}

TEST_CASE("Intake: whatever stops it, the former market stays", "[intake]")
{
    const OwnFolder source;
    const OwnFolder market;
    writeFormer(source);
    takenIn(source, market);
    const std::string former = market.read("market.sieve");
    source.write("bars/daily/AAAA.C.csv", head + "2024-01-02,1,1,1,1,1\n");

    SECTION("the person stops it")
    {
        std::stop_source stop;
        const Progress progress(stop.get_token(), [&](double fraction, std::string_view) {
            if (fraction > 0.4)
                stop.request_stop();
        });
        CHECK_THROWS_AS((void)takeIn({source.path(), market.path()}, progress), Stopped);
    }
    SECTION("the folder vanishes")
    {
        fs::remove_all(source.path());
        CHECK_FALSE(takeIn({source.path(), market.path()}));
    }
    SECTION("the folder vanishes in the middle")
    {
        std::once_flag once;
        const Progress progress({}, [&](double fraction, std::string_view) {
            if (fraction > 0.4)
                std::call_once(once, [&] { fs::remove_all(source.path()); });
        });
        CHECK_THROWS_AS((void)takeIn({source.path(), market.path()}, progress), std::system_error);
    }
    SECTION("a file cannot be read")
    {
        fs::remove(source.path() / "statements.csv");
        fs::create_symlink(source.path() / "statements.csv", source.path() / "statements.csv");
        fs::create_directories(source.path() / "bars/daily/odd.csv"); // a folder is no file
        fs::create_symlink("/nowhere", source.path() / "bars/daily/lost.csv");
        CHECK(takeIn({source.path(), market.path()})); // all three are passed over
        return;
    }
    SECTION("the disk is full")
    {
        std::string rows = head;
        for (Day each = day("1990-01-01"); each < day("2024-01-01"); each = each.plusDays(1))
            rows += each.iso() + ",1,2,1,2,3\n";
        source.write("bars/daily/LONG.C.csv", rows);
        std::signal(SIGXFSZ, SIG_IGN);
        rlimit limit{};
        getrlimit(RLIMIT_FSIZE, &limit);
        const rlimit small{100'000, limit.rlim_max};
        setrlimit(RLIMIT_FSIZE, &small);
        CHECK_THROWS_AS((void)takeIn({source.path(), market.path()}), std::system_error);
        setrlimit(RLIMIT_FSIZE, &limit);
    }
    CHECK(market.read("market.sieve") == former);
    CHECK_FALSE(fs::exists(market.path() / "market.sieve.part"));
    CHECK((*storage::openMarket(market.path()))->bars(0).close[0] == 10);
}

TEST_CASE("Open: a source is taken in once, and again when it changed", "[intake]")
{
    const OwnFolder source;
    const OwnFolder market;
    writeFormer(source);
    const auto made = [&] { return fs::last_write_time(storage::marketFile(market.path())); };
    REQUIRE(openSource(source.path(), market.path()));
    const auto first = made();
    REQUIRE(openSource(source.path(), market.path()));
    CHECK(made() == first);
    source.write("bars/daily/EEEE.C.csv", head + "2024-01-02,1,1,1,1,1\n");
    const auto again = openSource(source.path(), market.path());
    REQUIRE(again);
    CHECK(made() != first);
    CHECK(again->market->size() == 3);
    CHECK(again->report.findings.size() == 1); // the report of the newest intake is kept
    CHECK(openSource(source.path(), market.path())->report.findings.size() == 1);
}

TEST_CASE("Open: a damaged market is made again with its updates", "[intake]")
{
    const OwnFolder former;
    const OwnFolder news;
    const OwnFolder market;
    writeFormer(former);
    writeNews(news);
    takenIn(former, market);
    takenIn(news, market, true);
    const std::string whole = market.read("market.sieve");
    std::string damaged = whole;
    damaged[damaged.size() - 40] ^= 1; // in the table of contents
    market.write("market.sieve", damaged);
    CHECK_FALSE(storage::openMarket(market.path()));
    const Result<Intake> intake = openFolder(market.path());
    REQUIRE(intake);
    CHECK(intake->market->size() == 3);
    CHECK(market.read("market.sieve") == whole);
}

TEST_CASE("Intake: only one program writes a market at a time", "[intake]")
{
    const OwnFolder source;
    const OwnFolder market;
    writeFormer(source);
    const FolderLock other(market.path());
    REQUIRE(other.isHeld());
    const Result<IntakeReport> report = takeIn({source.path(), market.path()});
    REQUIRE_FALSE(report);
    CHECK(report.error().problem.find("another program") != std::string::npos);
}

TEST_CASE("Report: comes back from JSON as it was", "[intake]")
{
    IntakeReport report;
    report.files = 2;
    report.rows = 300;
    report.add({"a.csv", 7, "high", "\"9\" \xFF", "why", "row left out"});
    for (std::size_t i = 0; i < IntakeReport::mostAlike + 50; ++i)
        report.add({"b.csv", i + 1, "", "", "the same again", "row left out"});
    report.finish();
    CHECK(report.findings.size() == 1 + IntakeReport::mostAlike + 1);
    CHECK(report.findings.back().what == "50 more rows");
    CHECK(report.findings.back().line == 0); // of no line
    const Result<IntakeReport> back = reportFromJson(toJson(report));
    REQUIRE(back);
    CHECK(back->rows == 300);
    CHECK(back->findings.size() == report.findings.size());
    CHECK(back->findings[1] == report.findings[1]);
    CHECK_FALSE(reportFromJson("{"));
    CHECK_FALSE(reportFromJson("{\"files\": 1}"));
}

} // namespace sieve::intake
