#include "cli/commands.h"
#include "core/library/kept_work.h"
#include "core/library/library.h"
#include "core/screens/starter.h"
#include "tests/core/intake/tiny_dataset.h"

#include <catch2/catch.hpp>
#include <fstream>
#include <utility>

// The commands on the tiny dataset, whole answers held to what they must be.

namespace sieve::cli {

namespace {

Day day(const char* iso)
{
    return *Day::parse(iso);
}

/// The tiny dataset, taken in by the command itself.
class Bench {
public:
    Bench()
    {
        test::writeTinyDataset(source_);
        request.source = source_.path();
        request.market = market_.path();
        taken = toCsv(intake(request, {}));
    }
    std::string faultOf(Answer (*command)(const Request&)) const
    {
        try {
            (void)command(request);
        } catch (const InputFault& fault) {
            return fault.what();
        }
        return "no fault";
    }

    Request request;
    std::string taken;

private:
    test::OwnFolder source_;
    test::OwnFolder market_;
};

} // namespace

TEST_CASE("Command line: intake, report and info tell the numbers", "[cli]")
{
    const Bench bench;
    CHECK(bench.taken == "name,value\nfiles,19\nrows,33\nrows_left_out,0\nfindings,0\n");
    CHECK(toCsv(report(bench.request)) == "file,line,column,what,why,done\n");
    const std::string told = toCsv(info(bench.request, {}));
    for (const char* line : {"name,Tiny\n", "instruments,3\n", "delisted,1\n", "daily_bars,8\n",
                             "minute_bars,2\n", "last_session,2024-01-05\n"})
        CHECK(told.find(line) != std::string::npos);
}

TEST_CASE("Command line: a row a bar, on the footing of the last day", "[cli]")
{
    Bench bench;
    bench.request.symbol = "KELP.C";
    bench.request.expressions = {"close", "prior(close)", "close > 5.15", "day", "sector"};
    CHECK(toCsv(series(bench.request)) ==
          "date,close,prior(close),close > 5.15,day,sector\n"
          "2024-01-02,5.0999999999999996,,no,2024-01-02,Food and sea\n"
          "2024-01-03,5.0499999999999998,5.0999999999999996,no,2024-01-03,Food and sea\n"
          "2024-01-04,5.2000000000000002,5.0499999999999998,yes,2024-01-04,Food and sea\n"
          "2024-01-05,5.5,5.2000000000000002,yes,2024-01-05,Food and sea\n");
    bench.request.expressions = {"close"};
    bench.request.from = day("2024-01-03");
    bench.request.to = day("2024-01-03");
    CHECK(toCsv(series(bench.request)) ==
          "date,close\n2024-01-03,10.1\n"); // the split is not known yet
    bench.request.symbol = "SEAW.C";        // by its former symbol
    CHECK(series(bench.request).rows.size() == 1);
    bench.request.symbol = "NONE.C";
    CHECK(bench.faultOf(series) == "no instrument has the symbol 'NONE.C'");
}

TEST_CASE("Command line: a row an instrument, under the symbol of the day", "[cli]")
{
    Bench bench;
    bench.request.expressions = {"close", "exchange"};
    bench.request.day = day("2024-01-03");
    CHECK(toCsv(column(bench.request)) == "symbol,close,exchange\nCRWX.C,1005,Carrow\n"
                                          "GONE.C,3,Carrow\nSEAW.C,10.1,Carrow\n");
    bench.request.day.reset(); // the newest session: one is delisted by then
    CHECK(toCsv(column(bench.request)) ==
          "symbol,close,exchange\nCRWX.C,1018,Carrow\nKELP.C,5.5,Carrow\n");
    CHECK(toJson(column(bench.request)) ==
          "[\n {\"symbol\": \"CRWX.C\", \"close\": 1018, \"exchange\": \"Carrow\"},"
          "\n {\"symbol\": \"KELP.C\", \"close\": 5.5, \"exchange\": \"Carrow\"}\n]\n");
}

TEST_CASE("Command line: a screen is counted criterion by criterion", "[cli]")
{
    Bench bench;
    bench.request.day = day("2024-01-04");
    bench.request.text = "close > 4 and volume > 1k";
    CHECK(toCsv(screen(bench.request)) ==
          "what,text,alone,left_after,more_without,no_data,criterion,value,limit,distance\n"
          "universe,,2,2,,,,,,\n"
          "criterion,close > 4,1,1,0,0,1,,,\ncriterion,volume > 1k,1,1,0,0,2,,,\n"
          "match,KELP.C,,,,,,,,\n");
    bench.request.text = "close > 2 and volume > 2k"; // GONE.C fails by its volume alone
    CHECK(toCsv(screen(bench.request)).find("\nnear miss,GONE.C,,,,,2,") != std::string::npos);
    bench.request.file = bench.request.market / "screen.toml";
    std::ofstream(bench.request.file) << "name = \"cheap\"\n[[criteria]]\ntext = \"close < 4\"\n";
    bench.request.isTable = true;
    CHECK(toCsv(screen(bench.request)) == "symbol,name,close\nGONE.C,Torvness Cable,3.5\n");
    bench.request.isTable = false;
    const std::string told = toCsv(screen(bench.request));
    CHECK(told.find("criterion,close < 4,1,1,1,0,1,,,\nmatch,GONE.C") != std::string::npos);
    std::ofstream(bench.request.file) << "name = [";
    CHECK(bench.faultOf(screen).starts_with("Line 1, column"));
}

TEST_CASE("Command line: how many pass on each day, as known on it", "[cli]")
{
    Bench bench;
    bench.request.text = "close > 4";
    CHECK(toCsv(daily(bench.request, {})) ==
          "date,passing,stocks\n2024-01-02,1,2\n2024-01-03,1,2\n2024-01-04,1,2\n2024-01-05,1,1\n");
    bench.request.from = day("2024-01-05");
    CHECK(daily(bench.request, {}).rows.size() == 1);
    bench.request.from = day("2024-02-05");
    CHECK_THROWS_AS((void)daily(bench.request, {}), InputFault);
    bench.request.from.reset();
    bench.request.text = "close";
    CHECK_THROWS_AS((void)daily(bench.request, {}), InputFault);
}

TEST_CASE("Command line: before the first session there is nothing, and after the last none new",
          "[cli]")
{
    Bench bench;
    std::string told;
    bench.request.tell = [&told](const std::string& what) { told = what; };
    bench.request.expressions = {"close"};
    bench.request.text = "close > 1";
    bench.request.symbol = "KELP.C";
    bench.request.day = day("1900-01-01");
    const std::string fault = "the market begins on 2024-01-02; nothing is known on 1900-01-01";
    CHECK(bench.faultOf(column) == fault);
    CHECK(bench.faultOf(screen) == fault);
    CHECK(bench.faultOf(explain) == fault);
    CHECK(bench.faultOf(fields) == fault);
    CHECK(told.empty());
    bench.request.day = day("2024-03-01");
    CHECK(column(bench.request).rows.size() == 2);
    CHECK(told == "as of 2024-01-05, the newest session by 2024-03-01");
    bench.request.to = day("2023-12-31");
    CHECK(bench.faultOf(series).starts_with("the market has no session from the first to"));
    bench.request.to = day("2024-03-01");
    CHECK(series(bench.request).rows.size() == 4);
    CHECK(told == "the newest session is 2024-01-05");
}

TEST_CASE("Command line: an expression is explained part by part", "[cli]")
{
    Bench bench;
    bench.request.symbol = "KELP.C";
    bench.request.expressions = {"day_change > 1% and volume >= 2 * prior(volume)"};
    CHECK(toCsv(explain(bench.request)) ==
          "depth,part,meaning,kind,unit,value\n"
          "0,day_change > 1% and volume >= 2 * prior(volume),,yes/no,plain,no\n"
          "1,day_change > 1%,,yes/no,plain,yes\n"
          "2,day_change,Change on the day,number,percent,0.057692307692307709\n"
          "3,\"change(close, 1)\",,number,percent,0.057692307692307709\n"
          "4,close,Close,number,money,5.5\n"
          "1,volume >= 2 * prior(volume),,yes/no,plain,no\n"
          "2,volume,Volume,number,shares,3000\n"
          "2,2 * prior(volume),,number,shares,4200\n"
          "3,prior(volume),,number,shares,2100\n"
          "4,volume,Volume,number,shares,3000\n");
    bench.request.expressions = {"close >\n smaa(close, 2)"};
    CHECK(bench.faultOf(explain).find("Line 2, column 2: no function 'smaa'") == 0);
    CHECK(bench.faultOf(explain).find("\n   smaa(close, 2)\n   ^^^^") != std::string::npos);
}

TEST_CASE("Command line: the dictionary is told whole", "[cli]")
{
    const Answer all = fields({});
    CHECK(all.rows.size() >= 380);
    CHECK(toCsv(all).find("total_return,Total return,") != std::string::npos);

    Bench bench;
    bench.request.day = day("2024-01-04");
    const Answer told = fields(bench.request);
    REQUIRE(told.columns.back() == "coverage");
    const auto coverageOf = [&](const std::string& name) {
        for (const auto& row : told.rows)
            if (row.front() == Cell(name))
                return std::get<double>(row.back());
        return -1.0;
    };
    CHECK(coverageOf("close") == 1.0);
    CHECK(coverageOf("year_change") == 0.0); // three days are no year
}

TEST_CASE("Command line: a mapping with a fault is shown where it is", "[cli]")
{
    Bench bench;
    bench.request.mapping = bench.request.market / "odd.toml";
    std::ofstream(bench.request.mapping) << "separator = \";\"\ndays = \"soon\"\n";
    try {
        (void)intake(bench.request, {});
        FAIL("it was taken");
    } catch (const InputFault& fault) {
        CHECK(std::string(fault.what()).starts_with("Line 2, column 8: no form of days"));
    }
}

TEST_CASE("Command line: every part of the market's state, however small the market", "[cli]")
{
    Bench bench;
    const auto told = [&bench](const char* part) {
        bench.request.show = part;
        return toCsv(conditions(bench.request, {}));
    };
    CHECK(told("states").find("\"All shares, equal weight\",short,,,,") != std::string::npos);
    CHECK(told("stance").find("rule,The long trend carries,") != std::string::npos);
    CHECK(told("breadth").find("\"All shares, equal weight\",advances,") != std::string::npos);
    CHECK(told("divergences") == "known_on,sign,against,first,second,first_value,second_value,"
                                 "after_21,after_63\n");
    for (const std::string& part : conditionsShown())
        CHECK(toJson([&] {
                  bench.request.show = part;
                  return conditions(bench.request, {});
              }())
                  .front() == '[');
    bench.request.group = "No such";
    CHECK_THROWS_WITH(told("groups"), "no sector or industry is called 'No such'");
    bench.request.group.clear();
    bench.request.figure = "clos";
    CHECK_THROWS_AS(told("groups"), InputFault);
    CHECK_THROWS_AS(told("weather"), InputFault);
}

TEST_CASE("Command line: the market's state by rules of one's own, and what is wrong in them",
          "[cli]")
{
    Bench bench;
    const test::OwnFolder own;
    std::string book = "[[rule]]\ntitle = \"Always\"\nenter = \"close > 0\"\nshare = 50\n";
    for (const char* horizon : {"short", "medium", "long"})
        book += std::string("[[trend]]\nhorizon = \"") + horizon +
                "\"\nrising = \"close > 0\"\nfalling = \"close < 0\"\n";
    own.write("book.toml", book);
    bench.request.file = own.path() / "book.toml";
    bench.request.show = "states";
    CHECK(toCsv(conditions(bench.request, {})).find(",long,rising,") != std::string::npos);
    bench.request.show = "stance";
    CHECK(toCsv(conditions(bench.request, {})).find("stance,\"All shares, equal weight\",,0.5,") !=
          std::string::npos);
    own.write("book.toml", book + "[[rule]]\ntitle = \"x\"\nenter = \"close >\"\n");
    CHECK_THROWS_AS(conditions(bench.request, {}), InputFault);
    own.write("book.toml", "panes = [");
    CHECK_THROWS_AS(conditions(bench.request, {}), InputFault);
}

TEST_CASE("Command line: a dossier as JSON, the values as rows", "[cli]")
{
    Bench bench;
    bench.request.symbol = "KELP.C";
    bench.request.parts = {"value", "listing"};
    const std::string told = dossierText(bench.request, {});
    CHECK_THAT(told, Catch::StartsWith("{\n \"symbol\": \"KELP.C\","));
    for (const char* piece : {"\"key\": \"value\"", "\"key\": \"listing\"",
                              "\"expression\": \"fair_value\"", "\"as_of\": \"2024-01-05\""})
        CHECK_THAT(told, Catch::Contains(piece));
    CHECK_THAT(told, !Catch::Contains("\"key\": \"results\""));
    const Answer values = value(bench.request, {});
    CHECK(values.columns.size() == 6);
    CHECK(values.rows.size() == 24); // 21 values, and the least, the mean and the most of five
    CHECK_THAT(toCsv(values), Catch::Contains("\"Earnings, four quarters, usual multiple\",,,,,"));
    bench.request.model.lasting = 0.2;
    CHECK_THROWS_AS(value(bench.request, {}), InputFault);
}

TEST_CASE("Command line: what followed a condition, in sum and case by case", "[cli]")
{
    Bench bench;
    bench.request.text = "close > 0";
    const Answer sums = occurrences(bench.request, {});
    CHECK(sums.rows.size() == 3); // a span each, of all stocks
    bench.request.isTable = true;
    const Answer cases = occurrences(bench.request, {});
    CHECK(cases.rows.size() == 2); // each of the two stocks begins once
    CHECK(cases.columns.size() == 14);
    bench.request.symbol = "KELP.C";
    CHECK(occurrences(bench.request, {}).rows.size() == 1);
    bench.request.isTable = false;
    CHECK(occurrences(bench.request, {}).rows.size() == 6);
    bench.request.text = "close > smaa(close, 3)";
    CHECK_THROWS_AS(occurrences(bench.request, {}), InputFault);
}

TEST_CASE("Command line: lists and alerts of a library, which is only read", "[cli]")
{
    Bench bench;
    const test::OwnFolder own;
    const auto file = own.path() / "library.sqlite";
    {
        const auto opened = library::Library::open(file);
        library::Work work = library::loadWork(*opened.library).work;
        const library::Work before = work;
        watchlists::Watchlist list{3, "Kelp", {{"SEAW.C", day("2024-01-02"), 10.2, "why"}}};
        list.entries[0].plan = watchlists::TradePlan{day("2024-01-02"), 10.6, 9.0};
        list.head.folder = "Sea";
        work.lists = {list};
        watchlists::Alert alert;
        alert.id = 7;
        alert.what = watchlists::Alert::What::Level;
        alert.about.symbol = "SEAW.C";
        alert.since = day("2024-01-02");
        alert.level = 10.6; // 5.3 after the split
        keepAlert(work, alert);
        saveWork(*opened.library, before, work);
    }
    const std::string bytes = own.read("library.sqlite");
    bench.request.library = file;
    const auto market = std::exchange(bench.request.market, {});
    CHECK(toCsv(lists(bench.request, {})) ==
          "name,folder,screen,entries,former,archived\nKelp,Sea,,1,0,no\n");
    bench.request.list = "Kelp";
    CHECK_THAT(toCsv(lists(bench.request, {})), Catch::Contains("\nSEAW.C,,2024-01-02,10.19"));
    CHECK(alerts(bench.request, {}).rows.empty()); // none was told yet
    bench.request.market = market;
    CHECK_THAT(toCsv(lists(bench.request, {})),
               Catch::Contains("\nKELP.C,Ossmere Kelp,2024-01-02,10.19") &&
                   Catch::Contains(",triggered,2024-01-04,"));
    bench.request.day = day("2024-01-03");
    CHECK_THAT(toCsv(lists(bench.request, {})), Catch::Contains(",waiting,"));
    bench.request.day.reset();
    const std::string told = toCsv(alerts(bench.request, {}));
    CHECK(told == "day,symbol,what,value,late,seen,alert\n"
                  "2024-01-04,KELP.C,reached 10.60,5.2000000000000002,yes,no,7\n");
    CHECK(own.read("library.sqlite") == bytes);
    bench.request.isWrite = true;
    CHECK(toCsv(alerts(bench.request, {})) == told);
    CHECK(alerts(bench.request, {}).rows.empty()); // it is kept by now
    bench.request.isWrite = false;
    bench.request.market.clear();
    CHECK(alerts(bench.request, {}).rows.size() == 1);
    bench.request.list = "Crabs";
    CHECK_THROWS_AS(lists(bench.request, {}), InputFault);
    bench.request.library = own.path() / "none.sqlite";
    CHECK_THROWS_AS(lists(bench.request, {}), InputFault);
}

TEST_CASE("Command line: the brief, the review, and the library as open text", "[cli]")
{
    Bench bench;
    const test::OwnFolder own;
    const auto file = own.path() / "library.sqlite";
    {
        const auto opened = library::Library::open(file);
        library::Work work = library::loadWork(*opened.library).work;
        const library::Work before = work;
        watchlists::Watchlist list{3, "Kelp", {{"SEAW.C", day("2024-01-02"), 10.2, "why"}}};
        list.entries[0].plan = watchlists::TradePlan{day("2024-01-02"), 10.6, 9.0};
        work.lists = {list};
        saveWork(*opened.library, before, work);
    }
    bench.request.library = file;
    bench.request.from = day("2024-01-03");
    bench.request.show = "text";
    CHECK_THAT(briefText(bench.request, {}),
               Catch::Contains("KELP.C: triggered") && Catch::Contains("· Kelp"));
    bench.request.show = "csv";
    CHECK_THAT(briefText(bench.request, {}), Catch::StartsWith("part,subject,words,day\n"));
    bench.request.show = "html";
    CHECK_THAT(briefText(bench.request, {}), Catch::StartsWith("<!DOCTYPE html>"));
    bench.request.show = "mail";
    CHECK_THROWS_AS(briefText(bench.request, {}), InputFault); // to nobody
    bench.request.text = "ana@example.org\nBcc: x@example.org";
    CHECK_THROWS_AS(briefText(bench.request, {}), InputFault);
    bench.request.text = "ana@example.org";
    CHECK_THAT(briefText(bench.request, {}), Catch::Contains("To: ana@example.org"));

    bench.request.show = "source";
    const Answer sums = review(bench.request, {});
    REQUIRE(sums.rows.size() == 1);
    CHECK(sums.rows[0].size() == sums.columns.size());
    bench.request.isTable = true;
    const Answer cases = review(bench.request, {});
    REQUIRE(cases.rows.size() == 1);
    CHECK(cases.rows[0].size() == cases.columns.size());
    CHECK(std::get<std::string>(cases.rows[0][0]) == "KELP.C");
    bench.request.isTable = false;
    bench.request.show = "mood";
    CHECK_THROWS_AS(review(bench.request, {}), InputFault);

    bench.request.folder = own.path() / "text";
    libraryAsText(bench.request);
    CHECK_THAT(own.read("text/lists/001 Kelp/entries.csv"), Catch::Contains("1,SEAW.C,2024-01-02"));
    CHECK_THROWS(libraryAsText(bench.request)); // it is there already
    bench.request.isWrite = true;
    CHECK_THROWS_AS(libraryAsText(bench.request), InputFault); // so is the library
    bench.request.library = own.path() / "again.sqlite";
    libraryAsText(bench.request);
    CHECK(library::loadWork(*library::Library::copyOf(own.path() / "again.sqlite")).work ==
          library::loadWork(*library::Library::copyOf(file)).work);
}

TEST_CASE("Command line: studies give the same answers as the core, and faults with their words",
          "[cli]")
{
    Bench bench;
    Request& request = bench.request;
    std::vector<std::string> told;
    request.tell = [&](const std::string& what) { told.push_back(what); };
    request.text = "close > 5.15";
    request.studies.following.horizons = {1};
    request.studies.following.boughtAt = studies::BoughtAt::Close;
    request.isTable = true;
    const Answer cases = aftermath(request, {});
    REQUIRE_FALSE(cases.rows.empty());
    CHECK(cases.columns[0] == "symbol");
    CHECK(cases.columns[5] == "after_1");
    request.isTable = false;
    const Answer sums = aftermath(request, {});
    REQUIRE(sums.rows.size() == 1);
    CHECK(std::get<double>(sums.rows[0][1]) == static_cast<double>(cases.rows.size()));
    CHECK_FALSE(told.empty()); // so few cases are worth a word
    request.studies.by = "year";
    CHECK(aftermath(request, {}).columns[0] == "year");
    request.text = "close >";
    request.studies.by.clear();
    CHECK_THROWS_AS(aftermath(request, {}), InputFault);
    request.text.clear();
    request.studies.screens = {"no such screen"};
    CHECK_THROWS_AS(aftermath(request, {}), InputFault);

    request.studies.screens.clear();
    request.studies.standings.newest = 2;
    const Answer all = standings(request, {});
    CHECK(all.rows.size() == screens::starterScreens().size());
    request.isTable = true;
    CHECK(standings(request, {}).columns[1] == "start");
    request.studies.isStocks = true;
    request.studies.standings.isOneStart = true;
    request.studies.screens = {screens::starterScreens().front().name};
    CHECK(standings(request, {}).columns[2] == "symbol");
    request.studies.isStocks = false;
    request.isTable = false;
    request.studies.by = "health";
    const Answer health = standings(request, {});
    CHECK(health.columns[1] == "long_gain");
    CHECK(health.rows.size() == 1); // the one start
    request.studies.by = "year";
    request.text = "close > 2 and volume > 1";
    CHECK(neighbours(request, {}).columns[0] == "year");
    request.text.clear();
    request.studies.by.clear();
    request.isTable = true;
    request.studies.isStocks = false;
    request.studies.screens.clear();

    test::OwnFolder folder;
    request.file = folder.path() / "rule.toml";
    const auto write = [&](const std::string& text) { std::ofstream(request.file) << text; };
    write("[[step]]\ncriteria = [\"close > 1\"]\nrank_by = \"close\"\nhold = 1\n"
          "[rebalancing]\nby = \"session\"\n");
    const Answer measures = portfolio(request, {});
    CHECK(measures.columns == std::vector<std::string>{"metric", "value", "benchmark"});
    request.show = "fills";
    const Answer fills = portfolio(request, {});
    CHECK(fills.columns[2] == "why");
    for (const char* show : {"curve", "trades", "months", "stocks"}) {
        request.show = show;
        CHECK_FALSE(portfolio(request, {}).columns.empty());
    }
    write("[[step]]\ncriteria = [\"close > 1\"]\nhold = 0\n");
    CHECK_THROWS_AS(portfolio(request, {}), InputFault);

    request.file = folder.path() / "returns.csv";
    std::ofstream(request.file) << "date,own,benchmark\n2025-01-02,0.01,0.02\n2025-01-03,-0.02,0\n";
    const Answer series = cli::measures(request);
    CHECK(series.rows.size() == 2 * 22 + 5); // measures and the days of the fall, and those beside
    request.studies.isCurve = true;
    CHECK(cli::measures(request).rows.size() == 2);
    std::ofstream(request.file) << "date,own\n2025-01-02,-7\n";
    CHECK_THROWS_AS(cli::measures(request), InputFault);
}

} // namespace sieve::cli
