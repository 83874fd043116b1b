#include "core/screens/comparison.h"

#include <catch2/catch.hpp>

namespace sieve::screens {

namespace {

using enum Difference::What;

Screen withCriteria(std::vector<std::string> texts)
{
    Screen screen;
    screen.name = "Own";
    for (std::string& text : texts)
        screen.criteria.push_back({std::move(text)});
    return screen;
}

} // namespace

TEST_CASE("Comparison: a screen does not differ from itself", "[screens]")
{
    CHECK(differences(withCriteria({"a > 1", "b"}), withCriteria({"a > 1", "b"})).empty());
}

TEST_CASE("Comparison: each part is told with what it was", "[screens]")
{
    Screen before = withCriteria({"close > 5"});
    before.rankBy = "rsi_14";
    Screen after = before;
    after.name = "Other";
    after.folder = "Dips";
    after.side = ScreenSide::Short;
    after.tags = {"trend", "weekly"};
    after.rankBy.clear();
    after.keep = 20;
    CHECK(differences(before, after) == std::vector<Difference>{
                                            {Changed, "name", "Own", "Other"},
                                            {Added, "folder", "", "Dips"},
                                            {Changed, "side", "long", "short"},
                                            {Added, "tags", "", "trend, weekly"},
                                            {Removed, "rank", "rsi_14", ""},
                                            {Changed, "kept", "all", "the best 20"},
                                        });
}

TEST_CASE("Comparison: criteria belong together by words, then by numbers, then by place",
          "[screens]")
{
    const Screen before = withCriteria({"close > 5", "rsi(close, 14) <= 65", "volume > 1M"});
    SECTION("a number moved, though another criterion stands before it now")
    {
        const Screen after =
            withCriteria({"known(eps)", "close > 5", "rsi(close, 14) <= 60", "volume > 1M"});
        CHECK(differences(before, after) ==
              std::vector<Difference>{
                  {Added, "criterion", "", "known(eps)"},
                  {Changed, "criterion", "rsi(close, 14) <= 65", "rsi(close, 14) <= 60"}});
    }
    SECTION("words changed between the same neighbours")
    {
        const Screen after = withCriteria({"close > 5", "strength_126 >= 60", "volume > 1M"});
        CHECK(differences(before, after) ==
              std::vector<Difference>{
                  {Changed, "criterion", "rsi(close, 14) <= 65", "strength_126 >= 60"}});
    }
    SECTION("one was taken away")
    {
        const Screen after = withCriteria({"close > 5", "volume > 1M"});
        CHECK(differences(before, after) ==
              std::vector<Difference>{{Removed, "criterion", "rsi(close, 14) <= 65", ""}});
    }
    SECTION("one is off, one has a comment")
    {
        Screen after = before;
        after.criteria[0].isOn = false;
        after.criteria[2].comment = "so that I can sell";
        CHECK(differences(before, after) ==
              std::vector<Difference>{{Changed, "criterion", "close > 5", "close > 5 (off)"},
                                      {Added, "comment", "", "so that I can sell"}});
    }
    SECTION("another order")
    {
        const Screen after = withCriteria({"volume > 1M", "close > 5", "rsi(close, 14) <= 65"});
        const auto found = differences(before, after);
        REQUIRE(found.size() == 1);
        CHECK(found[0].part == "order");
    }
    SECTION("all of it is another")
    {
        CHECK(differences(before, withCriteria({})).size() == 3);
        CHECK(differences(withCriteria({}), before).size() == 3);
    }
}

} // namespace sieve::screens
