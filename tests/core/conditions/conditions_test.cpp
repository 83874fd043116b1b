#include "core/conditions/divergence.h"
#include "core/conditions/on_off.h"
#include "core/conditions/panes.h"
#include "core/conditions/reading.h"
#include "demo_market/dice.h"
#include "tests/core/made_market.h"

#include <catch2/catch.hpp>

namespace sieve::conditions {

namespace {

const language::Names builtIn{language::Vocabulary::builtIn()};

/// One share whose closes are the line's levels, so that rules of the line can be counted by hand.
struct Bench {
    explicit Bench(const std::vector<double>& closes)
        : market(test::marketOf({test::recordOf("AAAA", closes)})), evaluator(market),
          line(marketLines(*market)[0])
    {
    }
    market::MarketPtr market;
    engine::Evaluator evaluator;
    Line line;

    TrendHistory trend(const TrendRule& rule)
    {
        const TrendReading reading = readTrend(evaluator, builtIn, line, rule);
        REQUIRE_FALSE(reading.error);
        return reading.history;
    }
};

std::vector<double> upAndDown()
{
    std::vector<double> levels;
    for (int i = 0; i < 300; ++i)
        levels.push_back(100.0 + i);
    for (int i = 0; i < 150; ++i)
        levels.push_back(400.0 - 2 * i);
    return levels;
}

using Answers = std::vector<std::optional<bool>>;

} // namespace

TEST_CASE("On and off: a state lasts from its entry to its end", "[conditions]")
{
    const std::vector<double> enter{0, 1, 0, 0, 1, 0};
    const std::vector<double> leave{0, 0, 0, 1, 1, 0};
    CHECK(onOff(enter, leave) == Answers{false, true, true, false, false, false});
    CHECK(onOff(enter, {}) == Answers{false, true, false, false, true, false});
    CHECK(onOff(std::vector<double>{missing, 1, 0, 0}, std::vector<double>{0, 0, missing, 0}) ==
          Answers{std::nullopt, true, std::nullopt, false});
}

TEST_CASE("Trend: rising, falling and too early to say", "[conditions]")
{
    Bench bench(upAndDown());
    for (std::size_t i = 0; i < horizons.size(); ++i) {
        INFO(horizonName(horizons[i]));
        const TrendHistory history = bench.trend(standardBook().trends[i]);
        REQUIRE(history.size() == 450);
        CHECK_FALSE(history[5]);
        CHECK(history[299] == Trend::Rising);
        CHECK(history[449] == Trend::Falling);
        CHECK(ageInBars(history, 5) == 0);
        const std::size_t age = ageInBars(history, 449);
        CHECK(history[449 - age + 1] == Trend::Falling);
        CHECK(history[449 - age] != Trend::Falling);
        const auto changes = changesOf(history, 449);
        REQUIRE_FALSE(changes.empty());
        CHECK(changes[0].bar == 449 - age + 1);
        CHECK(changes[0].now == Trend::Falling);
    }
}

TEST_CASE("Trend: a rule to leave keeps a state that would not be entered again", "[conditions]")
{
    Bench bench({100, 111, 105, 105, 89, 95, 95, 111});
    const TrendRule plain{"close > 110", "", "close < 90", ""};
    const TrendRule lasting{"close > 110", "close < 100", "close < 90", "close > 100"};
    using enum Trend;
    // The line is the close in tenths of its begin: 1000 is 100.
    const auto scaled = [](TrendRule rule) {
        for (std::string* text : {&rule.rising, &rule.risingEnds, &rule.falling, &rule.fallingEnds})
            if (!text->empty())
                *text += "0";
        return rule;
    };
    CHECK(bench.trend(scaled(plain)) ==
          TrendHistory{Sideways, Rising, Sideways, Sideways, Falling, Sideways, Sideways, Rising});
    CHECK(bench.trend(scaled(lasting)) ==
          TrendHistory{Sideways, Rising, Rising, Rising, Falling, Falling, Falling, Rising});
}

TEST_CASE("Trend: without ends of their own, one state gives way to the other on the same session",
          "[conditions]")
{
    using enum Trend;
    Bench bench({100, 101, 99, 98, 102, 102});
    const TrendReading reading =
        readTrend(bench.evaluator, builtIn, bench.line,
                  {"close > prior(close)", "", "close < prior(close)", ""});
    REQUIRE(reading.history.size() == 6);
    CHECK(reading.history[1] == Rising);
    CHECK(reading.history[2] == Falling);
    CHECK(reading.history[3] == Falling);
    CHECK(reading.history[4] == Rising);
    CHECK(reading.history[5] == Sideways);
}

TEST_CASE("Line of a list: begins the session before one of its stocks first counts",
          "[conditions]")
{
    const auto market = test::marketOf({test::recordOf("AAAA", {10, 10, 10, 11, 12.1})});
    engine::ListMembers list;
    list.stays = {{"AAAA", market->sessions()[2]}};
    const Line line = lineOfList(*market, "Mine", list);
    const auto bars = line.market->bars(0);
    CHECK_FALSE(line.hasRange); // it has closes only
    REQUIRE(bars.days.size() == 3);
    CHECK(bars.days.front() == market->sessions()[2]);
    CHECK(bars.close[0] == Approx(1000));
    CHECK(bars.close[1] == Approx(1100));
    CHECK(bars.close[2] == Approx(1210));
}

TEST_CASE("Trend: rules that contradict, never turn or do not check get a sentence", "[conditions]")
{
    Bench bench({100, 101, 102, 103});
    TrendReading reading = readTrend(bench.evaluator, builtIn, bench.line,
                                     {"close > 0", "", "close > prior(close)", ""});
    CHECK(reading.contradictions == 3);
    CHECK(reading.history.back() == Trend::Sideways);
    CHECK(remarkOn(reading).find("both hold on 3 of 4") != std::string::npos);
    reading = readTrend(bench.evaluator, builtIn, bench.line, {"close > 0", "", "close < 0", ""});
    CHECK(remarkOn(reading) == "By this rule the line was never falling.");
    reading = readTrend(bench.evaluator, builtIn, bench.line, {"close > 0", "close", "no", ""});
    REQUIRE(reading.error);
    CHECK(reading.errorIn == "rising_ends");
    CHECK(reading.history.empty());
    CHECK(remarkOn(reading).empty());
}

TEST_CASE("Reading: states, rules, stance and breadth never change in hindsight", "[conditions]")
{
    const auto records = test::eventfulRecords();
    const auto whole = test::marketOf(records, "S100");
    engine::Evaluator evaluator(whole);
    const Reading all = readMarket(evaluator, builtIn, standardBook());
    const std::vector<std::string> texts{"advance_decline_line", "above_50", "up_volume_share",
                                         "new_highs - new_lows", "advance_decline_oscillator"};
    for (const std::size_t cut : {150U, 220U, 299U}) {
        const auto market = test::cutAfter(records, whole->sessions()[cut], "S100");
        engine::Evaluator then(market);
        const Reading part = readMarket(then, builtIn, standardBook());
        REQUIRE(part.lines.size() == all.lines.size());
        for (std::size_t i = 0; i < part.lines.size(); ++i) {
            for (std::size_t horizon = 0; horizon < 3; ++horizon) {
                const TrendHistory& early = part.lines[i].trends[horizon].history;
                REQUIRE(std::equal(early.begin(), early.end(),
                                   all.lines[i].trends[horizon].history.begin()));
            }
            const auto before = readPanes(then, builtIn, part.lines[i].line, texts);
            const auto after = readPanes(evaluator, builtIn, all.lines[i].line, texts);
            for (std::size_t pane = 0; pane < texts.size(); ++pane)
                for (std::size_t bar = 0; bar < before[pane].values.size(); ++bar) {
                    INFO(texts[pane] << " bar " << bar);
                    const double early = before[pane].values[bar];
                    const double late = after[pane].values[bar];
                    REQUIRE(((isMissing(early) && isMissing(late)) || early == late));
                }
        }
        for (std::size_t rule = 0; rule < part.rules.size(); ++rule)
            REQUIRE(std::equal(part.rules[rule].on.begin(), part.rules[rule].on.end(),
                               all.rules[rule].on.begin()));
        for (std::size_t bar = 0; bar < part.stance.size(); ++bar)
            REQUIRE(((isMissing(part.stance[bar]) && isMissing(all.stance[bar])) ||
                     part.stance[bar] == all.stance[bar]));
    }
}

TEST_CASE("Breadth: counted by hand", "[conditions]")
{
    const auto market = test::marketOf({test::recordOf("AAAA", {10, 11, 12, 12}),
                                        test::recordOf("BBBB", {10, 9, 8, 9}, "Water"),
                                        test::recordOf("CCCC", {5, 6, 5, 5}, "Water")});
    engine::Evaluator evaluator(market);
    const std::vector<std::string> texts{"advances", "declines", "unchanged_count",
                                         "advance_decline_line"};
    const auto lines = marketLines(*market);
    const auto panes = readPanes(evaluator, builtIn, lines[0], texts);
    CHECK(isMissing(panes[0].values[0]));
    CHECK(std::vector(panes[0].values.begin() + 1, panes[0].values.end()) ==
          std::vector<double>{2, 1, 1});
    CHECK(panes[1].values[2] == 2.0);
    CHECK(panes[2].values[3] == 2.0);
    CHECK(std::vector(panes[3].values.begin() + 1, panes[3].values.end()) ==
          std::vector<double>{1, 0, 1});
    CHECK(panes[0].title == "Advances");
    const auto members =
        market::sharesWith(*market, market::TextField::Sector, *market->texts().find("Water"));
    const Line water =
        lineOf(*market, "Water", "sector == \"Water\"", members, market::Weight::Equal);
    const auto own = readPanes(evaluator, builtIn, water, texts);
    CHECK(own[0].values[1] == 1.0);
    CHECK(own[1].values[2] == 2.0);
    const std::vector<std::string> broken{"advances +"};
    CHECK(readPanes(evaluator, builtIn, water, broken)[0].error);
}

TEST_CASE("Panes: a market's total return is a series as any other", "[conditions]")
{
    const auto market = test::marketOf(test::eventfulRecords());
    engine::Evaluator evaluator(market);
    const auto lines = marketLines(*market);
    const std::vector<std::string> texts{"composite(total_return)"};
    const Pane pane = readPanes(evaluator, builtIn, lines[0], texts)[0];
    REQUIRE_FALSE(pane.error);
    const auto total = market::makeComposite(*market, market::allShares(*market),
                                             market::Weight::Equal, market::Return::Total);
    REQUIRE(pane.values.size() == total.levels.size());
    const double scale = pane.values.back() / total.levels.back();
    for (std::size_t i = 0; i < total.levels.size(); ++i)
        CHECK(pane.values[i] == Approx(scale * total.levels[i]));
}

TEST_CASE("Panes: where a value stands in its own range", "[conditions]")
{
    std::vector<double> values;
    for (int i = 0; i < 40; ++i)
        values.push_back(i);
    CHECK(placeInRange(values, 39, tenYears) == 1.0);
    CHECK(placeInRange(values, 39, 30) == 1.0);
    values.back() = -1.0;
    CHECK(placeInRange(values, 39, tenYears) == 0.0);
    values.back() = 19.0; // once more: between its equals
    CHECK(placeInRange(values, 39, tenYears) == Approx(19.5 / 39.0));
    CHECK(isMissing(placeInRange(values, 15, tenYears)));
    CHECK(isMissing(placeInRange(values, 400, tenYears)));
}

TEST_CASE("Divergence: a higher high that breadth does not confirm, dated, with what followed",
          "[conditions]")
{
    std::vector<double> closes;
    std::vector<double> breadth;
    const auto leg = [&](int bars, double step, double strength) {
        for (int i = 0; i < bars; ++i) {
            closes.push_back((closes.empty() ? 100.0 : closes.back()) + step);
            breadth.push_back((breadth.empty() ? 50.0 : breadth.back()) + strength);
        }
    };
    leg(20, 1.0, 1.0);   // up to bar 19 together
    leg(12, -0.5, -1.5); // down
    leg(20, 1.0, 0.5);   // a higher high at bar 51, breadth lower
    leg(40, -1.0, -1.0);
    const auto found = findDivergences(closes, breadth, closes.size() - 1);
    REQUIRE(found.size() == 1);
    CHECK(found[0].kind == Divergence::Weakening);
    CHECK(found[0].first == 19);
    CHECK(found[0].second == 51);
    CHECK(found[0].knownOn == 59);
    CHECK(found[0].firstValue > found[0].secondValue);
    CHECK(found[0].after21 == Approx(closes[80] / closes[59] - 1.0));
    CHECK(isMissing(found[0].after63));
    CHECK(findDivergences(closes, breadth, 58).empty()); // not yet known
    CHECK(findDivergences(closes, closes, closes.size() - 1).empty());
}

TEST_CASE("Divergence: the series is read at its best within three bars of a turn, no farther",
          "[conditions]")
{
    std::vector<double> closes;
    for (const auto& [bars, step] :
         {std::pair(20, 1.0), std::pair(12, -0.5), std::pair(20, 1.0), std::pair(40, -1.0)})
        for (int i = 0; i < bars; ++i)
            closes.push_back((closes.empty() ? 100.0 : closes.back()) + step);
    std::vector<double> breadth(closes.size(), 1.0); // highs of the line are on bars 19 and 51
    breadth[15] = breadth[23] = 9.0;
    breadth[47] = breadth[55] = 9.0;
    breadth[22] = 5.0;
    breadth[48] = 2.0;
    const auto found = findDivergences(closes, breadth, closes.size() - 1);
    REQUIRE(found.size() == 1);
    CHECK(found[0].firstValue == 5.0);
    CHECK(found[0].secondValue == 2.0);
    REQUIRE(found[0].knownOn == 59);
    CHECK(isMissing(findDivergences(closes, breadth, 79).at(0).after21)); // one session too early
    CHECK(findDivergences(closes, breadth, 80).at(0).after21 ==
          Approx(closes[80] / closes[59] - 1.0));
    std::ranges::replace(breadth, 5.0, 1.0);
    breadth[16] = 4.0;
    CHECK(findDivergences(closes, breadth, closes.size() - 1).at(0).firstValue == 4.0);
}

TEST_CASE("Divergence: nothing later changes what was found", "[conditions]")
{
    for (std::uint64_t seed = 1; seed <= 30; ++seed) {
        demo_market::Dice dice(seed);
        std::vector<double> closes{100.0};
        std::vector<double> breadth{0.0};
        while (closes.size() < 400) {
            closes.push_back(closes.back() * (1.0 + 0.01 * dice.bell()));
            breadth.push_back(breadth.back() + dice.bell());
        }
        const auto all = findDivergences(closes, breadth, 399);
        const auto then = findDivergences(closes, breadth, 250);
        std::vector<std::size_t> known;
        for (const DivergenceFound& each : all)
            if (each.knownOn <= 250)
                known.push_back(each.second);
        REQUIRE(known.size() == then.size());
        for (std::size_t i = 0; i < then.size(); ++i)
            REQUIRE(then[i].second == known[i]);
    }
}

TEST_CASE("Divergence: the record counts those of its kind that are over", "[conditions]")
{
    const auto found = [](Divergence kind, double after63) {
        DivergenceFound each;
        each.kind = kind;
        each.after63 = after63;
        return each;
    };
    const DivergenceFound all[] = {
        found(Divergence::Weakening, -0.10),    found(Divergence::Weakening, 0.20),
        found(Divergence::Strengthening, 0.05), found(Divergence::Weakening, -0.30),
        found(Divergence::Weakening, missing),  found(Divergence::Strengthening, 0.0)};
    const DivergenceRecord weakening = recordOf(all, Divergence::Weakening);
    CHECK(weakening.count == 3);
    CHECK(weakening.fulfilled == 2); // stood lower
    CHECK(weakening.median == -0.10);
    const DivergenceRecord strengthening = recordOf(all, Divergence::Strengthening);
    CHECK(strengthening.count == 2);
    CHECK(strengthening.median == 0.025);
    CHECK(recordOf({}, Divergence::Weakening).count == 0);
    CHECK(isMissing(recordOf({}, Divergence::Weakening).median));
}

TEST_CASE("Trend: its changes up to a bar, the newest first, and its age", "[conditions]")
{
    const TrendHistory history{std::nullopt,   Trend::Rising,  Trend::Rising,
                               Trend::Falling, Trend::Falling, Trend::Rising};
    const auto changes = changesOf(history, 4);
    REQUIRE(changes.size() == 2); // that on bar 5 is not known yet
    CHECK(changes[0].bar == 3);
    CHECK(changes[0].before == Trend::Rising);
    CHECK(changes[0].now == Trend::Falling);
    CHECK(changes[1].bar == 1);
    CHECK_FALSE(changes[1].before);
    CHECK(changesOf(history, 99).size() == 3);
    CHECK(ageInBars(history, 2) == 2);
    CHECK(ageInBars(history, 5) == 1);
    CHECK(ageInBars(history, 0) == 0);
    CHECK(ageInBars(history, 6) == 0);
    CHECK(ageInBars({Trend::Rising, Trend::Rising}, 1) == 2); // since the first bar
}

TEST_CASE("Divergence: a turning point that two series did not confirm counts once", "[conditions]")
{
    DivergenceFound first;
    first.second = 40;
    first.after63 = -0.1;
    DivergenceFound again = first;
    again.after63 = 0.3;
    DivergenceFound other = first;
    other.kind = Divergence::Strengthening;
    DivergenceFound later = first;
    later.second = 41;
    const DivergenceFound all[] = {first, again, other, later};
    const auto once = oncePerTurn(all);
    REQUIRE(once.size() == 3);
    CHECK(once[0].after63 == -0.1);
    CHECK(once[1].kind == Divergence::Strengthening);
    CHECK(once[2].second == 41);
}

TEST_CASE("Trend: the share of each state and how often it changed", "[conditions]")
{
    const TrendHistory history{std::nullopt, Trend::Rising, Trend::Rising, Trend::Falling,
                               Trend::Sideways};
    const TrendSummary summary = summaryOf(history);
    CHECK(summary.rising == 0.4);
    CHECK(summary.falling == 0.2);
    CHECK(summary.changes == 3);
    CHECK(isMissing(summaryOf(TrendHistory()).rising));
}

TEST_CASE("Lines: an index is called by its name and is of its members, if it has any",
          "[conditions]")
{
    auto index = test::recordOf("CRWX", {1000, 1010, 1020});
    index.instrument.kind = market::InstrumentKind::Index;
    index.instrument.name = "Carrow 200";
    auto bare = test::recordOf("BARE", {100, 101, 102});
    bare.instrument.kind = market::InstrumentKind::Index;
    bare.instrument.name = "";
    auto member = test::recordOf("AAAA", {10, 11, 12});
    member.instrument.memberships = {{"CRWX", test::day("2020-01-01"), std::nullopt}};
    const auto market = test::marketOf({member, test::recordOf("BBBB", {5, 6, 7}), index, bare});
    std::map<std::string, std::string> shares;
    for (const Line& line : marketLines(*market))
        if (line.hasRange)
            shares[line.title] = line.shares;
    CHECK(shares == std::map<std::string, std::string>{
                        {"Carrow 200", "kind == \"share\" and in_index(\"CRWX\")"},
                        {"BARE", "kind == \"share\""}});
}

} // namespace sieve::conditions
