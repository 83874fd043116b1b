#include "core/drawings/stock.h"

#include "core/engine/evaluator.h"
#include "core/language/checker.h"
#include "core/market/as_of.h"
#include "tests/core/made_market.h"

#include <catch2/catch.hpp>

// Whose a drawing is, through splits, new symbols and other stocks; and what expressions read of
// it.

namespace sieve::drawings {

namespace {

using test::day;

/// Twelve weekdays from Monday 2024-01-01; two shares for one from Monday the 8th.
market::InstrumentRecord splitStock()
{
    auto record = test::recordOf("AAAA.C", {10, 11, 12, 13, 14, 7.5, 8, 8.5, 9, 9.5, 10, 10.5});
    record.actions = {{day("2024-01-08"), market::ActionKind::Split, 2.0}};
    return record;
}

Drawing level(const char* drawnOn, double price, const char* symbol = "AAAA.C")
{
    Drawing made;
    made.id = 1;
    made.tool = Tool::Level;
    made.symbol = symbol;
    made.drawnOn = day(drawnOn);
    made.anchors = {{day(drawnOn), price}};
    made.name = "pivot";
    return made;
}

/// What an expression says on each day up to one, of the first stock.
std::vector<double> history(const market::MarketPtr& market, const std::vector<Drawing>& drawings,
                            const std::string& expression, const char* until)
{
    auto named = std::make_shared<Named>();
    for (const Drawing& drawing : drawings)
        named->drawings.push_back(std::make_shared<const Drawing>(drawing));
    language::Names names{language::Vocabulary::builtIn()};
    names.drawing = [&](std::string_view name) -> std::shared_ptr<const Named> {
        return name == "pivot" ? named : nullptr;
    };
    engine::Plan plan;
    const auto checked = check(expression, names, plan);
    REQUIRE(checked);
    engine::Evaluator evaluator(market);
    const engine::NodeId target[] = {checked->node};
    return evaluator.histories(plan, target, 0, day(until)).front();
}

} // namespace

TEST_CASE("Drawings: one made before a split lies right after it, and the other way round")
{
    const auto market = test::marketOf({splitStock()});
    const std::vector<Shared<Drawing>> all{level("2024-01-04", 12.0), level("2024-01-09", 8.0)};
    const auto before = drawingsOn(all, *market, 0, day("2024-01-05"));
    REQUIRE(before.size() == 1); // the second is not there yet
    CHECK(before[0].anchors[0].price == 12.0);
    const auto after = drawingsOn(all, *market, 0, day("2024-01-10"));
    REQUIRE(after.size() == 2);
    CHECK(after[0].anchors[0].price == 6.0);
    CHECK(after[1].anchors[0].price == 8.0);
    CHECK(after[0].drawnOn == day("2024-01-04"));
    CHECK(drawingsOn(all, *market, 0, day("2024-01-03")).empty());
    // Looking back from after the split, one that is moved bears the footing of the day then.
    const Drawing again = drawnOn(after[0], *market, 0, day("2024-01-10"));
    CHECK(onFooting(again, *market, 0, 0).anchors[0].price == 12.0);
    CHECK(onFooting(again, *market, 0, 1).anchors[0].price == 6.0);
}

TEST_CASE("Drawings: one drawn on a Sunday before a split has the footing of Friday's bar")
{
    auto record = splitStock();
    record.actions[0].exDate = day("2024-01-06"); // a Saturday
    const auto market = test::marketOf({record});
    const Shared<Drawing> drawn(level("2024-01-07", 12.0));
    CHECK(drawingsOn(std::span(&drawn, 1), *market, 0, day("2024-01-07"))[0].anchors[0].price ==
          12.0);
    CHECK(drawingsOn(std::span(&drawn, 1), *market, 0, day("2024-01-08"))[0].anchors[0].price ==
          6.0);
}

TEST_CASE("Drawings: they follow their stock to a new symbol, and not the symbol to a new stock")
{
    auto renamed = test::recordOf("NEWW.C", {10, 11, 12, 13, 14});
    renamed.instrument.formerSymbols = {{"OLDD.C", day("2024-01-02")}};
    auto heir = test::recordOf("OLDD.C", {50, 51}); // took the symbol over later
    heir.bars = test::barsOf({50, 51}, day("2024-01-08"));
    const auto market = test::marketOf({renamed, heir});
    const std::vector<Shared<Drawing>> all{
        level("2024-01-01", 12.0, "OLDD.C"), level("2024-01-08", 52.0, "OLDD.C"),
        level("2024-01-03", 13.0, "NEWW.C"), level("2024-01-03", 99.0, "NONE.C")};
    const auto of = [&](const char* symbol) {
        const std::size_t stock = *market->find(symbol);
        std::vector<double> prices;
        for (const Drawing& drawing : drawingsOn(all, *market, stock, day("2024-02-01")))
            prices.push_back(drawing.anchors[0].price);
        return prices;
    };
    CHECK(of("NEWW.C") == std::vector<double>{12.0, 13.0});
    CHECK(of("OLDD.C") == std::vector<double>{52.0});
    CHECK(drawnOn(level("2024-01-08", 1.0), *market, *market->find("NEWW.C"), day("2024-01-01"))
              .symbol == "OLDD.C");
}

TEST_CASE("Drawings: an expression reads a drawing from the day on which it was drawn")
{
    const auto market = test::marketOf({splitStock(), test::recordOf("BBBB.C", {1, 2, 3})});
    const auto values =
        history(market, {level("2024-01-04", 12.0)}, "drawing(\"pivot\")", "2024-01-05");
    CHECK(isMissing(values.at(2)));
    CHECK(values.at(3) == 12.0);
    CHECK(values.at(4) == 12.0);
    const auto later =
        history(market, {level("2024-01-04", 12.0)}, "drawing(\"pivot\")", "2024-01-10");
    CHECK(isMissing(later.at(2)));
    CHECK(later.at(3) == 6.0); // on the footing of the day that asks
    CHECK(later.at(7) == 6.0);
    const auto over =
        history(market, {level("2024-01-04", 12.0)}, "close > drawing(\"pivot\")", "2024-01-10");
    CHECK(over.at(3) == 1.0);
    // Of several of a stock the newest counts, those of others do not.
    Drawing other = level("2024-01-03", 3.0, "BBBB.C");
    other.id = 9;
    Drawing newer = level("2024-01-05", 13.0);
    newer.id = 2;
    CHECK(history(market, {level("2024-01-04", 12.0), newer, other}, "drawing(\"pivot\")",
                  "2024-01-05")
              .back() == 13.0);
    CHECK(isMissing(history(market, {other}, "drawing(\"pivot\")", "2024-01-05").back()));
}

TEST_CASE("Drawings: expressions read sloping ones by the bar, across splits and weeks")
{
    Drawing ray = level("2024-01-05", 0.0);
    ray.tool = Tool::Channel; // 10 on the 1st, 14 on the 3rd, and 2 over it
    ray.anchors = {{day("2024-01-01"), 10.0}, {day("2024-01-03"), 14.0}, {day("2024-01-02"), 14.0}};
    const auto market = test::marketOf({splitStock()});
    const auto base = history(market, {ray}, "drawing(\"pivot\")", "2024-01-05");
    CHECK(base.at(4) == 18.0);
    CHECK(history(market, {ray}, "drawing(\"pivot\", 1)", "2024-01-05").at(4) == 20.0);
    const auto later = history(market, {ray}, "drawing(\"pivot\", share = 1)", "2024-01-10");
    CHECK(later.at(4) == 10.0);
    CHECK(later.at(7) == 13.0); // three bars on, at a unit a bar after the split
    const auto weekly = history(market, {ray}, "weekly(drawing(\"pivot\"))", "2024-01-12");
    CHECK(weekly.at(4) == 9.0);
    CHECK(weekly.at(9) == 14.0);
}

TEST_CASE("Drawings: while a session runs they read as on its evening, in any currency too",
          "[engine]")
{
    auto record = splitStock();
    record.instrument.currency = test::otherCurrency;
    const std::vector<market::InstrumentRecord> records{record,
                                                        test::recordOf("BBBB.C", {1, 2, 3})};
    Drawing ray = level("2024-01-03", 0.0);
    ray.tool = Tool::Ray;
    ray.anchors = {{day("2024-01-01"), 10.0}, {day("2024-01-03"), 12.0}};
    for (const char* expression :
         {"drawing(\"pivot\")", "close > drawing(\"pivot\")", "close / drawing(\"pivot\")"}) {
        INFO(expression);
        const Day last = day("2024-01-05");
        const auto evening =
            history(test::cutAfter(records, last), {ray}, expression, "2024-01-05");
        const auto running = history(test::liveOn(records, last), {ray}, expression, "2024-01-05");
        CHECK(running.back() == evening.back());
        CHECK_FALSE(isMissing(evening.back()));
    }
    // Both sides are money of one stock: no rate is needed, and none is known in that January.
    const auto over =
        history(test::marketOf(records), {ray}, "close >= drawing(\"pivot\")", "2024-01-05");
    CHECK(over.at(4) == 1.0); // 14 over 14
}

TEST_CASE("Drawings: an average reads the same whether asked on its day or later")
{
    Drawing average = level("2024-01-03", 1.0);
    average.tool = Tool::Average;
    const auto market = test::marketOf({splitStock()});
    const auto early = history(market, {average}, "drawing(\"pivot\")", "2024-01-05");
    const auto late = history(market, {average}, "drawing(\"pivot\")", "2024-01-16");
    for (std::size_t bar = 2; bar < 5; ++bar)
        CHECK(late.at(bar) * 2.0 == Approx(early.at(bar)));
    CHECK_FALSE(isMissing(late.back()));
}

TEST_CASE("Drawings: an unknown name and a share out of range are told")
{
    language::Names names{language::Vocabulary::builtIn()};
    engine::Plan plan;
    const auto none = check("close > drawing(\"pivot\")", names, plan);
    REQUIRE_FALSE(none);
    CHECK(none.error().problem == "no drawing 'pivot'");
    CHECK(none.error().where.column == 9);
    names.drawing = [](std::string_view) { return std::make_shared<const Named>(); };
    CHECK(check("drawing(\"pivot\", -2)", names, plan));
    CHECK_FALSE(check("drawing(\"pivot\", 101)", names, plan));
    CHECK_FALSE(check("drawing(\"pivot\", close)", names, plan));
    CHECK_FALSE(check("drawing(pivot)", names, plan));
    CHECK(check("drawing(\"pivot\") / close > 0.9", names, plan));
}

TEST_CASE("Drawings: a drawing is moved by bars and money, or by a share")
{
    const market::Bars bars = test::barsOf({10, 11, 12, 13, 14, 15, 16, 17, 18, 19});
    Drawing line = level("2024-01-12", 0.0);
    line.tool = Tool::Line;
    line.anchors = {{day("2024-01-02"), 10.0}, {day("2024-01-04"), 20.0}};
    const Drawing by = moved(line, bars, 2.0, 12.0, 13.5);
    CHECK(by.anchors == std::vector<Anchor>{{day("2024-01-04"), 11.5}, {day("2024-01-08"), 21.5}});
    line.isLogarithmic = true;
    const Drawing scaled = moved(line, bars, -1.0, 10.0, 20.0);
    CHECK(scaled.anchors ==
          std::vector<Anchor>{{day("2024-01-01"), 20.0}, {day("2024-01-03"), 40.0}});
    CHECK(moved(line, bars, 7.0, 1.0, 1.0).anchors[1].day == day("2024-01-15")); // ahead
}

TEST_CASE("Drawings: on another stock they keep their days and their distance to the close")
{
    const auto market =
        test::marketOf({splitStock(), test::recordOf("BBBB.C", {100, 110, 120, 130, 140}),
                        test::recordOf("LATE.C", {})});
    const std::size_t other = *market->find("BBBB.C");
    const std::size_t own = *market->find("AAAA.C");
    // 10 % over the close of the 4th; the other's close that day is 130.
    const auto put = putOnto(level("2024-01-04", 14.3), market, other, day("2024-01-05"));
    REQUIRE(put);
    CHECK(put->anchors[0].price == Approx(143.0));
    CHECK(put->anchors[0].day == day("2024-01-04"));
    CHECK(put->symbol == "BBBB.C");
    CHECK(put->drawnOn == day("2024-01-05"));
    // Onto its own stock it comes where it lay, after a split too.
    CHECK(putOnto(level("2024-01-04", 14.0), market, own, day("2024-01-10"))->anchors[0].price ==
          7.0);
    // From a market that is not this one, prices stay.
    CHECK(putOnto(level("2024-01-04", 14.0, "NONE.C"), market, other, day("2024-01-05"))
              ->anchors[0]
              .price == 14.0);
    CHECK_FALSE(
        putOnto(level("2024-01-04", 14.0), market, *market->find("LATE.C"), day("2024-01-05")));
}

TEST_CASE("Drawings: as text they come back as they were, and what is wrong is told with its place")
{
    for (const ToolRow& row : toolRows()) {
        Drawing drawing = level("2024-01-04", 12.5);
        drawing.id = 0; // is the library's
        drawing.tool = row.tool;
        drawing.anchors.assign(row.most, {day("2024-01-03"), 0.1});
        drawing.text = "a \"quoted\" note\nof two lines";
        drawing.colour = PalettePart::Fall;
        drawing.width = 2.25;
        drawing.isLogarithmic = drawing.isLocked = drawing.isHidden = true;
        const auto again = drawingFromToml(toToml(drawing));
        REQUIRE(again);
        CHECK(*again == drawing);
        CHECK(&rowOf(row.tool) == &row);
    }
    const std::string good = toToml(level("2024-01-04", 12.5));
    const auto wrong = [&](const std::string& from, const std::string& to) {
        std::string text = good;
        text.replace(text.find(from), from.size(), to);
        const auto read = drawingFromToml(text);
        REQUIRE_FALSE(read);
        CHECK(read.error().where.line > 0);
        return read.error().problem;
    };
    CHECK(wrong("\"level\"", "\"lever\"") == "'lever' is no tool");
    CHECK(wrong("\"level\"", "\"line\"") == "a drawing of 1 points is no line");
    CHECK(wrong("12.5", "0") == "'price' is no size");
    CHECK(wrong("12.5", "nan") == "'price' is no size");
    CHECK(wrong("drawn_on = \"2024-01-04\"", "drawn_on = \"2024-02-30\"") ==
          "'drawn_on' is no day");
    CHECK(wrong("\"ink\"", "\"pink\"") == "'pink' is no colour");
    CHECK(wrong("width = 1", "width = 11") == "'width' is no size");
    CHECK(wrong("locked", "lock") == "'lock' is no key of a drawing");
    CHECK(wrong("price", "prize") == "'prize' is no key of a point");
    CHECK_FALSE(drawingFromToml("tool = "));
    CHECK_FALSE(drawingFromToml(""));
}

} // namespace sieve::drawings
