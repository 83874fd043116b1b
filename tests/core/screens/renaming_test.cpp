#include "core/screens/renaming.h"

#include <catch2/catch.hpp>

namespace sieve::screens {

using language::Renaming;

TEST_CASE("Renaming: a field's new name reaches every text of a screen and nothing else",
          "[screens]")
{
    Screen screen;
    screen.name = "score";
    screen.purpose = "score above 50";
    screen.universe = "score > 0";
    screen.criteria = {{"score > 50 and close > score"}, {"sector == \"score\""}};
    screen.rankBy = "-score";
    screen.columns = {"symbol", "score", "score * 2"};
    const Renaming score{Renaming::What::Field, "score", "grade"};
    const Screen after = withRenamed(screen, score);
    CHECK(after.name == "score");
    CHECK(after.purpose == "score above 50");
    CHECK(after.universe == "grade > 0");
    CHECK(after.criteria[0].text == "grade > 50 and close > grade");
    CHECK(after.criteria[1].text == "sector == \"score\"");
    CHECK(after.rankBy == "-grade");
    CHECK(after.columns == std::vector<std::string>{"symbol", "grade", "grade * 2"});
    CHECK(names(screen, Renaming::What::Field, "score"));
    CHECK_FALSE(names(after, Renaming::What::Field, "score"));
    CHECK_FALSE(names(screen, Renaming::What::Screen, "score"));
    screen.criteria = {{"score > (50"}}; // what is wrong stays as it is
    CHECK(withRenamed(screen, score).criteria[0].text.find("50") != std::string::npos);
}

} // namespace sieve::screens
