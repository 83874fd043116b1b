#include "app/chart/chart_view.h"
#include "app/sift/column_chooser.h"
#include "app/sift/own_field_editor.h"
#include "app/sift/paste_dialog.h"
#include "app/sift/screen_browser.h"
#include "app/sift/stack_view.h"
#include "tests/app/pictures.h"

#include "app/desk/in_hand.h"
#include "app/frame/keys_dialog.h"
#include "app/frame/restore_backup_dialog.h"
#include "app/frame/take_in_prices_dialog.h"
#include "app/lists/former_entries_dialog.h"
#include "app/sift/text_form.h"
#include "core/screens/column_sets.h"
#include "core/screens/starter.h"
#include "core/watchlists/stocks.h"

#include <QComboBox>
#include <QDir>
#include <QLineEdit>
#include <QListWidget>
#include <QMenuBar>
#include <QScreen>
#include <QScrollBar>
#include <QStatusBar>
#include <QTabWidget>
#include <QTableView>
#include <QToolButton>
#include <QTreeWidget>
#include <QTreeWidgetItemIterator>
#include <Qsci/qsciscintilla.h>
#include <cstdio>
#include <map>

// wise-sieve-screenshots FOLDER [PALETTE [PART]]: the pictures of the documentation, from
// the demo market; with a place many more of it, for the eyes of who changes it.

namespace {

using sieve::test::take;
using sieve::test::takeWeighDrawings;
using sieve::test::WindowBench;

/// A folder of prices as a bank might hand it out, with a fault or two.
void takeIntake(const WindowBench& bench, const QDir& folder)
{
    const sieve::test::OwnFolder files;
    files.write("KELP.csv", "Tag;Eroeffnung;Hoch;Tief;Schluss;Stueck\n"
                            "02.06.2025;1.010,5;1.020;1.000;1.015,25;12.000\n"
                            "03.06.2025;1.015;1.040;1.010;1.030;9.500\n"
                            "04.06.2025;1.030;1.031,5;1.002;1.004;14.200\n"
                            "05.06.2025;1.004;1.020;n. v.;1.018;8.100\n"
                            "06.06.2025;1.018;1.044;1.017;1.040,75;16.900\n"
                            "10.06.2025;1.042;1.052;1.038;1.049;11.300\n");
    sieve::app::TakeInPricesDialog dialog(bench.window.get());
    dialog.show();
    dialog.setSource(files.path());
    sieve::test::waitUntil([&] { return dialog.findChildren<QComboBox*>().back()->count() > 1; },
                           "the headings");
    sieve::intake::PriceLayout layout = dialog.layoutChosen();
    layout.decimalMark = ',';
    layout.thousandsMark = '.';
    layout.dayForm = sieve::intake::DayForm::DayMonthYear;
    layout.headings = {"", "Tag", "Eroeffnung", "Hoch", "Tief", "Schluss", "", "Stueck"};
    dialog.showLayout(layout);
    dialog.grab().save(folder.filePath(QStringLiteral("take_in_prices.png")));
}

void takeSift(const QDir& folder)
{
    const sieve::test::OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite", sieve::test::wholeDemoDataset());
    bench.go("sift");
    auto* results = bench.find<QTableView>(QStringLiteral("Results"));
    results->setCurrentIndex(results->model()->index(2, 0));
    bench.settle();
    auto* line = bench.find<QLineEdit>(QStringLiteral("New criterion"));
    line->setFocus();
    QTest::keyClicks(line, QStringLiteral("margin"));
    take(bench, folder, "sift_finder");
    QTest::keyClick(line, Qt::Key_Escape);
    line->clear();
    auto* evidence = bench.window->place(QStringLiteral("sift"))->findChild<QTabWidget*>();
    const auto press = [&](const char* name) {
        for (auto* button : bench.window->findChildren<QToolButton*>())
            if (button->text() == QLatin1String(name))
                button->click();
        bench.settle();
    };
    auto* near = bench.find<QTreeWidget>(QStringLiteral("Near misses"));
    near->setCurrentItem(near->topLevelItem(1));
    press("Scatter");
    evidence->setCurrentIndex(1);
    bench.settle();
    auto* why = bench.find<QTreeWidget>(QStringLiteral("Why"));
    why->topLevelItem(2)->setExpanded(true);
    take(bench, folder, "sift_scatter");
    press("Wall");
    take(bench, folder, "sift_wall");
    press("Table");
    evidence->setCurrentIndex(0);
    bench.desk->work().edit(QStringLiteral("columns"), [](sieve::app::Work& work) {
        const auto& set = sieve::screens::readyColumnSets()[1];
        work.screen.edit().columns = set.columns;
        work.screen.edit().cells = set.cells;
        work.screen.edit().columns.push_back("average_50");
        work.screen.edit().cells["average_50"] = sieve::language::CellGraphic::Line;
        work.screen.edit().cells["day_change"] = sieve::language::CellGraphic::Sign;
    });
    bench.settle();
    QTest::qWait(300);
    take(bench, folder, "sift_columns");
}

/// Stocks in another currency beside those of the market's, and why one of them is out.
void takeCurrencies(const QDir& folder)
{
    const sieve::test::OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite", sieve::test::wholeDemoDataset());
    bench.go("sift");
    bench.desk->work().edit(QStringLiteral("screen"), [](sieve::app::Work& work) {
        auto& screen = work.screen.edit();
        screen.universe = "kind == \"receipt\" or sector == \"Energy\"";
        screen.criteria = {{"market_cap > 100M", true, {}}, {"close > 5", true, {}}};
        screen.columns = {"symbol", "name", "currency", "close", "market_cap", "eps_ttm"};
        screen.cells = {{"market_cap", sieve::language::CellGraphic::Bar}};
        screen.rankBy = "market_cap";
    });
    bench.settle();
    auto* evidence = bench.window->place(QStringLiteral("sift"))->findChild<QTabWidget*>();
    auto* results = bench.find<QTableView>(QStringLiteral("Results"));
    for (int row = 0; row < results->model()->rowCount(); ++row)
        if (results->model()->index(row, 2).data().toString() == QStringLiteral("dn")) {
            results->setCurrentIndex(results->model()->index(row, 0));
            break;
        }
    evidence->setCurrentIndex(1);
    bench.settle();
    bench.find<QTreeWidget>(QStringLiteral("Why"))->expandAll();
    take(bench, folder, "currencies_sift");
    bench.go("weigh");
    take(bench, folder, "currencies_weigh");
}

/// One stock's chart in its ready set-ups, with a card, on weeks, far out, and with a mistake.
/// The browser of screens, with some of the person's own.
void takeScreens(const QDir& folder)
{
    const sieve::test::OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite", sieve::test::wholeDemoDataset());
    sieve::app::ScreenShelf& shelf = bench.desk->screenShelf();
    for (const sieve::screens::Screen& ready : sieve::screens::starterScreens())
        if (ready.name.starts_with("C") || ready.name == bench.desk->work().now().screen->name) {
            sieve::screens::Screen screen = ready;
            const bool isTrend = !screen.tags.empty() && screen.tags[0] == "trend";
            screen.name = "My " + screen.name;
            screen.folder = isTrend ? "Evening/Trend" : "Weekend";
            shelf.save(screen);
            screen.criteria.push_back({"close >= 5"});
            shelf.save(screen);
            screen.criteria.back().text = "close >= 8";
            screen.criteria[0].isOn = false;
            screen.notes = "Only when the market rises over weeks.";
            shelf.save(screen);
        }
    sieve::screens::Screen broken;
    broken.name = "Of an older field";
    broken.criteria = {{"old_score > 70"}, {"close > sma(close, 50)"}};
    shelf.save(broken);
    sieve::app::ScreenBrowser browser(*bench.desk);
    browser.show();
    const auto shoot = [&](const char* name, const char* current, int tab) {
        for (auto* tree : browser.findChildren<QTreeWidget*>())
            for (QTreeWidgetItemIterator at(tree); *at; ++at)
                if ((*at)->text(0) == QLatin1String(current))
                    tree->setCurrentItem(*at);
        browser.findChild<QTabWidget*>()->setCurrentIndex(tab);
        QTest::qWait(1500);
        browser.grab().save(folder.filePath(QLatin1String(name) + QStringLiteral(".png")));
    };
    shoot("screens", "My Calm compounders", 0);
}

/// The editor of own fields on a field with parts from statements and prices.
void takeOwnField(const QDir& folder)
{
    const sieve::test::OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite", sieve::test::wholeDemoDataset());
    sieve::language::Field field;
    const auto put = [&](const char* name, const char* title, const char* formula) {
        field.name = name;
        field.title = field.head = title;
        field.formula = formula;
        field.family = "Own";
        field.meaning = "For what it moves in a day, how far it came in half a year";
        field.unit = sieve::Unit::Ratio;
        bench.desk->fieldShelf().put({}, field);
    };
    put("calm_rise", "Calm rise", "change(close, 126) / (atr(14) / close)");
    put("growth_multiple", "Multiple for its growth", "price_to_earnings / (100 * eps_growth)");
    bench.desk->focus().select(12);
    sieve::app::OwnFieldEditor editor(*bench.desk);
    editor.findChild<QListWidget*>()->setCurrentRow(1);
    editor.show();
    QTest::qWait(800);
    editor.grab().save(folder.filePath(QStringLiteral("own_field.png")));
}

/// What opens only under the hand: completion, call tip, paste preview, columns, percentile, file
/// names.
void takeHands(const QDir& folder)
{
    const sieve::test::OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite", sieve::test::wholeDemoDataset());
    bench.go("sift");
    const auto screen = [&](const char* name) {
        QTest::qWait(400);
        QGuiApplication::primaryScreen()->grabWindow(0).save(
            folder.filePath(QLatin1String(name) + QStringLiteral(".png")));
    };
    bench.activate();
    auto* line = bench.find<QLineEdit>(QStringLiteral("Criterion 3"));
    line->setFocus();
    line->selectAll();
    QTest::keyClicks(line, QStringLiteral("close > aver"));
    screen("hand_words");
    QTest::keyClick(line, Qt::Key_Escape);
    bench.desk->work().undoStack().undo();
    for (auto* button : bench.window->findChildren<QToolButton*>())
        if (button->text() == QStringLiteral("As text")) {
            button->click();
            bench.settle();
            auto& editor = bench.window->findChild<sieve::app::TextForm*>()->editor();
            editor.setCursorPosition(editor.lines() - 1, editor.lineLength(editor.lines() - 1));
            QTest::keyClicks(&editor, QStringLiteral(" and sm"));
            screen("hand_completion");
            QTest::keyClick(&editor, Qt::Key_Escape);
            QTest::keyClicks(&editor, QStringLiteral("a("));
            screen("hand_call_tip");
            button->click();
        }
    const auto during = [&](const char* name, const std::function<void()>& open) {
        QTimer::singleShot(600, bench.window.get(), [&] {
            screen(name);
            if (auto* dialog = QApplication::activeModalWidget())
                dialog->close();
        });
        open();
    };
    const auto& market = bench.desk->market().data();
    sieve::app::PasteDialog paste(
        *bench.desk,
        QStringLiteral("Good morning, the ones we spoke of:\n$%1 and %2, also %3 (again!),\nnot "
                       "QQXY.C, which is gone.")
            .arg(QString::fromStdString(market.instrument(3).symbol).toLower(),
                 QString::fromStdString(market.instrument(9).symbol),
                 QString::fromStdString(market.instrument(12).symbol)),
        bench.window.get());
    during("hand_paste", [&] { paste.exec(); });
    const auto& set = sieve::screens::readyColumnSets()[1];
    sieve::app::ColumnChooser chooser(
        set.columns, set.cells, bench.desk->fieldShelf().all()->vocabulary(), bench.window.get());
    during("hand_columns", [&] { chooser.exec(); });
    bench.desk->work().edit(QStringLiteral("screen"), [](sieve::app::Work& work) {
        work.screen.edit().criteria = {{"close > sma(close, 50)"}, {"rsi(close, 14) <= 52"},
                                       {"week_change <= -1%"},     {"relative_volume_20 >= 1.5"},
                                       {"eps_growth > 10%"},       {"strength_63 >= 80"}};
    });
    take(bench, folder, "hand_none");
    auto* stack = bench.window->findChild<sieve::app::StackView*>();
    during("hand_percentile", [&] { Q_EMIT stack->percentWanted(2, 0); });
}

/// A plan of the stock that Weigh shows.
void planPurchase(const WindowBench& bench)
{
    const sieve::market::Market& market = bench.desk->market().data();
    const std::size_t stock = bench.desk->focus().selected().value();
    const sieve::Day day = bench.desk->focus().day();
    const double close = sieve::watchlists::priceOn(market, stock, day);
    bench.desk->work().edit(QStringLiteral("test"), [&](sieve::app::Work& work) {
        const auto place = placeIn(*work.tray, market, stock);
        work.tray.edit().setPlan(
            place.value(),
            sieve::watchlists::TradePlan{day, close, 0.95 * close, {1.08 * close, 1.15 * close}});
    });
    bench.settle();
}

void takeAll(const QDir& folder)
{
    const sieve::test::OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite", sieve::test::wholeDemoDataset());
    bench.settle();
    bench.find<QTreeWidget>(QStringLiteral("Groups"))->topLevelItem(2)->setExpanded(true);
    take(bench, folder, "market");
    auto* tabs = bench.window->findChild<QTabWidget*>();
    tabs->setCurrentIndex(1);
    take(bench, folder, "market_mosaic");
    tabs->setCurrentIndex(0);
    bench.desk->focus().setDay(*sieve::Day::parse("2022-03-02"));
    auto* board = bench.find<QWidget>(QStringLiteral("State of the market"));
    QTest::keyClick(board, Qt::Key_Return);
    take(bench, folder, "market_rule");
    QTest::keyClick(bench.find<QWidget>(QStringLiteral("Rising when")), Qt::Key_Escape);
    bench.desk->focus().setDay(*sieve::Day::parse("2026-07-01")); // the list below has aged since
    bench.go("sift");
    auto* results = bench.find<QTableView>(QStringLiteral("Results"));
    results->setCurrentIndex(results->model()->index(0, 0));
    QTest::keyClick(bench.window.get(), Qt::Key_Return, Qt::ControlModifier);
    bench.settle();
    auto* weigh = bench.window->place(QStringLiteral("weigh"));
    for (const char* reason : {"turning at the 50-day average", "wait for the high of June", ""}) {
        auto* line = bench.find<QLineEdit>(QStringLiteral("Reason"));
        line->setText(QLatin1String(reason));
        QTest::keyClick(weigh, Qt::Key_K);
        bench.settle();
    }
    QTest::keyClick(weigh, Qt::Key_X);
    QTest::keyClick(weigh, Qt::Key_L);
    bench.go("lists");
    bench.desk->focus().goToLatest();
    sieve::test::fillLists(bench);
    take(bench, folder, "lists");
    bench.go("market");
    bench.pressCtrl(Qt::Key_B);
    bench.settle();
    auto* since = bench.find<QComboBox>(QStringLiteral("Since when"));
    since->setCurrentIndex(since->findText(QStringLiteral("a month ago")));
    Q_EMIT since->activated(since->currentIndex());
    bench.settle();
    take(bench, folder, "brief");
    bench.pressCtrl(Qt::Key_B);
    bench.go("sift");
    results->setCurrentIndex(results->model()->index(0, 0));
    take(bench, folder, "sift");
    bench.desk->work().edit(QStringLiteral("Begin anew"), // decisions would be asked about
                            [](sieve::app::Work& work) { work.tray.edit().clear(); });
    QTest::keyClick(bench.window.get(), Qt::Key_Return, Qt::ControlModifier);
    bench.settle();
    QTest::keyClick(weigh, Qt::Key_K);
    QTest::keyClick(weigh, Qt::Key_X);
    planPurchase(bench);
    take(bench, folder, "weigh");
    for (int part = 0; part < 3; ++part)
        QTest::keyClick(weigh, Qt::Key_J);
    take(bench, folder, "weigh_dossier");
    takeIntake(bench, folder);
    takeSift(folder);
    takeScreens(folder);
    takeOwnField(folder);
}

void takeMarket(const QDir& folder)
{
    const sieve::test::OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite", sieve::test::wholeDemoDataset());
    bench.settle();
    auto* tabs = bench.window->findChild<QTabWidget*>();
    bench.desk->work().edit(QStringLiteral("list"), [&](sieve::app::Work& work) {
        work.lists = {sieve::test::listOf(1, "Harbour")};
        for (std::size_t i = 0; i < 30; ++i)
            work.lists[0].edit().entries.push_back(
                {bench.desk->market().data().instrument(i * 7).symbol, bench.desk->focus().day(),
                 1.0, "", ""});
    });
    for (const sieve::screens::Screen& screen : sieve::screens::starterScreens())
        if (screen.side == sieve::screens::ScreenSide::Long && screen.name < "D")
            bench.desk->screenShelf().save(screen);
    const char* names[] = {"groups", "mosaic", "breadth", "divergences", "stances", "own"};
    auto* tree = bench.find<QTreeWidget>(QStringLiteral("Groups"));
    tree->topLevelItem(2)->setExpanded(true);
    tree->topLevelItem(2)->child(0)->setExpanded(true);
    for (int tab = 0; tab < tabs->count(); ++tab) {
        tabs->setCurrentIndex(tab);
        take(bench, folder, names[tab]);
    }
    tabs->setCurrentIndex(1);
    auto* part = bench.find<QComboBox>(QStringLiteral("What the mosaic shows"));
    part->setCurrentIndex(3);
    Q_EMIT part->activated(3);
    take(bench, folder, "mosaic_sector");
    part->setCurrentIndex(part->count() - 1);
    Q_EMIT part->activated(part->count() - 1);
    take(bench, folder, "mosaic_list");
    auto* board = bench.find<QWidget>(QStringLiteral("State of the market"));
    board->setFocus();
    QTest::keyClick(board, Qt::Key_Down);
    QTest::keyClick(board, Qt::Key_Down);
    for (auto* button : bench.window->findChildren<QToolButton*>())
        if (button->text() == QStringLiteral("Swings") ||
            button->text() == QStringLiteral("Gaps and days") ||
            button->text() == QStringLiteral("Last swing"))
            button->click();
    bench.desk->focus().setDay(*sieve::Day::parse("2022-03-02"));
    take(bench, folder, "falling");
    QTest::keyClick(board, Qt::Key_Return);
    take(bench, folder, "trend_rule");
    QTest::keyClick(bench.find<QWidget>(QStringLiteral("Rising when")), Qt::Key_Escape);
    for (auto* button : bench.window->findChildren<QToolButton*>())
        if (button->text() == QStringLiteral("New rule"))
            button->click();
    take(bench, folder, "new_rule");
    bench.desk->focus().setDay(*sieve::Day::parse("2025-07-10"));
    bench.window->resize(1024, 700);
    take(bench, folder, "diverging_small");
}

/// The menus of the window, each over the place that it belongs to, and the list of keys.
void takeMenus(const QDir& folder)
{
    const sieve::test::OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite", sieve::test::wholeDemoDataset());
    for (const char* place : {"sift", "weigh", "lists", "market"})
        bench.go(place);
    for (QAction* entry : bench.window->menuBar()->actions()) {
        QMenu* menu = entry->menu();
        menu->popup({0, 0});
        menu->grab().save(folder.filePath(menu->title().remove(u'&') + QStringLiteral(".png")));
        menu->hide();
    }
    sieve::app::KeysDialog keys(bench.window.get());
    keys.grab().save(folder.filePath(QStringLiteral("keys.png")));
}

/// What keeps the person's work: who left a list, and a backup before it is restored.
void takeWork(const QDir& folder)
{
    const sieve::test::OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite", sieve::test::wholeDemoDataset());
    const sieve::market::Market& market = bench.desk->market().data();
    const auto sessions = market.sessions();
    const auto edit = [&](const char* what, auto change) {
        bench.desk->work().edit(QString::fromLatin1(what), change);
    };
    edit("Keep", [&](sieve::app::Work& work) {
        work.lists = {sieve::test::listOf(1, "Harbour"), sieve::test::listOf(2, "Quay")};
        putOnto(*work.editList(1), market, std::vector<std::size_t>{7, 21, 35, 49, 63},
                sessions[sessions.size() - 120], "a base", "Pullback in an uptrend");
    });
    bench.desk->keeper().enqueue([](sieve::library::Library& library) { library.backUp(); });
    edit("Take off", [&](sieve::app::Work& work) {
        for (const char* why : {"fell below its average", "bought", ""})
            takeOff(*work.editList(1), 0, &market, sessions[sessions.size() - 20], why);
        work.lists.erase(work.lists.begin() + 1);
        work.lists.push_back(sieve::test::listOf(3, "Islands"));
    });
    bench.go("lists");
    take(bench, folder, "lists_after");
    sieve::app::FormerEntriesDialog left(*bench.desk, bench.desk->work().now().lists[0],
                                         bench.window.get());
    left.show();
    bench.settle();
    left.grab().save(folder.filePath(QStringLiteral("left.png")));
    bench.desk->keeper().waitUntilDone();
    sieve::app::RestoreBackupDialog restore(*bench.desk, bench.window.get());
    restore.show();
    bench.settle();
    restore.grab().save(folder.filePath(QStringLiteral("restore.png")));
    restore.close();
    left.close();
    for (const char* notice : {"The library was damaged. Its backup of 2026-11-29 09:08 UTC was "
                               "opened in its place; what "
                               "was changed after it is lost.",
                               "The market stands as it was. /home/isles/vellan holds less than "
                               "the market was made from: "
                               "1 of 2 files: take it in again if that is meant"})
        Q_EMIT bench.desk->noticed(QString::fromLatin1(notice));
    const auto takeThree = [&](std::size_t first) {
        std::vector<std::string> symbols;
        for (const std::size_t each : {first, first + 14, first + 28})
            symbols.push_back(market.instrument(each).symbol);
        sieve::app::takeInHand(*bench.desk, bench.window.get(), symbols,
                               QStringLiteral("Take in hand"), QStringLiteral("a list"));
    };
    takeThree(7);
    edit("Drop", [&](sieve::app::Work& work) {
        work.tray.edit().mark(0, sieve::watchlists::Mark::Dropped, "too far above its average");
    });
    bench.go("weigh");
    bench.settle();
    QTimer::singleShot(600, bench.window.get(), [&] {
        QGuiApplication::primaryScreen()->grabWindow(0).save(
            folder.filePath(QStringLiteral("in_hand_question.png")));
        if (auto* question = QApplication::activeModalWidget())
            question->close();
    });
    takeThree(70);
}

/// What can be taken alone.
const std::map<std::string, void (*)(const QDir&)>& parts()
{
    static const std::map<std::string, void (*)(const QDir&)> all{
        {"market", takeMarket},
        {"sift", takeSift},
        {"screens", takeScreens},
        {"own_field", takeOwnField},
        {"hands", takeHands},
        {"menus", takeMenus},
        {"currencies", takeCurrencies},
        {"chart", sieve::test::takeChart},
        {"dossier", sieve::test::takeDossier},
        {"weighing", sieve::test::takeWeighing},
        {"lists", sieve::test::takeLists},
        {"brief", sieve::test::takeBrief},
        {"prove", sieve::test::takeProve},
        {"weigh_wall", sieve::test::takeWeighWall},
        {"drawings", sieve::test::takeDrawings},
        {"minutes", sieve::test::takeMinutes},
        {"walls", sieve::test::takeWalls},
        {"work", takeWork}};
    return all;
}

} // namespace

int main(int count, char** arguments)
{
    qputenv("QT_QPA_PLATFORM", "offscreen");
    QApplication application(count, arguments);
    const QDir folder(count > 1 ? QString::fromLocal8Bit(arguments[1]) : QStringLiteral("."));
    sieve::app::wear(count > 2 && qstrcmp(arguments[2], "harbour") == 0
                         ? sieve::app::harbourPalette()
                         : sieve::app::paperPalette());
    try {
        if (count > 3) {
            parts().at(arguments[3])(folder);
        } else {
            takeAll(folder);
            takeWeighDrawings(folder);
            sieve::test::takeProved(folder);
        }
    } catch (const std::exception& fault) {
        std::fprintf(stderr, "screenshots: %s\n", fault.what());
        return 1;
    }
    return 0;
}
