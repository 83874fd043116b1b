#include "core/library/trials.h"

#include "core/library/library.h"
#include "tests/core/made_market.h"

#include <catch2/catch.hpp>

namespace sieve::library {

TEST_CASE("Trials: each question of an idea counts once, ideas and kinds apart", "[library]")
{
    const auto library = Library::inMemory();
    const Day on = test::day("2026-03-02");
    CHECK(noteTrial(*library, {"Highs", "portfolio", "a", on, 0.05}).size() == 1);
    CHECK(noteTrial(*library, {"Highs", "portfolio", "b", on, missing}).size() == 2);
    const auto again =
        noteTrial(*library, {"Highs", "portfolio", "a", test::day("2026-03-05"), 0.06});
    REQUIRE(again.size() == 2);
    CHECK(again[0].question == "a");
    CHECK(again[0].triedOn == on); // when it was tried first
    CHECK(again[0].sharpe == 0.06);
    CHECK(isMissing(again[1].sharpe));
    CHECK(noteTrial(*library, {"Highs", "followed", "a", on}).size() == 1);
    CHECK(noteTrial(*library, {"it's \"other\"", "portfolio", "a", on}).size() == 1);
}

} // namespace sieve::library
