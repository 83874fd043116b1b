#include "core/library/history.h"

#include "core/library/backups.h"
#include "core/library/kept_work.h"
#include "core/library/library.h"
#include "tests/core/library/made_work.h"
#include "tests/core/made_market.h"
#include "tests/own_folder.h"

#include <catch2/catch.hpp>
#include <random>

namespace sieve::library {

namespace {

using namespace test;
using Kind = StepMade::Kind;

void saveStep(Library& library, const Work& before, const Work& after, const std::string& what,
              Kind kind = Kind::New)
{
    const StepMade step{kind, what, "lists"};
    saveSteps(library, before, after, std::span(&step, 1));
}

/// The steps of a library file, and that they lead back from `now` through these states.
std::vector<std::string> namesOf(const std::filesystem::path& file, const Work& now,
                                 const std::vector<Work>& states = {}, std::size_t most = 100)
{
    const auto copy = Library::copyOf(file);
    const auto steps = pastSteps(*copy, now, most);
    std::vector<std::string> names;
    Work state = now;
    for (std::size_t at = steps.size(); at-- > 0;) {
        names.insert(names.begin(), steps[at].what);
        const Work before = steps[at].step.undone(state);
        REQUIRE(steps[at].step.done(before) == state);
        state = before;
        const std::size_t back = steps.size() - at;
        if (back < states.size())
            REQUIRE(state == states[states.size() - 1 - back]);
    }
    return names;
}
using Names = std::vector<std::string>;

} // namespace

TEST_CASE("History: steps are taken back in a later session", "[library]")
{
    const OwnFolder own;
    const auto file = own.path() / "library.sqlite";
    std::vector<Work> states;
    {
        const auto opened = Library::open(file);
        states.push_back(loadWork(*opened.library).work);
        states.push_back(richWork());
        saveStep(*opened.library, states[0], states[1], "fill");
        Work next = states[1];
        next.editList(5)->entries[0].reason = "other";
        next.lists.erase(next.lists.begin() + 1);
        states.push_back(next);
        saveStep(*opened.library, states[1], next, "remove a list");
    }
    CHECK(namesOf(file, states[2], states) == Names{"fill", "remove a list"});
    // An undo takes the step away, doing it again brings it back, another one follows.
    {
        const auto opened = Library::open(file);
        saveStep(*opened.library, states[2], states[1], "remove a list", Kind::Undone);
        CHECK(stepsKept(*opened.library) == 1);
        CHECK(namesOf(file, states[1], {states[0], states[1]}) == Names{"fill"});
        saveStep(*opened.library, states[1], states[2], "remove a list", Kind::Redone);
        CHECK(namesOf(file, states[2], states) == Names{"fill", "remove a list"});
        Work next = states[2];
        next.screen = screenNamed("Turned");
        saveStep(*opened.library, states[2], next, "turn");
        Work more = next;
        more.screen = screenNamed("Turned more");
        saveStep(*opened.library, next, more, "turn", Kind::Joined);
        states.push_back(more);
        CHECK(namesOf(file, more, states) == Names{"fill", "remove a list", "turn"});
        // One that was joined to nothing: back at the begin, there is no such step any more.
        saveStep(*opened.library, more, states[2], "turn", Kind::Joined);
        CHECK(stepsKept(*opened.library) == 2);
        CHECK(namesOf(file, states[2], {states[0], states[1], states[2]}, 1) ==
              Names{"remove a list"});
        // What was saved late, after several steps, is one.
        const StepMade late[] = {{Kind::Undone, "a", "sift"}, {Kind::New, "b", "sift"}};
        saveSteps(*opened.library, states[2], states[1], late);
        CHECK(namesOf(file, states[1], {states[1], states[2], states[1]}) ==
              Names{"fill", "remove a list", "b"});
    }
}

TEST_CASE("History: any edits and undos lead back the way they came", "[library]")
{
    const OwnFolder own;
    const auto file = own.path() / "library.sqlite";
    const auto opened = Library::open(file);
    std::mt19937 random(23);
    std::vector<Work> states{loadWork(*opened.library).work};
    Names names;
    for (int time = 0; time < 150; ++time) {
        const Work now = states.back();
        if (states.size() > 1 && random() % 4 == 0) {
            states.pop_back();
            saveStep(*opened.library, now, states.back(), names.back(), Kind::Undone);
            names.pop_back();
        } else {
            Work next = random() % 5 == 0 ? richWork() : now;
            if (!next.lists.empty() && random() % 3 == 0)
                std::swap(next.lists.front(), next.lists.back());
            if (watchlists::Watchlist* list = next.editList(5); list && random() % 2 == 0)
                list->entries.insert(list->entries.begin(),
                                     {"S" + std::to_string(random() % 9), day("2024-05-02"),
                                      static_cast<double>(random() % 100)});
            if (random() % 3 == 0)
                keepDrawing(next, *levelAt(static_cast<std::int64_t>(1 + random() % 20), 2.0));
            if (random() % 4 == 0 && !next.screens.empty())
                removeScreen(next, next.screens.front()->screen.name);
            if (next == now)
                continue;
            names.push_back("step " + std::to_string(time));
            saveStep(*opened.library, now, next, names.back());
            states.push_back(next);
        }
        if (time % 10 == 9)
            REQUIRE(namesOf(file, states.back(), states) == names);
    }
    CHECK(names.size() > 40);
}

TEST_CASE("History: as many steps are kept as are wanted, and none that leads nowhere", "[library]")
{
    const OwnFolder own;
    const auto file = own.path() / "library.sqlite";
    const auto opened = Library::open(file);
    Work now = loadWork(*opened.library).work;
    for (int step = 0; step < mostStepsKept + 20; ++step) {
        Work next = now;
        next.screen = screenNamed("S" + std::to_string(step));
        saveStep(*opened.library, now, next, std::to_string(step));
        now = next;
    }
    CHECK(stepsKept(*opened.library) == mostStepsKept);
    CHECK(namesOf(file, now).front() == "20");
    // A damaged step, and those before it, are left out; what follows is there.
    opened.library->database().exec("UPDATE step SET changes = x'00112233' WHERE number = 100");
    CHECK(namesOf(file, now).front() == "100");
    CHECK(namesOf(file, now).size() == 20);
    // Whoever saves without steps breaks the way back: what does not fit is not offered.
    Work other = now;
    other.screen = screenNamed("Elsewhere");
    saveWork(*opened.library, now, other);
    CHECK(namesOf(file, other).empty());
}

TEST_CASE("History: large steps push the oldest out", "[library]")
{
    const auto library = Library::inMemory();
    Work now = loadWork(*library).work;
    for (int step = 0; step < 8; ++step) {
        Work next = now;
        next.screen.edit().notes = std::string(5'000'000, static_cast<char>('a' + step));
        saveStep(*library, now, next, std::to_string(step));
        now = next;
    }
    const auto bytes =
        library->database().execAndGet("SELECT sum(length(changes)) FROM step").getInt64();
    CHECK(bytes <= mostStepBytes);
    CHECK(stepsKept(*library) >= 2);
}

} // namespace sieve::library
