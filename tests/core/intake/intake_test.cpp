#include "core/intake/csv.h"
#include "core/intake/source.h"
#include "core/intake/take_in.h"
#include "core/storage/market_file.h"
#include "demo_market/dataset.h"
#include "demo_market/dice.h"
#include "tests/own_folder.h"

#include <catch2/catch.hpp>
#include <filesystem>

namespace sieve::intake {

namespace {

namespace fs = std::filesystem;

/// A dataset in a folder of its own, written file by file, and the market made from it beside it.
class Folder {
public:
    Folder() { fs::create_directories(path() / "bars" / "daily"); }

    void write(const std::string& name, const std::string& text) const
    {
        source_.write(name, text);
    }
    const fs::path& path() const { return source_.path(); }
    const fs::path& market() const { return market_.path(); }
    Result<Intake> tryRead() const
    {
        fs::remove(storage::marketFile(market())); // each reading is a new intake
        return openSource(path(), market());
    }
    Intake read() const
    {
        Result<Intake> result = tryRead();
        if (!result)
            FAIL(result.error().problem);
        return *std::move(result);
    }

private:
    test::OwnFolder source_;
    test::OwnFolder market_;
};

std::vector<double> list(std::span<const double> figures)
{
    return {figures.begin(), figures.end()};
}

const std::string head = "date,open,high,low,close,volume\n";

std::vector<std::vector<std::string>> rowsOf(std::string_view text)
{
    CsvReader reader(text);
    std::vector<std::vector<std::string>> rows;
    while (reader.next())
        rows.emplace_back(reader.cells().begin(), reader.cells().end());
    return rows;
}

} // namespace

TEST_CASE("CSV: quotes, line ends, byte-order mark and empty lines", "[intake]")
{
    using Rows = std::vector<std::vector<std::string>>;
    CHECK(rowsOf("a,b\nc,d\n") == Rows{{"a", "b"}, {"c", "d"}});
    CHECK(rowsOf("a,b\r\n\r\nc,d") == Rows{{"a", "b"}, {"c", "d"}});
    CHECK(rowsOf("\xEF\xBB\xBF"
                 "a,b\n") == Rows{{"a", "b"}});
    CHECK(rowsOf("\"a,1\",\"say \"\"so\"\"\",\"two\nlines\"\n") ==
          Rows{{"a,1", "say \"so\"", "two\nlines"}});
    CHECK(rowsOf(",\n") == Rows{{"", ""}});
    CHECK(rowsOf("").empty());
    CHECK(rowsOf("a,b,") == Rows{{"a", "b", ""}});
}

TEST_CASE("CSV: a quote that is never closed is told", "[intake]")
{
    CsvReader reader("a,b\n\"c,d\ne,f\n");
    CHECK(reader.next());
    CHECK(reader.next());
    CHECK(reader.endsInsideQuotes());
    CHECK(reader.line() == 2);
    CHECK_FALSE(reader.next());
}

TEST_CASE("CSV: figures are plain and finite", "[intake]")
{
    CHECK(*parseFigure("12.5") == 12.5);
    CHECK(*parseFigure("-3") == -3);
    for (const char* bad : {"", "1,5", "abc", "1.5x", "nan", "inf", " 1", "1e999"})
        CHECK_FALSE(parseFigure(bad));
}

TEST_CASE("Intake: bars alone make a market", "[intake]")
{
    const Folder folder;
    folder.write("bars/daily/AAAA.C.csv", head + "2024-01-02,1,2,0.5,1.5,100\n");
    const Intake intake = folder.read();
    REQUIRE(intake.market->size() == 1);
    CHECK(intake.market->instrument(0).symbol == "AAAA.C");
    CHECK(list(intake.market->bars(0).close) == std::vector<double>{1.5});
    REQUIRE(intake.report.findings.size() == 1);
    CHECK(intake.report.findings[0].why == "instruments.csv has no such symbol");
}

TEST_CASE("Intake: every bad row is left out with file, line and reason, the rest is kept",
          "[intake]")
{
    const Folder folder;
    folder.write("instruments.csv",
                 "symbol,name,kind,listed_on\nAAAA.C,A,share,2020-01-01\nAAAA.C,again,share,\n"
                 "BBBB.C,B,spoon,\n,nameless,share,\nCCCC.C,C,share,someday\n");
    folder.write("bars/daily/AAAA.C.csv",
                 head + "2024-01-02,10,11,9,10,100\n"
                        "2024-01-03,10,9,11,10,100\n" // high under low
                        "2024-01-04,10,11,9,12,100\n" // close above the high
                        "2024-01-05,0,11,0,10,100\n"  // a price of 0
                        "2024-02-30,10,11,9,10,100\n" // no such day
                        "2024-01-09,ten,11,9,10,100\n"
                        "2024-01-10,10,11,9\n"
                        "2024-01-11,10,11,9,10,-5\n"
                        "2024-01-12,10,11,9,10,\n"     // volume not known: kept
                        "2024-01-13,10,11,9,10,100\n"  // Saturday: kept, told
                        "2024-01-12,10,11,9,10,100\n"  // out of order and a double
                        "2024-01-15,50,51,49,50,100"); // jump by 5, no line break at the end
    const Intake intake = folder.read();
    const auto bars = intake.market->bars(*intake.market->find("AAAA.C"));
    CHECK(bars.size() == 4);
    CHECK(isMissing(bars.volume[1]));
    struct Want {
        const char* file;
        std::size_t line;
        const char* column;
        const char* why;
    };
    const Want wants[] = {
        {"instruments.csv", 3, "symbol", "the symbol stands on an earlier row too"},
        {"instruments.csv", 4, "kind", "no kind of instrument"},
        {"instruments.csv", 5, "symbol", "a row without a symbol"},
        {"instruments.csv", 6, "listed_on", "not a day"},
        {"bars/daily/AAAA.C.csv", 3, "high", "the high lies under the low"},
        {"bars/daily/AAAA.C.csv", 4, "", "open or close outside low to high"},
        {"bars/daily/AAAA.C.csv", 5, "", "a price at or below 0"},
        {"bars/daily/AAAA.C.csv", 6, "date", "not a day"},
        {"bars/daily/AAAA.C.csv", 7, "open", "not a figure"},
        {"bars/daily/AAAA.C.csv", 8, "", "4 cells, the header has 6"},
        {"bars/daily/AAAA.C.csv", 9, "volume", "a volume below 0"},
        {"bars/daily/AAAA.C.csv", 11, "date", "a bar on a weekend"},
        {"bars/daily/AAAA.C.csv", 0, "date", "days out of order"},
        {"bars/daily/AAAA.C.csv", 12, "date", "a second bar of the day"},
        {"bars/daily/AAAA.C.csv", 13, "open", "a jump that looks like a split"},
        {"bars/daily/AAAA.C.csv", 13, "", "the file ends without a line break"},
    };
    for (const Want& want : wants) {
        INFO(want.file << ":" << want.line << " " << want.why);
        CHECK(std::any_of(intake.report.findings.begin(), intake.report.findings.end(),
                          [&](const Finding& finding) {
                              return finding.file == want.file && finding.line == want.line &&
                                     finding.column == want.column &&
                                     finding.why.find(want.why) == 0;
                          }));
    }
    CHECK(intake.report.findings.size() == std::size(wants));
    CHECK(intake.report.rowsLeftOut == 12);
    CHECK(toCsv(intake.report).find("bars/daily/AAAA.C.csv,3,high,9,") != std::string::npos);
}

TEST_CASE("Intake: statements, actions and counts with faults", "[intake]")
{
    const Folder folder;
    folder.write("instruments.csv", "symbol\nAAAA.C\n");
    folder.write("bars/daily/AAAA.C.csv", head + "2024-01-02,1,2,0.5,1.5,100\n");
    folder.write("statements.csv", "symbol,period_end,period,known_on,item,value\n"
                                   "AAAA.C,2023-09-30,quarter,2023-11-01,revenue,5\n"
                                   "AAAA.C,2023-09-30,quarter,2023-09-01,revenue,5\n"
                                   "AAAA.C,2023-09-30,month,2023-11-01,revenue,5\n"
                                   "AAAA.C,2023-09-30,quarter,2023-11-01,luck,5\n"
                                   "ZZZZ.C,2023-09-30,quarter,2023-11-01,revenue,5\n");
    folder.write("actions.csv", "symbol,ex_date,kind,value\nAAAA.C,2024-01-02,split,2\n"
                                "AAAA.C,2024-01-02,split,0\nAAAA.C,2024-01-02,party,1\n");
    folder.write("shares.csv", "symbol,date,outstanding\nAAAA.C,2024-01-01,0\n");
    folder.write("dataset.toml", "name = [\n");
    const Intake intake = folder.read();
    CHECK(intake.market->statements(0).rows().size() == 1);
    CHECK(intake.market->splits(0).size() == 1);
    CHECK(intake.market->shares(0).empty());
    CHECK(intake.report.rowsLeftOut == 7);
    CHECK(std::ranges::count(intake.report.findings, "dataset.toml", &Finding::file) == 1);
}

TEST_CASE("Intake: a file without a needed column is left out whole, and told", "[intake]")
{
    const Folder folder;
    folder.write("bars/daily/AAAA.C.csv", head + "2024-01-02,1,2,0.5,1.5,100\n");
    folder.write("bars/daily/BBBB.C.csv", "when,open,high,low,close\n2024-01-02,1,2,0.5,1.5\n");
    folder.write("bars/daily/CCCC.C.csv", "");
    const Intake intake = folder.read();
    CHECK_FALSE(intake.market->find("BBBB.C"));
    const auto tells = [&](const char* why) {
        return std::any_of(intake.report.findings.begin(), intake.report.findings.end(),
                           [why](const Finding& finding) { return finding.why == why; });
    };
    CHECK(tells("no column of the header is known as the time"));
    CHECK(tells("the file is empty"));
}

TEST_CASE("Intake: a folder without usable prices is refused with a remedy", "[intake]")
{
    const Folder folder;
    const Result<Intake> empty = folder.tryRead();
    REQUIRE_FALSE(empty);
    CHECK(empty.error().remedy.find("docs/dataset.md") != std::string::npos);
    folder.write("bars/daily/AAAA.C.csv", head + "no,bar,at,all,here,0\n");
    const Result<Intake> useless = folder.tryRead();
    REQUIRE_FALSE(useless);
    CHECK(useless.error().remedy.find("line 2") != std::string::npos);
    CHECK_FALSE(sourceAt("/nowhere/at/all"));
}

TEST_CASE("Intake: no damage to a file can break it", "[intake]")
{
    const std::string good = head + "2024-01-02,10,11,9,10,100\n2024-01-03,10,11,9,10,100\n"
                                    "\"2024-01-04\",\"10\",11,9,10,100\n";
    const Folder folder;
    demo_market::Dice dice(5);
    for (int round = 0; round < 400; ++round) {
        std::string damaged = good;
        for (std::size_t i = 0; i < 1 + dice.below(6) && !damaged.empty(); ++i) {
            const std::size_t at = dice.below(damaged.size());
            switch (dice.below(4)) {
            case 0:
                damaged[at] = static_cast<char>(dice.below(256));
                break;
            case 1:
                damaged.erase(at, 1 + dice.below(5));
                break;
            case 2:
                damaged.insert(at, "\"");
                break;
            default:
                damaged.resize(at + 1);
            }
        }
        folder.write("bars/daily/AAAA.C.csv", damaged);
        const Result<Intake> result = folder.tryRead();
        if (result) {
            CHECK(result->market->bars(0).size() <= 4);
        } else {
            CHECK_FALSE(result.error().problem.empty());
        }
    }
}

TEST_CASE("Intake: stops when told", "[intake]")
{
    const Folder folder;
    folder.write("bars/daily/AAAA.C.csv", head + "2024-01-02,1,2,0.5,1.5,100\n");
    std::stop_source source;
    source.request_stop();
    CHECK_THROWS_AS(
        (void)takeIn({folder.path(), folder.market()}, Progress(source.get_token(), nullptr)),
        Stopped);
}

TEST_CASE("Demo market: what is written is what was made, without a finding", "[intake]")
{
    const Folder folder;
    const demo_market::DemoMarket made =
        demo_market::makeMarket(20260930, demo_market::Extent::Small);
    demo_market::writeDataset(made, folder.path(), 3);
    const Intake intake = folder.read();
    for (const Finding& finding : intake.report.findings)
        UNSCOPED_INFO(finding.file << ":" << finding.line << " " << finding.why << " "
                                   << finding.what);
    CHECK(intake.report.findings.empty());
    REQUIRE(intake.market->size() == made.records.size());
    for (std::size_t i = 0; i < made.records.size(); ++i) {
        INFO(made.records[i].instrument.symbol);
        REQUIRE(std::ranges::equal(intake.market->bars(i).days, made.records[i].bars.days));
        REQUIRE(list(intake.market->bars(i).close) == made.records[i].bars.close);
        REQUIRE(list(intake.market->bars(i).volume) == made.records[i].bars.volume);
        REQUIRE(intake.market->statements(i).rows().size() == made.records[i].statements.size());
        REQUIRE(std::ranges::equal(intake.market->actions(i), made.records[i].actions));
        REQUIRE(intake.market->estimates(i).size() == made.records[i].estimates.size());
        REQUIRE(intake.market->owners(i).size() == made.records[i].owners.size());
        REQUIRE(intake.market->calendar(i).size() == made.records[i].calendar.size());
        const market::Notices notices = intake.market->notices(i);
        REQUIRE(notices.ratings == made.records[i].notices.ratings);
        REQUIRE(notices.news.size() == made.records[i].notices.news.size());
    }
    CHECK(intake.market->description() == made.description);
}

} // namespace sieve::intake

namespace sieve::intake {

TEST_CASE("Intake: columns in any order, others beside them, CRLF and a byte-order mark",
          "[intake]")
{
    const Folder folder;
    folder.write("instruments.csv", "\xEF\xBB\xBF"
                                    "sector,colour,symbol,kind,delisted_on,shortable\r\n"
                                    "Energy,blue,AAAA.C,fund,2024-06-01,yes\r\n");
    folder.write("bars/daily/AAAA.C.csv", "volume,close,low,high,open,date,mood\r\n"
                                          "100,1.5,0.5,2,1,2024-01-02,fine\r\n");
    const Intake intake = folder.read();
    CHECK(intake.report.findings.empty());
    const market::Instrument& instrument = intake.market->instrument(0);
    CHECK(instrument.kind == market::InstrumentKind::Fund);
    CHECK(instrument.sector == "Energy");
    CHECK(instrument.delistedOn->iso() == "2024-06-01");
    CHECK(instrument.shortable);
    CHECK_FALSE(instrument.optionable);
    CHECK(list(intake.market->bars(0).open) == std::vector<double>{1});
    CHECK(list(intake.market->bars(0).volume) == std::vector<double>{100});
}

TEST_CASE("Intake: a known split explains a jump", "[intake]")
{
    const Folder folder;
    folder.write("instruments.csv", "symbol\nAAAA.C\nBBBB.C\n");
    folder.write("actions.csv", "symbol,ex_date,kind,value\nAAAA.C,2024-01-03,split,2\n");
    const std::string bars = head + "2024-01-02,40,41,39,40,100\n2024-01-03,20,21,19,20,200\n";
    folder.write("bars/daily/AAAA.C.csv", bars);
    folder.write("bars/daily/BBBB.C.csv", bars);
    const Intake intake = folder.read();
    REQUIRE(intake.report.findings.size() == 1);
    CHECK(intake.report.findings[0].file == "bars/daily/BBBB.C.csv");
}

TEST_CASE("Intake: reads the description of the dataset", "[intake]")
{
    const Folder folder;
    folder.write("bars/daily/AAAA.C.csv", head + "2024-01-02,1,2,0.5,1.5,100\n");
    folder.write("dataset.toml", "name = \"Isles\"\nversion = \"7\"\ncurrency = \"vl\"\n"
                                 "benchmark = \"CRWX.C\"\n");
    const auto description = folder.read().market->description();
    CHECK(description.name == "Isles");
    CHECK(description.version == "7");
    CHECK(description.currency == "vl");
    CHECK(description.benchmark == "CRWX.C");
}

TEST_CASE("Intake: a very long line or cell is borne and shown short", "[intake]")
{
    const Folder folder;
    folder.write("bars/daily/AAAA.C.csv",
                 head + "2024-01-02,1,2,0.5,1.5,100\n" + std::string(3'000'000, 'x') + "\n");
    const Intake intake = folder.read();
    CHECK(intake.market->bars(0).size() == 1);
    for (const Finding& finding : intake.report.findings)
        CHECK(finding.what.size() < 200);
}

TEST_CASE("CSV: a last row in quotes may end with a line break or without", "[intake]")
{
    for (const bool isCut : {false, true}) {
        CsvReader reader(isCut ? std::string_view("a,b\n\"x\",1") : "a,b\n\"x\",1\n");
        REQUIRE(reader.next());
        CHECK_FALSE(reader.endsWithoutLineBreak());
        REQUIRE(reader.next());
        CHECK(reader.cells()[0] == "x");
        CHECK(reader.endsWithoutLineBreak() == isCut);
        CHECK_FALSE(reader.next());
    }
}

TEST_CASE("Source: the first table of what is none is none", "[intake]")
{
    const test::OwnFolder own;
    own.write("notes.md", "no table\n");
    CHECK(firstTable(own.path() / "notes.md").empty());
    CHECK(firstTable(own.path() / "none.csv").empty());
    CHECK(firstTable(own.path()).empty());
    own.write("deep/prices.csv", "date,close\n");
    CHECK(firstTable(own.path()) == own.path() / "deep" / "prices.csv");
    CHECK(firstTable(own.path() / "deep" / "prices.csv") == own.path() / "deep" / "prices.csv");
}

TEST_CASE("CSV: a file in UTF-16 has no rows, however long it is", "[intake]")
{
    std::string text = "\xFF\xFE";
    while (text.size() < (3U << 20U)) // several pieces
        text += "a,b\n";
    CsvReader reader(text);
    CHECK_FALSE(reader.next());
    CHECK(reader.fault() == "the file is in UTF-16; save it as UTF-8");
}

} // namespace sieve::intake
