#include "core/library/library.h"

#include "core/library/backups.h"
#include "core/library/kept_work.h"
#include "core/library/schema.h"
#include "core/library/settings.h"
#include "tests/core/made_market.h"
#include "tests/own_folder.h"

#include <algorithm>
#include <catch2/catch.hpp>
#include <filesystem>
#include <fstream>
#include <sys/wait.h>
#include <unistd.h>

namespace sieve::library {

namespace {

namespace fs = std::filesystem;

using test::OwnFolder;

fs::path fileIn(const OwnFolder& own)
{
    return own.path() / "deep" / "library.sqlite";
}

watchlists::Watchlist harbourNames()
{
    return {7,
            "Harbour names",
            {{"AAAA.C", test::day("2024-05-02"), 12.5, "at \"support\"; wait", "Pullback"},
             {"BBBB.T", test::day("2024-05-03"), missing, "", ""}},
            {}};
}

Work oneList()
{
    Work work;
    work.lists.emplace_back(harbourNames());
    return work;
}

void keep(const fs::path& file, const Work& work)
{
    const auto opened = Library::open(file);
    saveWork(*opened.library, loadWork(*opened.library).work, work);
}

void damage(const fs::path& file)
{
    std::fstream stream(file, std::ios::in | std::ios::out | std::ios::binary);
    stream << "this is no database any more, it has been written over";
}

} // namespace

TEST_CASE("Library: a damaged file is kept aside and its backup opened", "[library]")
{
    const OwnFolder own;
    const fs::path file = fileIn(own);
    keep(file, oneList());
    Library::open(file).library->backUp();
    damage(file);
    const auto again = Library::open(file);
    CHECK(again.notice.find("damaged-1") != std::string::npos);
    CHECK(again.notice.find("Its backup of 20") != std::string::npos);
    CHECK(fs::exists(file.string() + ".damaged-1"));
    CHECK(loadWork(*again.library).work.lists.size() == 1);
}

TEST_CASE("Library: damaged without a sound backup, an empty one is begun and nothing deleted",
          "[library]")
{
    const OwnFolder own;
    const fs::path file = fileIn(own);
    keep(file, oneList());
    for (int time = 1; time <= 2; ++time) {
        damage(file);
        for (const Backup& backup : backupsOf(file))
            damage(backup.file);
        const auto again = Library::open(file);
        CHECK(again.notice.find("no backup") != std::string::npos);
        CHECK(loadWork(*again.library).work.lists.empty());
        CHECK(fs::exists(file.string() + ".damaged-" + std::to_string(time)));
    }
}

TEST_CASE("Library: a missing or emptied file is restored from its newest sound backup",
          "[library]")
{
    const OwnFolder own;
    const fs::path file = fileIn(own);
    keep(file, oneList());
    Library::open(file).library->backUp();
    const std::vector<Backup> before = backupsOf(file);
    REQUIRE(before.size() == 2); // of the first opening, and the one asked for
    SECTION("missing, its log left")
    {
        fs::remove(file);
        std::ofstream(file.string() + "-wal") << "of another time";
    }
    SECTION("emptied")
    {
        fs::resize_file(file, 0);
    }
    SECTION("missing, and the newest backup damaged")
    {
        Library::open(file).library->backUp();
        fs::remove(file);
        damage(backupsOf(file).front().file);
    }
    const auto again = Library::open(file);
    CHECK(again.notice.find("was missing") != std::string::npos);
    CHECK(*loadWork(*again.library).work.lists.at(0) == harbourNames());
    for (const Backup& backup : before) // none was written over by the opening
        CHECK(fs::exists(backup.file));
}

TEST_CASE("Library: missing, with backups that cannot be read, it says so", "[library]")
{
    const OwnFolder own;
    const fs::path file = fileIn(own);
    keep(file, oneList());
    fs::remove(file);
    for (const Backup& backup : backupsOf(file))
        damage(backup.file);
    CHECK(Library::open(file).notice.find("none of its backups can be read") != std::string::npos);
    CHECK(backupsOf("").empty());
}

TEST_CASE("Library: where nothing can be written the work is shown and can be edited", "[library]")
{
    const auto library = Library::inMemory();
    const std::int64_t first = library->idsForSession();
    library->database().exec("CREATE TRIGGER full BEFORE UPDATE ON next_id "
                             "BEGIN SELECT RAISE(ABORT, 'database or disk is full'); END");
    CHECK_THROWS(library->reserveIds(1));
    CHECK(library->idsForSession() > first);
}

TEST_CASE("Library: ten backups are kept, in their order whatever the clock says", "[library]")
{
    const OwnFolder own;
    const fs::path file = fileIn(own);
    const auto opened = Library::open(file);
    REQUIRE(backupsOf(file).size() == 1);
    CHECK(backupsOf(file)[0].why == "daily");
    CHECK_FALSE(isBackupDue(file));
    const fs::path daily = backupsOf(file)[0].file;
    fs::rename(daily,
               daily.parent_path() / "0001-2031-05-06-0708-daily.sqlite"); // a clock set back
    CHECK(isBackupDue(file));
    for (int i = 0; i < 10; ++i)
        opened.library->backUp();
    const std::vector<Backup> backups = backupsOf(file);
    REQUIRE(backups.size() == backupsKept);
    CHECK(backups.front().number == 11);
    CHECK(backups.back().number == 2);
    CHECK(std::ranges::all_of(backups, [](const Backup& each) { return each.why == "asked"; }));
    std::ofstream(backups[0].file.parent_path() / "notes.txt") << "a file of the person's own";
    CHECK(backupsOf(file).size() == backupsKept);
}

TEST_CASE("Library: the one backup of a former version counts as the oldest", "[library]")
{
    const OwnFolder own;
    const fs::path file = fileIn(own);
    keep(file, oneList());
    Library::open(file).library->backUp();
    fs::copy_file(backupsOf(file)[0].file, file.string() + ".backup");
    fs::remove_all(file.string() + ".backups");
    fs::remove(file);
    const auto again = Library::open(file);
    CHECK(again.notice.find("was missing") != std::string::npos);
    CHECK(loadWork(*again.library).work.lists.size() == 1);
    CHECK(backupsOf(file).back().why == "former");
}

TEST_CASE("Library: a backup that cannot be written is told, and the library opens", "[library]")
{
    const OwnFolder own;
    const fs::path file = fileIn(own);
    fs::create_directories(file.parent_path());
    std::ofstream(file.string() + ".backups") << "a file where the folder would be";
    const auto opened = Library::open(file);
    CHECK(opened.notice.find("No backup could be written") != std::string::npos);
    CHECK_FALSE(opened.isReadOnly);
}

TEST_CASE("Library: one of a newer program is refused and left as it is", "[library]")
{
    const OwnFolder own;
    const fs::path file = fileIn(own);
    Library::open(file).library->database().exec("PRAGMA user_version = 99");
    CHECK_THROWS_WITH(Library::open(file), Catch::Contains("version 99"));
    SQLite::Database raw(file.string());
    CHECK(raw.execAndGet("PRAGMA user_version").getInt() == 99);
}

TEST_CASE("Library: a place that cannot be written is told with its path", "[library]")
{
    CHECK_THROWS_WITH(Library::open("/proc/nowhere/library.sqlite"),
                      Catch::Contains("/proc/nowhere"));
}

TEST_CASE("Library: who comes second reads what is there and changes nothing", "[library]")
{
    const OwnFolder own;
    const fs::path file = fileIn(own);
    const auto first = Library::open(file);
    saveWork(*first.library, {}, oneList());
    {
        const auto second = Library::open(file);
        CHECK(second.isReadOnly);
        CHECK(second.notice.find("another Wise Sieve (process ") != std::string::npos);
        CHECK(*loadWork(*second.library).work.lists.at(0) == harbourNames());
        saveWork(*second.library, oneList(), {});
    }
    CHECK(loadWork(*first.library).work.lists.size() == 1);
}

TEST_CASE("Library: what a killed program held is free, and what it saved is there", "[library]")
{
    const OwnFolder own;
    const fs::path file = fileIn(own);
    fs::create_directories(file.parent_path());
    const pid_t child = fork();
    REQUIRE(child >= 0);
    if (child == 0) {
        const auto opened = Library::open(file);
        saveWork(*opened.library, {}, oneList());
        kill(getpid(), SIGKILL);
    }
    int status = 0;
    REQUIRE(waitpid(child, &status, 0) == child);
    CHECK(WIFSIGNALED(status));
    const auto opened = Library::open(file);
    CHECK_FALSE(opened.isReadOnly);
    CHECK(opened.notice.empty());
    CHECK(loadWork(*opened.library).work.lists.size() == 1);
}

TEST_CASE("Library: numbers of things are given once", "[library]")
{
    const OwnFolder own;
    const fs::path file = fileIn(own);
    std::int64_t first = 0;
    {
        const auto opened = Library::open(file);
        first = opened.library->reserveIds(10);
        CHECK(opened.library->reserveIds(1) == first + 10);
    }
    CHECK(Library::open(file).library->reserveIds(5) == first + 11);
}

TEST_CASE("Library: a transaction that fails in its middle leaves nothing behind", "[library]")
{
    const auto library = Library::inMemory();
    saveWork(*library, {}, oneList());
    library->database().exec("CREATE TRIGGER fails BEFORE INSERT ON setting "
                             "BEGIN SELECT RAISE(ABORT, 'disk full'); END");
    Work after;
    after.lists.emplace_back(watchlists::Watchlist{8, "Others", {}, {}});
    after.screen.edit().name = "Mine"; // saved after the lists
    CHECK_THROWS_WITH(saveWork(*library, oneList(), after), Catch::Contains("disk full"));
    CHECK(loadWork(*library).work.lists == oneList().lists);
    library->database().exec("DROP TRIGGER fails");
    saveWork(*library, oneList(), after); // and it can be tried again
    CHECK(loadWork(*library).work == after);
}

TEST_CASE("Library: an unreadable text is kept once as a file", "[library]")
{
    const OwnFolder own;
    const auto opened = Library::open(fileIn(own));
    const fs::path first = opened.library->setAside("market_book", "what is this");
    CHECK(opened.library->setAside("market_book", "what is this") == first);
    const fs::path second = opened.library->setAside("market_book", "and this");
    CHECK(second != first);
    std::ifstream file(first);
    std::string text;
    std::getline(file, text);
    CHECK(text == "what is this");
    CHECK(Library::inMemory()->setAside("market_book", "x").empty());
}

namespace {

Work twoLists()
{
    Work work = oneList();
    work.lists.emplace_back(watchlists::Watchlist{9, "Hills", {}, {}});
    return work;
}

/// An open library with one list, in a folder of its own.
struct OpenLibrary {
    OpenLibrary() : library(std::move(Library::open(file).library))
    {
        saveWork(*library, {}, oneList());
    }
    /// What a saving says against; empty when it is done.
    std::string fault(const Work& before, const Work& after) const
    {
        try {
            saveWork(*library, before, after);
        } catch (const std::exception& thrown) {
            return thrown.what();
        }
        return {};
    }

    OwnFolder own;
    fs::path file = fileIn(own);
    std::unique_ptr<Library> library;
};

} // namespace

TEST_CASE("Library: a file that is deleted under the program is written anew by the next edit",
          "[library]")
{
    OpenLibrary open;
    const fs::path& file = open.file;
    for (const char* ending : {"", "-wal", "-shm", ".lock"})
        fs::remove(file.string() + ending);
    CHECK(open.fault(oneList(), twoLists()).empty());
    CHECK(loadWork(*Library::copyOf(file)).work.lists.size() == 2);
    CHECK(Library::open(file).isReadOnly); // it is held still
    fs::remove(file);                      // without its logs, which are of no use to a new one
    CHECK(open.fault(twoLists(), oneList()).empty());
    CHECK(loadWork(*Library::copyOf(file)).work.lists.size() == 1);
    CHECK_FALSE(fs::exists(file.string() + ".new"));
    open.library.reset();
    CHECK(loadWork(*Library::open(file).library).work.lists.size() == 1);
}

TEST_CASE("Library: a folder that is moved away is told, and saved to when it is back", "[library]")
{
    const OpenLibrary open;
    const fs::path folder = open.file.parent_path();
    const fs::path away = open.own.path() / "away";
    fs::rename(folder, away);
    CHECK(open.fault(oneList(), twoLists()).find("folder is not there") != std::string::npos);
    CHECK(loadWork(*Library::copyOf(away / "library.sqlite")).work.lists.size() == 1);
    fs::rename(away, folder);
    CHECK(open.fault(oneList(), twoLists()).empty());
    CHECK(loadWork(*Library::copyOf(open.file)).work.lists.size() == 2);

    fs::remove_all(folder);
    CHECK(open.fault(twoLists(), oneList()).find("folder is not there") != std::string::npos);
    fs::create_directories(folder);
    CHECK(open.fault(twoLists(), oneList()).empty());
    CHECK(loadWork(*Library::copyOf(open.file)).work.lists.size() == 1);
}

TEST_CASE("Library: another file in its place is left as it is", "[library]")
{
    const OpenLibrary open;
    const fs::path away = open.own.path() / "away.sqlite";
    fs::rename(open.file, away);
    std::ofstream(open.file) << "of somebody else";
    CHECK(open.fault(oneList(), twoLists()).find("another file") != std::string::npos);
    CHECK(fs::file_size(open.file) == 16);
    fs::rename(away, open.file);
    CHECK(open.fault(oneList(), twoLists()).empty());
    CHECK(loadWork(*Library::copyOf(open.file)).work.lists.size() == 2);
}

TEST_CASE("Library: written anew and killed before it took its place, it is opened", "[library]")
{
    OpenLibrary open;
    CHECK(open.fault(oneList(), twoLists()).empty());
    open.library.reset();
    fs::rename(open.file, open.file.string() + ".new");
    std::ofstream(open.file.string() + "-wal") << "of the file that is gone";
    const Library::Opened opened = Library::open(open.file);
    CHECK(opened.notice.find("nothing is lost") != std::string::npos);
    CHECK(loadWork(*opened.library).work.lists.size() == 2);
    CHECK_FALSE(fs::exists(open.file.string() + ".new"));
}

TEST_CASE("Library: a part of a copy that a kill left is not taken for the library", "[library]")
{
    const OwnFolder own;
    const auto file = own.path() / "library.sqlite";
    {
        const auto opened = Library::open(file);
        setSetting(*opened.library, "place", "lists");
        opened.library->backUp();
    }
    const std::string whole = own.read("library.sqlite");
    for (const std::size_t bytes : {std::size_t{0}, std::size_t{100}, whole.size() / 2}) {
        INFO(bytes << " bytes");
        for (const char* ending : {".new", ".part"}) { // as former versions called it, as now
            std::filesystem::remove(file);
            std::ofstream(file.string() + ending, std::ios::binary) << whole.substr(0, bytes);
            const auto opened = Library::open(file);
            CHECK(opened.notice.find("Its backup of") != std::string::npos);
            CHECK(setting(*opened.library, "place") == "lists");
        }
    }
}

TEST_CASE("Library: where a deleted file cannot be written anew nothing is lost", "[library]")
{
    const OpenLibrary open;
    for (const char* ending : {"", "-wal", "-shm"})
        fs::remove(open.file.string() + ending);
    fs::create_directory(open.file.string() + ".new"); // in the way of the copy
    std::ofstream(open.file.string() + ".new/full") << "x";
    CHECK_FALSE(open.fault(oneList(), twoLists()).empty());
    fs::remove_all(open.file.string() + ".new");
    CHECK(open.fault(oneList(), twoLists()).empty());
    CHECK(loadWork(*Library::copyOf(open.file)).work.lists.size() == 2);
}

TEST_CASE("Library: deleted, and taken by another program, it is not written anew", "[library]")
{
    const OpenLibrary open;
    for (const char* ending : {"", "-wal", "-shm", ".lock"})
        fs::remove(open.file.string() + ending);
    auto other = LibraryLock::tryHold(open.file); // a program that has not made its file yet
    REQUIRE(other);
    CHECK(open.fault(oneList(), twoLists()).find("another Wise Sieve") != std::string::npos);
    CHECK_FALSE(fs::exists(open.file));
    other.reset();
    CHECK(open.fault(oneList(), twoLists()).empty());
    CHECK(loadWork(*Library::copyOf(open.file)).work.lists.size() == 2);
}

} // namespace sieve::library
