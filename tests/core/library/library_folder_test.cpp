#include "core/library/library_folder.h"

#include "core/library/alert_log.h"
#include "core/library/kept_work.h"
#include "core/library/library.h"
#include "core/library/pictures.h"
#include "core/library/schema.h"
#include "core/library/settings.h"
#include "core/library/trials.h"
#include "tests/core/library/made_work.h"
#include "tests/core/made_market.h"
#include "tests/own_folder.h"

#include <algorithm>
#include <catch2/catch.hpp>
#include <map>
#include <random>

namespace sieve::library {

namespace {

using namespace test;
namespace fs = std::filesystem;

/// All files of a folder with their bytes.
std::map<std::string, std::string> filesOf(const OwnFolder& own, const std::string& folder)
{
    std::map<std::string, std::string> files;
    for (const auto& each : fs::recursive_directory_iterator(own.path() / folder))
        if (each.is_regular_file())
            files[fs::relative(each.path(), own.path() / folder).string()] =
                own.read(fs::relative(each.path(), own.path()).string());
    return files;
}

/// All rows of all tables of the work, as SQLite tells them.
std::string rowsOf(Library& library)
{
    std::string all;
    for (const char* table :
         {"watchlist", "entry", "former_entry", "card", "screen", "screen_version", "draft",
          "own_field", "drawing", "verdict", "alert", "raised", "kept_run", "trial", "setting"}) {
        // The positions of own fields may have gaps.
        const bool isField = std::string(table) == "own_field";
        SQLite::Statement rows(library.database(),
                               std::string(isField ? "SELECT name, toml FROM " : "SELECT * FROM ") +
                                   table + " ORDER BY 1" + (isField ? "" : ", 2"));
        while (rows.executeStep()) {
            all += table;
            for (int column = 0; column < rows.getColumnCount(); ++column)
                all += "|" + rows.getColumn(column).getString();
            all += "\n";
        }
    }
    return all;
}

/// Work with texts of every kind in every place.
Work strangeWork()
{
    Work work = richWork();
    watchlists::Watchlist& list = *work.editList(5);
    list.name = "A/B: \"Ruhl\" עברית 🐟 " + std::string(300, 'x');
    const char* const strange[] = {"",       "=1+1",    "'=1",          "''=1",  "'",
                                   "'x",     "-",       "a,b",          "\"q\"", "two\nlines",
                                   "a\r\nb", " blank ", "<b>x</b>",     "עברית", "🐟",
                                   "a;b\tc", "\\",      "## 2025-01-01"};
    for (const char* each : strange) {
        watchlists::Entry entry{"S" + std::to_string(list.entries.size()), day("2024-05-02"),
                                0.1 + 0.2, each, each};
        entry.page.category = each;
        entry.page.tags = {"t", each};
        entry.page.notes = {{day("2024-05-03"), each},
                            {day("2024-05-03"), std::string("first\n") + each},
                            {day("2024-05-04"), std::string(each) + "\n\\## 2025-01-01\n## \n\n"}};
        list.entries.push_back(entry);
        list.former.push_back({entry, day("2024-06-03"), 1e-9, each});
    }
    return work;
}

} // namespace

TEST_CASE("Library folder: all of it goes out and comes back, byte by byte", "[library]")
{
    const OwnFolder own;
    const auto file = own.path() / "library.sqlite";
    {
        const auto opened = Library::open(file);
        Library& library = *opened.library;
        const Work none = loadWork(library).work;
        saveWork(library, none, richWork());
        saveWork(library, loadWork(library).work, strangeWork());
        watchlists::Raised raised;
        raised.alert = 31;
        raised.on = day("2024-06-03");
        raised.words = "reached 12.50";
        addRaised(library, std::span(&raised, 1), "Vellan", day("2024-06-03"));
        noteTrial(library, {"=1+1", "portfolio", "a", day("2024-06-03"), 0.1 + 0.2});
        noteTrial(library, {"two\nlines", "followed", "b", day("2024-06-03")});
        setSetting(library, "place", "lists");
        setSetting(library, "odd key \"x\"", "two\nlines");
        writePicture(file, "abc-1.png", std::string("\x89PNG\0\r\n", 8));
        library.database().exec("INSERT INTO drawing VALUES (900, 'of a later version')");
        library.database().exec("UPDATE entry SET page = 'unreadable' WHERE symbol = 'S7'");
    }
    const auto opened = Library::open(file);
    writeFolder(*opened.library, own.path() / "out");
    const auto back = own.path() / "back" / "library.sqlite";
    fs::create_directories(back.parent_path());
    const auto again = Library::open(back);
    const auto fault = readFolder(*again.library, own.path() / "out");
    INFO((fault ? sentence(*fault) : std::string()));
    REQUIRE_FALSE(fault);
    CHECK(rowsOf(*again.library) == rowsOf(*opened.library));
    writeFolder(*again.library, own.path() / "out2");
    CHECK(filesOf(own, "out2") == filesOf(own, "out"));
    CHECK(own.read("back/library.sqlite.pictures/abc-1.png") ==
          own.read("library.sqlite.pictures/abc-1.png"));
    CHECK(again.library->reserveIds(1) == opened.library->reserveIds(1));
    // What people open first can be read by them.
    CHECK_THAT(own.read("out/lists/002 Quay/entries.csv"),
               Catch::Contains("1,AAAA.C,2024-05-02,12.5,\"at \"\"support\"\"; wait\",Pullback"));
    for (const auto& [name, bytes] : filesOf(own, "out"))
        if (name.starts_with("lists/001 A-B- -Ruhl- עברית 🐟") && name.ends_with("/0001 notes.md"))
            CHECK(bytes == "## 2024-05-03\nTight.\nDry.\n");
}

TEST_CASE("Library folder: a large one", "[library]")
{
    const OwnFolder own;
    Work work = richWork();
    std::mt19937 random(3);
    for (int list = 0; list < 40; ++list) {
        watchlists::Watchlist made = listNamed(100 + list, "List " + std::to_string(list));
        for (int entry = 0; entry < 100; ++entry) {
            made.entries.push_back({"S" + std::to_string(entry), day("2024-05-02"),
                                    static_cast<double>(random()) / 7.0, "why"});
            if (entry % 4 == 0)
                made.entries.back().page = writtenPage();
            if (entry % 5 == 0)
                made.entries.back().plan = plannedAt(5.0 + entry);
        }
        work.lists.emplace_back(std::move(made));
    }
    const auto library = Library::inMemory();
    saveWork(*library, loadWork(*library).work, work);
    writeFolder(*library, own.path() / "out");
    const auto again = Library::inMemory();
    REQUIRE_FALSE(readFolder(*again, own.path() / "out"));
    CHECK(loadWork(*again).work == work);
    writeFolder(*again, own.path() / "out2");
    CHECK(filesOf(own, "out2") == filesOf(own, "out"));
}

TEST_CASE("Library folder: one of the version before is read", "[library]")
{
    const OwnFolder place;
    const auto library = Library::inMemory();
    Work work = richWork();
    work.runs = std::vector<Shared<studies::KeptRun>>(); // nobody could keep any then
    saveWork(*library, loadWork(*library).work, work);
    writeFolder(*library, place.path() / "out");
    std::string head = place.read("out/library.toml");
    const std::string own = "version = " + std::to_string(migrations().size());
    head.replace(head.find(own), own.size(), "version = 8");
    place.write("out/library.toml", head);
    fs::remove(place.path() / "out" / "trials.csv");
    const auto into = Library::inMemory();
    const auto fault = readFolder(*into, place.path() / "out");
    INFO((fault ? sentence(*fault) : std::string()));
    REQUIRE_FALSE(fault);
    CHECK(loadWork(*into).work == work);
}

TEST_CASE("Library folder: what is wrong with one is told, and nothing is taken", "[library]")
{
    const OwnFolder own;
    const auto library = Library::inMemory();
    saveWork(*library, loadWork(*library).work, richWork());
    writeFolder(*library, own.path() / "out");
    CHECK_THROWS_AS(writeFolder(*library, own.path() / "out"), std::system_error); // it is there
    const auto sound = filesOf(own, "out");
    const auto faultWith = [&](const std::string& name, const std::optional<std::string>& text) {
        const std::string kept = sound.contains(name) ? sound.at(name) : std::string();
        if (text)
            own.write("out/" + name, *text);
        else
            fs::remove(own.path() / "out" / name);
        const auto into = Library::inMemory();
        const auto fault = readFolder(*into, own.path() / "out");
        CHECK(loadWork(*into).work.lists.empty());
        own.write("out/" + name, kept);
        return fault ? sentence(*fault) : std::string();
    };
    CHECK_THAT(faultWith("library.toml", std::nullopt),
               Catch::Contains("library.toml: this file is missing"));
    CHECK_THAT(faultWith("library.toml", "version = 99\n"), Catch::Contains("of version 99"));
    CHECK_THAT(faultWith("library.toml", "version = 7\n"), Catch::Contains("of version 7"));
    CHECK_THAT(faultWith("trials.csv", std::nullopt), Catch::Contains("trials.csv"));
    CHECK_THAT(faultWith("lists/001 Harbour names/entries.csv",
                         "number,symbol,added_on,price_then,reason,source\n1,A,soon,,,\n"),
               Catch::Contains("“soon” is no day"));
    CHECK_THAT(faultWith("lists/001 Harbour names/entries.csv",
                         "number,symbol,added_on,price_then,reason,source\n1,A\n"),
               Catch::Contains("2 cells in place of 6") && Catch::Contains("Line 2"));
    CHECK_THAT(faultWith("lists/001 Harbour names/0001 notes.md", "no head\n"),
               Catch::Contains("0001 notes.md: each note begins"));
    CHECK_THAT(faultWith("screens.csv", "id,name\nx,y\n"), Catch::Contains("“x” is no number"));
    CHECK_THAT(faultWith("screens/9.toml", std::nullopt), Catch::Contains("screens/9.toml"));
    const auto into = Library::inMemory();
    CHECK_FALSE(readFolder(*into, own.path() / "out"));
}

} // namespace sieve::library
