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
