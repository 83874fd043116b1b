#include "app/desk/calendar_keeper.h"
#include "app/frame/restore_backup_dialog.h"
#include "app/lists/agenda_view.h"
#include "app/lists/list_tree.h"
#include "app/lists/read_list_dialog.h"
#include "app/parts/actions.h"
#include "app/parts/number_text.h"
#include "core/watchlists/stocks.h"
#include "tests/app/opened.h"

#include <QCheckBox>
#include <QClipboard>
#include <QComboBox>
#include <QLineEdit>
#include <QListWidget>
#include <QPlainTextEdit>
#include <QTreeWidget>
#include <QUndoView>
#include <catch2/catch.hpp>

// Lists from files and as files.

namespace sieve::app {

namespace {

using namespace test;
namespace fs = std::filesystem;

} // namespace

TEST_CASE("Lists: read from a file, with a report of its rows", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    bench.go("lists");
    const market::Market& market = bench.desk->market().data();
    const std::string symbol = market.instrument(3).symbol;
    const Day day = market.sessions()[200];
    own.write("harbours.csv", "symbol;date;why;Mood\n" + symbol + ";" + day.iso() + ";tight;x\n" +
                                  "NOBODY;;kept;\n;;;y\n");
    bench.activate();
    answerNext<QFileDialog>(
        bench, [&](QFileDialog& dialog) { choose(dialog, own.path() / "harbours.csv"); });
    bool hasSeen = false;
    const auto seen = [&] {
        whenOpened<ReadListDialog>(bench, [&](ReadListDialog& dialog) {
            hasSeen = true;
            auto* notes = dialog.findChild<QTreeWidget*>();
            REQUIRE(notes);
            CHECK(notes->topLevelItemCount() == 3); // the column, the stock, the row without one
            CHECK(notes->topLevelItem(2)->text(2) == QStringLiteral("left out"));
            CHECK(dialog.newName() == QStringLiteral("harbours"));
            accept(dialog);
        });
    };
    seen();
    findAction(*bench.window, ActionId::ReadList)->trigger();
    waitUntil([&] { return hasSeen; }, "what the file gives");
    bench.settle();
    bench.activate();
    const Work& work = bench.desk->work().now();
    REQUIRE(work.lists.size() == 1);
    CHECK(work.lists[0]->name == "harbours");
    REQUIRE(work.lists[0]->entries.size() == 2);
    CHECK(work.lists[0]->entries[0] ==
          watchlists::Entry{symbol, day, watchlists::priceOn(market, 3, day), "tight"});
    CHECK(work.lists[0]->entries[1].symbol == "NOBODY");

    // A copied table goes onto the list that is shown; who is there keeps its day.
    QApplication::clipboard()->setText(
        text("symbol\twhy\n" + symbol + "\tagain\n" + market.instrument(5).symbol + "\tnew\n"));
    auto* tree = bench.find<ListTree>(QStringLiteral("Watchlists"));
    tree->choose(work.lists[0]->id);
    bench.settle();
    tree->setFocus();
    hasSeen = false;
    whenOpened<ReadListDialog>(bench, [&](ReadListDialog& dialog) {
        hasSeen = true;
        CHECK(dialog.list() == work.lists[0]->id);
        accept(dialog);
    });
    QTest::keyClick(tree, Qt::Key_V, Qt::ControlModifier);
    waitUntil([&] { return hasSeen; }, "what was pasted");
    bench.settle();
    REQUIRE(work.lists[0]->entries.size() == 3);
    CHECK(work.lists[0]->entries[0].addedOn == day);
    CHECK(work.lists[0]->entries[2].reason == "new");
    bench.desk->work().undoStack().undo();
    bench.desk->work().undoStack().undo();
    CHECK(work.lists.empty());
}

TEST_CASE("Lists: a file that cannot be read is told with its place", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    bench.go("lists");
    own.write("broken.csv", "symbol,why\nA,\"never closed\n");
    answerNext<QFileDialog>(
        bench, [&](QFileDialog& dialog) { choose(dialog, own.path() / "broken.csv"); });
    findAction(*bench.window, ActionId::ReadList)->trigger();
    bench.settle();
    CHECK(bench.window->noticeText().contains(QStringLiteral("Line 2")));
    CHECK(bench.desk->work().now().lists.empty());
}

TEST_CASE("Lists: a calendar file is kept up to date", "[app]")
{
    const OwnFolder own;
    const fs::path file = own.path() / "mine.ics";
    const auto text = [&] { return own.read("mine.ics"); };
    {
        const WindowBench bench(own.path() / "library.sqlite");
        bench.go("lists");
        bench.desk->work().edit(QStringLiteral("test"), [&](Work& work) {
            watchlists::Watchlist list{
                bench.desk->work().newId(),
                "Quay",
                {{bench.desk->market().data().instrument(3).symbol, bench.desk->focus().day()}}};
            list.entries[0].page.reviewOn = bench.desk->focus().day().plusDays(30);
            work.lists = {list};
        });
        findAction(*bench.window, ActionId::ShowAgenda)->trigger();
        bench.settle();
        auto* keep = buttonOf<QCheckBox>(*bench.window->findChild<AgendaView*>(),
                                         QStringLiteral("&Keep a file up to date"));
        inOpened<QFileDialog>(
            bench, [&] { keep->click(); }, [&](QFileDialog& dialog) { choose(dialog, file); });
        CHECK(keep->isChecked());
        waitUntil([&] { return text().find("review") != std::string::npos; }, "the calendar");
        bench.desk->work().edit(QStringLiteral("test"), [](Work& work) {
            work.lists[0].edit().entries[0].page.reviewOn.reset();
        });
        waitUntil([&] { return text().find("review") == std::string::npos; }, "the new one");
    }
    fs::remove(file);
    const WindowBench bench(own.path() / "library.sqlite");
    waitUntil([&] { return fs::exists(file); }, "the file in another session");
    bench.desk->calendar().keep({});
    fs::remove(file);
    bench.desk->work().edit(QStringLiteral("test"),
                            [](Work& work) { work.lists[0].edit().name = "Pier"; });
    QTest::qWait(2500);
    CHECK_FALSE(fs::exists(file));
}

TEST_CASE("Undo: goes on where the last session ended", "[app]")
{
    const OwnFolder own;
    const fs::path library = own.path() / "library.sqlite";
    const auto rename = [](const WindowBench& bench, const char* name) {
        bench.desk->work().edit(QStringLiteral("call it %1").arg(QString::fromUtf8(name)),
                                [name](Work& work) { work.lists[0].edit().name = name; });
    };
    {
        const WindowBench bench(library);
        bench.desk->work().edit(QStringLiteral("add"), [&](Work& work) {
            work.lists = {listOf(bench.desk->work().newId(), "Quay",
                                 {{"AAAA", bench.desk->focus().day(), 1.0, "why"}})};
        });
        rename(bench, "Pier");
        rename(bench, "Mole");
        bench.desk->work().undoStack().undo();
        CHECK(bench.desk->work().now().lists[0]->name == "Pier");
    }
    {
        const WindowBench bench(library, {});
        bench.settle();
        QUndoStack& stack = bench.desk->work().undoStack();
        CHECK(stack.undoText() == QStringLiteral("call it Pier"));
        findAction(*bench.window, ActionId::ShowHistory)->trigger();
        auto* history = bench.window->findChild<QUndoView*>();
        REQUIRE(history);
        CHECK(history->model()->rowCount() == 3);                // the begin and two steps
        history->setCurrentIndex(history->model()->index(1, 0)); // as a click does
        CHECK(bench.desk->work().now().lists[0]->name == "Quay");
        history->setCurrentIndex(history->model()->index(2, 0));
        CHECK(bench.desk->work().now().lists[0]->name == "Pier");
        history->window()->close();
        rename(bench, "Jetty");
        stack.undo();
        CHECK(bench.desk->work().now().lists[0]->name == "Pier");
        stack.undo();
        CHECK(bench.desk->work().now().lists[0]->name == "Quay");
        CHECK(bench.desk->work().now().lists[0]->entries[0].reason == "why");
        stack.undo();
        CHECK(bench.desk->work().now().lists.empty());
        CHECK_FALSE(stack.canUndo());
        stack.redo();
        stack.redo();
        CHECK(bench.desk->work().now().lists[0]->name == "Pier");
    }
    const WindowBench bench(library, {});
    bench.settle();
    bench.desk->work().undoStack().undo();
    CHECK(bench.desk->work().now().lists[0]->name == "Quay");
}

TEST_CASE("Undo: steps that were joined are one in the next session", "[app]")
{
    const OwnFolder own;
    const fs::path library = own.path() / "library.sqlite";
    {
        const WindowBench bench(library, {});
        for (const char* name : {"A", "B", "C"})
            bench.desk->work().edit(
                QStringLiteral("turn"), [name](Work& work) { work.screen.edit().name = name; },
                Workbench::Step::MayJoin);
        CHECK(bench.desk->work().undoStack().count() == 1);
    }
    const WindowBench bench(library, {});
    bench.settle();
    QUndoStack& stack = bench.desk->work().undoStack();
    CHECK(stack.count() == 1);
    CHECK(bench.desk->work().now().screen->name == "C");
    stack.undo();
    CHECK(bench.desk->work().now().screen->name != "A");
    CHECK(bench.desk->work().now().screen->name != "B");
}

TEST_CASE("Library: saved as open text, and restored from it", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite", {});
    bench.desk->work().edit(QStringLiteral("add"), [&](Work& work) {
        work.lists = {
            listOf(bench.desk->work().newId(), "Quay", {{"AAAA", Day::fromSerial(19800)}})};
    });
    const fs::path folder = own.path() / "text";
    inOpened<QFileDialog>(
        bench, [&] { findAction(*bench.window, ActionId::SaveLibraryFolder)->trigger(); },
        [&](QFileDialog& dialog) { choose(dialog, folder); });
    waitUntil([&] { return fs::exists(folder / "library.toml"); }, "the folder");
    bench.desk->work().edit(QStringLiteral("remove"), [](Work& work) { work.lists.clear(); });
    RestoreBackupDialog dialog(*bench.desk, bench.window.get());
    dialog.show();
    bench.settle();
    inOpened<QFileDialog>(
        bench, [&] { buttonOf<QPushButton>(dialog, QStringLiteral("From a &folder…"))->click(); },
        [&](QFileDialog& chosen) { choose(chosen, folder); });
    auto* restore = buttonOf<QPushButton>(dialog, QStringLiteral("Restore this backup"));
    waitUntil([restore] { return restore->isEnabled(); }, "what the folder holds");
    CHECK(dialog.findChild<QPlainTextEdit*>()->toPlainText().contains(QStringLiteral("Quay")));
    restore->click();
    waitUntil([&] { return !bench.desk->work().now().lists.empty(); }, "the list");
    CHECK(bench.desk->work().now().lists[0]->entries[0].symbol == "AAAA");
    // A folder that is none is told.
    RestoreBackupDialog other(*bench.desk, bench.window.get());
    other.show();
    bench.settle();
    fs::create_directories(own.path() / "nothing");
    inOpened<QFileDialog>(
        bench, [&] { buttonOf<QPushButton>(other, QStringLiteral("From a &folder…"))->click(); },
        [&](QFileDialog& chosen) { choose(chosen, own.path() / "nothing"); });
    auto* preview = other.findChild<QPlainTextEdit*>();
    waitUntil([&] { return preview->toPlainText().contains(QStringLiteral("library.toml")); },
              "what is wrong");
    other.close();
}

} // namespace sieve::app
