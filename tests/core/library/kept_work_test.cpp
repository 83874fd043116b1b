#include "core/library/kept_work.h"

#include "core/library/library.h"
#include "core/library/settings.h"
#include "core/library/work_step.h"
#include "core/screens/starter.h"
#include "core/watchlists/stocks.h"
#include "tests/core/library/made_work.h"
#include "tests/core/made_market.h"
#include "tests/own_folder.h"

#include <algorithm>
#include <catch2/catch.hpp>
#include <filesystem>
#include <random>

namespace sieve::library {

namespace {

using namespace test;
using What = LoadedWork::Problem::What;

} // namespace

TEST_CASE("Work: all of it comes back as it was", "[library]")
{
    const OwnFolder own;
    const auto file = own.path() / "library.sqlite";
    const Work work = richWork();
    {
        const auto opened = Library::open(file);
        saveWork(*opened.library, loadWork(*opened.library).work, work);
    }
    const auto again = Library::open(file);
    const LoadedWork loaded = loadWork(*again.library);
    CHECK(loaded.problems.empty());
    CHECK(*loaded.work.tray == *work.tray);
    CHECK(loaded.work.lists == work.lists);
    CHECK(*loaded.work.screen == *work.screen);
    CHECK(loaded.work.drafts == work.drafts);
    CHECK(loaded.work.screens == work.screens);
    CHECK(*loaded.work.fields == *work.fields);
    CHECK(*loaded.work.columnSets == *work.columnSets);
    CHECK(*loaded.work.chartSetUps == *work.chartSetUps);
    CHECK(*loaded.work.weighing == *work.weighing);
    CHECK(*loaded.work.checklists == *work.checklists);
    CHECK(*loaded.work.verdicts == *work.verdicts);
    CHECK(*loaded.work.terms == *work.terms);
    CHECK(*loaded.work.mail == *work.mail);
    CHECK(*loaded.work.alerts == *work.alerts);
    CHECK(*loaded.work.marketBook == *work.marketBook);
    CHECK(*loaded.work.drawings == *work.drawings);
    CHECK(*loaded.work.runs == *work.runs);
    CHECK(loaded.work == work);
}

TEST_CASE("Work: a new library begins with a screen of the program and nothing else", "[library]")
{
    const Work work = loadWork(*Library::inMemory()).work;
    const auto& ready = screens::starterScreens();
    CHECK(std::ranges::find(ready, *work.screen) != ready.end());
    CHECK(work.lists.empty());
    CHECK(work.screens.empty());
    CHECK(*work.marketBook == conditions::standardBook());
}

TEST_CASE("Work: from any state to any other, and back as undo does", "[library]")
{
    const Work none = loadWork(*Library::inMemory()).work;
    std::vector<Work> states{none, richWork()};
    states.push_back(richWork());
    std::swap(states.back().lists[0], states.back().lists[1]); // another order
    states.push_back(richWork()); // names that go round, and a screen's too
    std::swap(states.back().lists[0].edit().name, states.back().lists[1].edit().name);
    states.back().screens = {KeptScreen{8, screenNamed("Dips")},
                             KeptScreen{9, screenNamed("Jumps")}};
    states.push_back(richWork());
    states.back().lists[0].edit().entries.clear();
    states.back().lists.erase(states.back().lists.begin() + 1);
    states.back().screens.erase(states.back().screens.begin());
    removeDrawing(states.back(), 14);
    keepDrawing(states.back(), *levelAt(11, 99.0));
    keepDrawing(states.back(), *levelAt(12, 99.0));
    keepVerdict(states.back(), *judged(21, "AAAA.C", false));
    keepVerdict(states.back(), *judged(20, "CCCC.C", false));
    removeChecklist(states.back(), "Mine");
    states.back().lists[0].edit().entries.push_back(
        {"DDDD.C", test::day("2024-05-02"), 3.0, {}, {}, plannedAt(3.0)});
    REQUIRE_FALSE(states.back().fields.edit().rename("half", "my_half"));
    states.push_back(richWork()); // rows that moved up, heads and pages that changed
    states.back().lists[0].edit().entries.erase(states.back().lists[0]->entries.begin());
    states.back().lists[0].edit().entries[0].page = writtenPage();
    states.back().lists[0].edit().former[1].entry.page.sign = watchlists::Sign::Cross;
    states.back().lists[1].edit().head = {};
    states.back().terms = watchlists::TradingTerms{};
    keepAlert(states.back(), *levelAlert(32, 1.0));
    removeAlert(states.back(), 31);
    removeRun(states.back(), 41);
    keepRun(states.back(), *keptRun(43, "Other"));
    keepRun(states.back(), *keptRun(42, "Named now"));
    states.push_back(none);
    states.back().lists = {listNamed(12, "Harbour names")}; // a name that a removed one bore

    const auto library = Library::inMemory();
    std::mt19937 random(19);
    Work now = none;
    for (int step = 0; step < 200; ++step) {
        const Work& next = states[random() % states.size()];
        saveWork(*library, now, next);
        const WorkStep taken(now, next);
        REQUIRE(taken.undone(next) == now);
        REQUIRE(taken.done(now) == next);
        now = next;
        REQUIRE(loadWork(*library).work == now);
    }
}

TEST_CASE("Work: a plan that cannot be read is kept as a file, and its entry comes without it",
          "[library]")
{
    const OwnFolder own;
    const auto file = own.path() / "library.sqlite";
    Work work = richWork();
    work.editList(5)->entries[0].plan = plannedAt(3.0);
    {
        const auto opened = Library::open(file);
        saveWork(*opened.library, loadWork(*opened.library).work, work);
        opened.library->database().exec("UPDATE entry SET plan = 'of a later version' "
                                        "WHERE plan <> ''");
    }
    const auto opened = Library::open(file);
    const LoadedWork loaded = loadWork(*opened.library);
    REQUIRE(loaded.problems.size() == 1);
    CHECK(loaded.problems[0].what == What::Plan);
    CHECK(own.read(std::filesystem::relative(loaded.problems[0].keptAs, own.path()).string()) ==
          "of a later version");
    CHECK_FALSE(loaded.work.findList(5)->entries[0].plan);
    CHECK(loaded.work.tray->cards()[1].plan == plannedAt(12.5));
}

TEST_CASE("Work: an entry's page that cannot be read is kept as a file, and the entry stays",
          "[library]")
{
    const OwnFolder own;
    const auto file = own.path() / "library.sqlite";
    const Work work = richWork();
    {
        const auto opened = Library::open(file);
        saveWork(*opened.library, loadWork(*opened.library).work, work);
        opened.library->database().exec("UPDATE entry SET page = 'of a later version' "
                                        "WHERE page <> ''");
    }
    const auto opened = Library::open(file);
    const LoadedWork loaded = loadWork(*opened.library);
    REQUIRE(loaded.problems.size() == 1);
    CHECK(loaded.problems[0].what == What::EntryPage);
    CHECK(own.read(std::filesystem::relative(loaded.problems[0].keptAs, own.path()).string()) ==
          "of a later version");
    CHECK(loaded.work.findList(5)->entries[0].page == watchlists::EntryPage{});
    CHECK(loaded.work.findList(5)->entries[0].reason == work.findList(5)->entries[0].reason);
}

TEST_CASE("Work: a checklist that bears another name is found by who asked for it", "[library]")
{
    Work work = richWork();
    work.screen.edit().criteria[0].text = "checklist(\"Mine\") >= 2";
    watchlists::Checklist renamed = *work.findChecklist("Mine");
    renamed.name = "Ours";
    keepChecklist(work, "Mine", renamed);
    CHECK(work.screen->criteria[0].text == "checklist(\"Ours\") >= 2");
    CHECK((*work.verdicts)[0]->checklist == "Ours");
    CHECK(work.findChecklist("Mine") == nullptr);
    CHECK(work.findChecklist("Ours")->questions.size() == 2);
    REQUIRE_FALSE(renameField(work, "half", "my_half")); // a rule that asks for a field
    CHECK(work.findChecklist("Ours")->questions[0].rule == "my_half < 10");
}

TEST_CASE("Work: a step holds of a long list and tray only the rows that it changed", "[library]")
{
    Work long_;
    watchlists::Watchlist list{1, "Long", {}, {}};
    std::vector<watchlists::Card> cards;
    for (int row = 0; row < 5000; ++row) {
        list.entries.push_back({"S" + std::to_string(row), test::day("2024-05-02"), 1.0 * row});
        cards.push_back(
            {"S" + std::to_string(row), test::day("2024-05-02"), watchlists::Mark::Open, "", ""});
    }
    long_.lists = {std::move(list), listNamed(2, "Quay")};
    long_.tray = watchlists::Tray(std::move(cards));
    const auto rowsOf = [&](const std::function<void(Work&)>& change) {
        Work after = long_;
        change(after);
        const WorkStep step(long_, after);
        CHECK(step.undone(after) == long_);
        CHECK(step.done(long_) == after);
        CHECK(&*step.undone(after).lists[1] == &*long_.lists[1]); // the other list is shared
        return step.rowsHeld();
    };
    CHECK(rowsOf([](Work& work) { work.screen.edit().name = "Other"; }) == 0);
    CHECK(rowsOf([](Work& work) { work.editList(1)->name = "Longer"; }) == 0);
    CHECK(rowsOf([](Work& work) { work.editList(1)->entries[777].reason = "why"; }) == 2);
    CHECK(rowsOf([](Work& work) {
              takeOff(*work.editList(1), 2500, nullptr, test::day("2024-06-03"), "sold");
          }) == 2); // one less, and one among the former
    CHECK(rowsOf([](Work& work) {
              auto& entries = work.editList(1)->entries;
              entries.insert(entries.begin(), {"NEW", test::day("2024-05-02"), 1.0});
          }) == 1);
    CHECK(rowsOf([](Work& work) { work.tray.edit().mark(4999, watchlists::Mark::Kept, ""); }) == 2);
    CHECK(rowsOf([](Work& work) { work.tray.edit().clear(); }) == 5000);
    for (int drawing = 1; drawing <= 5000; ++drawing)
        keepDrawing(long_, *levelAt(2 * drawing, drawing));
    CHECK(rowsOf([](Work& work) { keepDrawing(work, *levelAt(777, 1.0)); }) == 1);
    CHECK(rowsOf([](Work& work) { keepDrawing(work, *levelAt(778, 1.0)); }) == 2);
    CHECK(rowsOf([](Work& work) { removeDrawing(work, 778); }) == 1);
    CHECK(rowsOf([](Work& work) { removeDrawing(work, 777); }) == 0); // there is none
    CHECK(rowsOf([&](Work& work) { keepDrawing(work, *work.findDrawing(778)); }) == 0);
}

TEST_CASE("Work: what cannot be read is kept as a file and told, and the rest goes on", "[library]")
{
    const OwnFolder own;
    const auto file = own.path() / "library.sqlite";
    {
        const auto opened = Library::open(file);
        saveWork(*opened.library, loadWork(*opened.library).work, richWork());
        for (const char* key : {"screen_in_hand", "market_book", "column_sets", "chart_set_ups",
                                "weighing", "checklists"})
            setSetting(*opened.library, key, std::string("[[[ of a later version, ") + key);
    }
    const auto opened = Library::open(file);
    const LoadedWork loaded = loadWork(*opened.library);
    REQUIRE(loaded.problems.size() == 6);
    CHECK(*loaded.work.marketBook == conditions::standardBook());
    CHECK(loaded.work.columnSets->empty());
    CHECK(loaded.work.chartSetUps->empty());
    CHECK(*loaded.work.weighing == watchlists::standardWeighing());
    CHECK(*loaded.work.checklists == std::vector{watchlists::standardChecklist()});
    CHECK(loaded.work.lists == richWork().lists);
    for (const auto& problem : loaded.problems) {
        CHECK(problem.what != What::Screen);
        CHECK(own.read(std::filesystem::relative(problem.keptAs, own.path()).string())
                  .find("of a later version") != std::string::npos);
    }
    Work edited = loaded.work; // the next edit writes over them; the files stay
    edited.marketBook.edit().rules.clear();
    saveWork(*opened.library, loaded.work, edited);
    for (const auto& problem : loaded.problems)
        CHECK(std::filesystem::exists(problem.keptAs));
}

TEST_CASE("Work: a screen that no longer reads is told of and stays, until its name is taken",
          "[library]")
{
    const OwnFolder own;
    const auto opened = Library::open(own.path() / "library.sqlite");
    Library& library = *opened.library;
    library.execute("INSERT INTO screen (id, name, toml) VALUES (70, 'Of later', 'name = 3')");
    const LoadedWork loaded = loadWork(library);
    CHECK(loaded.work.screens.empty());
    REQUIRE(loaded.problems.size() == 1);
    CHECK(loaded.problems[0].what == What::Screen);
    CHECK(sentence(loaded.problems[0].error).find("“Of later”") != std::string::npos);
    Work edited = loaded.work;
    keepScreen(edited, screenNamed("Dips"), 71);
    saveWork(library, loaded.work, edited);
    CHECK(library.database().execAndGet("SELECT count(*) FROM screen").getInt() == 2);
    Work taken = edited;
    keepScreen(taken, screenNamed("Of later"), 72);
    saveWork(library, edited, taken);
    CHECK(loadWork(library).problems.empty());
    CHECK(own.read("library.sqlite.unreadable/screen-1.toml") == "name = 3");
}

TEST_CASE("Work: a drawing that cannot be read is told of and stays, and the others are there",
          "[library]")
{
    const auto library = Library::inMemory();
    const Work none = loadWork(*library).work;
    saveWork(*library, none, richWork());
    library->execute("UPDATE drawing SET toml = 'tool = \"of later\"' WHERE id = 14");
    const LoadedWork loaded = loadWork(*library);
    REQUIRE(loaded.problems.size() == 1);
    CHECK(loaded.problems[0].what == What::Drawing);
    CHECK(loaded.problems[0].error.problem == "'of later' is no tool");
    CHECK(loaded.work.drawings->size() == 2);
    CHECK(loaded.work.findDrawing(11));
    CHECK_FALSE(loaded.work.findDrawing(14));
    Work edited = loaded.work;
    removeDrawing(edited, 11);
    saveWork(*library, loaded.work, edited);
    CHECK(library->database().execAndGet("SELECT count(*) FROM drawing").getInt() == 2);
}

TEST_CASE("Work: a field that is broken takes none with it that can stand, and is not lost",
          "[library]")
{
    const OwnFolder own;
    const auto opened = Library::open(own.path() / "library.sqlite");
    Library& library = *opened.library;
    Work work = loadWork(library).work;
    const Work before = work;
    REQUIRE_FALSE(work.fields.edit().put(ownField("half", "close / 2")));
    REQUIRE_FALSE(work.fields.edit().put(ownField("quarter_of_it", "half / 2")));
    REQUIRE_FALSE(work.fields.edit().put(ownField("other", "open / 2")));
    saveWork(library, before, work);
    library.database().exec("UPDATE own_field SET toml = replace(toml, 'close / 2', 'close /') "
                            "WHERE name = 'half'");
    const LoadedWork loaded = loadWork(library);
    CHECK(loaded.problems.size() == 2); // it and its user
    REQUIRE(loaded.work.fields->fields().size() == 1);
    CHECK(loaded.work.fields->fields()[0].name == "other");
    Work edited = loaded.work;
    REQUIRE_FALSE(edited.fields.edit().remove("other"));
    saveWork(library, loaded.work, edited);
    CHECK(library.database().execAndGet("SELECT count(*) FROM own_field").getInt() == 2);
    Work taken = edited;
    REQUIRE_FALSE(taken.fields.edit().put(ownField("half", "open / 2")));
    saveWork(library, edited, taken);
    CHECK(own.read("library.sqlite.unreadable/own_field-1.toml").find("close /") !=
          std::string::npos);
}

TEST_CASE("Work: a screen taken in hand leaves the unsaved one as a draft, which comes back",
          "[library]")
{
    Work work;
    work.screens = {KeptScreen{1, screenNamed("Dips")}, KeptScreen{2, screenNamed("Jumps")}};
    work.screen = screenNamed("Dips");
    takeInHand(work, screenNamed("Jumps"));
    CHECK(work.drafts.empty()); // it is saved as it is
    work.screen.edit().criteria[0].text = "close > 8";
    const screens::Screen changed = *work.screen;
    takeInHand(work, screens::starterScreens()[0]);
    REQUIRE(work.drafts.size() == 1);
    CHECK(*work.drafts[0] == changed);
    takeInHand(work, screenNamed("Dips"));
    CHECK(work.drafts.size() == 1);
    takeInHand(work, screenNamed("Jumps"));
    CHECK(*work.screen == changed);
    CHECK(work.drafts.empty());
    takeInHand(work, screenNamed("Jumps")); // chosen once more: as it is saved
    CHECK(*work.screen == screenNamed("Jumps"));
    work.screen = changed;
    takeInHand(work, screenNamed("Dips"));
    keepScreen(work, screenNamed("Jumps", "close > 9"), 3);
    CHECK(work.drafts.empty());
    CHECK(work.findScreen("Jumps")->id == 2);
}

TEST_CASE("Work: set-ups of charts are kept by name, one of each", "[library]")
{
    Work work;
    charts::SetUp setUp;
    for (const char* name : {"Pier", "Bay", "Quay"}) {
        setUp.name = name;
        keepSetUp(work, setUp);
    }
    setUp.name = "Bay";
    setUp.scale = charts::BarScale::Month;
    keepSetUp(work, setUp);
    REQUIRE(work.chartSetUps->size() == 3);
    CHECK(work.chartSetUps->front() == setUp);
    CHECK(work.chartSetUps->back().name == "Quay");
    removeSetUp(work, "Bay");
    CHECK(work.chartSetUps->front().name == "Pier");
}

TEST_CASE("Work: another name is followed wherever the person asked for it", "[library]")
{
    Work work;
    REQUIRE_FALSE(work.fields.edit().put(ownField("half", "close / 2")));
    work.lists = {listNamed(1, "Quay"),
                  watchlists::Watchlist{2, "By rule", {}, {}, {.screen = "Dips"}}};
    watchlists::Entry& planned = work.lists[0].edit().entries[0];
    planned.plan = plannedAt(12.5);
    planned.plan->exitRule = "half < 5 or not passes(\"Dips\")";
    work.screen = screenNamed("In hand", "half > 1 and on_list(\"Quay\") and passes(\"Dips\")");
    work.drafts = {screenNamed("Begun", "half > 2")};
    work.screens = {KeptScreen{5, screenNamed("Dips", "half > 3")},
                    KeptScreen{6, screenNamed("Jumps", "passes(\"Dips\") and on_list(\"Quay\")")}};
    work.marketBook.edit().panes = {"sma(half, 5)"};
    work.columnSets = std::vector<screens::ColumnSet>{{"Own", {"half", "close"}, {}}};
    charts::SetUp layered;
    layered.name = "Layered";
    layered.panes[0].layers = {{"half"}, {"passes(\"Dips\")", "", charts::LayerForm::Marks}};
    keepSetUp(work, layered);
    REQUIRE_FALSE(renameField(work, "half", "my_half"));
    CHECK(work.marketBook->panes[0] == "sma(my_half, 5)");
    CHECK(work.drafts[0]->criteria[0].text == "my_half > 2");
    CHECK(work.findScreen("Dips")->screen.criteria[0].text == "my_half > 3");
    renameScreen(work, "Dips", screenNamed("Deep dips", "my_half > 3"));
    CHECK(work.findScreen("Deep dips")->id == 5);
    CHECK(work.findScreen("Jumps")->screen.criteria[0].text ==
          "passes(\"Deep dips\") and on_list(\"Quay\")");
    CHECK(work.lists[0]->entries[0].plan->exitRule == "my_half < 5 or not passes(\"Deep dips\")");
    CHECK(work.lists[1]->head.screen == "Deep dips");
    CHECK(work.columnSets->front().columns[0] == "my_half");
    CHECK(work.chartSetUps->front().panes[0].layers[0].show == "my_half");
    CHECK(work.chartSetUps->front().panes[0].layers[1].show == "passes(\"Deep dips\")");
    Work renamed = work;
    renamed.editList(1)->name = "Pier";
    followRenamedLists(work, renamed);
    CHECK(renamed.screen->criteria[0].text ==
          "my_half > 1 and on_list(\"Pier\") and passes(\"Deep dips\")");
    CHECK(work.screen->criteria[0].text ==
          "my_half > 1 and on_list(\"Quay\") and passes(\"Deep dips\")"); // a value of its own
    CHECK(renameField(work, "none_such", "x"));
}

} // namespace sieve::library
