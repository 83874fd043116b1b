#include "core/charts/chart.h"
#include "core/charts/figures.h"
#include "core/charts/trades.h"

#include "tests/core/made_market.h"
#include "tests/core/same_bits.h"

#include <catch2/catch.hpp>

// What a chart shows: set-ups as files, and what they make of an instrument as of a day.

namespace sieve::charts {

namespace {

struct Bench {
    std::vector<market::InstrumentRecord> records = test::eventfulRecords(420);
    market::MarketPtr market = test::marketOf(records, "S100");
    engine::Evaluator evaluator{market};
    language::Names names{language::Vocabulary::builtIn()};

    Chart chart(const SetUp& setUp, const char* symbol, Day day)
    {
        return makeChart(evaluator, names, setUp, *market->find(symbol), day);
    }
    Day last() const { return market->sessions().back(); }
};

SetUp withLayers(std::vector<LayerSetUp> layers, BarScale scale = BarScale::Day)
{
    SetUp setUp;
    setUp.scale = scale;
    setUp.panes[0].layers = std::move(layers);
    return setUp;
}

} // namespace

TEST_CASE("Bars of a scale: weeks from Monday, months, the newest as far as it has traded",
          "[charts]")
{
    market::Bars daily;
    const auto add = [&](const char* day, double open, double high, double low, double close,
                         double volume) {
        daily.add({test::day(day), open, high, low, close, volume});
    };
    add("2024-05-30", 10, 12, 9, 11, 100);  // Thursday
    add("2024-05-31", 11, 15, 10, 14, 200); // Friday
    add("2024-06-03", 14, 14, 8, 9, missing);
    add("2024-06-12", 9, 10, 7, 8, 50); // a week was without trade
    CHECK(barEnds(daily.days, BarScale::Day) == std::vector<std::size_t>{0, 1, 2, 3});
    const auto weeks = barEnds(daily.days, BarScale::Week);
    CHECK(weeks == std::vector<std::size_t>{1, 2, 3});
    const auto months = barEnds(daily.days, BarScale::Month);
    CHECK(months == std::vector<std::size_t>{1, 3});
    const market::Bars june = barsOfScale(daily, months);
    REQUIRE(june.size() == 2);
    CHECK(june.days[0] == test::day("2024-05-31"));
    CHECK(june.open[0] == 10);
    CHECK(june.high[0] == 15);
    CHECK(june.low[0] == 9);
    CHECK(june.close[0] == 14);
    CHECK(june.volume[0] == 300);
    CHECK(june.days[1] == test::day("2024-06-12"));
    CHECK(june.low[1] == 7);
    CHECK(june.volume[1] == 50); // the one that is known
    CHECK(barEnds({}, BarScale::Week).empty());
}

TEST_CASE("Bars of a scale: are those of the engine", "[charts]")
{
    Bench bench;
    for (const BarScale scale : {BarScale::Week, BarScale::Month}) {
        const Chart chart = bench.chart(
            withLayers({{"open"}, {"high"}, {"low"}, {"close"}, {"volume"}, {"sma(close, 4)"}},
                       scale),
            "S105", bench.last());
        const market::Bars& bars = *chart.bars;
        REQUIRE(bars.size() > 15);
        const auto& layers = chart.panes[0].layers;
        const std::vector<double>* columns[] = {&bars.open, &bars.high, &bars.low, &bars.close,
                                                &bars.volume};
        for (std::size_t i = 0; i < 5; ++i)
            CHECK(*layers[i].values == *columns[i]);
        const double mean = (bars.close[10] + bars.close[9] + bars.close[8] + bars.close[7]) / 4.0;
        CHECK((*layers[5].values)[10] == Approx(mean));
    }
}

TEST_CASE("Chart: bars and layers are those of the day, on one footing, nothing later", "[charts]")
{
    Bench bench;
    const Day day = bench.market->sessions()[300];
    const SetUp setUp = withLayers({{"sma(close, 20)"}, {"percentile(close)"}, {"market_cap"}});
    const Chart chart = bench.chart(setUp, "S105", day); // split at bar 150
    CHECK(chart.symbol == "S105");
    CHECK(chart.bars->days.back() == day);
    CHECK(chart.otherCurrency.empty());
    const Chart past = [&] {
        engine::Evaluator knew(test::cutAfter(bench.records, day, "S100"));
        return makeChart(knew, bench.names, setUp, *knew.market().find("S105"), day);
    }();
    CHECK(past.bars->close == chart.bars->close);
    for (std::size_t i = 0; i < 3; ++i) {
        const auto& values = *chart.panes[0].layers[i].values;
        REQUIRE(values.size() == chart.size());
        for (std::size_t bar = 0; bar < values.size(); ++bar)
            REQUIRE(test::sameBits(values[bar], (*past.panes[0].layers[i].values)[bar]));
    }
    double sum = 0.0;
    for (const double close : std::span(chart.bars->close).last(20))
        sum += close;
    CHECK(chart.panes[0].layers[0].values->back() == Approx(sum / 20));
    CHECK(chart.panes[0].layers[2].title == "Market capitalization");
    CHECK(bench.chart(setUp, "S104", day).otherCurrency == "dn");
}

TEST_CASE("Chart: a layer that does not check says why, the others are drawn", "[charts]")
{
    Bench bench;
    LayerSetUp band{"lowest(low, 20)", "highest(high, 20)", LayerForm::Band};
    LayerSetUp halfBand{"lowest(low, 20)", "hihest(high, 20)", LayerForm::Band};
    LayerSetUp textBand{"close", "sector", LayerForm::Band};
    LayerSetUp ribbon{"close > sma(close, 20)", "", LayerForm::Ribbon};
    LayerSetUp figureRibbon{"close", "", LayerForm::Ribbon};
    const Chart chart = bench.chart(withLayers({{"smaa(close, 20)"},
                                                band,
                                                halfBand,
                                                textBand,
                                                ribbon,
                                                figureRibbon,
                                                {"close > 5"},
                                                {"sector"},
                                                {"ema(close, 9)"}}),
                                    "S103", bench.last());
    const auto& layers = chart.panes[0].layers;
    REQUIRE(layers[0].error);
    CHECK(layers[0].error->problem == "no function 'smaa'");
    CHECK(layers[0].values->empty());
    CHECK_FALSE(layers[1].error);
    CHECK(layers[1].to->back() >= layers[1].values->back());
    CHECK(layers[2].error);
    CHECK(layers[2].values->empty());
    CHECK(layers[3].error->problem == "the other edge is no figure");
    CHECK_FALSE(layers[4].error);
    CHECK(layers[5].error->problem == "this is no condition");
    CHECK(layers[6].error->problem == "this is no figure");
    CHECK(layers[7].error);
    CHECK_FALSE(layers[8].error);
    CHECK(layers[8].values->size() == chart.size());
}

TEST_CASE("Chart: on weeks an expression is that of weeks, or of the week's last day", "[charts]")
{
    Bench bench;
    const Chart daily = bench.chart(
        withLayers({{"weekly(sma(close, 5))"}, {"rank(close)"}, {"on_day(2024-08-30, close)"}}),
        "S103", bench.last());
    const Chart weekly =
        bench.chart(withLayers({{"sma(close, 5)"}, {"rank(close)"}, {"on_day(2024-08-30, close)"}},
                               BarScale::Week),
                    "S103", bench.last());
    for (std::size_t i = 0; i < 3; ++i) {
        const auto& days = *daily.panes[0].layers[i].values;
        const auto& weeks = *weekly.panes[0].layers[i].values;
        CHECK_FALSE(weekly.panes[0].layers[i].error);
        REQUIRE(weeks.size() == weekly.size());
        for (std::size_t bar = 0; bar < weeks.size(); ++bar) {
            const auto at = std::ranges::find(daily.bars->days, weekly.bars->days[bar]) -
                            daily.bars->days.begin();
            CHECK(test::sameBits(weeks[bar], days[static_cast<std::size_t>(at)]));
        }
    }
}

TEST_CASE("Chart: one that grew from a former day is the one made anew, to the last bit",
          "[charts]")
{
    Bench bench;
    SetUp setUp = withLayers({{"ema(close, 21)"},
                              {"rank(change(close, 20))"},
                              {"ttm(eps)"},
                              {"lowest(low, 9)", "highest(high, 9)", LayerForm::Band},
                              {"smaa(close, 3)"},
                              {"weekly(sma(close, 3))"},
                              {"close > sma(close, 10)", "", LayerForm::Marks}});
    setUp.marks = {MarkKind::Report, MarkKind::Split, MarkKind::Swing, MarkKind::Divergence};
    setUp.panes.push_back({});
    setUp.panes[1].layers = {{"rsi(close, 14)"}};
    const auto sessions = bench.market->sessions();
    std::size_t compared = 0;
    for (const BarScale scale : {BarScale::Day, BarScale::Week, BarScale::Month})
        for (const char* symbol : {"S101", "S103", "S107"}) { // with splits, and one that leaves
            setUp.scale = scale;
            Chart grown = bench.chart(setUp, symbol, sessions[150]);
            const std::size_t stock = *bench.market->find(symbol);
            for (std::size_t at = 151; at < 420; at += 1 + at % 7) {
                const Day day = sessions[at];
                grown = grownChart(grown, bench.evaluator, bench.names, stock, day);
                const Chart anew = bench.chart(setUp, symbol, day);
                REQUIRE(grown.size() == anew.size());
                CHECK(grown.bars->days == anew.bars->days);
                CHECK(test::sameBits(grown.bars->close, anew.bars->close));
                for (std::size_t pane = 0; pane < 2; ++pane)
                    for (std::size_t i = 0; i < anew.panes[pane].layers.size(); ++i) {
                        const Layer& layer = grown.panes[pane].layers[i];
                        const Layer& other = anew.panes[pane].layers[i];
                        CHECK(test::sameBits(*layer.values, *other.values));
                        CHECK(test::sameBits(*layer.to, *other.to));
                    }
                CHECK(grown.marks == anew.marks);
                CHECK(grown.joins == anew.joins);
                ++compared;
            }
            // An earlier day is made anew too.
            const Chart back =
                grownChart(grown, bench.evaluator, bench.names, stock, sessions[200]);
            CHECK(back.bars->days == bench.chart(setUp, symbol, sessions[200]).bars->days);
        }
    CHECK(compared > 400);
}

TEST_CASE("Evaluator: histories from a later bar are the end of the whole ones", "[charts]")
{
    Bench bench;
    engine::Plan plan;
    std::vector<engine::NodeId> targets;
    for (const char* text : {"ema(close, 21)", "rank(close)", "parabolic_stop", "ttm(eps)",
                             "percentile(sma(volume, 30))", "weekly(ema(close, 5))", "obv"})
        targets.push_back(check(text, bench.names, plan)->node);
    const std::size_t stock = *bench.market->find("S103");
    const auto whole = bench.evaluator.histories(plan, targets, stock, bench.last());
    const std::size_t size = whole[0].size();
    for (const std::size_t from : {std::size_t{1}, size / 2, size - 1, size, size + 5}) {
        const auto part = bench.evaluator.histories(plan, targets, stock, bench.last(), {}, from);
        for (std::size_t i = 0; i < targets.size(); ++i) {
            REQUIRE(part[i].size() == size - std::min(from, size));
            for (std::size_t bar = 0; bar < part[i].size(); ++bar)
                CHECK(test::sameBits(part[i][bar], whole[i][from + bar]));
        }
    }
}

TEST_CASE("Trades: a rule enters, leaves, and on the bar of its exit enters nothing", "[charts]")
{
    //                             0  1  2  3  4  5  6        7  8  9
    const std::vector<double> in{0, 1, 1, 0, 1, 1, missing, 1, 0, 1};
    const std::vector<double> out{1, 1, 0, 1, 1, 1, 0, 0, missing, 0};
    CHECK(tradesOf(in, out) == std::vector<Trade>{{1, 3}, {4, 5}, {7, std::nullopt}});
    CHECK(tradesOf(in, std::vector<double>(10, 0.0)) == std::vector<Trade>{{1, std::nullopt}});
    CHECK(tradesOf({}, {}).empty());
    // What it did by a bar is what it does when nothing later is known.
    for (std::size_t bars = 0; bars <= in.size(); ++bars) {
        const auto known = tradesOf(std::span(in).first(bars), std::span(out).first(bars));
        const auto all = tradesOf(in, out);
        for (std::size_t i = 0; i < known.size(); ++i) {
            CHECK(known[i].entry == all[i].entry);
            if (known[i].exit)
                CHECK(known[i].exit == all[i].exit);
        }
    }
}

TEST_CASE("Chart: trades of a rule are lines with marks at both ends", "[charts]")
{
    auto record = test::recordOf("AAAA", {10, 11, 12, 11, 9, 9, 10, 12, 13});
    engine::Evaluator evaluator(test::marketOf({record}));
    const language::Names names{language::Vocabulary::builtIn()};
    const SetUp setUp = withLayers({{"close > 10", "close < 10", LayerForm::Trades}});
    const Chart chart = makeChart(evaluator, names, setUp, 0, record.bars.days.back());
    REQUIRE(chart.joins.size() == 2);
    CHECK(chart.joins[0].from == Join::End{1, 11.0});
    CHECK(chart.joins[0].to == Join::End{4, 9.0});
    CHECK(chart.joins[0].words == "-18.2 %");
    CHECK(chart.joins[0].colour == PalettePart::Fall);
    CHECK(chart.joins[1].to == Join::End{8, 13.0});
    CHECK(chart.joins[1].stroke == Join::Stroke::Dots); // still held
    std::vector<std::string> told;
    for (const Mark& mark : chart.marks)
        if (mark.kind == MarkKind::Trade)
            told.push_back(mark.text);
    REQUIRE(told.size() == 3);
    CHECK(told[0] == "Enters at 11.00: close > 10.");
    CHECK(told[1] == "Leaves at 9.00 after 3 bars, -18.2 %: close < 10.");
    CHECK(told[2] == "Enters at 12.00: close > 10.");
    const Chart wrong =
        makeChart(evaluator, names, withLayers({{"close > 10", "close", LayerForm::Trades}}), 0,
                  record.bars.days.back());
    CHECK(wrong.panes[0].layers[0].error->problem == "when the rule leaves is no condition");
    CHECK(wrong.joins.empty());
}

TEST_CASE("Set-ups of a person: many come back as they were, and follow what is renamed",
          "[charts]")
{
    std::vector<SetUp> all = readySetUps();
    all[0].panes[0].layers.push_back({"close > 1", "passes(\"Dips\")", LayerForm::Trades});
    const auto read = setUpsFromToml(toToml(std::span<const SetUp>(all)));
    REQUIRE(read);
    CHECK(*read == all);
    CHECK(setUpsFromToml("")->empty());
    CHECK_FALSE(setUpsFromToml("[[pane]]\n"));
    const SetUp renamed =
        withRenamed(all[0], {language::Renaming::What::Screen, "Dips", "Deep dips"});
    CHECK(renamed.panes[0].layers.back().to == "passes(\"Deep dips\")");
}

TEST_CASE("Chart: before the first bar, after the last, and without layers", "[charts]")
{
    Bench bench;
    CHECK(bench.chart(standardSetUp(), "S103", test::day("1990-01-01")).size() == 0);
    const Chart gone = bench.chart(standardSetUp(), "S107", bench.last()); // delisted before
    CHECK(gone.panes.size() == standardSetUp().panes.size());
    for (const Pane& pane : gone.panes)
        for (const Layer& layer : pane.layers)
            CHECK((layer.values->size() == gone.size() || gone.size() == 0));
    CHECK(bench.chart(SetUp(), "S103", bench.last()).panes.size() == 1);
    CHECK(emptyChart(standardSetUp()).size() == 0);
}

TEST_CASE("Set-up: as TOML it comes back the same", "[charts]")
{
    SetUp setUp;
    setUp.name = "Mine \"and\" yours";
    setUp.scale = BarScale::Month;
    setUp.form = BarForm::Filled;
    setUp.values = ValueScale::Percent;
    setUp.panes[0].layers = {{"sma(close, 50)", "", LayerForm::Dots, PalettePart::Fall, 2.5},
                             {"lowest(low, 9)", "highest(high, 9)", LayerForm::Band}};
    PaneSetUp lower{0.25, true, {{"volume", "", LayerForm::Columns}}};
    lower.layers[0].isByChange = true;
    lower.layers[0].hasScaleAtLeft = true;
    lower.layers.push_back({"benchmark(close)"});
    lower.layers[1].isCompared = true;
    setUp.panes.push_back(lower);
    auto read = setUpFromToml(toToml(setUp));
    REQUIRE(read);
    CHECK(*read == setUp);
    setUp.scale = BarScale::Minutes;
    setUp.minutes = 17;
    setUp.marks = {MarkKind::Divergence};
    setUp.panes[1].layers[1] = {"close - open", "", LayerForm::States};
    read = setUpFromToml(toToml(setUp));
    REQUIRE(read);
    CHECK(*read == setUp);
}

TEST_CASE("Ready layers: all check, go over the prices or below, and never beyond what can be read",
          "[charts]")
{
    Bench bench;
    std::size_t below = 0;
    for (const ReadyLayers& ready : readyLayers()) {
        INFO(ready.name);
        CHECK_FALSE(ready.meaning.empty());
        const auto with = withLayers(standardSetUp(), ready);
        REQUIRE(with);
        CHECK(with->name == "Candidate, changed");
        const std::size_t pane = ready.isOverPrices ? 0 : with->panes.size() - 1;
        CHECK(with->panes.size() == standardSetUp().panes.size() + (ready.isOverPrices ? 0 : 1));
        below += ready.isOverPrices ? 0 : 1;
        const Chart chart = bench.chart(*with, "S103", bench.last());
        for (const Layer& layer : chart.panes[pane].layers) {
            INFO(layer.setUp.show);
            CHECK_FALSE(layer.error);
        }
    }
    CHECK(readyLayers().size() >= 20);
    CHECK(below > 8);
    SetUp full = standardSetUp();
    full.panes.resize(mostPanes);
    CHECK_FALSE(withLayers(full, readyLayers().back()));
}

TEST_CASE("Set-up: what cannot be shown is refused with its place", "[charts]")
{
    const std::string pane = "[[pane]]\n[[pane.layer]]\n";
    const auto problemOf = [](const std::string& text) {
        const auto read = setUpFromToml(text);
        REQUIRE_FALSE(read);
        return read.error();
    };
    CHECK(problemOf("name = \"A\"\n").problem == "a chart without a pane");
    CHECK(problemOf("scale = \"hour\"\n[[pane]]\n").problem == "'scale' is none of its words");
    CHECK(problemOf("scale = \"hour\"\n[[pane]]\n").remedy ==
          "write one of day, week, month, minutes");
    CHECK(problemOf("scale = \"minutes\"\nminutes = 391\n[[pane]]\n").remedy ==
          "write a whole number from 1 to 390");
    CHECK(problemOf("minutes = 2.5\n[[pane]]\n").where.line == 1);
    CHECK(problemOf("colour = 3\n[[pane]]\n").problem == "'colour' is no key of a set-up");
    CHECK(problemOf("[[pane]]\nheight = 0\n").problem == "'height' is no size");
    CHECK(problemOf("[[pane]]\nheight = \"high\"\n").problem == "'height' is no size");
    CHECK(problemOf(pane + "as = \"line\"\n").problem == "a layer shows nothing");
    CHECK(problemOf(pane + "show = \"close\"\nas = \"band\"\n")
              .problem.starts_with("a band has two"));
    CHECK(problemOf(pane + "show = \"close\"\nto = \"open\"\n")
              .problem.starts_with("a band has two"));
    CHECK(problemOf(pane + "show = \"close\"\nas = \"dots\"\ncompared = true\n").problem ==
          "only a line is compared with the prices");
    CHECK(problemOf(pane + "show = \"close\"\nwidth = 11\n").remedy ==
          "write a number above 0, at most 10");
    const SourceRange where = problemOf(pane + "show = 3\n").where;
    CHECK(where.line == 3);
    CHECK(where.column == 8);
    CHECK(where.length == 0); // only where it begins is known
    CHECK(where.bytes == 0);
    std::string many;
    for (std::size_t i = 0; i <= mostPanes; ++i)
        many += "[[pane]]\n";
    CHECK(problemOf(many).problem.starts_with("13 panes"));
}

TEST_CASE("Set-ups: the ready ones check on the whole dictionary, and a place begins with one",
          "[charts]")
{
    Bench bench;
    REQUIRE(readySetUps().size() >= 4);
    for (const SetUp& setUp : readySetUps()) {
        const Chart chart = bench.chart(setUp, "S103", bench.last());
        CHECK(*setUpFromToml(toToml(setUp)) == setUp);
        for (const Pane& pane : chart.panes)
            for (const Layer& layer : pane.layers) {
                INFO(setUp.name << ": " << layer.setUp.show);
                if (layer.error)
                    FAIL(sentence(*layer.error));
                CHECK(layer.values->size() == chart.size());
            }
    }
    CHECK(standardSetUp().name == "Candidate");
}

TEST_CASE("Figures: the chart as a table, and in one sentence", "[charts]")
{
    SetUp setUp = withLayers({{"mean", "", LayerForm::Line},
                              {"low edge", "high edge", LayerForm::Band},
                              {"is up", "", LayerForm::Ribbon},
                              {"wrong"}});
    Chart chart = emptyChart(setUp);
    CHECK(spokenSummary(chart, 63).empty());
    chart.symbol = "MADE.C";
    CHECK(spokenSummary(chart, 63) == "MADE.C has no prices by this day");
    market::Bars bars;
    bars.add({test::day("2024-01-02"), 10, 11, 9, 10, 100});
    bars.add({test::day("2024-01-03"), 10, 13, 10, 12, missing});
    bars.add({test::day("2024-01-04"), 12, 12, 8, 9, 300});
    chart.bars = std::make_shared<const market::Bars>(bars);
    const auto series = [](std::vector<double> values) {
        return std::make_shared<const std::vector<double>>(std::move(values));
    };
    auto& layers = chart.panes[0].layers;
    layers[0].values = series({missing, 11, 10});
    layers[0].unit = Unit::Money;
    layers[1].values = series({1, 2, 3});
    layers[1].to = series({4, 5, missing});
    layers[2].values = series({0, 1, missing});
    layers[3].error = LocatedError{{}, "no", "none"};
    const exports::Sheet sheet = figuresOf(chart);
    CHECK(sheet.columns == std::vector<std::string>{"day", "open", "high", "low", "close", "volume",
                                                    "mean", "low edge", "high edge", "is up"});
    CHECK(exports::toTabs(sheet).find("2024-01-03\t10\t13\t10\t12\t\t11\t2\t5\tyes") !=
          std::string::npos);
    CHECK(exports::toTabs(sheet).find("2024-01-04\t12\t12\t8\t9\t300\t10\t3\t\t\n") !=
          std::string::npos);
    CHECK(spokenSummary(chart, 63) ==
          "MADE.C closed at 9.00 on 2024-01-04, down 25.0 % on the "
          "day, down 10.0 % over 2 days, 10.0 % below mean, last turn a "
          "low at 10.00 on 2024-01-03");
}

} // namespace sieve::charts
