#include "core/intake/news.h"
#include "core/intake/source.h"
#include "core/intake/take_in.h"
#include "core/market/as_of.h"
#include "core/storage/market_file.h"
#include "tests/core/intake/tiny_dataset.h"
#include "tests/core/made_market.h"

#include <catch2/catch.hpp>
#include <filesystem>

namespace sieve::intake {

using test::day;

namespace {

/// The tiny dataset with one file replaced: what is found wrong with it.
std::vector<Finding> findingsOf(const std::string& file, const std::string& text)
{
    const test::OwnFolder source;
    const test::OwnFolder folder;
    test::writeTinyDataset(source);
    source.write(file, text);
    const Result<IntakeReport> report = takeIn({source.path(), folder.path()});
    if (!report)
        FAIL(report.error().problem);
    return report->findings;
}

/// The same, but for what is then found in other files.
std::vector<Finding> findingsIn(const std::string& file, const std::string& text)
{
    std::vector<Finding> findings = findingsOf(file, text);
    std::erase_if(findings, [&](const Finding& finding) { return finding.file != file; });
    return findings;
}

} // namespace

TEST_CASE("Tables: each row that cannot be taken is told with line, column and reason", "[intake]")
{
    struct Case {
        const char* file;
        const char* text;
        std::size_t line;
        const char* column;
        const char* why;
    };
    const Case cases[] = {
        {"renames.csv", "old_symbol,new_symbol,day\nA,A,2024-01-04\n", 2, "new_symbol",
         "a rename needs two different symbols"},
        {"renames.csv", "old_symbol,new_symbol,day\nA,B,soon\n", 2, "day", "not a day"},
        {"actions.csv", "symbol,ex_date,kind,value\nKELP.C,2024-01-04,party,2\n", 2, "kind",
         "no kind of action"},
        {"actions.csv", "symbol,ex_date,kind,value\nKELP.C,2024-01-04,split,0\n", 2, "value",
         "an action needs a value above 0"},
        {"actions.csv", "symbol,ex_date,kind,value\nNONE.C,2024-01-04,split,2\n", 2, "symbol",
         "no instrument has this symbol"},
        {"actions.csv",
         "symbol,ex_date,kind,value\nKELP.C,2024-01-04,split,2\nKELP.C,2024-01-04,split,3\n", 3, "",
         "an earlier row tells the same"},
        {"statements.csv",
         "symbol,period_end,period,known_on,item,value\nKELP.C,2023-09-30,month,2023-11-01,eps,1\n",
         2, "period", "neither quarter nor year"},
        {"statements.csv",
         "symbol,period_end,period,known_on,item,value\nKELP.C,2023-09-30,year,2023-11-01,luck,1\n",
         2, "item", "no item of the statements"},
        {"statements.csv",
         "symbol,period_end,period,known_on,item,value\nKELP.C,2023-09-30,year,2023-09-01,eps,1\n",
         2, "known_on", "known before the period ended"},
        {"estimates.csv",
         "symbol,known_on,measure,period_end,mean\nKELP.C,2024-01-02,joy,2024-12-31,1\n", 2,
         "measure", "no measure"},
        {"estimates.csv",
         "symbol,known_on,measure,period_end,mean,high,low\nKELP.C,2024-01-02,eps,2024-12-31,1,0.9,"
         "0.5\n",
         2, "mean", "outside low to high"},
        {"estimates.csv",
         "symbol,known_on,measure,period,period_end,mean\nKELP.C,2024-01-02,eps,week,2024-12-31,"
         "1\n",
         2, "period", "neither quarter nor year"},
        {"owners.csv", "symbol,as_of,known_on,kind,share\nKELP.C,2024-01-02,2024-01-03,cats,0.1\n",
         2, "kind", "no kind of owner"},
        {"owners.csv", "symbol,as_of,known_on,kind,share\nKELP.C,2024-01-02,2024-01-03,funds,21\n",
         2, "share", "a share of the whole"},
        {"owners.csv", "symbol,as_of,known_on,kind,share\nKELP.C,2024-01-02,2024-01-01,funds,0.1\n",
         2, "known_on", "known before the day"},
        {"shares.csv", "symbol,date,outstanding\nKELP.C,2024-01-02,-5\n", 2, "outstanding",
         "a company has more than 0 shares"},
        {"ratings.csv", "symbol,date,house,action\nKELP.C,2024-01-02,Quay,shrugs\n", 2, "action",
         "no action"},
        {"ratings.csv", "symbol,date,house,action,target\nKELP.C,2024-01-02,Quay,keeps,high\n", 2,
         "target", "not a figure"},
        {"calendar.csv", "symbol,date,when,kind\nKELP.C,2024-02-09,noon,report\n", 2, "when",
         "no time"},
        {"calendar.csv", "symbol,date,when,kind\nKELP.C,2024-02-09,,party\n", 2, "kind",
         "no kind of event"},
        {"index_members.csv", "index,symbol,from,to\nCRWX.C,KELP.C,2024-01-04,2024-01-04\n", 2,
         "to", "a stay ends after it begins"},
        {"currency_rates.csv", "currency,date,rate\ndn,2024-01-01,0\n", 2, "rate",
         "a rate is above 0"},
        {"currency_rates.csv", "currency,date,rate\n,2024-01-01,0.5\n", 2, "currency",
         "a row without a currency"},
        {"currency_rates.csv", "currency,date,rate\ndn,monday,0.5\n", 2, "date", "not a day"},
        {"currency_rates.csv",
         "currency,date,rate\ndn,2024-01-02,0.5\ndn,2024-01-01,0.7\ndn,2024-01-02,0.6\n", 4, "",
         "an earlier row tells the same"},
        {"holidays.csv", "exchange,date,closes_at\nNowhere,2024-01-01,\n", 2, "exchange",
         "dataset.toml has no exchange"},
        {"holidays.csv", "exchange,date,closes_at\nCarrow,2024-01-01,noon\n", 2, "closes_at",
         "no time of day"},
        {"renames.csv", "old_symbol,new_symbol,day\nA,B\n", 2, "", "2 cells, the header has 3"},
        {"renames.csv", "old_symbol,new_symbol,day\nA,\"B,2024-01-04\nC,D,2024-01-04\n", 2, "",
         "a quote that is never closed"},
        {"renames.csv", "", 0, "", "the file is empty"},
        {"statements.csv", "symbol,period_end,period,known_on,item\n", 1, "value",
         "the header has no column 'value'"},
        {"bars/minute/KELP.C.csv", "time,close\n2024-01-05T09:30,5\n", 2, "time",
         "not a time with its zone"},
        {"bars/minute/KELP.C.csv", "time,close\n2024-01-05T10:30Z,5\n2024-01-05T10:30Z,5\n", 3,
         "date", "a second bar of the minute"},
    };
    for (const Case& each : cases) {
        INFO(each.file << ": " << each.text);
        const std::vector<Finding> findings = findingsIn(each.file, each.text);
        for (const Finding& finding : findings)
            UNSCOPED_INFO(finding.file << ":" << finding.line << " " << finding.column << " "
                                       << finding.why);
        REQUIRE(findings.size() == 1);
        CHECK(findings[0].file == each.file);
        CHECK(findings[0].line == each.line);
        CHECK(findings[0].column == each.column);
        CHECK(findings[0].why.find(each.why) == 0);
        CHECK_FALSE(findings[0].done.empty());
    }
}

TEST_CASE("Tables: an estimate of one analyst is its own highest and lowest", "[intake]")
{
    const std::string head = "symbol,known_on,measure,period_end,mean,high,low\n";
    const std::string row = "KELP.C,2024-01-02,eps,2024-12-31,";
    CHECK(findingsIn("estimates.csv", head + row + "1,1,1\n").empty());
    CHECK(findingsIn("estimates.csv", head + row + "1,1,1.01\n").size() == 1);
    CHECK(findingsIn("estimates.csv", head + row + "1,0.99,1\n").size() == 1);
}

TEST_CASE("Tables: of rows that tell the same the first counts, however many follow", "[intake]")
{
    const auto findings = findingsIn("actions.csv", "symbol,ex_date,kind,value\n"
                                                    "KELP.C,2024-01-04,split,2\n"
                                                    "KELP.C,2024-01-04,split,3\n"
                                                    "KELP.C,2024-01-05,split,5\n"
                                                    "KELP.C,2024-01-04,split,4\n"
                                                    "KELP.C,2024-01-04,split,4\n");
    REQUIRE(findings.size() == 3);
    CHECK(findings[0].line == 3);
    CHECK(findings[1].line == 5);
    CHECK(findings[2].line == 6);
}

TEST_CASE("Tables: ratings, memberships and news that are told again are left out too", "[intake]")
{
    const std::string rating = "KELP.C,2024-01-05,Harbour Research,raises,7.5\n";
    const auto ratings =
        findingsIn("ratings.csv", "symbol,date,house,action,target\n" + rating + rating + rating);
    REQUIRE(ratings.size() == 2);
    CHECK(ratings[0].line == 3);
    CHECK(ratings[1].line == 4);
    const std::string stay = "CRWX.C,KELP.C,2024-01-04,\n";
    CHECK(findingsIn("index_members.csv", "index,symbol,from,to\n" + stay + stay).size() == 1);
    const std::string entry =
        "<entry><id>w:1</id><title>Ossmere opens a kelp dryer</title>"
        "<updated>2024-01-05T08:15:00Z</updated><category term=\"KELP.C\"/></entry>\n";
    const auto all = findingsOf("news/ossmere.xml", "<?xml version=\"1.0\"?>\n"
                                                    "<feed xmlns=\"http://www.w3.org/2005/Atom\">" +
                                                        entry + entry + "</feed>\n");
    CHECK(std::ranges::count(all, "news", &Finding::file) == 1); // of all feeds together
}

TEST_CASE("Tables: columns without a name or with one name do not move those behind them",
          "[intake]")
{
    const auto findings = findingsIn("actions.csv", "symbol,,note,ex_date,,kind,note,value\n"
                                                    "KELP.C,x,x,2024-01-05,x,dividend,x,0.05\n"
                                                    "KELP.C,x,x,2024-01-04,x,split,x,0\n");
    REQUIRE(findings.size() == 2);
    CHECK(findings[0].line == 1);
    CHECK(findings[0].column == "note");
    CHECK(findings[1].line == 3);
    CHECK(findings[1].column == "value"); // and what stands in it
    CHECK(findings[1].what == "0");
}

TEST_CASE("Tables: lines without end are left out, the rows after them are taken", "[intake]")
{
    const std::string endless(2U << 20U, 'x');
    const auto findings = findingsIn("renames.csv", "old_symbol,new_symbol,day\n" + endless +
                                                        ",B,2024-01-04\nA,A,2024-01-04\n");
    REQUIRE(findings.size() == 2);
    CHECK(findings[0].line == 2);
    CHECK(findings[0].why == "a line longer than 1 MiB");
    CHECK(findings[1].line == 3); // what stands behind it was read
    const auto head = findingsIn("renames.csv", endless + ",new_symbol,day\n");
    REQUIRE(head.size() == 1);
    CHECK(head[0].why == "the first line is longer than 1 MiB");
}

TEST_CASE("Tables: a long cell is shown cut, never through a letter", "[intake]")
{
    // Letters of two bytes, at both places where 120 bytes may cut.
    for (const std::string& lead : {std::string(), std::string("a")}) {
        std::string cell = lead;
        for (int i = 0; i < 100; ++i)
            cell += "\xC3\xA5";
        const auto findings =
            findingsIn("renames.csv", "old_symbol,new_symbol,day\nA,B," + cell + "\n");
        REQUIRE(findings.size() == 1);
        const std::string& told = findings[0].what;
        CHECK(told.size() < 130);
        CHECK(told.find(lead + "\xC3\xA5\xC3\xA5") == 0);
        CHECK(told.substr(told.size() - 5) == "\xC3\xA5…"); // two bytes, then three
    }
}

TEST_CASE("Tables: the description's faults are told and the rest is taken", "[intake]")
{
    const auto findings = findingsOf("dataset.toml", "name = \"Tiny\"\n[[exchange]]\nname = "
                                                     "\"Carrow\"\nzone = \"Vellan/Carrow\"\n"
                                                     "opens = \"dawn\"\n");
    REQUIRE(findings.size() == 2);
    CHECK(findings[0].line == 4);
    CHECK(findings[0].column == "zone");
    CHECK(findings[1].line == 5);
    CHECK(findings[1].column == "opens");
}

TEST_CASE("Tables: what the description says and nobody reads is told", "[intake]")
{
    const auto findings = findingsIn("dataset.toml", "name = \"Tiny\"\n"
                                                     "benchmark = \"NONE.C\"\n"
                                                     "currency = 7\n"
                                                     "bench = \"CRWX.C\"\n"
                                                     "[exchange]\n"
                                                     "name = \"Carrow\"\n"
                                                     "zone = \"Atlantic/Azores\"\n"
                                                     "opening = \"09:30\"\n");
    std::vector<std::string> told;
    for (const Finding& finding : findings)
        told.push_back(std::to_string(finding.line) + " " + finding.column);
    std::ranges::sort(told);
    CHECK(told == std::vector<std::string>{"0 benchmark", "3 currency", "4 bench", "8 opening"});
}

TEST_CASE("Tables: one exchange may stand as a table of its own", "[intake]")
{
    const test::OwnFolder source;
    const test::OwnFolder folder;
    test::writeTinyDataset(source);
    source.write("dataset.toml",
                 "name = \"Tiny\"\n[exchange]\nname = \"Carrow\"\nopens = \"09:30\"\n");
    REQUIRE(takeIn({source.path(), folder.path()}));
    const auto made = openFolder(folder.path())->market;
    REQUIRE(made->exchange("Carrow"));
    CHECK(made->exchange("Carrow")->opensAt == 9 * 60 + 30);
}

TEST_CASE("Tables: a name in another encoding is read as Latin-1, and told", "[intake]")
{
    const test::OwnFolder source;
    const test::OwnFolder folder;
    source.write("instruments.csv", "symbol,name\nKELP.C,Br\xE6k Kelp\n");
    source.write("bars/daily/KELP.C.csv", "date,close\n2024-01-02,5\n");
    const Result<Intake> intake = openSource(source.path(), folder.path());
    REQUIRE(intake);
    CHECK(intake->market->instrument(0).name == "Bræk Kelp");
    REQUIRE(intake->report.findings.size() == 1);
    CHECK(intake->report.findings[0].done == "read as Latin-1");
}

TEST_CASE("News: entries without what they need are left out, the others kept", "[intake]")
{
    const std::string head = "<?xml version=\"1.0\"?>\n<feed>\n";
    const auto one = [&](const std::string& entry) {
        const auto findings = findingsOf("news/ossmere.xml", head + entry + "\n</feed>\n");
        REQUIRE(findings.size() == 1);
        return findings[0];
    };
    const Finding timeless = one("<entry><id>1</id><updated>soon</updated>"
                                 "<category term=\"KELP.C\"/></entry>");
    CHECK(timeless.column == "updated");
    CHECK(timeless.line == 3);
    CHECK(one("<entry><updated>2024-01-05T08:15:00Z</updated><category term=\"KELP.C\"/></entry>")
              .why == "an entry without an id");
    CHECK(one("<entry><id>1</id><updated>2024-01-05T08:15:00Z</updated></entry>").why ==
          "an entry about no symbol");
    CHECK(one("<entry><id>1</id><updated>2024-01-05T08:15:00Z</updated>"
              "<category term=\"NONE.C\"/></entry>")
              .why == "no instrument has this symbol");
    CHECK(findingsOf("news/ossmere.xml", "<feed><entry></feed>")[0].why.find("no XML") == 0);
    CHECK(findingsOf("news/ossmere.xml", "<rss/>")[0].why.find("no Atom feed") == 0);
    CHECK(findingsOf("news/ossmere.xml", "")[0].done == "file left out");
}

TEST_CASE("News: an entry about two stocks stands with both, published serves for updated",
          "[intake]")
{
    const test::OwnFolder source;
    const test::OwnFolder folder;
    test::writeTinyDataset(source);
    source.write("news/more.xml",
                 "<feed><entry><id>w:2</id><title>Cable &amp; kelp</title>"
                 "<published>2024-01-04T10:00:00+01:00</published><content>Both</content>"
                 "<link href=\"n/2\"/><category term=\"SEAW.C\"/><category term=\"GONE.C\"/>"
                 "</entry></feed>\n");
    const Result<Intake> intake = openSource(source.path(), folder.path());
    REQUIRE(intake);
    CHECK(intake->report.findings.empty());
    for (const char* symbol : {"KELP.C", "GONE.C"}) {
        const auto news = intake->market->notices(*intake->market->find(symbol)).news;
        REQUIRE_FALSE(news.empty());
        CHECK(news[0].title == "Cable & kelp");
        CHECK(news[0].summary == "Both");
        CHECK(news[0].link == "n/2");
        CHECK(news[0].time.iso() == "2024-01-04T09:00Z");
    }
}

TEST_CASE("Source: what a folder holds is seen by what is in it", "[intake]")
{
    const test::OwnFolder dataset;
    test::writeTinyDataset(dataset);
    CHECK(sourceAt(dataset.path())->form == Source::Form::Dataset);
    const test::OwnFolder prices;
    prices.write("deep/er/KELP.csv", "date,close\n2024-01-02,5\n");
    CHECK(sourceAt(prices.path())->form == Source::Form::Prices);
    CHECK(sourceAt(prices.path() / "deep/er/KELP.csv")->form == Source::Form::Prices);
    for (const char* empty : {"bars", "news", "filings"}) { // is not kept with a market
        std::filesystem::create_directory(prices.path() / empty);
        CHECK(sourceAt(prices.path())->form == Source::Form::Prices);
    }
    const test::OwnFolder rates;
    rates.write("currency_rates.csv", "currency,date,rate\ndn,2024-01-02,0.3\n");
    CHECK(sourceAt(rates.path())->form == Source::Form::Dataset);
    CHECK(firstTable(prices.path()).filename() == "KELP.csv");
    const test::OwnFolder nothing;
    nothing.write("notes.md", "no table");
    CHECK_FALSE(sourceAt(nothing.path()));
    CHECK_FALSE(sourceAt(nothing.path() / "notes.md"));
    CHECK(firstTable(nothing.path()).empty());
    CHECK(tableName("a/KELP.C.csv.gz") == "KELP.C");
    CHECK(tableName("KELP.txt") == "KELP");
    CHECK_FALSE(isTable("KELP.gz"));
}

TEST_CASE("Source: its fingerprint changes with every file, and with nothing else", "[intake]")
{
    const test::OwnFolder folder;
    folder.write("KELP.csv", "date,close\n2024-01-02,5\n");
    const Source source = *sourceAt(folder.path());
    const std::string first = fingerprintOf(source);
    CHECK(fingerprintOf(source) == first);
    folder.write("TIDE.csv", "date,close\n2024-01-02,5\n");
    const std::string second = fingerprintOf(source);
    CHECK(second != first);
    std::filesystem::last_write_time(folder.path() / "KELP.csv",
                                     std::filesystem::file_time_type::clock::now() +
                                         std::chrono::seconds(5));
    CHECK(fingerprintOf(source) != second);
    std::filesystem::remove(folder.path() / "TIDE.csv");
    CHECK(fingerprintOf(source) != second);
}

TEST_CASE("Intake: two minutes of one exchange and one of another stand on one time axis",
          "[intake]")
{
    const test::OwnFolder source;
    const test::OwnFolder folder;
    test::writeTinyDataset(source);
    source.write("dataset.toml",
                 "[[exchange]]\nname = \"Carrow\"\nzone = \"Atlantic/Reykjavik\"\nopens = "
                 "\"09:30\"\ncloses = \"16:00\"\n[[exchange]]\nname = \"Tarn\"\nzone = "
                 "\"Atlantic/Cape_Verde\"\nopens = \"09:30\"\ncloses = \"16:00\"\n");
    source.write("holidays.csv", "exchange,date,closes_at\nTarn,2024-01-04,\n");
    source.write("instruments.csv", "symbol,exchange\nKELP.C,Carrow\nTIDE.T,Tarn\nGONE.C,Carrow\n"
                                    "CRWX.C,Carrow\n");
    source.write("bars/daily/TIDE.T.csv", "date,close\n2024-01-03,7\n2024-01-04,7.5\n");
    source.write("bars/minute/TIDE.T.csv", "time,close\n2024-01-05T09:31-01:00,7\n");
    const Result<Intake> intake = openSource(source.path(), folder.path());
    REQUIRE(intake);
    REQUIRE(intake->report.findings.size() == 1); // traded on its own exchange's holiday
    CHECK(intake->report.findings[0].why == "a bar on a holiday of the exchange");
    const market::Market& market = *intake->market;
    const auto first = [&](const char* symbol) {
        return market.minuteBars(*market.find(symbol)).minutes[0].iso();
    };
    CHECK(first("TIDE.T") == "2024-01-05T10:31Z");
    CHECK(first("KELP.C") == "2024-01-05T10:30Z");
    CHECK(market.sessions().size() == 4);
}

TEST_CASE("Instruments: those in another currency of which no rate is told are named", "[intake]")
{
    const test::OwnFolder source;
    const test::OwnFolder market;
    for (const char* symbol : {"AAAA.C", "BBBB.C", "CCCC.C"})
        source.write(std::string("bars/daily/") + symbol + ".csv", "date,close\n2025-01-02,9\n");
    source.write("instruments.csv", "symbol,currency\nAAAA.C,vl\nBBBB.C,mk\nCCCC.C,vl\n");
    const bool isNamed = GENERATE(false, true);
    if (isNamed)
        source.write("dataset.toml", "currency = \"mk\"\n");
    const Result<IntakeReport> report = takeIn({source.path(), market.path()});
    REQUIRE(report);
    REQUIRE(report->findings.size() == 1);
    CHECK(report->findings[0].column == "currency");
    CHECK(report->findings[0].what == (isNamed ? "vl" : "mk"));
    CHECK(report->findings[0].why == (isNamed ? "2 of 3 instruments, and currency_rates.csv has no "
                                                "rate of it in mk"
                                              : "1 of 3 instruments, and currency_rates.csv has no "
                                                "rate of it in vl"));
}

TEST_CASE("Exchange rates: taken by day, and an update's go before those known", "[intake]")
{
    const test::OwnFolder source;
    const test::OwnFolder folder;
    source.write("bars/daily/AAAA.C.csv", "date,close\n2025-01-02,9\n2025-01-03,9\n");
    source.write("bars/daily/BBBB.C.csv", "date,close\n2025-01-02,9\n2025-01-03,9\n");
    source.write("instruments.csv", "symbol,currency\nAAAA.C,vl\nBBBB.C,mk\n");
    source.write("dataset.toml", "currency = \"vl\"\n");
    source.write("currency_rates.csv", "currency,date,rate\nmk,2025-01-03,0.6\nzz,2025-01-02,4\n"
                                       "mk,2025-01-01,0.5\n");
    const Result<Intake> intake = openSource(source.path(), folder.path());
    REQUIRE(intake);
    CHECK(intake->report.findings.empty());
    using Currencies = std::vector<market::Currency>;
    CHECK(intake->market->description().currencies ==
          Currencies{{"mk", {{day("2025-01-01"), 0.5}, {day("2025-01-03"), 0.6}}},
                     {"zz", {{day("2025-01-02"), 4.0}}}});
    CHECK(intake->market->rate(1, day("2025-01-02")) == 0.5);
    CHECK(intake->market->rate(0, day("2025-01-02")) == 1.0);

    const test::OwnFolder update;
    update.write("currency_rates.csv",
                 "currency,date,rate\nmk,2025-01-06,0.7\nmk,2025-01-01,0.55\nmk,2024-12-31,0.4\n");
    const Result<IntakeReport> report =
        takeIn({update.path(), folder.path(), {}, true}); // a table of a dataset alone
    REQUIRE(report);
    const auto opened = storage::openMarket(folder.path());
    REQUIRE(opened);
    CHECK((*opened)->description().currencies[0].rates ==
          std::vector<market::ExchangeRate>{{day("2024-12-31"), 0.4},
                                            {day("2025-01-01"), 0.55},
                                            {day("2025-01-03"), 0.6},
                                            {day("2025-01-06"), 0.7}});
    CHECK((*opened)->description().currencies[1].rates.size() == 1);
}

TEST_CASE("Intake: of which nothing can be taken, the first fault is told with its line",
          "[intake]")
{
    const test::OwnFolder source;
    const test::OwnFolder folder;
    const auto remedyOf = [&](const char* bars) {
        source.write("bars/daily/AAAA.C.csv", bars);
        const auto report = takeIn({source.path(), folder.path()});
        REQUIRE_FALSE(report);
        return report.error().remedy;
    };
    CHECK(remedyOf("date,worth\n2025-01-02,9\n") ==
          "the first fault: bars/daily/AAAA.C.csv line 1: no column of the header is known as the "
          "close");
    CHECK(remedyOf("date,close\nsoon,9\n") ==
          "the first fault: bars/daily/AAAA.C.csv line 2: not a day such as 2025-03-14");
}

} // namespace sieve::intake
