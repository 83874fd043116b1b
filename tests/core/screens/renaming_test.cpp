#include "core/screens/renaming.h"

#include <catch2/catch.hpp>

namespace sieve::screens {

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
    const Screen after = withFieldRenamed(screen, "score", "grade");
    CHECK(after.name == "score");
    CHECK(after.purpose == "score above 50");
    CHECK(after.universe == "grade > 0");
    CHECK(after.criteria[0].text == "grade > 50 and close > grade");
    CHECK(after.criteria[1].text == "sector == \"score\"");
    CHECK(after.rankBy == "-grade");
    CHECK(after.columns == std::vector<std::string>{"symbol", "grade", "grade * 2"});
    CHECK(namesField(screen, "score"));
    CHECK_FALSE(namesField(after, "score"));
    screen.criteria = {{"score > (50"}}; // what is wrong stays as it is
    CHECK(withFieldRenamed(screen, "score", "grade").criteria[0].text.find("50") !=
          std::string::npos);
}

} // namespace sieve::screens
