#include "core/library/library.h"

#include "core/library/backups.h"
#include "core/library/lists.h"
#include "core/library/screens.h"
#include "core/library/settings.h"
#include "core/screens/starter.h"
#include "tests/core/made_market.h"

#include <catch2/catch.hpp>
#include <filesystem>
#include <fstream>
#include <unistd.h>

namespace sieve::library {

namespace {

namespace fs = std::filesystem;

class Place {
public:
    Place() : folder_(fs::temp_directory_path() / ("sieve-library-" + std::to_string(getpid())))
    {
        fs::remove_all(folder_);
    }
    ~Place()
    {
        fs::permissions(folder_, fs::perms::owner_all);
        fs::remove_all(folder_);
    }
    Place(const Place&) = delete;
    Place& operator=(const Place&) = delete;
    fs::path file() const { return folder_ / "deep" / "library.sqlite"; }

private:
    fs::path folder_;
};

watchlists::Watchlist harbourNames()
{
    return {7,
            "Harbour names",
            {{"AAAA.C", test::day("2024-05-02"), 12.5, "at \"support\"; wait", "Pullback"},
             {"BBBB.T", test::day("2024-05-03"), missing, "", ""}}};
}

void damage(const fs::path& file)
{
    std::fstream stream(file, std::ios::in | std::ios::out | std::ios::binary);
    stream << "this is no database any more, it has been written over";
}

} // namespace

TEST_CASE("Library: lists, tray, screens and settings come back as they were", "[library]")
{
    const Place place;
    const watchlists::Tray tray(
        {{"AAAA.C", watchlists::Mark::Kept, "Pullback"}, {"BBBB.T", watchlists::Mark::Later, ""}});
    {
        const auto opened = Library::open(place.file());
        CHECK(opened.notice.empty());
        library::saveList(*opened.library, harbourNames());
        library::saveTray(*opened.library, tray);
        for (const screens::Screen& screen : screens::starterScreens())
            library::saveScreen(*opened.library, screen);
        setSetting(*opened.library, "place", "sift");
        setSetting(*opened.library, "place", "lists");
    }
    const auto again = Library::open(place.file());
    CHECK(library::loadTray(*again.library) == tray);
    const auto lists = library::loadLists(*again.library);
    REQUIRE(lists.size() == 1);
    CHECK(lists[0].name == "Harbour names");
    REQUIRE(lists[0].entries.size() == 2);
    CHECK(lists[0].entries[0] == harbourNames().entries[0]);
    CHECK(isMissing(lists[0].entries[1].priceThen));
    CHECK(library::loadScreens(*again.library).screens == screens::starterScreens());
    CHECK(settings(*again.library).at("place") == "lists");
}

TEST_CASE("Library: changes of lists save, remove and bring back", "[library]")
{
    const auto library = Library::inMemory();
    const std::vector<watchlists::Watchlist> none;
    const std::vector<watchlists::Watchlist> one{harbourNames()};
    library::saveChanges(*library, none, one);
    CHECK(library::loadLists(*library).size() == 1);
    library::saveChanges(*library, one, none);
    CHECK(library::loadLists(*library).empty());
    CHECK(library->database().execAndGet("SELECT count(*) FROM watchlist_entry").getInt() == 0);
    library::saveChanges(*library, none, one); // as undo does
    CHECK(library::loadLists(*library)[0].entries.size() == 2);
}

TEST_CASE("Library: a damaged file is kept aside and its backup opened", "[library]")
{
    const Place place;
    {
        const auto opened = Library::open(place.file());
        library::saveList(*opened.library, harbourNames());
        opened.library->backUp();
    }
    damage(place.file());
    const auto again = Library::open(place.file());
    CHECK(again.notice.find("damaged-1") != std::string::npos);
    CHECK(again.notice.find("backup") != std::string::npos);
    CHECK(fs::exists(place.file().string() + ".damaged-1"));
    CHECK(library::loadLists(*again.library).size() == 1);
}

TEST_CASE("Library: damaged without a sound backup, an empty one is begun and nothing deleted",
          "[library]")
{
    const Place place;
    {
        (void)Library::open(place.file());
    }
    for (int time = 1; time <= 2; ++time) {
        damage(place.file());
        damage(backupOf(place.file()));
        const auto again = Library::open(place.file());
        CHECK(again.notice.find("no backup") != std::string::npos);
        CHECK(library::loadLists(*again.library).empty());
        CHECK(fs::exists(place.file().string() + ".damaged-" + std::to_string(time)));
    }
}

TEST_CASE("Library: one of a newer program is refused and left as it is", "[library]")
{
    const Place place;
    {
        const auto opened = Library::open(place.file());
        opened.library->database().exec("PRAGMA user_version = 99");
    }
    CHECK_THROWS_WITH(Library::open(place.file()), Catch::Contains("version 99"));
    SQLite::Database raw(place.file().string());
    CHECK(raw.execAndGet("PRAGMA user_version").getInt() == 99);
}

TEST_CASE("Library: a place that cannot be written is told with its path", "[library]")
{
    CHECK_THROWS_WITH(Library::open("/proc/nowhere/library.sqlite"),
                      Catch::Contains("/proc/nowhere"));
}

TEST_CASE("Library: a backup is written before a migration, however new the last one is",
          "[library]")
{
    const Place place;
    {
        const auto opened = Library::open(place.file());
        setSetting(*opened.library, "place", "sift");
        opened.library->database().exec("DROP TABLE screen_version");
        opened.library->database().exec("PRAGMA user_version = 2");
    }
    REQUIRE_FALSE(isBackupDue(place.file())); // the opening wrote one, without the setting
    const auto opened = Library::open(place.file());
    CHECK(opened.library->database().execAndGet("PRAGMA user_version").getInt() == 3);
    SQLite::Database backup(backupOf(place.file()).string());
    CHECK(backup.execAndGet("PRAGMA user_version").getInt() == 2);
    CHECK(backup.execAndGet("SELECT value FROM setting WHERE key = 'place'").getString() == "sift");
}

} // namespace sieve::library
