#include "core/intake/price_layout.h"

#include "core/intake/bar_rules.h"
#include "core/intake/csv.h"
#include "core/intake/price_preview.h"
#include "core/intake/quick_figures.h"
#include "core/intake/symbols.h"
#include "core/intake/take_in.h"
#include "core/storage/market_file.h"
#include "demo_market/dice.h"
#include "tests/core/made_market.h"
#include "tests/own_folder.h"

#include <catch2/catch.hpp>
#include <cmath>
#include <fmt/format.h>

namespace sieve::intake {

using test::day;

namespace {

Intake takenIn(const test::OwnFolder& source, const test::OwnFolder& folder,
               const std::optional<PriceLayout>& mapping = {})
{
    const Result<IntakeReport> report = takeIn({source.path(), folder.path(), mapping});
    if (!report)
        FAIL(report.error().problem << ": " << report.error().remedy);
    Result<Intake> intake = openFolder(folder.path());
    REQUIRE(intake);
    return *std::move(intake);
}

} // namespace

TEST_CASE("Layout: common ways to write prices are recognised", "[intake]")
{
    struct Case {
        const char* sample;
        char separator;
        char decimal;
        char thousands;
        DayForm form;
    };
    const Case cases[] = {
        {"Date,Open,High,Low,Close,Volume\n2025-03-14,1,2,1,2,5\n", ',', '.', '\0', DayForm::Iso},
        {"\xEF\xBB\xBF"
         "datum;open;high;low;close;volume\r\n14.03.2025;1,5;2;1;1,75;5\r\n",
         ';', ',', '\0', DayForm::DayMonthYear},
        {"ticker\tdate\tclose\nA\t20250314\t1.5\n", '\t', '.', '\0', DayForm::Digits},
        {"Date;Close\n31/12/2025;1.234,5\n", ';', ',', '.', DayForm::DayMonthYear},
        {"Date,Price,Vol.\n12/31/2025,\"1,234.50\",7\n", ',', '.', ',', DayForm::MonthDayYear},
        {"Date|Last\n2025-03-14 00:00:00|3\n", '|', '.', '\0', DayForm::Iso},
    };
    for (const Case& each : cases) {
        INFO(each.sample);
        const auto layout = recogniseLayout(each.sample);
        REQUIRE(layout);
        CHECK(layout->separator == each.separator);
        CHECK(layout->decimalMark == each.decimal);
        CHECK(layout->thousandsMark == each.thousands);
        CHECK(layout->dayForm == each.form);
        const PricePreview preview = previewOf(each.sample, *layout);
        REQUIRE(preview.rows.size() == 1);
        CHECK(preview.unread == 0);
        const auto back = layoutFromToml(toToml(*layout));
        REQUIRE(back);
        CHECK(*back == *layout);
    }
}

TEST_CASE("Layout: what is not clear is asked, not guessed", "[intake]")
{
    const auto problem = [](const char* sample) {
        const auto layout = recogniseLayout(sample);
        return layout ? std::string("none") : layout.error().problem;
    };
    CHECK(problem("") == "the file is empty");
    CHECK(problem("when,worth\n2025-03-14,1\n").find("known as the time") != std::string::npos);
    CHECK(problem("date,worth\n2025-03-14,1\n").find("known as the close") != std::string::npos);
    CHECK(problem("date,close\n03/04/2025,1\n05/06/2025,1\n").find("may be read as") !=
          std::string::npos);
    CHECK(problem("date,close\n03/04/2025,1\n05/26/2025,1\n") == "none");
    CHECK(problem("date,close\n05/05/2025,1\n") == "none"); // the same day in both
    CHECK(problem("date,close,close\n2025-03-14,1,2\n") == "the header has two columns 'close'");
    for (const char* prices : {"1,234", "1.234"}) { // a thousandfold apart
        const auto sample = [&](const std::string& more) {
            return std::string("date;close;volume\n2025-03-14;") + prices + ";5\n" + more;
        };
        const char mark = prices[1];
        CHECK(problem(sample("").c_str()).find("between their thousands") != std::string::npos);
        CHECK(problem(sample(std::string("2025-03-17;12") + mark + "5;7\n").c_str()) == "none");
        CHECK(problem(sample(std::string("2025-03-17;0") + mark + "125;7\n").c_str()) == "none");
        CHECK(problem(sample("2025-03-17;2345;7\n").c_str()) == "none");
        CHECK(problem(sample("2025-03-17;2;12000\n").c_str()) == "none");
        const std::string thousands =
            std::string("2025-03-17;12") + mark + "345" + mark + "678;7\n";
        CHECK(problem(sample(thousands).c_str()) == "none");
        CHECK(recogniseLayout(sample(thousands))->thousandsMark == mark);
    }
    CHECK(problem("date,close\n2025-03-14,1.234\n") == "none"); // else a comma parts the columns
}

TEST_CASE("Layout: a mapping tells line and column of its faults", "[intake]")
{
    const auto fault = [](const char* text) {
        const auto layout = layoutFromToml(text);
        REQUIRE_FALSE(layout);
        return layout.error();
    };
    CHECK(fault("separator = ").where.line == 1);
    CHECK(fault("separator = \";;\"\n").problem == "separator is no mark");
    CHECK(fault("\ndays = \"today\"\n").where.line == 2);
    CHECK(fault("[columns]\nmood = \"x\"\n").problem == "'mood' is no column of prices");
    CHECK(fault("[columns]\ntime = \"x\"\n").problem == "the mapping has no column 'close'");
    CHECK(fault("\nseperator = \";\"\n").problem == "'seperator' is no key of a mapping");
    CHECK(fault("\nseperator = \";\"\n").where.line == 2);
    CHECK(fault("columns = 3\n").problem == "columns is no table");
    CHECK(fault("[columns]\ntime = \"d\"\nclose = 4\n").problem == "close has no heading");
}

TEST_CASE("Layout: figures in other marks are read, or refused", "[intake]")
{
    PriceLayout layout;
    layout.decimalMark = ',';
    layout.thousandsMark = '.';
    CHECK(*parseFigure("1.234,5", layout) == 1234.5);
    CHECK(*parseFigure("12.345.678", layout) == 12'345'678);
    CHECK(*parseFigure("-0,5", layout) == -0.5);
    for (const char* bad : {"0.123", "-0.123", "1.23,5", "1234.567.8", "1,5,5", ".5", "", "1.2345"})
        CHECK_FALSE(parseFigure(bad, layout));
}

TEST_CASE("Figures: the quick way gives the bits of the thorough one, or nothing", "[intake]")
{
    demo_market::Dice dice(3);
    std::size_t quick = 0;
    for (int round = 0; round < 200'000; ++round) {
        std::string text = std::to_string(dice.below(round % 3 == 0 ? 100'000'000 : 1'000));
        if (dice.chance(0.7))
            text += "." + std::to_string(dice.below(round % 2 == 0 ? 10'000 : 100));
        const std::string padded = text + (dice.chance(0.5) ? "," : "\n") + "2025-03";
        const char* at = padded.data();
        double figure = 0.0;
        if (readQuickFigure(at, figure)) {
            ++quick;
            REQUIRE(at == padded.data() + text.size());
            REQUIRE(figure == *parseFigure(std::string_view(text)));
        } else {
            REQUIRE(at == padded.data());
        }
    }
    CHECK(quick > 80'000);
    for (const char* odd : {"-1.5,12345", "1e5,123456", ".5,1234567", "abc,123456", ",12345678",
                            "1.2.3,1234", "12345678,1"}) {
        const char* at = odd;
        double figure = 0.0;
        const bool isTaken = readQuickFigure(at, figure);
        INFO(odd);
        CHECK((!isTaken || *at != ',' || figure == parseFigure(std::string(odd, at)).value()));
    }
}

TEST_CASE("Days: the quick way agrees with the thorough one", "[intake]")
{
    QuickDays days;
    for (int serial = -800; serial < 25'000; serial += 1) {
        const std::string text = Day::fromSerial(serial).iso() + ",1";
        const char* at = text.data();
        std::int32_t got = 0;
        REQUIRE(days.take(at, got));
        REQUIRE(got == serial);
    }
    for (const char* bad : {"2025-02-29,1", "2025-13-01,1", "2025-03-00,1", "2025-03-3x,1",
                            "20250314,123", "2025-03-41,1"}) {
        const char* at = bad;
        std::int32_t got = 0;
        CHECK_FALSE(days.take(at, got));
        CHECK(at == bad);
    }
}

TEST_CASE("Prices: one long file, by day or by symbol, makes the same market as many", "[intake]")
{
    const test::OwnFolder many;
    const test::OwnFolder byDay;
    const test::OwnFolder bySymbol;
    std::string days = "Symbol;Date;Open;High;Low;Close;Volume\n";
    std::string symbols = days;
    const auto row = [](int stock, int session) {
        const double price = 10.0 + stock + 0.25 * (session % 9);
        return fmt::format("{};{};{};{};{};{}", Day::fromSerial(18'000 + session).iso(), price,
                           price + 1, price - 1, price + 0.5, 100 + session);
    };
    for (int session = 0; session < 60; ++session)
        for (int stock = 0; stock < 7; ++stock)
            days += fmt::format("S{};{}\n", stock, row(stock, session));
    for (int stock = 0; stock < 7; ++stock) {
        std::string own = "date;open;high;low;close;volume\n";
        for (int session = 0; session < 60; ++session) {
            own += row(stock, session) + "\n";
            symbols += fmt::format("S{};{}\n", stock, row(stock, session));
        }
        many.write(fmt::format("S{}.csv", stock), own);
    }
    byDay.write("all.csv", days);
    bySymbol.write("part/all.txt", symbols);
    const test::OwnFolder folders[3];
    takenIn(many, folders[0]);
    takenIn(byDay, folders[1]);
    takenIn(bySymbol, folders[2]);
    const auto barsOf = [](const test::OwnFolder& folder) {
        const market::MarketPtr market = *storage::openMarket(folder.path());
        REQUIRE(market->size() == 7);
        std::vector<double> all;
        for (std::size_t i = 0; i < 7; ++i)
            all.insert(all.end(), market->bars(i).close.begin(), market->bars(i).close.end());
        return all;
    };
    CHECK(barsOf(folders[0]) == barsOf(folders[1]));
    CHECK(barsOf(folders[0]) == barsOf(folders[2]));
}

TEST_CASE("Prices: an adjusted close tells splits and dividends", "[intake]")
{
    const test::OwnFolder source;
    const test::OwnFolder folder;
    source.write("KELP.csv", "Date,Open,High,Low,Close,Adj Close,Volume\n"
                             "2025-03-10,40,41,39,40,19.60,100\n"
                             "2025-03-11,40,41,39,41,20.09,100\n"
                             "2025-03-12,20.5,21,20,20.5,20.09,200\n" // 2 for 1
                             "2025-03-13,20,21,19,20,20.00,200\n"     // 0.41 paid
                             "2025-03-14,20,21,19,21,21.00,200\n");
    const market::MarketPtr market = takenIn(source, folder).market;
    REQUIRE(market->actions(0).size() == 2);
    CHECK(market->actions(0)[0].kind == market::ActionKind::Split);
    CHECK(market->actions(0)[0].value == 2.0);
    CHECK(market->actions(0)[0].exDate == day("2025-03-12"));
    CHECK(market->actions(0)[1].kind == market::ActionKind::Dividend);
    CHECK(market->actions(0)[1].value == Approx(0.41).margin(0.02));
    CHECK(market->bars(0).close[0] == 40.0); // as traded
}

TEST_CASE("Prices: files that nobody can read are told, the others taken", "[intake]")
{
    const test::OwnFolder source;
    const test::OwnFolder folder;
    source.write("GOOD.csv", "date,close\n2025-03-10,40\n2025-03-11,41\n");
    source.write("ODD.csv", "when,worth\n2025-03-10,40\n");
    source.write("WIDE.csv", std::string("\xFF\xFE", 2) + std::string("d\0a\0t\0e\0", 8));
    source.write("notes.md", "no table\n");
    const Intake intake = takenIn(source, folder);
    CHECK(intake.market->size() == 1);
    CHECK(intake.market->bars(0).open[1] == 41.0); // a file of closes alone
    REQUIRE(intake.report.findings.size() == 2);
    CHECK(intake.report.findings[0].file == "ODD.csv");
    CHECK(intake.report.findings[0].done.find("mapping") != std::string::npos);
}

TEST_CASE("Prices: a day on which nobody traded is no bar", "[intake]")
{
    const test::OwnFolder source;
    const test::OwnFolder folder;
    source.write("bars/daily/AAAA.C.csv", "date,open,high,low,close,volume\n"
                                          "2025-03-10,40,41,39,40,100\n"
                                          "2025-03-11,40,40,40,40,0\n"
                                          "2025-03-12,40,41,39,41,100\n");
    const Intake intake = takenIn(source, folder);
    CHECK(intake.market->bars(0).size() == 2);
    CHECK(intake.report.rowsLeftOut == 1);
}

TEST_CASE("Symbols: who bore one on a day, through chains and reuse", "[intake]")
{
    Symbols symbols;
    for (const char* each : {"CCCC", "AAAA"})
        symbols.addInstrument(each);
    symbols.addRename("AAAA", "BBBB", day("2019-05-01")); // later somebody else took AAAA
    symbols.addRename("BBBB", "CCCC", day("2021-05-01"));
    CHECK(symbols.resolve("AAAA", day("2019-04-30")) == "CCCC");
    CHECK(symbols.resolve("AAAA", day("2020-01-01")) == "AAAA");
    CHECK(symbols.resolve("BBBB", day("2020-01-01")) == "CCCC");
    CHECK(symbols.resolve("BBBB", day("2023-01-01")) == "CCCC"); // late under the old symbol
    symbols.addRename("DDDD", "EEEE", day("2018-01-01"));
    symbols.addRename("EEEE", "CCCC", day("2018-06-01"));
    CHECK(symbols.resolve("DDDD", day("2023-01-01")) == "CCCC"); // late under the oldest
    CHECK(symbols.resolve("CCCC", day("2000-01-01")) == "CCCC");
    CHECK(symbols.resolve("ZZZZ", day("2000-01-01")) == "ZZZZ");
    const auto former = symbols.formerSymbols();
    REQUIRE(former.at("CCCC").size() == 4);
    CHECK(former.at("CCCC")[0].symbol == "DDDD");
    CHECK(former.at("CCCC")[2].symbol == "AAAA");
    symbols.addRename("XXXX", "YYYY", day("2020-01-01")); // a circle ends too
    symbols.addRename("YYYY", "XXXX", day("2019-01-01"));
    (void)symbols.resolve("XXXX", day("2018-01-01"));
    (void)symbols.resolve("YYYY", day("2025-01-01"));
}

TEST_CASE("Layout: a comma between thousands, with a point before decimals", "[intake]")
{
    PriceLayout layout;
    layout.thousandsMark = ',';
    CHECK(*parseFigure("123,456", layout) == 123'456);
    CHECK(*parseFigure("1,234.5", layout) == 1234.5);
    CHECK(*parseFigure("12,345,678", layout) == 12'345'678);
    CHECK(*parseFigure("-1,234", layout) == -1234);
    CHECK(*parseFigure("1234", layout) == 1234);
    for (const char* bad : {"1234,567", "1,23", "1,2345", ",123", "1,23,456"})
        CHECK_FALSE(parseFigure(bad, layout));
}

TEST_CASE("Prices: a mapping that is stated goes before the one that was remembered", "[intake]")
{
    const test::OwnFolder source;
    const test::OwnFolder market;
    source.write("AAAA.csv", "date,close\n03/04/2024,10\n05/04/2024,11\n");
    PriceLayout layout = *recogniseLayout("date,close\n13/04/2024,10\n");
    const auto firstDay = [&](const std::optional<PriceLayout>& mapping) {
        REQUIRE(takeIn({source.path(), market.path(), mapping}));
        return (*storage::openMarket(market.path()))->sessions().front().iso();
    };
    CHECK(firstDay(layout) == "2024-04-03");
    CHECK(firstDay(std::nullopt) == "2024-04-03"); // what was stated once holds
    layout.dayForm = DayForm::MonthDayYear;
    CHECK(firstDay(layout) == "2024-03-04");
    CHECK(firstDay(std::nullopt) == "2024-03-04");
}

TEST_CASE("Layout: a day may have a time behind it", "[intake]")
{
    const std::optional<Day> day = Day::parse("2025-03-14");
    for (const char* cell : {"2025-03-14", "2025-03-14 ", "2025-03-14T", "2025-03-14T09:30:00Z"})
        CHECK(parseDay(cell, DayForm::Iso) == day);
    CHECK_FALSE(parseDay("2025-03-14x", DayForm::Iso));
}

TEST_CASE("Layout: of two columns of one meaning the one whose name says it best is read",
          "[intake]")
{
    const auto layout = recogniseLayout("Date,Last,Close,Vol\n2025-03-14,1,2,3\n");
    REQUIRE(layout);
    CHECK(layout->heading(PriceColumn::Close) == "Close");
    CHECK(layout->heading(PriceColumn::Volume) == "Vol");
    CHECK(recogniseLayout("Date,Last\n2025-03-14,1\n")->heading(PriceColumn::Close) == "Last");
}

namespace {

/// What files of prices are taken in as: the close of each symbol's first bar, and all findings.
struct Taken {
    std::map<std::string, double> closes;
    std::map<std::string, std::string> days;
    std::string findings;
};

Taken takenOf(const std::map<std::string, std::string>& files,
              const std::optional<PriceLayout>& mapping = {})
{
    const test::OwnFolder source;
    const test::OwnFolder market;
    for (const auto& [name, text] : files)
        source.write(name, text);
    TakeIn request{source.path(), market.path()};
    request.mapping = mapping;
    const auto report = takeIn(request);
    Taken taken;
    if (!report) {
        taken.findings = report.error().problem;
        return taken;
    }
    const market::MarketPtr made = openFolder(market.path())->market;
    for (std::size_t i = 0; i < made->size(); ++i) {
        const std::string& symbol = made->instrument(i).symbol;
        taken.closes[symbol] = made->bars(i).close.front();
        taken.days[symbol] = made->bars(i).days.front().iso();
    }
    for (const Finding& finding : report->findings)
        taken.findings += finding.file + ": " + finding.why + "\n";
    return taken;
}

} // namespace

TEST_CASE("Prices: each file of a folder is read for itself, in whatever order", "[intake]")
{
    const std::string head = "Date,Close\n";
    const Taken taken = takenOf({{"ADAY.csv", head + "03/02/2025,1\n13/02/2025,1\n"},
                                 {"BMON.csv", head + "03/02/2025,2\n03/13/2025,2\n"},
                                 {"CISO.csv", head + "2025-03-02,3\n"},
                                 {"DBOTH.csv", head + "03/02/2025,4\n"}});
    CHECK(taken.days == std::map<std::string, std::string>{{"ADAY", "2025-02-03"},
                                                           {"BMON", "2025-03-02"},
                                                           {"CISO", "2025-03-02"}});
    CHECK(taken.findings.find("DBOTH.csv: the days may be read") != std::string::npos);
    const Taken agreed = takenOf({{"ADAY.csv", head + "03/02/2025,1\n13/02/2025,1\n"},
                                  {"ZBOTH.csv", head + "03/02/2025,4\n"}});
    CHECK(agreed.days.at("ZBOTH") == "2025-02-03"); // as the others with this header are
    const std::string marked = "Date;Close\n";
    const Taken prices = takenOf(
        {{"A.csv", marked + "2025-03-14;1.234\n"}, {"B.csv", marked + "2025-03-14;1.234,50\n"}});
    CHECK(prices.closes.at("A") == 1234.0);
    CHECK(prices.closes.at("B") == 1234.5);
}

TEST_CASE("Prices: bars of minutes are not taken for daily ones", "[intake]")
{
    std::string minutes = "Date,Close,Volume\n";
    std::string times = "Date,Time,Close,Volume\n";
    for (int minute = 30; minute < 50; ++minute) {
        minutes +=
            "2025-03-14 09:" + std::to_string(minute) + ":00," + std::to_string(minute) + ",100\n";
        times += "2025-03-14,09:" + std::to_string(minute) + "," + std::to_string(minute) + ",1\n";
    }
    const std::string daily = "Date,Close,Volume\n2025-03-14,5,100\n2025-03-17,6,100\n";
    const Taken taken = takenOf({{"DAY.csv", daily},
                                 {"MIN.csv", minutes},
                                 {"TIMES.csv", times},
                                 {"TWICE.csv", daily + "2025-03-14,5,100\n2025-03-17,6,100\n"}});
    std::string numbered = ",Date,Close\n"; // the first column has no name
    for (int row = 0; row < 20; ++row)
        numbered += std::to_string(row) + ",2025-03-14 09:" + std::to_string(30 + row) + ",5\n";
    CHECK_FALSE(recogniseLayout(numbered));
    CHECK(taken.closes.size() == 2);
    CHECK(taken.closes.contains("TWICE")); // rows once more are no minutes
    CHECK(taken.findings.find("MIN.csv: rows of one day") != std::string::npos);
    CHECK(taken.findings.find("TIMES.csv: rows of one day") != std::string::npos);
    PriceLayout mapping;
    mapping.headings.at(static_cast<std::size_t>(PriceColumn::Time)) = "Date";
    mapping.headings.at(static_cast<std::size_t>(PriceColumn::Close)) = "Close";
    const Taken mapped = takenOf({{"DAY.csv", daily}, {"MIN.csv", minutes}}, mapping);
    CHECK(mapped.closes.size() == 1);
    mapping.headings.at(static_cast<std::size_t>(PriceColumn::Open)) = "Opn"; // misspelt
    CHECK(takenOf({{"DAY.csv", daily}}, mapping).closes.empty());
}

TEST_CASE("Prices: a row that ends early has nothing of the row before it", "[intake]")
{
    const test::OwnFolder source;
    const test::OwnFolder market;
    source.write("A.csv", "Date,Close,Volume\n2025-03-13,5,100\n2025-03-14,6\n2025-03-17,7,\n");
    REQUIRE(takeIn({source.path(), market.path()}));
    const auto made = openFolder(market.path())->market;
    const auto volumes = made->bars(0).volume;
    REQUIRE(volumes.size() == 3);
    CHECK(volumes[0] == 100.0);
    CHECK(isMissing(volumes[1]));
    CHECK(isMissing(volumes[2]));
}

} // namespace sieve::intake
