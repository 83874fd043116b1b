#include "core/library/alert_log.h"
#include "core/library/backups.h"
#include "core/library/history.h"
#include "core/library/kept_work.h"
#include "core/library/library.h"
#include "core/library/pictures.h"
#include "core/library/schema.h"
#include "core/library/screens.h"
#include "core/library/settings.h"
#include "tests/core/made_market.h"
#include "tests/own_folder.h"

#include <algorithm>
#include <catch2/catch.hpp>
#include <chrono>
#include <cstdlib>
#include <random>
#include <sys/wait.h>
#include <thread>
#include <unistd.h>

// A program that is killed at any moment loses nothing that it was told to be saved. SIEVE_KILLS
// says how often (tools/check-long: a thousand times).

namespace sieve::library {

namespace {

using test::OwnFolder;

int killsWanted()
{
    const char* wanted = std::getenv("SIEVE_KILLS");
    return wanted ? std::atoi(wanted) : 20;
}

std::string pictureOf(int edits)
{
    return "edit-" + std::to_string(edits % 40) + ".png";
}

/// The work after so many edits: each edit touches several kinds at once, as a person's do.
Work workAfter(int edits)
{
    Work work;
    const Day day = test::day("2024-05-02").plusDays(edits % 300);
    for (int list = 0; list < 5; ++list) {
        watchlists::Watchlist made{list + 1, "List " + std::to_string(list), {}, {}};
        for (int entry = 0; entry < 20; ++entry) {
            const int number = edits * 5 + list + entry;
            made.entries.push_back({"S" + std::to_string(number % 500), day, number * 0.25,
                                    "edit " + std::to_string(edits), "kill"});
        }
        watchlists::Entry& first = made.entries.front();
        first.page.notes = {{day, "edit " + std::to_string(edits)}};
        first.page.picture = pictureOf(edits);
        first.plan = watchlists::TradePlan{day, 10.0 + edits, 9.0 + edits};
        if (edits % 3 == list % 3)
            made.former.push_back({made.entries[0], day, 1.5, "left"});
        work.lists.emplace_back(std::move(made));
    }
    watchlists::Tray tray;
    tray.add({{"S" + std::to_string(edits), day, watchlists::Mark::Kept, "kill", "why"}});
    work.tray = tray;
    screens::Screen screen;
    screen.name = "Edit " + std::to_string(edits);
    screen.criteria = {{"close > " + std::to_string(edits)}};
    work.screen = screen;
    work.screens = {KeptScreen{1, screen}};
    watchlists::Alert alert;
    alert.id = 1 + edits % 50;
    alert.rule = "close > " + std::to_string(edits);
    alert.since = day;
    keepAlert(work, alert);
    return work;
}

/// Edits on from the number that the work bears, and tells each that is saved.
[[noreturn]] void editForEver(const std::filesystem::path& file, int tellTo)
{
    try {
        const auto opened = Library::open(file);
        Work now = loadWork(*opened.library).work;
        int edits = now.tray->isEmpty() ? 0 : std::stoi(now.tray->cards()[0].symbol.substr(1));
        for (;;) {
            ++edits;
            Work next = workAfter(edits);
            writePicture(file, pictureOf(edits), std::string(20'000, 'p'));
            const StepMade step{StepMade::Kind::New, std::to_string(edits), "lists"};
            saveSteps(*opened.library, now, next, std::span(&step, 1));
            now = std::move(next);
            watchlists::Raised raised;
            raised.alert = 1;
            raised.on = test::day("2024-05-02");
            raised.words = std::to_string(edits);
            addRaised(*opened.library, std::span(&raised, 1), "Vellan", raised.on);
            if (::write(tellTo, &edits, sizeof edits) != sizeof edits)
                std::_Exit(1);
            if (edits % 7 == 0)
                opened.library->backUp();
        }
    } catch (const std::exception&) {
        std::_Exit(2);
    }
}

/// Lets a child run `work(pipe)` until it has told so many numbers and so long thereafter, kills
/// it, and gives the last number that it told. The moment is counted from what the child did, not
/// from its start: how long it takes to begin differs by the machine.
template <class Run> int lastToldBefore(int numbers, std::chrono::microseconds after, Run run)
{
    int ends[2];
    REQUIRE(pipe(ends) == 0);
    const pid_t child = fork();
    REQUIRE(child >= 0);
    if (child == 0) {
        ::close(ends[0]);
        run(ends[1]);
        std::_Exit(0);
    }
    ::close(ends[1]);
    int told = 0;
    const auto read = [&](int& next) { return ::read(ends[0], &next, sizeof next) == sizeof next; };
    for (int next = 0; numbers > 0 && read(next); --numbers)
        told = next;
    std::this_thread::sleep_for(after);
    ::kill(child, SIGKILL);
    for (int next = 0; read(next);)
        told = next;
    ::close(ends[0]);
    int status = 0;
    REQUIRE(waitpid(child, &status, 0) == child);
    CHECK((WIFSIGNALED(status) || WEXITSTATUS(status) == 0));
    return told;
}

} // namespace

TEST_CASE("Library: killed at any moment of editing it loses nothing that was saved", "[library]")
{
    const OwnFolder own;
    const auto file = own.path() / "library.sqlite";
    std::mt19937 random(19);
    std::uniform_int_distribution<int> edits(0, 8);
    std::uniform_int_distribution<int> wait(0, 20'000); // microseconds
    int saved = 0;
    for (int time = 0; time < killsWanted(); ++time) {
        const int told = lastToldBefore(edits(random), std::chrono::microseconds(wait(random)),
                                        [&](int tellTo) { editForEver(file, tellTo); });
        saved = std::max(saved, told);
        const auto opened = Library::open(file);
        REQUIRE_FALSE(opened.isReadOnly);
        REQUIRE(opened.notice.empty());
        REQUIRE(opened.library->database().execAndGet("PRAGMA integrity_check").getString() ==
                "ok");
        const Work work = loadWork(*opened.library).work;
        if (work.tray->isEmpty()) {
            REQUIRE(saved == 0);
            continue;
        }
        // All of one edit, and none that comes before the last that was told.
        const int found = std::stoi(work.tray->cards()[0].symbol.substr(1));
        REQUIRE(found >= saved);
        const Work whole = workAfter(found);
        REQUIRE(work.lists == whole.lists);
        REQUIRE(*work.alerts == *whole.alerts);
        REQUIRE(std::filesystem::file_size(picturePath(file, pictureOf(found))) == 20'000);
        // What alerts told is written after the edit, before it is told saved.
        const auto log = alertLog(*opened.library).raised;
        REQUIRE((told == 0 ||
                 std::ranges::count(log, std::to_string(told), &watchlists::Raised::words) == 1));
        // The way back is whole.
        const auto steps = pastSteps(*Library::copyOf(file), work, 3);
        REQUIRE(steps.size() == static_cast<std::size_t>(std::min(found, 3)));
        if (found > 1)
            REQUIRE(steps.back().step.undone(work).lists == workAfter(found - 1).lists);
        REQUIRE(work.screens == whole.screens);
        REQUIRE(*work.screen == *whole.screen);
        saved = found;
    }
    CHECK(saved > 0);
    for (const Backup& backup : backupsOf(file))
        CHECK(isSound(backup.file));
}

TEST_CASE("Library: killed while it is brought up, backed up or restored, it is whole again next",
          "[library]")
{
    const OwnFolder own;
    const auto former = own.path() / "former.sqlite";
    {
        SQLite::Database made(former.string(), SQLite::OPEN_READWRITE | SQLite::OPEN_CREATE);
        for (std::size_t step = 0; step < 3; ++step)
            made.exec(migrations()[step]);
        made.exec("PRAGMA user_version = 3");
        SQLite::Transaction transaction(made);
        for (int list = 1; list <= 50; ++list) {
            const std::string id = std::to_string(list);
            made.exec("INSERT INTO watchlist VALUES (" + id + ", 'List " + id + "', " + id + ")");
            for (int entry = 0; entry < 40; ++entry)
                made.exec("INSERT INTO watchlist_entry VALUES (" + id + ", 'S" +
                          std::to_string(entry) + "', 19000, 1.5, 'why', '', " +
                          std::to_string(entry) + ")");
        }
        transaction.commit();
    }
    std::mt19937 random(20);
    std::uniform_int_distribution<int> wait(0, 30'000); // microseconds
    for (int time = 0; time < killsWanted() / 2; ++time) {
        const auto folder = own.path() / std::to_string(time);
        const auto file = folder / "library.sqlite";
        std::filesystem::create_directories(folder);
        std::filesystem::copy_file(former, file);
        if (time % 2 == 1) { // lost, with a backup beside it
            (void)Library::open(file);
            std::filesystem::remove(file);
        }
        (void)lastToldBefore(0, std::chrono::microseconds(wait(random)), [&](int) {
            const auto opened = Library::open(file);
            opened.library->backUp();
        });
        const auto opened = Library::open(file);
        REQUIRE(opened.library->database().execAndGet("PRAGMA integrity_check").getString() ==
                "ok");
        const Work work = loadWork(*opened.library).work;
        REQUIRE(work.lists.size() == 50);
        for (const auto& list : work.lists)
            REQUIRE(list->entries.size() == 40);
        for (const Backup& backup : backupsOf(file))
            REQUIRE(isSound(backup.file));
        std::filesystem::remove_all(folder);
    }
}

TEST_CASE("Library: files of every former version are brought up with all that they held",
          "[library]")
{
    // Written by the program as it was then (the last commit of each version of the schema).
    const OwnFolder own;
    for (std::size_t version = 1; version < migrations().size(); ++version) {
        INFO("version " << version);
        const auto file = own.path() / ("v" + std::to_string(version)) / "library.sqlite";
        std::filesystem::create_directories(file.parent_path());
        std::filesystem::copy_file(std::filesystem::path(SIEVE_TEST_FOLDER) / "core" / "library" /
                                       "former" / ("v" + std::to_string(version) + ".sqlite"),
                                   file);
        const auto opened = Library::open(file);
        CHECK(opened.notice.empty());
        REQUIRE(backupsOf(file).size() >= 1);
        CHECK(backupsOf(file).back().why == "migration");
        const LoadedWork loaded = loadWork(*opened.library);
        CHECK(loaded.problems.empty());
        REQUIRE(loaded.work.lists.size() == 2);
        CHECK(loaded.work.lists[0]->name == "Pier");
        CHECK(loaded.work.lists[1]->name == "Quay");
        CHECK(loaded.work.lists[1]->entries ==
              std::vector<watchlists::Entry>{
                  {"BBBB.C", test::day("2026-03-02"), 2.5, "at \"support\"", "Dips"},
                  {"AAAA.C", test::day("2026-03-05")}});
        REQUIRE(loaded.work.tray->cards().size() == 2);
        CHECK(loaded.work.tray->cards()[0].symbol == "AAAA.C");
        CHECK(loaded.work.tray->cards()[1].mark == watchlists::Mark::Kept);
        CHECK(loaded.work.tray->cards()[1].source == "Dips");
        CHECK(loaded.work.tray->cards()[1].takenOn.iso() > "2026-01-01");
        REQUIRE(loaded.work.screens.size() == 2);
        CHECK(loaded.work.screens[0]->screen.name == "Dips");
        CHECK(loaded.work.screens[0]->screen.criteria.size() == 2);
        CHECK(loaded.work.screens[1]->screen.criteria.at(0).text == "change(close, 1) > 5%");
        CHECK(loaded.work.screen->criteria.size() == 1);
        CHECK(setting(*opened.library, "place") == "lists");
        CHECK(loaded.work.fields->fields().size() == (version >= 2 ? 1 : 0));
        if (version >= 3) {
            const auto versions = versionsOf(*opened.library, "Dips");
            REQUIRE(versions.size() >= 1);
            CHECK(versions.back().screen.keep == 0);
            CHECK(loaded.work.screens[0]->screen.keep == 20);
        }
        // The account stood among the settings of the window.
        CHECK(*loaded.work.terms == (version >= 6 ? watchlists::TradingTerms{{25'000.0, 0.02}}
                                                  : watchlists::TradingTerms{}));
        CHECK_FALSE(setting(*opened.library, "layout.weigh.plan_account"));
        const std::int64_t next = opened.library->reserveIds(1);
        for (const auto& list : loaded.work.lists)
            CHECK(list->id < next);
        for (const auto& kept : loaded.work.screens)
            CHECK(kept->id < next);
        CHECK(loaded.work.screens[0]->id != loaded.work.screens[1]->id);
    }
}

TEST_CASE("Library: two hundred lists with twenty thousand entries", "[library]")
{
    // How long it takes stands in bench/; here, that it is all there and little is written.
    Work work;
    for (int list = 1; list <= 200; ++list) {
        watchlists::Watchlist made{list, "List " + std::to_string(list), {}, {}};
        for (int entry = 0; entry < 100; ++entry)
            made.entries.push_back({"S" + std::to_string(entry), test::day("2024-05-02"), 1.0});
        work.lists.emplace_back(std::move(made));
    }
    const auto library = Library::inMemory();
    saveWork(*library, loadWork(*library).work, work);
    CHECK(loadWork(*library).work.lists == work.lists);
    Work edited = work;
    edited.editList(77)->entries[5].reason = "why";
    const auto changes = [&] {
        return library->database().execAndGet("SELECT total_changes()").getInt();
    };
    const int before = changes();
    saveWork(*library, work, edited);
    CHECK(changes() - before < 250);               // one list of two hundred
    for (std::size_t list = 0; list < 200; ++list) // the other states are shared
        CHECK((&*work.lists[list] == &*edited.lists[list]) == (list != 76));
}

} // namespace sieve::library
