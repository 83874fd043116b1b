#include "core/screens/universe.h"

#include "tests/core/made_market.h"

#include <catch2/catch.hpp>

namespace sieve::screens {

TEST_CASE("Universe: every choice is a condition, put in and taken out again", "[screens]")
{
    const auto market = test::marketOf(test::eventfulRecords(), "S100");
    NameBook book;
    book.lists["Quay"] = std::make_shared<const engine::ListMembers>();
    book.lists["a \"quoted\" one"] = std::make_shared<const engine::ListMembers>();
    const auto all = universeChoices(*market, book);
    CHECK(all.size() > 20);
    std::map<std::string, std::size_t> groups;
    for (const UniverseChoice& choice : all)
        ++groups[choice.group];
    CHECK(groups["Kind"] == 5);
    CHECK(groups["Close at least"] == 4);
    CHECK(groups["Traded a day at least"] == 5);
    CHECK(groups["Listed at least"] == 4);
    CHECK(groups["Free float at least"] == 3);
    CHECK(groups["Only"] == 2);
    for (const UniverseChoice& choice : all) {
        INFO(choice.condition);
        engine::Plan plan;
        const auto checked = checkCondition(choice.condition, book.names(), plan);
        REQUIRE(checked);
        CHECK(checked->warnings.empty());
        const std::string with = withChoice("volume > 5", choice, all);
        CHECK(holdsCondition(with, choice.condition));
        CHECK(holdsCondition(with, "volume > 5"));
        CHECK(withChoice(with, choice, all) == "volume > 5");
        CHECK(withChoice("", choice, all) == choice.condition);
        CHECK(withChoice(choice.condition, choice, all).empty());
    }
}

TEST_CASE("Universe: of one group one stands, whatever else is said stays", "[screens]")
{
    const std::vector<UniverseChoice> all{{"Close at least", "1", "close >= 1"},
                                          {"Close at least", "5", "close >= 5"},
                                          {"Only", "With options", "optionable", false},
                                          {"Only", "Short", "shortable", false}};
    CHECK(withChoice("close >= 1 and kind == \"share\"", all[1], all) ==
          "kind == \"share\" and close >= 5");
    CHECK(withChoice("optionable", all[3], all) == "optionable and shortable");
    CHECK(withChoice("a > 1 or b > 2", all[0], all) == "(a > 1 or b > 2) and close >= 1");
    CHECK(withChoice("close >", all[0], all) == "close >"); // a mistake is the person's to mend
    CHECK_FALSE(holdsCondition("close >= 15", "close >= 1"));
}

} // namespace sieve::screens
