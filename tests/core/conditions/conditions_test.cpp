#include "core/conditions/breadth.h"
#include "core/conditions/reading.h"
#include "tests/core/made_market.h"

#include <catch2/catch.hpp>

namespace sieve::conditions {

namespace {

market::Composite lineOf(const std::vector<double>& levels)
{
    return {test::barsOf(levels).days, levels};
}

} // namespace

TEST_CASE("Composite: equal weight, worked by hand", "[conditions]")
{
    auto split = test::recordOf("BBBB", {20, 22, 11}); // the split of the third day does not show
    split.actions.push_back({split.bars.days[2], market::ActionKind::Split, 2.0});
    auto late = test::recordOf("CCCC", {1});
    late.bars = test::barsOf({5, 10}, test::day("2024-01-02")); // joins after its first session
    auto fund = test::recordOf("FUND", {1, 100, 1000});
    fund.instrument.kind = market::InstrumentKind::Fund; // no share
    const auto market = test::marketOf({test::recordOf("AAAA", {10, 11, 11}), split, late, fund});
    const market::Composite line = market::makeComposite(*market, market::Weight::Equal);
    REQUIRE(line.levels.size() == 3);
    CHECK(line.levels[0] == 1000);
    CHECK(line.levels[1] == Approx(1000 * (1 + (0.1 + 0.1) / 2)));
    CHECK(line.levels[2] == Approx(1100 * (1 + (0.0 + 0.0 + 1.0) / 3)));
}

TEST_CASE("Composite: by capitalization, the larger weighs more and the uncounted is out",
          "[conditions]")
{
    auto large = test::recordOf("AAAA", {10, 11});
    large.shares.push_back(
        {test::day("2023-01-01"), test::day("2023-01-01"), 300, missing, missing});
    auto small = test::recordOf("BBBB", {10, 10});
    small.shares.push_back(
        {test::day("2023-01-01"), test::day("2023-01-01"), 100, missing, missing});
    const auto market = test::marketOf({large, small, test::recordOf("CCCC", {1, 9})});
    const market::Composite line = market::makeComposite(*market, market::Weight::Capitalization);
    CHECK(line.levels[1] == Approx(1000 * (1 + 0.1 * 3000 / 4000)));
}

TEST_CASE("Composite: one that did not trade stands still, one delisted leaves", "[conditions]")
{
    auto halted = test::recordOf("BBBB", {10, 10, 20});
    halted.bars.days[2] = test::day("2024-01-04");
    halted.bars.truncate(3);
    const auto market = test::marketOf({test::recordOf("AAAA", {10, 11, 11, 11}), halted});
    const market::Composite line = market::makeComposite(*market, market::Weight::Equal);
    CHECK(line.levels[1] == Approx(1050));
    CHECK(line.levels[2] == Approx(1050)); // it did not trade on the third
    CHECK(line.levels[3] == Approx(1575));
}

TEST_CASE("Breadth: counts only those of which it can be said", "[conditions]")
{
    const auto market =
        test::marketOf({test::recordOf("AAAA", {10, 11, 12}), test::recordOf("BBBB", {10, 9, 8}),
                        test::recordOf("CCCC", {5})});
    expressions::Evaluator evaluator(market);
    const auto shares = shareOver(evaluator, "close > prior(close)");
    CHECK(isMissing(shares[0]));
    CHECK(shares[1] == Approx(0.5));
    CHECK(shares[2] == Approx(0.5));
}

TEST_CASE("Trend: rising, falling and too early to say", "[conditions]")
{
    std::vector<double> levels;
    for (int i = 0; i < 300; ++i)
        levels.push_back(100.0 + i);
    for (int i = 0; i < 150; ++i)
        levels.push_back(400.0 - 2 * i);
    const market::Composite line = lineOf(levels);
    for (const TrendRule& rule : trendRules()) {
        INFO(horizonName(rule.horizon));
        const TrendHistory history = trendHistory(line, rule);
        REQUIRE(history.size() == levels.size());
        CHECK_FALSE(history[5]);
        CHECK(history[299] == Trend::Rising);
        CHECK(history[449] == Trend::Falling);
        CHECK(ageInSessions(history, 5) == 0);
        const std::size_t age = ageInSessions(history, 449);
        CHECK(history[449 - age + 1] == Trend::Falling);
        CHECK(history[449 - age] != Trend::Falling);
    }
}

TEST_CASE("Trend: a state never changes in hindsight", "[conditions]")
{
    const auto market = test::marketOf(test::eventfulRecords());
    const market::Composite whole = market::makeComposite(*market, market::Weight::Equal);
    for (const TrendRule& rule : trendRules()) {
        const TrendHistory all = trendHistory(whole, rule);
        for (const std::size_t cut : {150U, 220U, 299U}) {
            const auto end = static_cast<std::ptrdiff_t>(cut);
            const market::Composite part{{whole.days.begin(), whole.days.begin() + end},
                                         {whole.levels.begin(), whole.levels.begin() + end}};
            const TrendHistory then = trendHistory(part, rule);
            CHECK(std::equal(then.begin(), then.end(), all.begin()));
        }
    }
}

TEST_CASE("Reading: every series has a value a session", "[conditions]")
{
    const auto market = test::marketOf(test::eventfulRecords());
    expressions::Evaluator evaluator(market);
    const Reading reading = readMarket(evaluator);
    const std::size_t sessions = market->sessions().size();
    CHECK(reading.sessions.size() == sessions);
    for (const Line& line : reading.lines) {
        CHECK(line.composite.levels.size() == sessions);
        CHECK(line.trends.size() == horizons.size());
        for (const TrendHistory& trend : line.trends)
            CHECK(trend.size() == sessions);
    }
    for (const BreadthSeries& series : reading.breadth)
        for (const double share : series.shares)
            CHECK((isMissing(share) || (share >= 0.0 && share <= 1.0)));
}

} // namespace sieve::conditions
