#include "app/desk/day_player.h"
#include "app/desk/desk.h"

#include "app/parts/number_text.h"
#include "core/watchlists/stocks.h"
#include "tests/app/window_bench.h"

#include <QSignalSpy>
#include <QStatusBar>
#include <QTableView>
#include <catch2/catch.hpp>

namespace sieve::app {

using test::OwnFolder;
using test::WindowBench;

TEST_CASE("Desk: each edit is one step back and forth, and what is kept follows", "[app]")
{
    const OwnFolder own;
    const auto file = own.path() / "library.sqlite";
    {
        Desk desk(file, test::marketsFolder());
        test::waitUntil([&] { return desk.work().isLoaded(); }, "the library");
        const QSignalSpy lists(&desk.work(), &Workbench::listsChanged);
        const QSignalSpy tray(&desk.work(), &Workbench::trayChanged);
        desk.work().edit(QStringLiteral("add"), [&](Work& work) {
            work.lists.push_back(test::listOf(desk.work().newId(), "One"));
        });
        desk.work().edit(QStringLiteral("add"), [&](Work& work) {
            work.lists.push_back(test::listOf(desk.work().newId(), "Two"));
        });
        desk.work().edit(QStringLiteral("nothing"), [](Work&) {});
        CHECK(desk.work().undoStack().count() == 2); // what changes nothing is no step
        CHECK(lists.count() == 2);
        CHECK(tray.count() == 0); // only what changed is told
        CHECK(desk.work().now().lists[1]->id != desk.work().now().lists[0]->id);
        desk.work().undoStack().undo();
        CHECK(desk.work().now().lists.size() == 1);
        desk.work().undoStack().undo();
        CHECK(desk.work().now().lists.empty());
        desk.work().undoStack().redo();
        CHECK(desk.work().undoStack().redoText() == QStringLiteral("add"));
    }
    Desk again(file, test::marketsFolder());
    test::waitUntil([&] { return again.work().isLoaded(); }, "the library");
    REQUIRE(again.work().now().lists.size() == 1);
    CHECK(again.work().now().lists[0]->name == "One");
}

TEST_CASE("Desk: screens are saved by name, replaced and removed", "[app]")
{
    const OwnFolder own;
    const auto file = own.path() / "library.sqlite";
    {
        Desk desk(file, test::marketsFolder());
        test::waitUntil([&] { return desk.work().isLoaded(); }, "the library");
        screens::Screen screen;
        screen.name = "Mine";
        desk.screenShelf().save(screen);
        screen.keep = 7;
        desk.screenShelf().save(screen);
        screen.name = "Also mine";
        desk.screenShelf().save(screen);
        desk.settings().set("place", "prove");
        CHECK(desk.screenShelf().all().size() == 2);
    }
    {
        Desk desk(file, test::marketsFolder());
        test::waitUntil([&] { return desk.work().isLoaded(); }, "the library");
        REQUIRE(desk.screenShelf().all().size() == 2);
        CHECK(desk.screenShelf().all()[0].name == "Also mine"); // by name
        CHECK(desk.screenShelf().all()[1].keep == 7);
        CHECK(desk.settings().value("place") == "prove");
        CHECK(desk.settings().value("never set").empty());
        desk.screenShelf().remove({"Mine"});
    }
    Desk desk(file, test::marketsFolder());
    test::waitUntil([&] { return desk.work().isLoaded(); }, "the library");
    CHECK(desk.screenShelf().all().size() == 1);
}

TEST_CASE("Desk: the as-of day is always a session within the market", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    Desk& desk = *bench.desk;
    const auto sessions = desk.market().data().sessions();
    desk.focus().setDay(*Day::parse("2024-06-02")); // a Sunday
    CHECK(desk.focus().day().iso() == "2024-05-31");
    desk.focus().setDay(*Day::parse("1990-01-01"));
    CHECK(desk.focus().day().iso() == "2024-05-31"); // there is nothing before the first session
    const auto told = [&] { return bench.window->statusBar()->currentMessage(); };
    CHECK(told().contains(QStringLiteral("market begins on")));
    desk.focus().setDay(sessions.front());
    desk.focus().stepSessions(-5);
    CHECK(desk.focus().day() == sessions.front());
    desk.focus().stepSessions(3);
    CHECK(desk.focus().day() == sessions[3]);
    desk.focus().setDay(*Day::parse("2190-01-01"));
    CHECK(desk.focus().isLatest());
    CHECK(told().contains(QStringLiteral("newest session is")));
    desk.focus().stepSessions(1);
    CHECK(desk.focus().day() == sessions.back());
    desk.focus().selectSymbol("NOT THERE");
    CHECK_FALSE(desk.focus().selected());
}

TEST_CASE("Desk: from a past day it goes forward by itself, to the latest and no farther", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    DayPlayer& player = bench.desk->player();
    Focus& focus = bench.desk->focus();
    const auto sessions = bench.desk->market().data().sessions();
    auto* window = bench.window.get();
    QTest::keyClick(window, Qt::Key_F6);
    CHECK_FALSE(player.isPlaying());
    CHECK(window->statusBar()->currentMessage().contains(QStringLiteral("latest session")));
    focus.stepSessions(-4);
    const QSignalSpy dayChanged(&focus, &Focus::dayChanged);
    for (int i = 0; i < 9; ++i)
        QTest::keyClick(window, Qt::Key_F8);
    CHECK(player.pace() == QStringLiteral("10 sessions a second"));
    QTest::keyClick(window, Qt::Key_F6);
    CHECK(player.isPlaying());
    test::waitUntil([&] { return !player.isPlaying(); }, "the latest session");
    CHECK(focus.isLatest());
    CHECK(dayChanged.count() == 4); // each session, none left out
    focus.stepSessions(-30);
    QTest::keyClick(window, Qt::Key_F6);
    test::waitUntil([&] { return focus.day() >= sessions[sessions.size() - 29]; }, "two sessions");
    QTest::keyClick(window, Qt::Key_F7);
    CHECK(player.pace() == QStringLiteral("5 sessions a second"));
    QTest::keyClick(window, Qt::Key_F6);
    CHECK_FALSE(player.isPlaying());
    const Day stopped = focus.day();
    QTest::qWait(400);
    CHECK(focus.day() == stopped);
    bench.settle();
}

TEST_CASE("Desk: opening a market is told once, not as a change of day too", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite", {});
    const QSignalSpy opened(&bench.desk->market(), &OpenMarket::opened);
    const QSignalSpy dayChanged(&bench.desk->focus(), &Focus::dayChanged);
    bench.desk->market().keeper().open(test::demoDataset());
    test::waitUntil([&] { return bench.desk->market().isOpen(); }, "the market");
    bench.settle();
    CHECK(opened.count() == 1);
    CHECK(dayChanged.count() == 0);
    CHECK(bench.find<QToolButton>(QStringLiteral("One session earlier"))->isEnabled());
}

TEST_CASE("Desk: who was on a list once is on it for the days on which it was", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    const market::Market& market = bench.desk->market().data();
    const auto sessions = market.sessions();
    const Day added = sessions[sessions.size() - 60];
    const Day left = sessions[sessions.size() - 30];
    bench.desk->work().edit(QStringLiteral("test"), [&](Work& work) {
        work.lists = {test::listOf(1, "Harbour")};
        putOnto(*work.editList(1), market, std::vector<std::size_t>{3, 5}, added, "", "");
        takeOff(*work.editList(1), 0, &market, left, "sold");
        work.screen.edit().universe.clear();
        work.screen.edit().criteria = {{"on_list(\"Harbour\")"}};
        work.screen.edit().rankBy.clear();
    });
    bench.go("sift");
    auto* results = bench.find<QTableView>(QStringLiteral("Results"));
    const auto passing = [&](Day day) {
        bench.desk->focus().setDay(day);
        bench.settle();
        QStringList symbols;
        for (int row = 0; row < results->model()->rowCount(); ++row)
            symbols << results->model()->index(row, 0).data().toString();
        symbols.sort();
        return symbols;
    };
    QStringList both{text(market.instrument(3).symbol), text(market.instrument(5).symbol)};
    both.sort();
    CHECK(passing(sessions[sessions.size() - 61]).isEmpty());
    CHECK(passing(added) == both);
    CHECK(passing(sessions[sessions.size() - 31]) == both);
    CHECK(passing(left) == QStringList{text(market.instrument(5).symbol)});
    bench.desk->work().edit(QStringLiteral("test"),
                            [](Work& work) { work.editList(1)->entries.clear(); });
    CHECK(passing(sessions.back()).isEmpty()); // the list that changed is read anew
    CHECK(passing(added) == QStringList{text(market.instrument(3).symbol)});
}

} // namespace sieve::app
