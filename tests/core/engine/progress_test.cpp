#include "core/engine/evaluator.h"
#include "core/language/checker.h"
#include "tests/core/made_market.h"

#include <algorithm>
#include <catch2/catch.hpp>
#include <mutex>
#include <tbb/global_control.h>

// What a question tells of how far it is.

namespace sieve::engine {

TEST_CASE("Evaluator: tells how far it is, from nothing to all and never back", "[engine]")
{
    const auto market = test::marketOf(test::eventfulRecords());
    Evaluator evaluator(market);
    Plan plan;
    const auto checked = language::check("rank(close / rank(volume)) + percentile(sma(close, 20))",
                                         {language::Vocabulary::builtIn()}, plan);
    REQUIRE(checked);
    std::mutex mutex;
    std::vector<double> fractions;
    const auto days = market->sessions();
    (void)evaluator.columnsOver(plan, checked->node, days,
                                Progress({}, [&](double fraction, std::string_view) {
                                    const std::scoped_lock lock(mutex);
                                    fractions.push_back(fraction);
                                }));
    REQUIRE(fractions.size() >= 3);
    CHECK(std::ranges::min(fractions) >= 0.0);
    CHECK(std::ranges::max(fractions) <= 1.0);
    CHECK(std::ranges::max(fractions) > 0.5);
    // Threads may tell a little out of turn; no more than one part of the work.
    double most = 0.0;
    for (const double fraction : fractions) {
        CHECK(fraction > most - 0.2);
        most = std::max(most, fraction);
    }
}

TEST_CASE("Evaluator: of a question across stocks, their figures are the first half of the work",
          "[engine]")
{
    const tbb::global_control one(tbb::global_control::max_allowed_parallelism, 1);
    const auto market = test::marketOf(test::eventfulRecords());
    const auto fractionsOf = [&](const char* text) {
        Evaluator evaluator(market);
        Plan plan;
        const NodeId node = language::check(text, {language::Vocabulary::builtIn()}, plan)->node;
        std::vector<double> fractions;
        (void)evaluator.columnsOver(plan, node, market->sessions(),
                                    Progress({}, [&](double fraction, std::string_view) {
                                        fractions.push_back(fraction);
                                    }));
        return fractions;
    };
    // Twenty stocks are one portion of the work.
    CHECK(fractionsOf("sma(close, 20)") == std::vector<double>{20.0 / 20});
    CHECK(fractionsOf("rank(close)") == std::vector<double>{0.5, 1.0});
}

} // namespace sieve::engine
