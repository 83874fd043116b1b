#include "core/screens/run.h"

#include "core/language/checker.h"
#include "core/screens/starter.h"
#include "core/screens/table.h"
#include "tests/core/made_market.h"

#include <catch2/catch.hpp>

namespace sieve::screens {

namespace {

using engine::Evaluator;
using language::Vocabulary;

market::MarketPtr fiveStocks()
{
    auto index = test::recordOf("INDX", {100});
    index.instrument.kind = market::InstrumentKind::Index;
    auto unknown = test::recordOf("NONE", {50});
    unknown.bars.volume = {missing};
    return test::marketOf({test::recordOf("AAAA", {10}), test::recordOf("BBBB", {20}),
                           test::recordOf("CCCC", {30}, "Water"), unknown,
                           test::recordOf("EEEE", {5}), index});
}

ScreenRun runOn(const market::MarketPtr& market, const Screen& screen)
{
    Evaluator evaluator(market);
    return run(screen, {Vocabulary::builtIn()}, evaluator, market->sessions().back());
}

} // namespace

TEST_CASE("Screen: counts what each criterion does", "[screens]")
{
    Screen screen;
    screen.universe = "close > 6"; // AAAA BBBB CCCC NONE
    screen.criteria = {{"close < 40", true, ""},
                       {"volume > 0", true, ""},
                       {"sector == \"Energy\"", true, ""},
                       {"close > 15", false, ""}};
    screen.rankBy = "close";
    const ScreenRun run = runOn(fiveStocks(), screen);
    CHECK(run.universe == 4);
    REQUIRE(run.criteria.size() == 4);
    CHECK(run.criteria[0].alone == 3);
    CHECK(run.criteria[0].leftAfter == 3);
    CHECK(run.criteria[1].alone == 3);
    CHECK(run.criteria[1].noData == 1);
    CHECK(run.criteria[1].moreWithout == 0); // NONE fails the first as well
    CHECK(run.criteria[2].leftAfter == 2);
    CHECK(run.criteria[2].moreWithout == 1); // CCCC
    CHECK(run.criteria[3].alone == 3);       // counted although it is off
    CHECK(run.criteria[3].leftAfter == 2);
    CHECK(run.passing == 2);
    CHECK(run.matches == std::vector<std::size_t>{1, 0}); // BBBB before AAAA
}

TEST_CASE("Screen: the best are kept, and missing ranks stand last", "[screens]")
{
    Screen screen;
    screen.rankBy = "volume";
    screen.keep = 4;
    const auto market =
        test::marketOf({test::recordOf("AAAA", {1}), test::recordOf("BBBB", {1, 1}), [] {
                            auto record = test::recordOf("CCCC", {1});
                            record.bars.volume = {missing};
                            return record;
                        }()});
    Evaluator evaluator(market);
    const ScreenRun all =
        run(screen, {Vocabulary::builtIn()}, evaluator, market->sessions().back());
    CHECK(all.matches == std::vector<std::size_t>{1, 0, 2});
    screen.keep = 1;
    const ScreenRun best =
        run(screen, {Vocabulary::builtIn()}, evaluator, market->sessions().back());
    CHECK(best.matches == std::vector<std::size_t>{1});
    CHECK(best.passing == 3);
}

TEST_CASE("Screen: a criterion with a mistake is told and lets all pass", "[screens]")
{
    Screen screen;
    screen.universe = "close >";
    screen.criteria = {{"clos > 5", true, ""}, {"close > 15", true, ""}, {"close > 5%", true, ""}};
    screen.rankBy = "sector";
    const ScreenRun run = runOn(fiveStocks(), screen);
    CHECK(run.universeError);
    CHECK(run.universe == 5);
    REQUIRE(run.criteria[0].error);
    CHECK(run.criteria[0].error->remedy == "did you mean close?");
    CHECK(run.criteria[0].leftAfter == 5);
    CHECK(run.criteria[1].leftAfter == 3);
    CHECK(run.criteria[2].warnings.size() == 1);
    CHECK(run.rankError);
    CHECK(run.matches.size() == 3);
}

TEST_CASE("Screen: as TOML it comes back the same", "[screens]")
{
    Screen screen;
    screen.name = "A \"quoted\" name";
    screen.purpose = "One sentence";
    screen.side = ScreenSide::Short;
    screen.tags = {"pullback", "my own"};
    screen.notes = "Read # before use";
    screen.remarks = "made on a Sunday\n";
    screen.universe = "kind == \"share\"";
    screen.criteria = {{"close > sma(close, 50)\n  and close > 5", true, "two lines"},
                       {"volume > 1k", false, "", "never sure\nof this\n"}};
    screen.rankBy = "-rsi(close)";
    screen.keep = 12;
    screen.columns = {"symbol", "close / open - 1"};
    const Result<Screen> back = screenFromToml(toToml(screen));
    REQUIRE(back);
    CHECK(*back == screen);
    for (const Screen& starter : starterScreens())
        CHECK(*screenFromToml(toToml(starter)) == starter);
}

TEST_CASE("Screen: comments of a file are kept where they stand", "[screens]")
{
    const Result<Screen> screen = screenFromToml("# top\nname = \"x # no comment\" # after\n\n"
                                                 "# about the first\n[[criteria]]\n"
                                                 "text = \"close > 1\" # inside\n\n# last\n");
    REQUIRE(screen);
    CHECK(screen->remarks == "top\nafter\n");
    CHECK(screen->criteria[0].remarks == "about the first\ninside\nlast\n");
    CHECK(*screenFromToml(toToml(*screen)) == *screen);
}

TEST_CASE("Screen: texts of several lines and quotes in comments hide no comment", "[screens]")
{
    const auto read = [](const std::string& toml) {
        const Result<Screen> screen = screenFromToml(toml);
        REQUIRE(screen);
        CHECK(*screenFromToml(toToml(*screen)) == *screen);
        return *screen;
    };
    // A long text on one line, one whose end bears quotes, one of literal quotes.
    Screen screen = read("name = \"x\"\nnotes = \"\"\"one # line\"\"\"\" # kept\n# kept too\n"
                         "purpose = \"\"\"\n# no comment\n# nor this \\\"\"\"\"\n"
                         "universe = '''close > 1\n# none\n'''\n# last\n"
                         "[[criteria]]\ntext = 'close > 2' # it's\n");
    CHECK(screen.remarks == "kept\nkept too\n");
    CHECK(screen.criteria[0].remarks == "last\nit's\n");
    // Found by a fuzzer: quotes in a comment began a text that never ended.
    screen = read("name = \"x\"\n# it ''' is\n# and [[criteria]] \"\"\" so\n"
                  "[[criteria]]\ntext = \"close > 1\"\n# behind\n");
    CHECK(screen.remarks.empty());
    CHECK(screen.criteria[0].remarks == "it ''' is\nand [[criteria]] \"\"\" so\nbehind\n");
}

TEST_CASE("Screen: broken TOML is refused with its place", "[screens]")
{
    const auto error = [](const char* toml) {
        const Result<Screen> screen = screenFromToml(toml);
        if (screen)
            FAIL(toml);
        return screen.error();
    };
    CHECK(error("name = \n").where.line == 1);
    CHECK(error("purpose = \"x\"\n").problem == "a screen without a name");
    CHECK(error("name = \"x\"\nkeep = \"all\"\n").where.line == 2);
    CHECK(error("name = 5\n").problem == "'name' is of another type");
    CHECK(error("name = \"x\"\nkeep = -1\n").problem == "'keep' is out of range");
    CHECK(error("name = \"x\"\n[[criteria]]\non = true\n").problem == "a criterion without text");
    CHECK(error("name = \"x\"\nmoon = \"y\"\n").problem == "'moon' is no key of a screen");
    CHECK(error("name = \"x\"\nside = \"up\"\n").where.line == 2);
    CHECK(error("name = \"x\"\ntags = \"y\"\n").problem == "'tags' is no list");
    CHECK(error("name = \"x\"\ncriteria = [1]\n").problem == "a criterion that is no table");
}

TEST_CASE("Table: missing stands last in both orders, texts by alphabet", "[screens]")
{
    const auto market = fiveStocks();
    Evaluator evaluator(market);
    const std::vector<std::size_t> rows{0, 1, 2, 5}; // the last has no volume
    const std::vector<std::string> columns{"symbol", "volume", "close * 2", "clos"};
    ResultTable table =
        makeTable(rows, columns, {Vocabulary::builtIn()}, evaluator, market->sessions().back());
    REQUIRE(table.columns.size() == 4);
    CHECK(table.columns[1].head == "Volume");
    CHECK(table.columns[1].median == 1000);
    CHECK(table.columns[2].title == "close * 2");
    CHECK(table.columns[2].unit == Unit::Money);
    CHECK(table.columns[3].error);
    CHECK(isMissing(table.columns[3].figures[0]));
    sortBy(table, 2, Order::Descending, market->texts());
    CHECK(table.rows == std::vector<std::size_t>{5, 2, 1, 0});
    sortBy(table, 1, Order::Ascending, market->texts());
    CHECK(table.rows.back() == 5);
    sortBy(table, 1, Order::Descending, market->texts());
    CHECK(table.rows.back() == 5);
    sortBy(table, 0, Order::Descending, market->texts());
    CHECK(table.rows == std::vector<std::size_t>{5, 2, 1, 0});
}

TEST_CASE("Table: rows that are equal in one column are ordered by the next", "[screens]")
{
    ResultTable table;
    table.rows = {0, 1, 2, 3};
    table.columns.resize(2);
    table.columns[0].figures = {1, 2, 1, 2};
    table.columns[1].figures = {5, missing, 7, 6};
    const SortKey keys[] = {{0, Order::Descending}, {1, Order::Ascending}};
    sortBy(table, keys, {});
    CHECK(table.rows == std::vector<std::size_t>{3, 1, 0, 2});
}

} // namespace sieve::screens

namespace sieve::screens {

TEST_CASE("Screen: counts agree with counting by hand, whatever is on", "[screens]")
{
    const auto market = test::marketOf(test::eventfulRecords());
    const Day day = market->sessions()[230];
    const char* texts[] = {"close > sma(close, 20)", "rsi(close, 14) > 45",  "ttm(revenue) > 4M",
                           "sector == \"Energy\"",   "close > prior(close)", "known(ttm(eps))"};
    Evaluator evaluator(market);
    engine::Plan plan;
    const language::Names names{Vocabulary::builtIn(), std::nullopt};
    for (unsigned on = 0; on < 64; on += 7) {
        Screen screen;
        std::vector<engine::ColumnPtr> columns;
        for (unsigned i = 0; i < 6; ++i) {
            screen.criteria.push_back({texts[i], (on >> i & 1U) == 1U, ""});
            columns.push_back(evaluator.column(plan, check(texts[i], names, plan)->node, day));
        }
        const ScreenRun result = run(screen, {Vocabulary::builtIn()}, evaluator, day);
        std::vector<std::size_t> left(6);
        std::vector<std::size_t> alone(6);
        std::vector<std::size_t> without(6);
        std::vector<std::size_t> unknown(6);
        std::size_t universe = 0;
        std::size_t passing = 0;
        for (std::size_t stock = 0; stock < market->size(); ++stock) {
            if (!market::barOn(*market, stock, day))
                continue;
            ++universe;
            const auto passes = [&](std::size_t i) { return (*columns[i])[stock] == 1.0; };
            const auto counts = [&](std::size_t i) {
                return !screen.criteria[i].isOn || passes(i);
            };
            bool all = true;
            for (std::size_t i = 0; i < 6; ++i) {
                alone[i] += passes(i) ? 1 : 0;
                unknown[i] += isMissing((*columns[i])[stock]) ? 1 : 0;
                all = all && counts(i);
                left[i] += all ? 1 : 0;
                bool others = true;
                for (std::size_t j = 0; j < 6; ++j)
                    others = others && (j == i || counts(j));
                without[i] += others && !counts(i) ? 1 : 0;
            }
            passing += all ? 1 : 0;
        }
        CHECK(result.universe == universe);
        CHECK(result.passing == passing);
        for (std::size_t i = 0; i < 6; ++i) {
            INFO(texts[i] << " with " << on);
            CHECK(result.criteria[i].alone == alone[i]);
            CHECK(result.criteria[i].leftAfter == left[i]);
            CHECK(result.criteria[i].moreWithout == without[i]);
            CHECK(result.criteria[i].noData == unknown[i]);
        }
    }
}

TEST_CASE("Screen: within = universe asks among the universe only", "[screens]")
{
    Screen screen;
    screen.universe = "close > 6"; // AAAA 10, BBBB 20, CCCC 30, NONE 50
    screen.criteria = {{"rank(close, within = universe) <= 2", true, ""}};
    CHECK(runOn(fiveStocks(), screen).matches == std::vector<std::size_t>{2, 5});
    screen.universe = "close < 25";
    CHECK(runOn(fiveStocks(), screen).matches == std::vector<std::size_t>{0, 1});
}

TEST_CASE("Screen: an empty one lets every stock pass, an index never", "[screens]")
{
    const ScreenRun run = runOn(fiveStocks(), {});
    CHECK(run.universe == 5);
    CHECK(run.matches == std::vector<std::size_t>{0, 1, 2, 3, 5});
}

} // namespace sieve::screens
