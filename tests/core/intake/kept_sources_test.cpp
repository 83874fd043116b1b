#include "core/intake/kept_files.h"
#include "core/intake/market_folder.h"
#include "core/intake/take_in.h"
#include "core/storage/market_file.h"
#include "tests/own_folder.h"

#include <catch2/catch.hpp>

namespace sieve::intake {

using test::OwnFolder;

namespace {

namespace fs = std::filesystem;

const std::string head = "date,open,high,low,close,volume\n";

/// A market of one stock with two updates, and what it is made from.
struct Kept {
    OwnFolder base;
    OwnFolder first;
    OwnFolder second;
    OwnFolder market;

    Kept()
    {
        base.write("instruments.csv", "symbol,name\nAAAA.C,Ossmere Kelp\n");
        base.write("bars/daily/AAAA.C.csv", head + "2024-01-02,10,11,9,10,100\n");
        first.write("bars/daily/AAAA.C.csv", head + "2024-01-03,10,12,10,12,90\n");
        second.write("bars/daily/AAAA.C.csv", head + "2024-01-04,12,13,12,13,80\n");
        take(base, false);
        take(first, true);
        take(second, true);
    }
    void take(const OwnFolder& source, bool isUpdate)
    {
        const auto report = takeIn({source.path(), market.path(), {}, isUpdate});
        if (!report)
            FAIL(sentence(report.error()));
    }
    void damage() const
    {
        std::string bytes = market.read("market.sieve");
        bytes[bytes.size() - 40] ^= 1; // in the table of contents
        market.write("market.sieve", bytes);
    }
    void forgetUpdates() const
    {
        fs::remove_all(first.path());
        fs::remove_all(second.path());
    }
};

/// Tables with semicolons, as "Date;Close".
PriceLayout semicolons(DayForm form)
{
    PriceLayout layout;
    layout.separator = ';';
    layout.dayForm = form;
    layout.headings[static_cast<std::size_t>(PriceColumn::Time)] = "Date";
    layout.headings[static_cast<std::size_t>(PriceColumn::Close)] = "Close";
    return layout;
}

std::size_t barsOf(const Result<Intake>& intake)
{
    if (!intake)
        FAIL(sentence(intake.error()));
    return intake->market->bars(0).size();
}

} // namespace

TEST_CASE("Kept sources: updates stay when their files are gone", "[intake]")
{
    const Kept kept;
    kept.forgetUpdates();
    const std::string whole = kept.market.read("market.sieve");
    SECTION("and the base changes")
    {
        kept.base.write("bars/daily/BBBB.C.csv", head + "2024-01-02,5,5,5,5,5\n");
        const Result<Intake> intake = openSource(kept.base.path(), kept.market.path());
        CHECK(barsOf(intake) == 3);
        CHECK(intake->market->size() == 2);
        CHECK(intake->standing.empty());
    }
    SECTION("and the market is damaged")
    {
        kept.damage();
        CHECK(barsOf(openFolder(kept.market.path())) == 3);
        CHECK(kept.market.read("market.sieve") == whole);
    }
    SECTION("and the base is gone, and the market is damaged")
    {
        fs::remove_all(kept.base.path());
        kept.damage();
        const Result<Intake> intake = openSource(kept.base.path(), kept.market.path());
        CHECK(barsOf(intake) == 3);
        CHECK(kept.market.read("market.sieve") == whole);
    }
    SECTION("and the base is taken in again")
    {
        CHECK(takeIn({kept.base.path(), kept.market.path()}));
        CHECK(kept.market.read("market.sieve") == whole);
    }
}

TEST_CASE("Kept sources: a market stands as it was when its base is gone", "[intake]")
{
    const Kept kept;
    fs::remove_all(kept.base.path());
    const Result<Intake> intake = openSource(kept.base.path(), kept.market.path());
    CHECK(barsOf(intake) == 3);
    CHECK(intake->standing.find("is not there") != std::string::npos);
    // What has no updates has only its base.
    kept.base.write("bars/daily/AAAA.C.csv", head + "2024-01-02,10,11,9,10,100\n");
    const OwnFolder other;
    REQUIRE(takeIn({kept.base.path(), other.path()}));
    CHECK_FALSE(fs::exists(other.path() / "base"));
    fs::remove_all(kept.base.path());
    other.write("market.sieve", "cut");
    CHECK_FALSE(openFolder(other.path()));
}

TEST_CASE("Kept sources: a market is not made from less than it had", "[intake]")
{
    const OwnFolder base;
    const OwnFolder market;
    base.write("bars/daily/AAAA.C.csv", head + "2024-01-02,1,1,1,1,1\n2024-01-03,2,2,2,2,2\n");
    base.write("bars/daily/BBBB.C.csv", head + "2024-01-02,1,1,1,1,1\n");
    REQUIRE(openSource(base.path(), market.path()));
    const std::string whole = market.read("market.sieve");
    SECTION("a file is gone")
    {
        fs::remove(base.path() / "bars/daily/BBBB.C.csv");
        const Result<Intake> intake = openSource(base.path(), market.path());
        REQUIRE(intake);
        CHECK(intake->market->size() == 2);
        CHECK(intake->standing.find("1 of 2 files") != std::string::npos);
    }
    SECTION("a download was cut short")
    {
        base.write("bars/daily/AAAA.C.csv", head + "2024-01-02,1,1,1,1,1\n");
        const Result<Intake> intake = openSource(base.path(), market.path());
        REQUIRE(intake);
        CHECK(barsOf(intake) == 2);
        CHECK(intake->standing.find("2 of 3 daily bars") != std::string::npos);
    }
    SECTION("no bar can be read any more")
    {
        base.write("bars/daily/AAAA.C.csv", "nothing of use\n");
        base.write("bars/daily/BBBB.C.csv", "nothing of use\n");
        const Result<Intake> intake = openSource(base.path(), market.path());
        CHECK(barsOf(intake) == 2);
        CHECK_FALSE(intake->standing.empty());
    }
    CHECK(market.read("market.sieve") == whole);
    CHECK_FALSE(fs::exists(market.path() / "making"));
    // Who asks for it takes in what there is.
    fs::remove(base.path() / "bars/daily/BBBB.C.csv");
    base.write("bars/daily/AAAA.C.csv", head + "2024-01-02,1,1,1,1,1\n");
    REQUIRE(takeIn({base.path(), market.path()}));
    const Result<Intake> intake = openSource(base.path(), market.path());
    CHECK(barsOf(intake) == 1);
    CHECK(intake->standing.empty());
}

TEST_CASE("Kept sources: what fails while a market is made again leaves it whole", "[intake]")
{
    const Kept kept;
    const std::string whole = kept.market.read("market.sieve");
    const std::string sources = kept.market.read("sources.toml");
    kept.base.write("bars/daily/BBBB.C.csv", head + "2024-01-02,5,5,5,5,5\n");
    SECTION("the kept files of an update are damaged")
    {
        kept.market.write("updates/0002/bars/daily/AAAA.C.csv", head + "2024-01-04,1,1,1,1,1\n");
    }
    SECTION("they are gone")
    {
        fs::remove_all(kept.market.path() / "updates/0001");
    }
    SECTION("another program writes")
    {
        const FolderLock other(kept.market.path());
        const Result<Intake> intake = openSource(kept.base.path(), kept.market.path());
        CHECK(barsOf(intake) == 3);
        CHECK(intake->standing.find("another program") != std::string::npos);
        return;
    }
    const Result<Intake> intake = openSource(kept.base.path(), kept.market.path());
    CHECK(barsOf(intake) == 3);
    CHECK(intake->market->size() == 1);
    CHECK(intake->standing.find("the update from") != std::string::npos);
    CHECK(kept.market.read("market.sieve") == whole);
    CHECK(kept.market.read("sources.toml") == sources);
    CHECK_FALSE(makeAgain(kept.market.path()));
}

TEST_CASE("Kept sources: a market of other sources than those named is made again", "[intake]")
{
    // A kill after the sources were written and before the market took its place.
    Kept kept;
    const std::string former = kept.market.read("market.sieve");
    const OwnFolder third;
    third.write("bars/daily/AAAA.C.csv", head + "2024-01-05,13,14,13,14,70\n");
    kept.take(third, true);
    const std::string whole = kept.market.read("market.sieve");
    kept.market.write("market.sieve", former);
    fs::remove_all(third.path());
    SECTION("when it is opened")
    {
        CHECK(barsOf(openFolder(kept.market.path())) == 4);
    }
    SECTION("when its source is opened")
    {
        CHECK(barsOf(openSource(kept.base.path(), kept.market.path())) == 4);
    }
    SECTION("when the next update comes")
    {
        kept.take(kept.second, true);
    }
    CHECK(kept.market.read("market.sieve") == whole);
}

TEST_CASE("Kept sources: an update is not added to what is damaged", "[intake]")
{
    Kept kept;
    std::string damaged = kept.market.read("market.sieve");
    damaged[70] ^= 1; // in a block of bars, where opening does not look
    kept.market.write("market.sieve", damaged);
    REQUIRE(storage::openMarket(kept.market.path()));
    kept.take(kept.second, true);
    const Result<Intake> intake = openFolder(kept.market.path());
    REQUIRE(barsOf(intake) == 3);
    CHECK(intake->market->bars(0).days[0].iso() == "2024-01-02");
    CHECK(storage::verifyMarket(kept.market.path()));
    // Where it cannot be made again it stays damaged and is not updated.
    kept.market.write("market.sieve", damaged);
    fs::remove_all(kept.base.path());
    fs::remove_all(kept.market.path() / "base");
    CHECK_FALSE(takeIn({kept.second.path(), kept.market.path(), {}, true}));
    CHECK((kept.market.read("market.sieve") == damaged));
}

TEST_CASE("Kept sources: updates of former versions, which were not kept, are each made again",
          "[intake]")
{
    const Kept kept;
    // As former versions wrote it: where each source lay, and what was there.
    std::string sources;
    for (const OwnFolder* each : {&kept.base, &kept.first, &kept.second})
        sources += "[[source]]\npath = \"" + each->path().string() + "\"\nfingerprint = \"" +
                   fingerprintOf({each->path(), Source::Form::Dataset}) +
                   "\"\nupdate = " + (each == &kept.base ? "false" : "true") + "\n";
    kept.market.write("sources.toml", sources);
    fs::remove_all(kept.market.path() / "base");
    fs::remove_all(kept.market.path() / "updates");
    kept.base.write("bars/daily/BBBB.C.csv", head + "2024-01-02,5,5,5,5,5\n");
    SECTION("while they are there")
    {
        CHECK(barsOf(openSource(kept.base.path(), kept.market.path())) == 3);
        CHECK(sourcesOf(kept.market.path()).size() == 3);
    }
    SECTION("when one is gone the market stands as it was")
    {
        fs::remove_all(kept.first.path());
        const Result<Intake> intake = openSource(kept.base.path(), kept.market.path());
        CHECK(barsOf(intake) == 3);
        CHECK(intake->market->size() == 1);
        CHECK(intake->standing.find("no longer there") != std::string::npos);
    }
}

TEST_CASE("Kept sources: an update of which nothing is taken is refused", "[intake]")
{
    const Kept kept;
    const std::string whole = kept.market.read("market.sieve");
    const OwnFolder update;
    SECTION("an empty table")
    {
        update.write("statements.csv", "");
    }
    SECTION("rows of which none is good")
    {
        update.write("bars/daily/AAAA.C.csv", head + "yesterday,1,1,1,1,1\n2024-01-05,0,0,0,0,0\n");
    }
    SECTION("rows of nobody")
    {
        update.write("actions.csv", "symbol,ex_date,kind,value\nZZZZ.C,2024-01-03,split,2\n");
    }
    SECTION("a file that is no table of prices")
    {
        update.write("bars/daily/AAAA.C.csv", "what,where\n1,2\n");
    }
    const auto report = takeIn({update.path(), kept.market.path(), {}, true});
    REQUIRE_FALSE(report);
    CHECK(report.error().problem.find("nothing of") != std::string::npos);
    CHECK(kept.market.read("market.sieve") == whole);
    CHECK(sourcesOf(kept.market.path()).size() == 3);
    CHECK_FALSE(fs::exists(kept.market.path() / "updates/0003"));
}

TEST_CASE("Kept sources: an update taken in again is kept once", "[intake]")
{
    Kept kept;
    kept.take(kept.second, true);
    CHECK(sourcesOf(kept.market.path()).size() == 3);
    kept.take(kept.first, true); // not the last: it may take rows of the second back
    CHECK(sourcesOf(kept.market.path()).size() == 4);
    std::size_t folders = 0;
    for ([[maybe_unused]] const auto& each : fs::directory_iterator(kept.market.path() / "updates"))
        ++folders;
    CHECK(folders == 3);
}

TEST_CASE("Kept sources: an update read in another way is another one", "[intake]")
{
    const OwnFolder base;
    const OwnFolder update;
    const OwnFolder market;
    base.write("KELP.csv", "Date;Close\n30.01.2025;1,5\n");
    update.write("KELP.csv", "Date;Close\n02/05/2025;2.5\n");
    REQUIRE(takeIn({base.path(), market.path()}));
    for (const DayForm form : {DayForm::DayMonthYear, DayForm::MonthDayYear})
        REQUIRE(takeIn({update.path(), market.path(), semicolons(form), true}));
    CHECK(sourcesOf(market.path()).size() == 3);
    const std::string bytes = market.read("market.sieve");
    REQUIRE(makeAgain(market.path()));
    CHECK((market.read("market.sieve") == bytes));
}

TEST_CASE("Kept sources: each is read as was said for it", "[intake]")
{
    const OwnFolder base;
    const OwnFolder update;
    const OwnFolder market;
    base.write("KELP.csv", "Date;Close\n30.01.2025;1,5\n31.01.2025;1,75\n");
    update.write("KELP.csv", "Date;Close\n02/05/2025;2.5\n");
    REQUIRE(takeIn({base.path(), market.path()}));
    const PriceLayout american = semicolons(DayForm::MonthDayYear);
    REQUIRE(takeIn({update.path(), market.path(), american, true}));
    const std::string whole = market.read("market.sieve");
    CHECK(sourcesOf(market.path()).back().mapping == american);
    fs::remove_all(update.path());
    REQUIRE(makeAgain(market.path()));
    CHECK(market.read("market.sieve") == whole);
    const Result<Intake> intake = openFolder(market.path());
    REQUIRE(barsOf(intake) == 3);
    CHECK(intake->market->bars(0).days[2].iso() == "2025-02-05");
}

TEST_CASE("Kept sources: a single file is kept as one", "[intake]")
{
    const OwnFolder files;
    const OwnFolder market;
    files.write("KELP.csv", "Date,Close\n2025-02-03,1.5\n");
    files.write("new/KELP.csv", "Date,Close\n2025-02-04,1.75\n");
    REQUIRE(takeIn({files.path() / "KELP.csv", market.path()}));
    REQUIRE(takeIn({files.path() / "new/KELP.csv", market.path(), {}, true}));
    fs::remove_all(files.path());
    REQUIRE(makeAgain(market.path()));
    CHECK(barsOf(openFolder(market.path())) == 2);
}

TEST_CASE("Open: a market file that was written since is looked through first", "[intake]")
{
    const Kept kept;
    const std::string whole = kept.market.read("market.sieve");
    CHECK(isLookedThrough(kept.market.path()));
    // Any byte that carries something: opening looks at few of them.
    for (std::size_t at = 64; at < whole.size(); at += 97) {
        INFO(at);
        std::string damaged = whole;
        damaged[at] ^= 1;
        kept.market.write("market.sieve", damaged);
        CHECK_FALSE(isLookedThrough(kept.market.path()));
        CHECK(barsOf(openFolder(kept.market.path())) == 3);
        if (kept.market.read("market.sieve") != whole) // a byte between the parts
            CHECK(storage::verifyMarket(kept.market.path()));
        CHECK(isLookedThrough(kept.market.path()));
    }
    // Where it cannot be made again it is not used.
    fs::remove_all(kept.base.path());
    fs::remove_all(kept.market.path() / "base");
    std::string damaged = whole;
    damaged[70] ^= 1; // in a block of bars
    kept.market.write("market.sieve", damaged);
    const Result<Intake> intake = openFolder(kept.market.path());
    REQUIRE_FALSE(intake);
    CHECK(intake.error().problem.find("damaged") != std::string::npos);
}

TEST_CASE("Kept files: the sum tells names and bytes", "[intake]")
{
    const OwnFolder source;
    const OwnFolder place;
    source.write("a.csv", "1");
    source.write("news/b.xml", "2");
    source.write("movie.bin", "3"); // nothing that an intake reads
    keepFiles({source.path(), Source::Form::Dataset}, place.path() / "kept");
    CHECK(place.read("kept/news/b.xml") == "2");
    CHECK_FALSE(fs::exists(place.path() / "kept/movie.bin"));
    const std::string sum = checksumOfFiles(place.path() / "kept");
    CHECK(sum.size() == 16);
    place.write("kept/a.csv", "4");
    CHECK(checksumOfFiles(place.path() / "kept") != sum);
    place.write("kept/a.csv", "1");
    CHECK(checksumOfFiles(place.path() / "kept") == sum);
    fs::rename(place.path() / "kept/a.csv", place.path() / "kept/c.csv");
    CHECK(checksumOfFiles(place.path() / "kept") != sum);
}

} // namespace sieve::intake
