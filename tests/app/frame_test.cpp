#include "tests/app/window_bench.h"

#include "app/frame/asker.h"
#include "app/frame/library_keeper.h"
#include "app/frame/market_keeper.h"
#include "app/frame/tray_bar.h"
#include "app/parts/number_text.h"
#include "core/watchlists/store.h"

#include <QLabel>
#include <QSignalSpy>
#include <QThread>
#include <QToolButton>
#include <catch2/catch.hpp>
#include <future>

namespace sieve::app {

using test::OwnFolder;
using test::WindowBench;

TEST_CASE("Asker: the answer comes on the asking thread, the work runs on another", "[app]")
{
    Asker asker(nullptr);
    QThread* workThread = nullptr;
    QThread* answerThread = nullptr;
    int answer = 0;
    asker.ask(
        [&workThread](const Progress&) {
            workThread = QThread::currentThread();
            return 42;
        },
        [&](int got) {
            answer = got;
            answerThread = QThread::currentThread();
        });
    CHECK(asker.isBusy());
    test::waitUntil([&] { return answer != 0; }, "the answer");
    CHECK(answer == 42);
    CHECK(answerThread == QThread::currentThread());
    CHECK(workThread != answerThread);
    CHECK_FALSE(asker.isBusy());
}

TEST_CASE("Asker: a later question stops the former and its answer is dropped", "[app]")
{
    Asker asker(nullptr);
    std::promise<void> mayEnd;
    std::shared_future<void> gate = mayEnd.get_future().share();
    std::atomic<bool> wasStopped = false;
    std::vector<int> answers;
    asker.ask(
        [gate, &wasStopped](const Progress& progress) {
            gate.wait();
            wasStopped = progress.stopRequested();
            return 1;
        },
        [&](int got) { answers.push_back(got); });
    asker.ask([](const Progress&) { return 2; }, [&](int got) { answers.push_back(got); });
    test::waitUntil([&] { return !answers.empty(); }, "the second answer");
    mayEnd.set_value();
    QThreadPool::globalInstance()->waitForDone();
    QCoreApplication::processEvents();
    CHECK(answers == std::vector<int>{2});
    CHECK(wasStopped);
}

TEST_CASE("Asker: a fault is told in words, a stop is silent", "[app]")
{
    Asker asker(nullptr);
    const QSignalSpy failed(&asker, &Asker::failed);
    asker.ask([](const Progress&) -> int { throw std::runtime_error("the disk is gone"); },
              [](int) { FAIL("there is no answer"); });
    test::waitUntil([&] { return failed.count() == 1; }, "the fault");
    CHECK(failed.first().first().toString() == QStringLiteral("the disk is gone"));
    asker.ask([](const Progress&) -> int { throw Stopped{}; }, [](int) { FAIL("stopped"); });
    QThreadPool::globalInstance()->waitForDone();
    QCoreApplication::processEvents();
    CHECK(failed.count() == 1);
}

TEST_CASE("Asker: one that is gone gets no answer", "[app]")
{
    std::promise<void> mayEnd;
    std::shared_future<void> gate = mayEnd.get_future().share();
    {
        Asker asker(nullptr);
        asker.ask(
            [gate](const Progress&) {
                gate.wait();
                return 1;
            },
            [](int) { FAIL("nobody is there to take it"); });
    }
    mayEnd.set_value();
    QThreadPool::globalInstance()->waitForDone();
    QCoreApplication::processEvents();
}

TEST_CASE("Asker: progress is told in steps, not in a flood", "[app]")
{
    Asker asker(nullptr);
    const QSignalSpy progressed(&asker, &Asker::progressed);
    bool isDone = false;
    asker.ask(
        [](const Progress& progress) {
            for (int i = 0; i <= 100'000; ++i)
                progress.report(i / 100'000.0, "counting");
            return 0;
        },
        [&](int) { isDone = true; });
    test::waitUntil([&] { return isDone; }, "the end");
    CHECK(progressed.count() > 10);
    CHECK(progressed.count() <= 101);
    CHECK(progressed.last().at(1).toString() == QStringLiteral("counting"));
}

TEST_CASE("Library keeper: does its work in order, and all of it before it ends", "[app]")
{
    const OwnFolder own;
    const auto file = own.path() / "library.sqlite";
    std::vector<int> order;
    {
        LibraryKeeper keeper(file, nullptr);
        keeper.start();
        for (int i = 0; i < 50; ++i)
            keeper.give([i, &order](storage::Library& library) {
                order.push_back(i);
                storage::setSetting(library, "last", std::to_string(i));
            });
    }
    CHECK(order.size() == 50);
    CHECK(std::is_sorted(order.begin(), order.end()));
    const auto again = storage::Library::open(file);
    CHECK(storage::settings(*again.library).at("last") == "49");
}

TEST_CASE("Library keeper: one piece of work that fails does not stop the rest", "[app]")
{
    LibraryKeeper keeper({}, nullptr);
    const QSignalSpy failed(&keeper, &LibraryKeeper::failed);
    const QSignalSpy opened(&keeper, &LibraryKeeper::opened);
    keeper.start();
    bool ranOn = false;
    keeper.give([](storage::Library& library) { library.database().exec("NO SUCH WORDS"); });
    keeper.give([&ranOn](storage::Library&) { ranOn = true; });
    keeper.waitUntilDone();
    QCoreApplication::processEvents();
    CHECK(ranOn);
    CHECK(opened.count() == 1); // whoever connects before the start hears it
    REQUIRE(failed.count() == 1);
    CHECK(failed.first().first().toString().contains(QStringLiteral("could not be saved")));
}

TEST_CASE("Desk: each edit is one step back and forth, and what is kept follows", "[app]")
{
    const OwnFolder own;
    const auto file = own.path() / "library.sqlite";
    {
        Desk desk(file, test::marketsFolder());
        test::waitUntil([&] { return desk.isWorkLoaded(); }, "the library");
        const QSignalSpy lists(&desk, &Desk::listsChanged);
        const QSignalSpy tray(&desk, &Desk::trayChanged);
        desk.edit(QStringLiteral("add"), [&](Work& work) {
            work.lists.push_back({desk.newListId(), "One", {}});
        });
        desk.edit(QStringLiteral("add"), [&](Work& work) {
            work.lists.push_back({desk.newListId(), "Two", {}});
        });
        desk.edit(QStringLiteral("nothing"), [](Work&) {});
        CHECK(desk.undoStack().count() == 2); // what changes nothing is no step
        CHECK(lists.count() == 2);
        CHECK(tray.count() == 0); // only what changed is told
        CHECK(desk.work().lists[1].id != desk.work().lists[0].id);
        desk.undoStack().undo();
        CHECK(desk.work().lists.size() == 1);
        desk.undoStack().undo();
        CHECK(desk.work().lists.empty());
        desk.undoStack().redo();
        CHECK(desk.undoStack().redoText() == QStringLiteral("add"));
    }
    Desk again(file, test::marketsFolder());
    test::waitUntil([&] { return again.isWorkLoaded(); }, "the library");
    REQUIRE(again.work().lists.size() == 1);
    CHECK(again.work().lists[0].name == "One");
}

TEST_CASE("Desk: screens are saved by name, replaced and removed", "[app]")
{
    const OwnFolder own;
    const auto file = own.path() / "library.sqlite";
    {
        Desk desk(file, test::marketsFolder());
        test::waitUntil([&] { return desk.isWorkLoaded(); }, "the library");
        screens::Screen screen;
        screen.name = "Mine";
        desk.screenShelf().save(screen);
        screen.keep = 7;
        desk.screenShelf().save(screen);
        screen.name = "Also mine";
        desk.screenShelf().save(screen);
        desk.setSetting("place", "prove");
        CHECK(desk.screenShelf().all().size() == 2);
    }
    {
        Desk desk(file, test::marketsFolder());
        test::waitUntil([&] { return desk.isWorkLoaded(); }, "the library");
        REQUIRE(desk.screenShelf().all().size() == 2);
        CHECK(desk.screenShelf().all()[0].name == "Also mine"); // by name
        CHECK(desk.screenShelf().all()[1].keep == 7);
        CHECK(desk.setting("place") == "prove");
        CHECK(desk.setting("never set").empty());
        desk.screenShelf().remove("Mine");
    }
    Desk desk(file, test::marketsFolder());
    test::waitUntil([&] { return desk.isWorkLoaded(); }, "the library");
    CHECK(desk.screenShelf().all().size() == 1);
}

TEST_CASE("Desk: the as-of day is always a session within the market", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    Desk& desk = *bench.desk;
    const auto sessions = desk.market().sessions();
    desk.setDay(*Day::parse("2024-06-02")); // a Sunday
    CHECK(desk.day().iso() == "2024-05-31");
    desk.setDay(*Day::parse("1990-01-01"));
    CHECK(desk.day() == sessions.front());
    desk.stepSessions(-5);
    CHECK(desk.day() == sessions.front());
    desk.stepSessions(3);
    CHECK(desk.day() == sessions[3]);
    desk.setDay(*Day::parse("2190-01-01"));
    CHECK(desk.isLatest());
    desk.stepSessions(1);
    CHECK(desk.day() == sessions.back());
    desk.selectSymbol("NOT THERE");
    CHECK_FALSE(desk.selected());
}

TEST_CASE("Desk: opening a market is told once, not as a change of day too", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite", {});
    const QSignalSpy opened(bench.desk.get(), &Desk::marketOpened);
    const QSignalSpy dayChanged(bench.desk.get(), &Desk::dayChanged);
    bench.desk->markets().open(test::demoDataset());
    test::waitUntil([&] { return bench.desk->hasMarket(); }, "the market");
    bench.settle();
    CHECK(opened.count() == 1);
    CHECK(dayChanged.count() == 0);
    CHECK(bench.find<QToolButton>(QStringLiteral("One session earlier"))->isEnabled());
}

TEST_CASE("As-of bar: its buttons step, and it says when it looks back", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    const Day latest = bench.desk->day();
    const auto lookingBack = [&] {
        for (const auto* label : bench.window->findChildren<QLabel*>())
            if (label->text().startsWith(QStringLiteral("Looking back")))
                return label->isVisible();
        return false;
    };
    CHECK_FALSE(lookingBack());
    auto* earlier = bench.find<QToolButton>(QStringLiteral("One session earlier"));
    auto* later = bench.find<QToolButton>(QStringLiteral("One session later"));
    CHECK_FALSE(later->isEnabled());
    QTest::mouseClick(earlier, Qt::LeftButton);
    CHECK(bench.desk->day() < latest);
    CHECK(lookingBack());
    QTest::mouseClick(later, Qt::LeftButton);
    CHECK(bench.desk->day() == latest);
    CHECK_FALSE(lookingBack());
}

TEST_CASE("Tray: a click selects a card, a double click goes to Weigh", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    std::vector<std::string> symbols;
    for (const std::size_t stock : {2U, 5U, 9U})
        symbols.push_back(bench.desk->market().instrument(stock).symbol);
    bench.desk->edit(QStringLiteral("fill"), [&](Work& work) { work.tray.fill(symbols, "test"); });
    bench.settle();
    auto* cards = bench.find<TrayCards>(QStringLiteral("Candidates in hand"));
    QTest::mouseClick(cards, Qt::LeftButton, {}, cards->card(1).center());
    CHECK(bench.desk->selected() == std::optional<std::size_t>(5));
    CHECK(bench.window->shownPlace() == QStringLiteral("market"));
    QTest::mouseDClick(cards, Qt::LeftButton, {}, cards->card(2).center());
    CHECK(bench.desk->selected() == std::optional<std::size_t>(9));
    CHECK(bench.window->shownPlace() == QStringLiteral("weigh"));
    QTest::mouseClick(cards, Qt::LeftButton, {}, cards->card(0).topRight() + QPoint(3, 5));
    CHECK(bench.desk->selected() == std::optional<std::size_t>(9)); // between two cards
}

TEST_CASE("Window: a place answers for the day when it is seen, not before", "[app]")
{
    const OwnFolder own;
    const test::WindowBench bench(own.path() / "library.sqlite");
    bench.go("sift");
    const auto summary = [&] {
        QStringList all;
        for (const auto* label :
             bench.window->place(QStringLiteral("sift"))->findChildren<QLabel*>())
            all << label->text();
        return all.filter(QStringLiteral(" on ")).value(0);
    };
    const QString before = summary();
    bench.go("market");
    bench.desk->stepSessions(-30);
    bench.settle();
    CHECK(summary() == before);
    bench.go("sift");
    CHECK(summary() != before);
    CHECK(summary().contains(shortDayText(bench.desk->day())));
}

TEST_CASE("Window: whichever question fails, its fault is told", "[app]")
{
    const OwnFolder own;
    const test::WindowBench bench(own.path() / "library.sqlite");
    for (const char* place : {"market", "sift", "weigh", "lists"})
        bench.go(place);
    QStringList notices;
    QObject::connect(bench.desk.get(), &Desk::noticed, bench.window.get(),
                     [&](const QString& notice) { notices << notice; });
    QObject::connect(&bench.desk->markets(), &MarketKeeper::failed, bench.window.get(),
                     [&](const QString& notice) { notices << notice; });
    int askers = 0;
    for (QObject* root :
         {static_cast<QObject*>(bench.desk.get()), static_cast<QObject*>(bench.window.get())})
        for (auto* asker : root->findChildren<Asker*>()) {
            notices.clear();
            Q_EMIT asker->failed(QStringLiteral("the quay is closed"));
            INFO("asked by " << asker->parent()->metaObject()->className());
            CHECK(notices.filter(QStringLiteral("the quay is closed")).size() == 1);
            ++askers;
        }
    CHECK(askers > 10);
}

} // namespace sieve::app
