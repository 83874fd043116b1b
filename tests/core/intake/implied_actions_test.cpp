#include "core/intake/bar_rules.h"
#include "core/intake/take_in.h"
#include "core/storage/market_file.h"
#include "tests/core/made_market.h"
#include "tests/own_folder.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>
#include <random>

namespace sieve::intake {

using market::Action;
using market::ActionKind;
using test::day;
using test::OwnFolder;

namespace {

const std::string head = "Date,Close,Adj Close\n";

void takenIn(const OwnFolder& source, const OwnFolder& market, bool isUpdate = false)
{
    const auto report = takeIn({source.path(), market.path(), {}, isUpdate});
    if (!report)
        FAIL(sentence(report.error()));
}

std::vector<Action> actionsIn(const OwnFolder& market, const std::string& symbol)
{
    const market::MarketPtr opened = *storage::openMarket(market.path());
    const auto actions = opened->actions(*opened->find(symbol));
    return {actions.begin(), actions.end()};
}

/// The actions that a price file implies.
std::vector<Action> implied(const std::string& rows, const std::string& header = head)
{
    const OwnFolder source;
    const OwnFolder market;
    source.write("KELP.csv", header + rows);
    takenIn(source, market);
    return actionsIn(market, "KELP");
}

/// Two closes of which the second has no action behind it, so the first's adjusted one tells what
/// happened between them.
std::vector<Action> impliedBetween(double close, double adjusted, double next)
{
    return implied(
        fmt::format("2025-01-02,{},{}\n2025-01-03,{},{}\n", close, adjusted, next, next));
}

void checkAction(const std::vector<Action>& actions, ActionKind kind, double value)
{
    REQUIRE(actions.size() == 1);
    CHECK(actions[0].kind == kind);
    CHECK(actions[0].value == Approx(value).epsilon(1e-9));
    CHECK(actions[0].exDate == day("2025-01-03"));
}

} // namespace

TEST_CASE("Implied actions: splits of simple fractions, and the dividends beside them", "[intake]")
{
    checkAction(impliedBetween(90, 60, 61), ActionKind::Split, 1.5);
    checkAction(impliedBetween(100, 50, 51), ActionKind::Split, 2.0);
    checkAction(impliedBetween(100, 80, 81), ActionKind::Split, 1.25);
    checkAction(impliedBetween(120, 100, 101), ActionKind::Split, 1.2);
    checkAction(impliedBetween(80, 60, 61), ActionKind::Split, 4.0 / 3.0);
    checkAction(impliedBetween(100, 40, 41), ActionKind::Split, 2.5);
    checkAction(impliedBetween(10, 100, 99), ActionKind::Split, 0.1);
    checkAction(impliedBetween(60, 90, 91), ActionKind::Split, 2.0 / 3.0);
    checkAction(impliedBetween(100, 99, 99), ActionKind::Dividend, 1.0);
    checkAction(impliedBetween(100, 70, 71), ActionKind::Dividend, 30.0); // 10:7 is no simple one
    checkAction(impliedBetween(100, 91, 92), ActionKind::Dividend, 9.0);
    CHECK(impliedBetween(100, 99.99, 99).empty()); // within the rounding
    // Cents of half a vell may hide any fraction: no split is told from them.
    checkAction(impliedBetween(0.60, 0.40, 0.41), ActionKind::Dividend, 0.2);
}

TEST_CASE("Implied actions: an idle day on the ex-date hides nothing", "[intake]")
{
    const auto actions = implied("2025-01-02,100,100,100,100,50,9\n"
                                 "2025-01-03,100,100,100,100,50,0\n"
                                 "2025-01-06,50,50,50,50,50,8\n",
                                 "Date,Open,High,Low,Close,Adj Close,Volume\n");
    REQUIRE(actions.size() == 1);
    CHECK(actions[0] == Action{day("2025-01-06"), ActionKind::Split, 2.0});
}

TEST_CASE("Implied actions: a split on the first day of an update is seen", "[intake]")
{
    const OwnFolder base;
    const OwnFolder market;
    base.write("KELP.csv", head + "2025-01-02,90,60\n2025-01-03,93,62\n");
    takenIn(base, market);
    CHECK(actionsIn(market, "KELP").empty());
    const OwnFolder update;
    SECTION("where both tell the same footing")
    {
        update.write("KELP.csv", head + "2025-01-06,63,63\n");
        takenIn(update, market, true);
    }
    SECTION("where the update tells former days on a new footing")
    {
        base.write("KELP.csv", head + "2025-01-02,90,90\n2025-01-03,93,93\n");
        takenIn(base, market);
        update.write("KELP.csv", head + "2025-01-03,93,62\n2025-01-06,63,63\n");
        takenIn(update, market, true);
    }
    CHECK(actionsIn(market, "KELP") ==
          std::vector{Action{day("2025-01-06"), ActionKind::Split, 1.5}});
    REQUIRE(makeAgain(market.path()));
    CHECK(actionsIn(market, "KELP").size() == 1);
}

TEST_CASE("Implied actions: a corrected close takes back what the wrong one implied", "[intake]")
{
    const OwnFolder base;
    const OwnFolder update;
    const OwnFolder market;
    base.write("KELP.csv", head + "2025-01-02,100,98\n2025-01-03,100,100\n2025-01-06,101,101\n");
    base.write("REEF.csv", head + "2025-01-02,100,98\n2025-01-03,100,100\n");
    takenIn(base, market);
    CHECK(actionsIn(market, "KELP").size() == 1);
    update.write("KELP.csv", head + "2025-01-02,100,100\n");
    takenIn(update, market, true);
    CHECK(actionsIn(market, "REEF").size() == 1); // of a stock that the update does not tell of
}

TEST_CASE("Implied actions: any parting into a base and updates gives the same market", "[intake]")
{
    std::mt19937 engine(7);
    const auto random = [&] { return static_cast<int>(engine() % 1000); };
    for (int round = 0; round < 12; ++round) {
        // Rows of four stocks with splits, dividends and idle days, in one footing.
        std::array<std::vector<std::string>, 4> rows;
        for (auto& stock : rows) {
            double close = 40.0 + random() % 60;
            double factor = 1.0; // of what comes after, from the last day back
            for (int i = 60; i-- > 0;) {
                close = std::round(close * (0.97 + 0.0006 * (random() % 100)) * 100) / 100;
                const bool isIdle = random() % 9 == 0;
                stock.push_back(fmt::format("{},{:.2f},{:.6f},{}\n",
                                            day("2025-01-01").plusDays(i).iso(), close,
                                            close * factor, isIdle ? 0 : 100));
                constexpr std::array<double, 6> steps{1.0 / 1.5, 0.5, 0.99, 0.97, 10.0, 0.8};
                if (random() % 15 == 0) {
                    const double step = steps.at(static_cast<std::size_t>(random()) % steps.size());
                    factor *= step;
                    close = std::round(close / step * 100) / 100;
                }
            }
        }
        const OwnFolder whole;
        const OwnFolder atOnce;
        const OwnFolder inParts;
        const std::string header = "Date,Close,Adj Close,Volume\n";
        std::vector<std::unique_ptr<OwnFolder>> parts;
        for (int i = 0; i < 3; ++i)
            parts.push_back(std::make_unique<OwnFolder>());
        for (std::size_t stock = 0; stock < rows.size(); ++stock) {
            std::array<std::string, 3> texts{header, header, header};
            std::string all = header;
            for (const std::string& row : rows[stock]) {
                all += row;
                texts.at(stock == 0 ? 0 : static_cast<std::size_t>(random()) % 3) +=
                    row; // one stock is in the base alone
            }
            const std::string name = fmt::format("S{}.csv", stock);
            whole.write(name, all);
            for (std::size_t i = 0; i < 3; ++i)
                if (texts[i] != header)
                    parts[i]->write(name, texts[i]);
        }
        takenIn(whole, atOnce);
        for (std::size_t i = 0; i < 3; ++i)
            takenIn(*parts[i], inParts, i > 0);
        for (std::size_t stock = 0; stock < rows.size(); ++stock) {
            const std::string symbol = fmt::format("S{}", stock);
            INFO("round " << round << ", " << symbol);
            CHECK(actionsIn(inParts, symbol) == actionsIn(atOnce, symbol));
        }
    }
}

TEST_CASE("Price columns: dividends and splits beside the prices are taken", "[intake]")
{
    const std::string header = "Date,Close,Adj Close,Volume,Dividends,Stock Splits\n";
    const std::vector<Action> wanted{{day("2025-01-03"), ActionKind::Split, 1.5},
                                     {day("2025-01-06"), ActionKind::Dividend, 0.25}};
    CHECK(implied("2025-01-02,90,1,9,0.0,0.0\n2025-01-03,60,2,9,0,1.5\n2025-01-06,61,3,9,0.25,0\n",
                  header) == wanted);
    CHECK(implied("2025-01-02,90,1,9,,\n2025-01-03,60,2,9,,3:2\n2025-01-06,61,3,9,0.25,1\n",
                  header) == wanted);
    SECTION("of mixed symbols, and in updates")
    {
        const OwnFolder base;
        const OwnFolder update;
        const OwnFolder market;
        base.write("a.csv", "Symbol,Date,Close,Dividend,Split\nKELP,2025-01-02,90,0,\n"
                            "REEF,2025-01-02,9,0.5,\nKELP,2025-01-03,60,0,3/2\n");
        update.write("a.csv", "Symbol,Date,Close,Dividend,Split\nKELP,2025-01-06,61,0.25,\n"
                              "REEF,2025-01-02,9,0.75,\n");
        takenIn(base, market);
        takenIn(update, market, true);
        CHECK(actionsIn(market, "KELP") == wanted);
        REQUIRE(actionsIn(market, "REEF").size() == 1);
        CHECK(actionsIn(market, "REEF")[0].value == 0.75); // corrected
    }
    SECTION("what is none is told, and the prices beside it stay")
    {
        const OwnFolder source;
        const OwnFolder market;
        source.write("KELP.csv", header + "2025-01-02,90,90,9,some,two\n2025-01-03,60,60,9,-1,0\n");
        const auto report = takeIn({source.path(), market.path()});
        REQUIRE(report);
        CHECK(report->findings.size() == 3);
        CHECK(report->rowsLeftOut == 0);
        CHECK(actionsIn(market, "KELP").empty());
    }
}

TEST_CASE("Actions: two dividends of one day are both paid, and an update corrects the day",
          "[intake]")
{
    const OwnFolder base;
    const OwnFolder update;
    const OwnFolder market;
    base.write("bars/daily/KELP.C.csv", "date,close\n2025-01-02,90\n2025-01-03,60\n");
    base.write("actions.csv", "symbol,ex_date,kind,value\nKELP.C,2025-01-03,dividend,0.5\n"
                              "KELP.C,2025-01-03,dividend,2\nKELP.C,2025-01-03,split,1.5\n"
                              "KELP.C,2025-01-03,dividend,2\nKELP.C,2025-01-03,split,2\n");
    const auto report = takeIn({base.path(), market.path()});
    REQUIRE(report);
    CHECK(report->rowsLeftOut == 2); // the dividend told twice, and a second split
    const std::vector<Action> both{{day("2025-01-03"), ActionKind::Split, 1.5},
                                   {day("2025-01-03"), ActionKind::Dividend, 0.5},
                                   {day("2025-01-03"), ActionKind::Dividend, 2.0}};
    CHECK(actionsIn(market, "KELP.C") == both);
    update.write("actions.csv", "symbol,ex_date,kind,value\nKELP.C,2025-01-03,dividend,0.75\n");
    takenIn(update, market, true);
    REQUIRE(actionsIn(market, "KELP.C").size() == 2);
    CHECK(actionsIn(market, "KELP.C")[1].value == 0.75);
}

TEST_CASE("Renames: bars under a former symbol stay when nothing lists the new one", "[intake]")
{
    const OwnFolder source;
    const OwnFolder market;
    source.write("renames.csv", "old_symbol,new_symbol,day\nKELP.C,REEF.C,2025-01-03\n"
                                "REEF.C,TIDE.C,2025-01-07\n");
    SECTION("one file a symbol")
    {
        source.write("bars/daily/KELP.C.csv", "date,close\n2025-01-02,90\n");
        source.write("bars/daily/BUOY.C.csv", "date,close\n2025-01-02,9\n");
    }
    SECTION("symbols mixed")
    {
        source.write("bars/daily/all.csv", "symbol,date,close\nKELP.C,2025-01-02,90\n"
                                           "BUOY.C,2025-01-02,9\n");
    }
    SECTION("another one bears it now")
    {
        source.write("instruments.csv", "symbol,name\nKELP.C,Garvholm Sensors\n");
        source.write("bars/daily/KELP.C.csv", "date,close\n2025-01-02,90\n2025-01-08,5\n");
    }
    takenIn(source, market);
    const market::MarketPtr opened = *storage::openMarket(market.path());
    const auto at = opened->find("TIDE.C");
    REQUIRE(at);
    REQUIRE(opened->bars(*at).size() == 1);
    CHECK(opened->bars(*at).close[0] == 90);
}

TEST_CASE("Bar rules: of a day's rows in several files the first file's is taken in any order",
          "[intake]")
{
    const market::InstrumentRecord record;
    const std::vector<BarFile> files{{"a.csv", "a.csv", BarScale::Daily, 0, {}},
                                     {"b.csv", "b.csv", BarScale::Daily, 1, {}}};
    const auto bar = [](const char* date, double close, std::uint32_t file) {
        return ReadBar{{day(date).serial(), close, close, close, close, 9.0}, missing, file, 2};
    };
    std::vector<ReadBar> bars{bar("2025-01-02", 2, 1), bar("2025-01-02", 1, 0)};
    IntakeReport report;
    settleBars(bars, {record, nullptr, BarScale::Daily, files}, report);
    REQUIRE(bars.size() == 1);
    CHECK(bars[0].bar.close == 1);
}

} // namespace sieve::intake
