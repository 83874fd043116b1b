#include "app/frame/doorbell.h"
#include "app/frame/notice_bar.h"
#include "app/frame/restore_backup_dialog.h"
#include "core/library/backups.h"
#include "core/library/kept_work.h"
#include "core/screens/starter.h"
#include "tests/app/opened.h"

#include <QListWidget>
#include <QMessageBox>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QSignalSpy>
#include <QStatusBar>
#include <QToolButton>
#include <catch2/catch.hpp>
#include <future>
#include <thread>

// One window a library, and what the person is told about the library.

namespace sieve::app {

namespace {

using test::OwnFolder;
using test::waitUntil;
using test::WindowBench;

} // namespace

TEST_CASE("Two windows: a second start rings at the first, with what it was started with", "[app]")
{
    const OwnFolder own;
    const QString library = QString::fromStdString((own.path() / "library.sqlite").string());
    CHECK_FALSE(Doorbell::ring(library, {}));
    Doorbell first(library);
    first.listen();
    QSignalSpy rung(&first, &Doorbell::rung);
    bool isHeard = false;
    std::thread second([&] { isHeard = Doorbell::ring(library, {QStringLiteral("/a/dataset")}); });
    waitUntil([&] { return rung.count() == 1; }, "the ring");
    second.join();
    CHECK(isHeard);
    CHECK(rung[0][0].toStringList() == QStringList{QStringLiteral("/a/dataset")});
    CHECK_FALSE(Doorbell::ring(library + QStringLiteral(".other"), {}));
}

TEST_CASE("Two windows: what a crashed one left does not keep the next from answering", "[app]")
{
    const OwnFolder own;
    const QString library = QString::fromStdString((own.path() / "library.sqlite").string());
    auto* crashed = new Doorbell(library);
    crashed->listen();
    Doorbell next(library); // the socket's file is there still
    next.listen();
    QSignalSpy rung(&next, &Doorbell::rung);
    std::thread second([&] { Doorbell::ring(library, {}); });
    waitUntil([&] { return rung.count() == 1; }, "the ring");
    second.join();
    delete crashed;
}

TEST_CASE("Two windows: the second only reads, says so, and loses nothing of the first", "[app]")
{
    const OwnFolder own;
    const auto library = own.path() / "library.sqlite";
    const WindowBench first(library, {});
    first.desk->work().edit(QStringLiteral("first"),
                            [](Work& work) { work.lists = {test::listOf(1, "Harbour")}; });
    first.desk->keeper().waitUntilDone();
    {
        const WindowBench second(library, {});
        CHECK(second.window->noticeText().contains(QStringLiteral("in use by another Wise Sieve")));
        REQUIRE(second.desk->work().now().lists.size() == 1);
        CHECK_FALSE(second.desk->work().edit(QStringLiteral("Add a list"),
                                             [](Work& work) { work.lists.clear(); }));
        CHECK(second.desk->work().now().lists.size() == 1);
        language::Field half;
        half.name = "half";
        half.formula = "close / 2";
        CHECK(second.desk->fieldShelf().put({}, half)); // an error: nothing says that it is saved
        CHECK_FALSE(second.desk->screenShelf().saveAll({screens::starterScreens()[0]}));
        CHECK_FALSE(second.desk->screenShelf().remove({"Harbour"}));
        second.desk->settings().set("place", "sift"); // forgotten, not an error
    }
    first.desk->work().edit(QStringLiteral("first"),
                            [](Work& work) { work.lists.push_back(test::listOf(2, "Hills")); });
    first.desk->keeper().waitUntilDone();
    CHECK(loadWork(*library::Library::copyOf(library)).work.lists.size() == 2);
}

TEST_CASE("Saving: what cannot be saved is told, kept and saved when it can be", "[app]")
{
    const OwnFolder own;
    const auto library = own.path() / "library.sqlite";
    const WindowBench bench(library, {});
    bench.desk->keeper().enqueue([](library::Library& open) {
        open.database().exec("CREATE TRIGGER full BEFORE INSERT ON watchlist "
                             "BEGIN SELECT RAISE(ABORT, 'database or disk is full'); END");
    });
    bench.desk->work().edit(QStringLiteral("first"),
                            [](Work& work) { work.lists = {test::listOf(1, "Harbour")}; });
    waitUntil([&] { return bench.window->noticeText().contains(QStringLiteral("disk is full")); },
              "the notice");
    bench.desk->work().edit(QStringLiteral("second"),
                            [](Work& work) { work.lists.push_back(test::listOf(2, "Hills")); });
    bench.desk->keeper().waitUntilDone();
    bench.settle();
    CHECK_FALSE(bench.desk->work().isSaved());
    CHECK(bench.desk->work().now().lists.size() == 2);
    bench.desk->keeper().enqueue(
        [](library::Library& open) { open.database().exec("DROP TRIGGER full"); });
    waitUntil([&] { return bench.desk->work().isSaved(); }, "the saving of both");
    CHECK(loadWork(*library::Library::copyOf(library)).work.lists.size() == 2);
}

namespace {

/// A disk that takes as long as the test wants.
class SlowDisk {
public:
    explicit SlowDisk(const WindowBench& bench)
    {
        bench.desk->keeper().enqueue(
            [done = done_.get_future().share()](library::Library&) { done.wait(); });
    }
    void goOn() { done_.set_value(); }

private:
    std::promise<void> done_;
};

} // namespace

TEST_CASE("Saving: a slow disk is told, the window goes on, and closes when all is saved", "[app]")
{
    const OwnFolder own;
    const auto library = own.path() / "library.sqlite";
    const WindowBench bench(library, {});
    Workbench& work = bench.desk->work();
    SlowDisk disk(bench);
    work.edit(QStringLiteral("first"),
              [](Work& edited) { edited.lists = {test::listOf(1, "Harbour")}; });
    work.edit(QStringLiteral("second"),
              [](Work& edited) { edited.lists.push_back(test::listOf(2, "Hills")); });
    CHECK(work.now().lists.size() == 2);
    const auto told = [&] { return bench.window->statusBar()->currentMessage(); };
    waitUntil([&] { return told().contains(QStringLiteral("disk is slow")); }, "the word of it");
    CHECK_FALSE(work.isSaved());
    bench.window->close();
    CHECK(bench.window->isVisible());
    CHECK(told().contains(QStringLiteral("closes when they are saved")));
    disk.goOn();
    waitUntil([&] { return !bench.window->isVisible(); }, "the closing");
    CHECK(work.isSaved());
    CHECK(loadWork(*library::Library::copyOf(library)).work.lists.size() == 2);
}

TEST_CASE("Saving: closed while a saving is under way that fails, the person is asked", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite", {});
    SlowDisk disk(bench);
    bench.desk->keeper().enqueue([](library::Library& open) {
        open.database().exec("CREATE TRIGGER full BEFORE INSERT ON watchlist "
                             "BEGIN SELECT RAISE(ABORT, 'database or disk is full'); END");
    });
    bench.desk->work().edit(QStringLiteral("first"),
                            [](Work& work) { work.lists = {test::listOf(1, "Harbour")}; });
    bench.window->close();
    CHECK(bench.window->isVisible());
    QString asked; // in the question's own loop of events
    QTimer answer;
    QObject::connect(&answer, &QTimer::timeout, bench.window.get(), [&] {
        if (auto* box = qobject_cast<QMessageBox*>(QApplication::activeModalWidget())) {
            asked = box->text();
            QTest::keyClick(box, Qt::Key_Escape);
        }
    });
    answer.start(20);
    disk.goOn();
    waitUntil([&] { return !asked.isEmpty(); }, "the question");
    answer.stop();
    CHECK(asked.contains(QStringLiteral("could not be written")));
    CHECK(bench.window->isVisible()); // the person stays
    bench.desk->keeper().enqueue(
        [](library::Library& open) { open.database().exec("DROP TRIGGER full"); });
    waitUntil([&] { return bench.desk->work().isSaved(); }, "the saving");
    CHECK(bench.window->isVisible()); // and is not thrown out later
}

TEST_CASE("Saving: a folder that is taken away is told, and all is saved when it is back", "[app]")
{
    const OwnFolder own;
    const auto library = own.path() / "mine" / "library.sqlite";
    const auto away = own.path() / "away";
    const WindowBench bench(library, {});
    bench.desk->work().edit(QStringLiteral("first"),
                            [](Work& work) { work.lists = {test::listOf(1, "Harbour")}; });
    bench.desk->keeper().waitUntilDone();
    std::filesystem::rename(library.parent_path(), away);
    bench.desk->work().edit(QStringLiteral("second"),
                            [](Work& work) { work.lists.push_back(test::listOf(2, "Hills")); });
    waitUntil([&] { return bench.window->noticeText().contains(QStringLiteral("not there")); },
              "the notice");
    CHECK(bench.window->noticeText().contains(QStringLiteral("not saved")));
    CHECK(bench.desk->work().now().lists.size() == 2);
    std::filesystem::rename(away, library.parent_path());
    waitUntil([&] { return bench.desk->work().isSaved(); }, "the saving");
    CHECK(loadWork(*library::Library::copyOf(library)).work.lists.size() == 2);
}

TEST_CASE("Loading: work that cannot be read is left as it is, and cannot be edited over", "[app]")
{
    const OwnFolder own;
    const auto library = own.path() / "library.sqlite";
    {
        const auto opened = library::Library::open(library);
        Work work;
        work.lists = {test::listOf(1, "Harbour")};
        saveWork(*opened.library, {}, work);
        opened.library->database().exec("ALTER TABLE card RENAME TO card_of_later");
    }
    Desk desk(library, test::marketsFolder());
    QStringList notices;
    QObject::connect(&desk, &Desk::noticed, &desk,
                     [&](const QString& notice) { notices << notice; });
    waitUntil([&] { return !notices.isEmpty(); }, "the notice");
    CHECK(notices[0].contains(QStringLiteral("could not be read")));
    CHECK_FALSE(desk.work().isLoaded());
    CHECK_FALSE(desk.work().edit(QStringLiteral("x"), [](Work& work) { work.lists.clear(); }));
    desk.keeper().waitUntilDone();
    SQLite::Database raw(library.string());
    CHECK(raw.execAndGet("SELECT count(*) FROM watchlist").getInt() == 1);
}

TEST_CASE("Restore: what would change is shown, done as one step, and can be undone", "[app]")
{
    const OwnFolder own;
    const auto library = own.path() / "library.sqlite";
    const WindowBench bench(library, {});
    Workbench& work = bench.desk->work();
    work.edit(QStringLiteral("first"), [](Work& edited) {
        edited.lists = {test::listOf(1, "Harbour"), test::listOf(2, "Hills")};
    });
    bench.desk->keeper().enqueue([](library::Library& open) { open.backUp(); });
    work.edit(QStringLiteral("second"), [](Work& edited) {
        edited.lists.erase(edited.lists.begin());
        edited.editList(2)->name = "Downs";
        edited.lists.push_back(test::listOf(3, "Quay"));
    });
    bench.desk->keeper().waitUntilDone();
    RestoreBackupDialog dialog(*bench.desk, bench.window.get());
    dialog.show();
    auto* preview = dialog.findChild<QPlainTextEdit*>();
    waitUntil([&] { return preview->toPlainText().contains(QStringLiteral("come back")); },
              "the preview");
    CHECK(preview->toPlainText() ==
          QStringLiteral("Lists\n   come back (1): Harbour\n   go (1): Quay\n"
                         "   change (1): Downs"));
    CHECK(dialog.findChild<QListWidget*>()->count() == 2);
    for (auto* button : dialog.findChildren<QPushButton*>())
        if (button->text().remove(u'&') == QStringLiteral("Restore this backup"))
            button->click();
    waitUntil([&] { return dialog.isHidden(); }, "the restoring");
    REQUIRE(work.now().lists.size() == 2);
    CHECK(work.now().lists[0]->name == "Harbour");
    CHECK(work.now().lists[1]->name == "Hills");
    bench.desk->keeper().waitUntilDone();
    CHECK(library::backupsOf(library).front().why == "restore");
    work.undoStack().undo();
    CHECK(work.now().lists[1]->name == "Quay");
}

TEST_CASE("Notices: one after another, none twice, facts in passing, all to be read again", "[app]")
{
    NoticeBar bar;
    auto* understood = bar.findChild<QToolButton*>();
    CHECK(bar.shown().isEmpty());
    bar.add(QStringLiteral("one"), NoticeBar::Severity::Warning);
    bar.add(QStringLiteral("two"), NoticeBar::Severity::Warning);
    bar.add(QStringLiteral("one"), NoticeBar::Severity::Warning);
    bar.add(QStringLiteral("saved"), NoticeBar::Severity::Fact);
    CHECK(bar.shown() == QStringLiteral("one"));
    CHECK(understood->text() == QStringLiteral("Understood, 1 more"));
    understood->click();
    CHECK(bar.shown() == QStringLiteral("two"));
    understood->click();
    CHECK(bar.shown().isEmpty());
    CHECK(bar.isHidden());
    CHECK(bar.history().size() == 4);
}

} // namespace sieve::app
