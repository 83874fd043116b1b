#include "core/conditions/on_off.h"
#include "core/conditions/reading.h"
#include "tests/core/made_market.h"

#include <catch2/catch.hpp>
#include <cmath>

namespace sieve::conditions {

namespace {

const language::Names builtIn{language::Vocabulary::builtIn()};

std::vector<double> wave()
{
    std::vector<double> closes;
    for (int i = 0; i < 120; ++i)
        closes.push_back(100.0 + 10.0 * std::sin(i / 9.0) + 0.1 * i);
    return closes;
}

RuleHistory historyOf(engine::Evaluator& evaluator, const language::Names& names, const Line& line,
                      const TimingRule& rule)
{
    return ruleHistories(evaluator, names, line, std::span(&rule, 1))[0];
}

struct Bench {
    explicit Bench(const std::vector<double>& closes = wave())
        : market(test::marketOf({test::recordOf("AAAA", closes)})), evaluator(market),
          line(marketLines(*market)[0])
    {
    }
    market::MarketPtr market;
    engine::Evaluator evaluator;
    Line line;

    std::vector<RulePart> parts(std::string_view condition, std::size_t session)
    {
        return partsOf(evaluator, builtIn, line, condition, market->sessions()[session]);
    }
    /// Whether the condition holds on the session after, with that close.
    bool holdsTomorrow(const std::string& condition, std::size_t session, double close)
    {
        std::vector<double> levels(line.bars().close.begin(),
                                   line.bars().close.begin() +
                                       static_cast<std::ptrdiff_t>(session + 1));
        levels.push_back(close);
        Bench next(levels);
        const RuleHistory history = historyOf(next.evaluator, builtIn, next.line, {"x", condition});
        return *history.on.back();
    }
};

} // namespace

TEST_CASE("Timing: a rule is on from its entry to its end", "[conditions]")
{
    Bench bench({100, 111, 105, 95, 105, 111});
    const RuleHistory history =
        historyOf(bench.evaluator, builtIn, bench.line, {"x", "close > 1100", "close < 1000"});
    using Answers = std::vector<std::optional<bool>>;
    CHECK(history.on == Answers{false, true, true, false, false, true});
    const RuleHistory broken =
        historyOf(bench.evaluator, builtIn, bench.line, {"x", "close > 1", "clos < 2"});
    REQUIRE(broken.error);
    CHECK(broken.isErrorInLeave);
    CHECK(broken.on.empty());
}

TEST_CASE("Timing: each part with its distance in its own unit", "[conditions]")
{
    Bench bench;
    const auto parts = bench.parts("close > 1000 and rsi(close, 14) >= 99 and advances >= 1", 119);
    REQUIRE(parts.size() == 3);
    CHECK(parts[0].holds == true);
    CHECK(parts[0].value == Approx(bench.line.bars().close[119]));
    CHECK(parts[0].distance == Approx(bench.line.bars().close[119] - 1000.0));
    CHECK(parts[1].holds == false);
    CHECK(parts[1].unit == Unit::Points);
    CHECK(parts[1].distance == Approx(99.0 - parts[1].value));
    CHECK(isMissing(parts[2].turningClose)); // breadth is no matter of the line's close
    CHECK(bench.parts("close > sma(close, 500)", 119)[0].holds == std::nullopt);
    CHECK(bench.parts("close >", 119).empty());
}

TEST_CASE("Timing: the close that turns a part does turn it, and one short of it does not",
          "[conditions]")
{
    Bench bench;
    for (const char* condition : {"close > sma(close, 20)", "close > wma(close, 30)",
                                  "rsi(close, 14) >= 60", "ema(close, 5) > ema(close, 20)"})
        for (const std::size_t session : {60U, 75U, 100U, 119U}) {
            INFO(condition << " on session " << session);
            const RulePart part = bench.parts(condition, session).at(0);
            const double last = bench.line.bars().close[session];
            if (isMissing(part.turningClose)) {
                CHECK(bench.holdsTomorrow(condition, session, last * 1.24) == *part.holds);
                CHECK(bench.holdsTomorrow(condition, session, last * 0.76) == *part.holds);
                continue;
            }
            // The bench's line begins at 1,000 too, so levels are levels there.
            CHECK(bench.holdsTomorrow(condition, session, part.turningClose) != *part.holds);
            const double inward = part.turningClose > last ? -1e-5 : 1e-5;
            if (part.turningClose != last)
                CHECK(bench.holdsTomorrow(condition, session, part.turningClose * (1.0 + inward)) ==
                      *part.holds);
        }
}

TEST_CASE("Stance: shares add up, at most all, none while standing aside", "[conditions]")
{
    const std::vector<TimingRule> rules{
        {"a", "x", "", 60.0}, {"b", "x", "", 70.0}, {"c", "x", "", 0.0, true}};
    const std::vector<RuleHistory> histories{{{std::nullopt, true, true, false, true}},
                                             {{std::nullopt, false, true, false, true}},
                                             {{std::nullopt, false, false, false, true}}};
    const auto stance = stanceOver(rules, histories, 5);
    CHECK(isMissing(stance[0]));
    CHECK(std::vector(stance.begin() + 1, stance.end()) == std::vector<double>{0.6, 1.0, 0.0, 0.0});
}

TEST_CASE("Stance: what the line did while it stood, from the session after", "[conditions]")
{
    const std::vector<double> stance{0.0, 1.0, 1.0, 0.0, 1.0};
    const std::vector<double> closes{100, 110, 121, 133.1, 100};
    const auto spells = stanceSpells(stance, closes, 4);
    REQUIRE(spells.size() == 2);
    CHECK(spells[0].stance == 1.0);
    CHECK(spells[0].sessions == 3);
    CHECK(spells[0].spells == 2);
    CHECK(spells[0].change == Approx(0.21)); // 110 to 133.1
    CHECK(spells[1].change == Approx(1.1 * 100 / 133.1 - 1.0));
    CHECK(stanceSpells(stance, closes, 0)[0].sessions == 1);
    CHECK(isMissing(stanceSpells(stance, closes, 0)[0].change));
}

TEST_CASE("Reading: poor markets have a sensible reading", "[conditions]")
{
    const auto readingOf = [](const market::MarketPtr& market) {
        engine::Evaluator evaluator(market);
        return readMarket(evaluator, builtIn, standardBook());
    };
    const Reading one = readingOf(test::marketOf({test::recordOf("AAAA", {10}, "")}));
    REQUIRE(one.lines.size() == 2); // no benchmark, one exchange
    CHECK(one.stance.size() == 1);
    CHECK_FALSE(one.lines[0].trends[0].history[0]);
    const Reading lost = readingOf(test::marketOf({test::recordOf("AAAA", {10, 11})}, "NONE"));
    CHECK(lost.lines.size() == 2);
    auto fund = test::recordOf("FUND", {10, 11, 12});
    fund.instrument.kind = market::InstrumentKind::Fund;
    const Reading noShares = readingOf(test::marketOf({fund}));
    CHECK(noShares.lines[0].line.bars().close[2] == 1000.0);
    const Reading empty = readingOf(test::marketOf({}));
    CHECK(empty.stance.empty());
}

TEST_CASE("Reading: a session that still runs is provisional", "[conditions]")
{
    const auto records = test::eventfulRecords();
    const auto live = test::liveOn(records, test::marketOf(records)->sessions()[200]);
    engine::Evaluator evaluator(live);
    CHECK(readMarket(evaluator, builtIn, standardBook()).isProvisional);
}

TEST_CASE("Timing: on a day before the line begins a rule has no parts", "[conditions]")
{
    Bench bench;
    CHECK(partsOf(bench.evaluator, builtIn, bench.line, "close > 1000",
                  bench.market->sessions().front().plusDays(-1))
              .empty());
    CHECK(bench.parts("close > 1000", 0).size() == 1);
}

TEST_CASE("On and off: what a state was over its bars", "[conditions]")
{
    const std::vector<std::optional<bool>> states{std::nullopt, true,         false, true,
                                                  true,         std::nullopt, true,  false};
    const OnOffSummary summary = summaryOf(states);
    CHECK(summary.known == 6);
    CHECK(summary.on == 4);
    CHECK(summary.turns == 1); // what comes after a bar of which nothing is known did not turn
    CHECK(summaryOf(std::vector<std::optional<bool>>()).known == 0);
}

} // namespace sieve::conditions
