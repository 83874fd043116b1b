#include "core/library/screens.h"

#include "tests/core/made_market.h"
#include "tests/own_folder.h"

#include <catch2/catch.hpp>

namespace sieve::library {

TEST_CASE("Library: a screen keeps what it was, through changes, another name and removal",
          "[library]")
{
    const auto opened = Library::inMemory();
    Library& library = *opened;
    screens::Screen screen;
    screen.name = "Dips";
    screen.folder = "Trend/Weekly";
    screen.criteria = {{"close > 5"}};
    saveScreen(library, screen);
    saveScreen(library, screen); // the same again is no version
    const screens::Screen first = screen;
    screen.criteria[0].text = "close > 8";
    saveScreen(library, screen);
    auto versions = versionsOf(library, "Dips");
    REQUIRE(versions.size() == 2);
    CHECK(versions[0].screen == screen);
    CHECK(versions[1].screen == first);
    CHECK(versions[0].savedAt.size() == std::string("2026-11-25 11:20:03").size());

    screen.name = "Deep dips";
    renameScreen(library, "Dips", screen);
    CHECK(versionsOf(library, "Dips").empty());
    CHECK(versionsOf(library, "Deep dips").size() == 3); // the name is a change of its own
    CHECK(loadScreens(library).screens == std::vector{screen});

    CHECK(removedScreens(library).empty());
    removeScreen(library, "Deep dips");
    CHECK(loadScreens(library).screens.empty());
    CHECK(removedScreens(library) == std::vector<std::string>{"Deep dips"});
    versions = versionsOf(library, "Deep dips");
    REQUIRE(versions.size() == 3);
    saveScreen(library, versions[0].screen); // brought back
    CHECK(removedScreens(library).empty());
    CHECK(loadScreens(library).screens == std::vector{screen});
}

TEST_CASE("Library: a screen that no longer reads is told of and stays", "[library]")
{
    const auto opened = Library::inMemory();
    Library& library = *opened;
    screens::Screen screen;
    screen.name = "Dips";
    saveScreen(library, screen);
    library.database().exec("INSERT INTO screen (name, toml) VALUES ('Of later', 'name = 3')");
    const LoadedScreens loaded = loadScreens(library);
    CHECK(loaded.screens.size() == 1);
    REQUIRE(loaded.problems.size() == 1);
    CHECK(sentence(loaded.problems[0]).find("“Of later”") != std::string::npos);
    saveScreen(library, screen);
    CHECK(library.database().execAndGet("SELECT count(*) FROM screen").getInt() == 2);
}

TEST_CASE("Library: one of the version before is brought up with its screens as first versions",
          "[library]")
{
    const test::OwnFolder own;
    const auto file = own.path() / "library.sqlite";
    screens::Screen screen;
    screen.name = "Dips";
    {
        const auto opened = Library::open(file);
        saveScreen(*opened.library, screen);
        opened.library->database().exec("DROP TABLE screen_version; PRAGMA user_version = 2");
    }
    const auto opened = Library::open(file);
    REQUIRE(versionsOf(*opened.library, "Dips").size() == 1);
    CHECK(versionsOf(*opened.library, "Dips")[0].screen == screen);
}

} // namespace sieve::library
