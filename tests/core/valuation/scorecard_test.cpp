#include "core/valuation/scorecard.h"

#include "core/language/checker.h"

#include <catch2/catch.hpp>

namespace sieve::valuation {

TEST_CASE("Scorecard: every side is a field, and the blend checks without a warning", "[valuation]")
{
    const language::Names names{language::Vocabulary::builtIn()};
    for (const ScoreSide& side : scoreSides)
        CHECK(names.vocabulary.field(side.field));
    // The field that counts all sides alike names each of them.
    for (const ScoreSide& side : scoreSides)
        CHECK_THAT(names.vocabulary.field("score_percentile")->formula,
                   Catch::Contains(std::string(side.field)));
    engine::Plan plan;
    const auto blend = check(blendOf({2.0, 1.0, 0.5, 0.0, 1.0}), names, plan);
    REQUIRE(blend);
    CHECK(blend->warnings.empty());
    CHECK(blendOf({1.0, 0.0, 0.0, 0.0, 0.0}) ==
          "(1 * or_else(value_percentile, 0)) / (if(known(value_percentile), 1, 0))");
    CHECK_THROWS_AS(blendOf({}), std::logic_error);
    CHECK_THROWS_AS(blendOf({1.0, -1.0}), std::logic_error);
}

} // namespace sieve::valuation
