#include "app/desk/market_keeper.h"
#include "app/frame/as_of_bar.h"
#include "app/frame/keys_dialog.h"
#include "app/parts/actions.h"
#include "app/parts/number_text.h"
#include "core/library/backups.h"
#include "tests/app/opened.h"

#include <QCalendarWidget>
#include <QMenuBar>
#include <QMessageBox>
#include <QSignalSpy>
#include <QTextBrowser>
#include <QToolButton>
#include <catch2/catch.hpp>

// The window's own menus, and the calendar of the as-of day.

namespace sieve::app {

namespace {

using namespace test;

namespace fs = std::filesystem;

QMenu& menuOf(const WindowBench& bench, const QString& title)
{
    for (QAction* menu : bench.window->menuBar()->actions())
        if (menu->text().remove(u'&') == title)
            return *menu->menu();
    throw std::runtime_error("no menu " + title.toStdString());
}

void take(const WindowBench& bench, const QString& menu, const QString& words)
{
    entry(menuOf(bench, menu), words)->trigger();
    bench.settle();
}

} // namespace

TEST_CASE("Window: the palette is chosen from the menu and kept", "[app]")
{
    const OwnFolder own;
    const auto library = own.path() / "library.sqlite";
    {
        const WindowBench bench(library);
        const QImage light = bench.window->grab().toImage();
        take(bench, QStringLiteral("View"), QStringLiteral("Harbour"));
        CHECK(look().name == QStringLiteral("harbour"));
        CHECK(bench.window->grab().toImage() != light);
        take(bench, QStringLiteral("View"), QStringLiteral("Harbour")); // as it is
        CHECK(look().name == QStringLiteral("harbour"));
    }
    wear(paperPalette());
    {
        const WindowBench bench(library);
        CHECK(look().name == QStringLiteral("harbour"));
        take(bench, QStringLiteral("View"), QStringLiteral("Paper"));
        CHECK(look().name == QStringLiteral("paper"));
    }
}

TEST_CASE("Window: full screen and back by the same entry", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite", {});
    take(bench, QStringLiteral("View"), QStringLiteral("Full screen"));
    CHECK(bench.window->isFullScreen());
    take(bench, QStringLiteral("View"), QStringLiteral("Full screen"));
    CHECK_FALSE(bench.window->isFullScreen());
}

TEST_CASE("Window: what was opened before is in the menu and opens again", "[app]")
{
    const OwnFolder own;
    {
        const WindowBench bench(own.path() / "empty.sqlite", {});
        QMenu& recent =
            *entry(menuOf(bench, QStringLiteral("File")), QStringLiteral("Open recent"))->menu();
        Q_EMIT recent.aboutToShow();
        REQUIRE(recent.actions().size() == 1);
        CHECK_FALSE(recent.actions()[0]->isEnabled());
    }
    const WindowBench bench(own.path() / "library.sqlite");
    QMenu& recent =
        *entry(menuOf(bench, QStringLiteral("File")), QStringLiteral("Open recent"))->menu();
    Q_EMIT recent.aboutToShow();
    REQUIRE(recent.actions().size() == 1);
    CHECK(recent.actions()[0]->text() == text(demoDataset().string()));
    QSignalSpy opened(&bench.desk->market(), &OpenMarket::opened);
    recent.actions()[0]->trigger();
    waitUntil([&opened] { return opened.count() > 0; }, "the market again");
    bench.settle();
    CHECK(bench.desk->market().isOpen());
}

TEST_CASE("Window: a dataset and what is new are opened by their folders", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite", {});
    const auto openWith = [&](const QString& words, const fs::path& folder) {
        inOpened<QFileDialog>(
            bench, [&] { entry(menuOf(bench, QStringLiteral("File")), words)->trigger(); },
            [&](QFileDialog& dialog) { choose(dialog, folder); });
    };
    CHECK_FALSE(
        entry(menuOf(bench, QStringLiteral("File")), QStringLiteral("Update"))->isEnabled());
    openWith(QStringLiteral("Open dataset"), demoDataset());
    waitUntil([&bench] { return bench.desk->market().isOpen(); }, "the market");
    bench.settle();
    CHECK(entry(menuOf(bench, QStringLiteral("File")), QStringLiteral("Update"))->isEnabled());
    const std::size_t stocks = bench.desk->market().data().size();

    fs::create_directories(own.path() / "nothing");
    QSignalSpy failed(&bench.desk->market().keeper(), &MarketKeeper::failed);
    openWith(QStringLiteral("Update with new data"), own.path() / "nothing");
    waitUntil([&failed] { return failed.count() > 0; }, "what is wrong with the folder");
    CHECK(bench.desk->market().data().size() == stocks);
    inOpened<QFileDialog>(
        bench,
        [&] {
            entry(menuOf(bench, QStringLiteral("File")), QStringLiteral("Open dataset"))->trigger();
        },
        [](QFileDialog& dialog) { dialog.reject(); });
    CHECK(bench.desk->market().data().size() == stocks);
}

TEST_CASE("Window: keys and the program itself are told", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite", {});
    QString keys;
    inOpened<KeysDialog>(
        bench, [&] { take(bench, QStringLiteral("Help"), QStringLiteral("Keys")); },
        [&](KeysDialog& dialog) {
            for (const auto* part : dialog.findChildren<QTextBrowser*>())
                keys += part->toPlainText();
            dialog.reject();
        });
    for (const ActionRow& row : actionRows())
        for (const QKeySequence& key : keysOf(row.id)) {
            INFO(row.title);
            CHECK(keys.contains(key.toString(QKeySequence::NativeText)));
        }
    QString about;
    inOpened<QMessageBox>(
        bench, [&] { take(bench, QStringLiteral("Help"), QStringLiteral("About")); },
        [&](QMessageBox& box) {
            about = box.text();
            box.accept();
        });
    CHECK(about.contains(QStringLiteral("General Public License")));
}

TEST_CASE("Window: the tray is emptied by the menu, the library is backed up", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    bench.desk->work().edit(QStringLiteral("tray"), [&](Work& work) {
        work.tray = test::trayOf(bench, {bench.desk->market().data().instrument(2).symbol}, "test");
    });
    take(bench, QStringLiteral("Edit"), QStringLiteral("Empty the tray"));
    CHECK(bench.desk->work().now().tray->isEmpty());
    take(bench, QStringLiteral("Edit"), QStringLiteral("Undo"));
    CHECK(bench.desk->work().now().tray->cards().size() == 1);
    const auto backups = [&] { return library::backupsOf(own.path() / "library.sqlite").size(); };
    waitUntil([&] { return backups() == 1; }, "the backup of the day");
    take(bench, QStringLiteral("File"), QStringLiteral("Back up the library now"));
    waitUntil([&] { return backups() == 2; }, "the backup that was asked for");
}

TEST_CASE("As-of bar: a day is chosen in the calendar, a session or the one before it", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    const auto* bar = bench.window->findChild<AsOfBar*>();
    QToolButton* opener = nullptr;
    for (auto* button : bar->findChildren<QToolButton*>())
        if (button->toolTip() == QStringLiteral("Choose a day"))
            opener = button;
    REQUIRE(opener);
    const auto choose = [&](const QDate& date) {
        inOpened<QMenu>(
            bench, [opener] { opener->click(); },
            [&](QMenu& menu) {
                auto* calendar = menu.findChild<QCalendarWidget*>();
                REQUIRE(calendar);
                const Day first = bench.desk->market().data().sessions().front();
                CHECK(calendar->minimumDate().toString(Qt::ISODate) == text(first.iso()));
                CHECK(calendar->selectedDate().toString(Qt::ISODate) ==
                      text(bench.desk->focus().day().iso()));
                Q_EMIT calendar->activated(date);
            });
    };
    const Day last = bench.desk->market().data().sessions().back();
    choose(QDate(2024, 3, 9)); // a Saturday
    CHECK(bench.desk->focus().day().iso() == "2024-03-08");
    CHECK(opener->text().contains(shortDayText(bench.desk->focus().day())));
    choose(QDate::fromString(text(last.iso()), Qt::ISODate));
    CHECK(bench.desk->focus().isLatest());
}

} // namespace sieve::app
