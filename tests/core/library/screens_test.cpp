#include "core/library/screens.h"

#include "core/library/kept_work.h"
#include "core/library/library.h"

#include <catch2/catch.hpp>

namespace sieve::library {

TEST_CASE("Library: a screen keeps what it was, through changes, another name and removal",
          "[library]")
{
    const auto opened = Library::inMemory();
    Library& library = *opened;
    Work now = loadWork(library).work;
    const auto save = [&](auto change) {
        const Work before = now;
        change(now);
        saveWork(library, before, now);
    };
    screens::Screen screen;
    screen.name = "Dips";
    screen.folder = "Trend/Weekly";
    screen.criteria = {{"close > 5"}};
    save([&](Work& work) { keepScreen(work, screen, 1); });
    save([&](Work& work) { keepScreen(work, screen, 2); }); // the same again is no version
    const screens::Screen first = screen;
    screen.criteria[0].text = "close > 8";
    save([&](Work& work) { keepScreen(work, screen, 3); });
    auto versions = versionsOf(library, "Dips");
    REQUIRE(versions.size() == 2);
    CHECK(versions[0].screen == screen);
    CHECK(versions[1].screen == first);
    CHECK(versions[0].savedAt.size() == std::string("2026-11-25 11:20:03").size());

    screen.name = "Deep dips";
    save([&](Work& work) { renameScreen(work, "Dips", screen); });
    CHECK(versionsOf(library, "Dips").empty());
    CHECK(versionsOf(library, "Deep dips").size() == 3); // the name is a change of its own
    REQUIRE(loadScreens(library).screens.size() == 1);
    CHECK(loadScreens(library).screens[0]->screen == screen);

    CHECK(removedScreens(library).empty());
    save([&](Work& work) { removeScreen(work, "Deep dips"); });
    CHECK(loadScreens(library).screens.empty());
    CHECK(removedScreens(library) == std::vector<std::string>{"Deep dips"});
    versions = versionsOf(library, "Deep dips");
    REQUIRE(versions.size() == 3);
    save([&](Work& work) { keepScreen(work, versions[0].screen, 4); }); // brought back
    CHECK(removedScreens(library).empty());
    CHECK(loadScreens(library).screens[0]->screen == screen);
}

} // namespace sieve::library
