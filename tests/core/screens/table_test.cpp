#include "core/screens/column_sets.h"
#include "core/screens/name_book.h"
#include "core/screens/run.h"
#include "core/screens/starter.h"
#include "core/screens/table.h"
#include "tests/core/made_market.h"

#include <catch2/catch.hpp>

// What a table shows beside its figures, and sets of columns.

namespace sieve::screens {

namespace {

using enum language::CellGraphic;

struct Bench {
    market::MarketPtr market = test::marketOf(test::eventfulRecords());
    engine::Evaluator evaluator{market};
    language::Names names{language::Vocabulary::builtIn()};
    Day day = market->sessions().back();

    ResultTable table(const std::vector<std::string>& columns, const CellGraphics& cells)
    {
        std::vector<std::size_t> rows(market->size());
        for (std::size_t i = 0; i < rows.size(); ++i)
            rows[i] = i;
        return makeTable(rows, columns, names, evaluator, day, cells);
    }
};

} // namespace

TEST_CASE("Table: a bar's scale is that of all listed stocks, whatever rows are shown", "[screens]")
{
    Bench bench;
    const ResultTable all = bench.table({"close"}, {{"close", Bar}});
    const std::vector<std::size_t> one{2};
    const ResultTable few = makeTable(one, std::vector<std::string>{"close"}, bench.names,
                                      bench.evaluator, bench.day, {{"close", Bar}});
    CHECK(few.columns[0].spread.low == all.columns[0].spread.low);
    CHECK(few.columns[0].spread.high == all.columns[0].spread.high);
    CHECK(all.columns[0].spread.high > all.columns[0].spread.low);
    CHECK(all.columns[0].lows.empty());
}

TEST_CASE("Table: a range is the figure's own of the year, and follows the rows when sorted",
          "[screens]")
{
    Bench bench;
    ResultTable table = bench.table({"symbol", "close"}, {{"close", Range}});
    const TableColumn& close = table.columns[1];
    REQUIRE(close.lows.size() == table.rows.size());
    const auto check = [&] {
        for (std::size_t row = 0; row < table.rows.size(); ++row) {
            if (isMissing(close.figures[row]) || isMissing(close.lows[row]))
                continue;
            CHECK(close.lows[row] <= close.figures[row]);
            CHECK(close.figures[row] <= close.highs[row]);
            engine::Plan plan;
            const auto lowest = language::check("lowest(close, 252)", bench.names, plan);
            const auto column = bench.evaluator.column(plan, lowest->node, bench.day);
            CHECK(close.lows[row] == (*column)[table.rows[row]]);
        }
    };
    check();
    sortBy(table, 1, Order::Ascending, bench.market->texts());
    check();
}

TEST_CASE("Table: what cannot bear a graphic has none", "[screens]")
{
    Bench bench;
    const ResultTable table =
        bench.table({"symbol", "in_uptrend", "no_such_field", "percentile(close)"},
                    {{"symbol", Bar},
                     {"in_uptrend", Sign},
                     {"no_such_field", Line},
                     {"percentile(close)", Range}});
    CHECK(table.columns[0].graphic == None);
    CHECK(table.columns[1].graphic == None);
    CHECK(table.columns[2].error);
    CHECK(table.columns[3].figures.size() == table.rows.size());
}

TEST_CASE("Table: lines end at the day's figure and know nothing of later days", "[screens]")
{
    Bench bench;
    const auto sessions = bench.market->sessions();
    const std::vector<std::size_t> some{0, 3, 7};
    for (const Day day : {sessions.back(), sessions[sessions.size() - 40]}) {
        const auto lines = linesOf("close", some, bench.names, bench.evaluator, day, 30);
        REQUIRE(lines.size() == some.size());
        engine::Plan plan;
        const auto close = language::check("close", bench.names, plan);
        const auto column = bench.evaluator.column(plan, close->node, day);
        for (std::size_t i = 0; i < some.size(); ++i) {
            CHECK(lines[i].size() <= 30);
            if (!lines[i].empty() && !isMissing((*column)[some[i]]))
                CHECK(lines[i].back() == (*column)[some[i]]);
        }
    }
    const auto wrong = linesOf("close +", some, bench.names, bench.evaluator, bench.day, 30);
    CHECK(wrong == std::vector<std::vector<double>>(3));
}

TEST_CASE("Column sets: the ready ones check, and a person's come back as they were", "[screens]")
{
    const language::Names names{language::Vocabulary::builtIn()};
    for (const ColumnSet& set : readyColumnSets()) {
        INFO(set.name);
        for (const std::string& column : set.columns)
            CHECK(names.vocabulary.field(column) != nullptr);
        for (const auto& [column, graphic] : set.cells)
            CHECK(std::ranges::find(set.columns, column) != set.columns.end());
    }
    const std::vector<ColumnSet> own{
        {"Mine, \"quoted\"", {"symbol", "close / open"}, {{"close / open", Sign}}},
        {"Two", {}, {}}};
    CHECK(*columnSetsFromToml(toToml(own)) == own);
    CHECK(columnSetsFromToml("")->empty());
    CHECK_FALSE(columnSetsFromToml("[[set]]\ncolumns = []\n"));
    CHECK_FALSE(columnSetsFromToml("[[set]]\nname = \"x\"\ncells = { close = \"pie\" }\n"));
    CHECK_FALSE(columnSetsFromToml("[[set]]\nname = \"x\"\nwidth = 3\n"));
}

TEST_CASE("Screen: graphics of cells are kept in its file", "[screens]")
{
    Screen screen = starterScreens().front();
    screen.cells = {{"close", Range}, {"rsi(close, 14)", Bar}};
    CHECK(*screenFromToml(toToml(screen)) == screen);
    const auto wrong = screenFromToml("name = \"x\"\ncells = { close = \"pie\" }\n");
    REQUIRE_FALSE(wrong);
    CHECK(wrong.error().where.line == 2);
}

TEST_CASE("Table: a field's column has its title, head and meaning, an expression is its own title",
          "[screens]")
{
    const auto market = test::marketOf({test::recordOf("AAAA", {10, 11})});
    engine::Evaluator evaluator(market);
    const language::Names names{language::Vocabulary::builtIn()};
    const std::size_t rows[] = {0};
    const std::string columns[] = {"day_change", "close * 2"};
    const ResultTable table = makeTable(rows, columns, names, evaluator, market->sessions().back());
    const language::Field* field = language::Vocabulary::builtIn().field("day_change");
    REQUIRE(table.columns.size() == 2);
    CHECK(table.columns[0].title == field->title);
    CHECK(table.columns[0].title != "day_change");
    CHECK(table.columns[0].head == field->head);
    CHECK(table.columns[0].meaning == field->meaning);
    CHECK(table.columns[0].figures[0] == Approx(0.1));
    CHECK(table.columns[1].title == "close * 2");
    CHECK(table.columns[1].figures[0] == 22);
}

TEST_CASE("Table: an expression's decimals follow from its unit", "[screens]")
{
    Bench bench;
    const ResultTable table = bench.table(
        {"change(close, 1)", "rsi(close, 14)", "close / 2", "close > 1", "volume * 2", "sector"},
        {});
    std::vector<int> decimals;
    for (const TableColumn& column : table.columns)
        decimals.push_back(column.decimals);
    CHECK(decimals == std::vector<int>{1, 1, 2, 0, 0, 0});
}

TEST_CASE("Table: the range is that of 252 sessions, today's among them", "[screens]")
{
    std::vector<double> closes(300, 50.0);
    closes[300 - 253] = 10.0; // one too far back
    closes[300 - 252] = 20.0;
    closes[299] = 60.0;
    const auto market = test::marketOf({test::recordOf("AAAA", closes)});
    engine::Evaluator evaluator(market);
    const std::size_t rows[] = {0};
    const std::string columns[] = {"close"};
    const ResultTable table = makeTable(rows, columns, {language::Vocabulary::builtIn()}, evaluator,
                                        market->sessions().back(), {{"close", Range}});
    CHECK(table.columns[0].lows == std::vector<double>{20.0});
    CHECK(table.columns[0].highs == std::vector<double>{60.0});
}

TEST_CASE("Table: tells how old each newest bar is, also when it is sorted", "[screens]")
{
    const auto well = test::recordOf("WELL", {10, 11, 12, 13, 14});
    auto idle = test::recordOf("AWAY", {20, 21, 22, 23, 24});
    idle.bars.truncate(2);
    engine::Evaluator evaluator(test::marketOf({idle, well}));
    const std::vector<std::size_t> rows{0, 1};
    const std::vector<std::string> columns{"symbol", "close"};
    ResultTable table = makeTable(rows, columns, {language::Vocabulary::builtIn()}, evaluator,
                                  evaluator.market().sessions().back());
    CHECK(table.idle == std::vector<std::size_t>{3, 0});
    sortBy(table, 1, Order::Ascending, evaluator.market().texts());
    CHECK(table.idle == std::vector<std::size_t>{0, 3});
}

TEST_CASE("Table: money in two currencies is shown as it is and sorted by what it is worth",
          "[screens]")
{
    auto other = test::recordOf("BBBB", {100, 100});
    other.instrument.currency = test::otherCurrency;
    auto unknown = test::recordOf("DDDD", {70, 70});
    unknown.instrument.currency = "zz";
    const auto market = std::make_shared<const market::Market>(
        market::MarketDescription{
            "Isles", "1", "vl", "", {}, {{test::otherCurrency, {{test::day("2024-01-01"), 0.25}}}}},
        std::vector{test::recordOf("AAAA", {20, 20}), other, test::recordOf("CCCC", {30, 30}),
                    unknown});
    engine::Evaluator evaluator(market);
    const language::Names names{language::Vocabulary::builtIn()};
    const std::vector<std::size_t> rows{0, 1, 2, 3};
    ResultTable table =
        makeTable(rows, std::vector<std::string>{"symbol", "close", "change(close, 1)"}, names,
                  evaluator, market->sessions().back());
    CHECK(table.currency == "vl");
    CHECK(table.otherCurrencies == std::vector<std::string>{"", "dn", "", "zz"});
    CHECK(table.columns[1].figures == std::vector<double>{20, 100, 30, 70});
    CHECK(table.columns[1].compared()[1] == 25.0);
    CHECK(isMissing(table.columns[1].compared()[3]));
    CHECK(table.columns[1].median == 25.0);
    CHECK(table.columns[2].inMarket.empty()); // percentages are the same in all
    sortBy(table, 1, Order::Descending, market->texts());
    CHECK(table.rows == std::vector<std::size_t>{2, 1, 0, 3});
    CHECK(table.otherCurrencies == std::vector<std::string>{"", "dn", "", "zz"});
    CHECK(table.columns[1].figures == std::vector<double>{30, 100, 20, 70});
    const exports::Sheet sheet = sheetOf(table, market->texts());
    CHECK(sheet.columns ==
          std::vector<std::string>{"symbol", "close", "converted(close)", "change(close, 1)"});
    CHECK(sheet.units.size() == 4);
    CHECK(std::get<double>(sheet.rows[1][1]) == 100.0);
    CHECK(std::get<double>(sheet.rows[1][2]) == 25.0);
}

TEST_CASE("Screen: compares money of two currencies, and tells what it cannot compare", "[screens]")
{
    const auto market = test::marketOf(test::eventfulRecords(), "S100");
    engine::Evaluator evaluator(market);
    const language::Names names{language::Vocabulary::builtIn()};
    Screen screen;
    screen.criteria = {{"close > 12", true, {}}, {"change(close, 5) > 0", true, {}}};
    screen.rankBy = "close";
    const Day known = market->sessions().back();
    ScreenRun answered = run(screen, names, evaluator, known);
    CHECK(answered.criteria[0].warnings.empty());
    const std::size_t other = *market->find("S104");
    const double worth = market->bars(other).close.back() * market->rate(other, known);
    const LimitFigures& limit = answered.criteria[0].limits.at(0);
    CHECK((*limit.field)[other] == Approx(worth));
    CHECK(limit.shown(other) == Approx(worth));

    const Day pause = test::day("2024-10-28"); // more than 45 days after a rate
    answered = run(screen, names, evaluator, pause);
    REQUIRE(answered.criteria[0].warnings.size() == 1);
    CHECK(answered.criteria[0].warnings[0].problem ==
          "no exchange rate of dn to vl is known on this day: 4 stocks cannot be compared");
    CHECK(answered.criteria[0].noData == 4);
    CHECK(answered.criteria[1].warnings.empty());
}

TEST_CASE("Table: a checklist's column says of how many questions it counts the yes", "[screens]")
{
    const auto market = test::marketOf({test::recordOf("KELP.C", {4.0, 5.0})});
    engine::Evaluator evaluator(market);
    NameBook book;
    book.checklists["Mine"].rules = {"close > 4", "close > 5", "volume >= 0"};
    const std::vector<std::size_t> rows{0};
    const std::vector<std::string> columns{"checklist(\"Mine\")", "checklist(\"Mine\") + 1"};
    const ResultTable table =
        makeTable(rows, columns, book.names(), evaluator, market->sessions().back());
    CHECK(table.columns[0].head == "Mine, of 3");
    CHECK(table.columns[0].decimals == 0);
    CHECK(table.columns[0].figures[0] == 2.0);
    CHECK(table.columns[1].head == columns[1]);
}

} // namespace sieve::screens
