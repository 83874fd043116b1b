#include "app/chart/chart_view.h"
#include "app/chart/drawing_pen.h"
#include "app/chart/drawings_dialog.h"
#include "app/desk/compare_dialog.h"
#include "app/lists/list_tree.h"
#include "app/parts/actions.h"
#include "app/parts/number_text.h"
#include "app/weigh/dossier.h"
#include "core/library/pictures.h"
#include "core/screens/run.h"
#include "core/watchlists/stocks.h"
#include "tests/app/opened.h"

#include <QComboBox>
#include <QInputDialog>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QPushButton>
#include <catch2/catch.hpp>
#include <set>

// What is decided in Weigh, and why: reasons, and the list that takes what is kept.

namespace sieve::app {

namespace {

using test::OwnFolder;
using test::WindowBench;
using watchlists::Mark;

/// Three in hand, the first of them shown, and two lists.
struct Sitting {
    Sitting() : bench(own.path() / "library.sqlite")
    {
        for (const std::size_t stock : {4U, 8U, 12U})
            symbols.push_back(bench.desk->market().data().instrument(stock).symbol);
        bench.desk->work().edit(QStringLiteral("test"), [&](Work& work) {
            work.tray = test::trayOf(bench, symbols, "test");
            work.lists = {test::listOf(1, "First"), test::listOf(2, "Second")};
        });
        bench.desk->focus().selectSymbol(symbols[0]);
        bench.go("weigh");
    }

    void press(Qt::Key key) const
    {
        QTest::keyClick(bench.window->place(QStringLiteral("weigh")), key);
        bench.settle();
    }
    void typeReason(const QString& reason) const
    {
        press(Qt::Key_R);
        QTest::keyClicks(bench.find<QLineEdit>(QStringLiteral("Reason")), reason);
    }
    const watchlists::Card& card(std::size_t place) const
    {
        return bench.desk->work().now().tray->cards().at(place);
    }
    const watchlists::Watchlist& list(std::size_t place) const
    {
        return *bench.desk->work().now().lists.at(place);
    }

    OwnFolder own;
    WindowBench bench;
    std::vector<std::string> symbols;
};

} // namespace

TEST_CASE("Weigh: a typed reason goes with the stock it was typed for, whatever is clicked",
          "[app]")
{
    const Sitting sitting;
    const auto* reason = sitting.bench.find<QLineEdit>(QStringLiteral("Reason"));
    sitting.typeReason(QStringLiteral("wait for the report"));
    sitting.bench.desk->focus().selectSymbol(sitting.symbols[1]); // as a click on its card does
    sitting.bench.settle();
    CHECK(sitting.card(0).reason == "wait for the report");
    CHECK(sitting.card(0).mark == Mark::Open);
    CHECK(sitting.card(1).reason.empty());
    CHECK(reason->text().isEmpty());
    sitting.bench.desk->focus().selectSymbol(sitting.symbols[0]);
    sitting.bench.settle();
    CHECK(reason->text() == QStringLiteral("wait for the report"));
}

TEST_CASE("Weigh: why something was dropped or set aside is kept", "[app]")
{
    const Sitting sitting;
    sitting.typeReason(QStringLiteral("too dear"));
    for (auto* button : sitting.bench.window->findChildren<QPushButton*>())
        if (button->isVisible() && button->text().startsWith(QStringLiteral("Drop")))
            QTest::mouseClick(button, Qt::LeftButton);
    sitting.bench.settle();
    CHECK(sitting.card(0).mark == Mark::Dropped);
    CHECK(sitting.card(0).reason == "too dear");
    CHECK(sitting.bench.desk->work().undoStack().count() == 2); // the test's, and one for both
    // The next key is a decision, and no letter of the reason.
    CHECK_FALSE(sitting.bench.find<QLineEdit>(QStringLiteral("Reason"))->hasFocus());
    QTest::keyClick(sitting.bench.window->focusWidget(), Qt::Key_L);
    sitting.bench.settle();
    CHECK(sitting.card(1).mark == Mark::Later);
    CHECK(sitting.card(1).reason.empty());
}

TEST_CASE("Weigh: a reason stays on the list for which it was given", "[app]")
{
    const Sitting sitting;
    sitting.typeReason(QStringLiteral("base"));
    QTest::keyClick(sitting.bench.find<QLineEdit>(QStringLiteral("Reason")), Qt::Key_Return);
    sitting.press(Qt::Key_1);
    sitting.bench.desk->focus().selectSymbol(sitting.symbols[0]);
    auto* onto = sitting.bench.find<QComboBox>(QStringLiteral("Watchlist that takes what is kept"));
    onto->setCurrentIndex(1);
    Q_EMIT onto->activated(1);
    sitting.typeReason(QStringLiteral("dividend"));
    QTest::keyClick(sitting.bench.find<QLineEdit>(QStringLiteral("Reason")), Qt::Key_Return);
    sitting.press(Qt::Key_2);
    REQUIRE(sitting.list(0).entries.size() == 1);
    REQUIRE(sitting.list(1).entries.size() == 1);
    CHECK(sitting.list(0).entries[0].reason == "base");
    CHECK(sitting.list(1).entries[0].reason == "dividend");
    sitting.bench.desk->focus().selectSymbol(sitting.symbols[0]);
    sitting.press(Qt::Key_1); // it is on it: kept once more, with the reason that it had
    CHECK(sitting.list(0).entries[0].reason == "base");
}

TEST_CASE("Weigh: the chart as it was kept is shown with the entry, also after a restart", "[app]")
{
    const test::OwnFolder own;
    const auto file = own.path() / "library.sqlite";
    std::string picture;
    {
        const WindowBench bench(file);
        bench.desk->focus().select(4);
        bench.desk->work().edit(QStringLiteral("list"),
                                [](Work& work) { work.lists = {test::listOf(1, "Harbour")}; });
        bench.go("weigh");
        bench.settle();
        QTest::keyClick(bench.window->place(QStringLiteral("weigh")), Qt::Key_1);
        bench.settle();
        REQUIRE(bench.desk->work().now().lists[0]->entries.size() == 1);
        picture = bench.desk->work().now().lists[0]->entries[0].page.picture;
        REQUIRE_FALSE(picture.empty());
        bench.desk->keeper().waitUntilDone();
        const QImage kept(text(library::picturePath(file, picture).string()));
        CHECK(kept.width() > 300);
        CHECK(library::picturePath(file, "../" + picture).empty());
        CHECK(library::picturePath({}, picture).empty());
    }
    const WindowBench bench(file);
    bench.desk->focus().select(4);
    bench.go("lists");
    const auto shown = [&]() -> QLabel* {
        for (auto* label : bench.window->findChildren<QLabel*>())
            if (label->accessibleName() == QStringLiteral("The chart as it was kept") &&
                label->isVisibleTo(label->parentWidget()))
                return label;
        return nullptr;
    };
    test::waitUntil([&] { return shown() != nullptr; }, "the picture");
    CHECK(shown()->pixmap().width() > 100);
    std::filesystem::remove(library::picturePath(file, picture)); // it is gone: nothing is shown
    bench.desk->focus().stepSessions(-1);
    test::waitUntil([&] { return shown() == nullptr; }, "nothing");
}

TEST_CASE("Weigh: the list that takes what is kept is known by itself, not by its place", "[app]")
{
    const Sitting sitting;
    auto* onto = sitting.bench.find<QComboBox>(QStringLiteral("Watchlist that takes what is kept"));
    onto->setCurrentIndex(1);
    Q_EMIT onto->activated(1);
    sitting.bench.desk->work().edit(QStringLiteral("lists"), [](Work& work) {
        work.lists.insert(work.lists.begin(), test::listOf(3, "Newest"));
        work.editList(2)->name = "Renamed";
    });
    sitting.bench.settle();
    CHECK(onto->currentText().endsWith(QStringLiteral("Renamed")));
    sitting.press(Qt::Key_K);
    CHECK(sitting.bench.desk->work().now().findList(2)->entries.size() == 1);
    CHECK(sitting.list(0).entries.empty());
}

TEST_CASE("In hand: decisions are not thrown away unasked", "[app]")
{
    const Sitting sitting;
    sitting.press(Qt::Key_X);
    sitting.bench.go("sift");
    QPushButton* take = nullptr;
    for (auto* button : sitting.bench.window->findChildren<QPushButton*>())
        if (button->isVisible() && button->text().startsWith(QStringLiteral("Take ")))
            take = button;
    REQUIRE(take);
    const auto answer = [&](const QString& words) {
        test::inOpened<QMessageBox>(
            sitting.bench, [&] { take->click(); },
            [&](QMessageBox& box) {
                for (QAbstractButton* button : box.buttons())
                    if (button->text().remove(u'&') == words)
                        return button->click();
                throw std::runtime_error("no button " + words.toStdString());
            });
    };
    answer(QStringLiteral("Cancel"));
    CHECK(sitting.bench.desk->work().now().tray->cards().size() == 3);
    CHECK(sitting.bench.window->shownPlace() == QStringLiteral("sift"));
    answer(QStringLiteral("Add to those in hand"));
    CHECK(sitting.bench.desk->work().now().tray->cards().size() > 3);
    CHECK(sitting.card(0).mark == Mark::Dropped);
    sitting.bench.go("sift");
    answer(QStringLiteral("Take their place"));
    CHECK(sitting.bench.desk->work().now().tray->counts().dropped == 0);
    sitting.bench.desk->work().undoStack().undo();
    CHECK(sitting.card(0).mark == Mark::Dropped);
}

TEST_CASE("Weigh: what is drawn on a stock is kept, undone, seen again and asked for", "[app]")
{
    const Sitting sitting;
    const WindowBench& bench = sitting.bench;
    Workbench& work = bench.desk->work();
    auto* chart = bench.chartIn("weigh");
    const auto drawn = [&] { return chart->pen().drawings().size(); };
    const double close = chart->chart().bars->close.back();
    test::inOpened<QMenu>(
        bench,
        [&] {
            bench.window->activateWindow();
            chart->setFocus();
            QTest::keyClick(chart, Qt::Key_D);
        },
        [](QMenu& menu) { QTest::keyClick(&menu, Qt::Key_V); });
    CHECK(sitting.card(0).mark == Mark::Open); // the letter was the tool's alone
    QTest::keyClick(chart, Qt::Key_Return);    // at the newest close
    bench.settle();
    REQUIRE(work.now().drawings->size() == 1);
    const drawings::Drawing level = *work.now().drawings->front();
    CHECK(level.tool == drawings::Tool::Level);
    CHECK(level.symbol == sitting.symbols[0]);
    CHECK(level.drawnOn == bench.desk->focus().day());
    CHECK(level.anchors[0].price == Approx(close));
    CHECK(work.undoStack().undoText().contains(QStringLiteral("level")));
    test::waitUntil([&] { return work.isSaved(); }, "the drawing on the disk");
    CHECK(drawn() == 1);
    work.undoStack().undo();
    CHECK(drawn() == 0);
    work.undoStack().redo();
    CHECK(drawn() == 1);
    // Named in the list of drawings, a screen asks for it from that day on.
    test::inOpened<DrawingsDialog>(
        bench, [&] { findAction(*bench.window, ActionId::ListDrawings)->trigger(); },
        [](DrawingsDialog& dialog) {
            auto* name = dialog.findChild<QLineEdit*>();
            name->setText(QStringLiteral("pivot"));
            Q_EMIT name->editingFinished();
            dialog.reject();
        });
    CHECK(work.now().drawings->front()->name == "pivot");
    CHECK(work.now().drawings->front()->anchors == level.anchors);
    screens::Screen screen;
    screen.criteria = {{"close >= drawing(\"pivot\")"}};
    const auto book = work.nameBook();
    CHECK(screens::run(screen, book->names(), *bench.desk->market().evaluator(),
                       bench.desk->focus().day())
              .passing == 1);
    // It is of its stock, from the day on which it was drawn, and on the list's chart too.
    bench.desk->focus().selectSymbol(sitting.symbols[1]);
    bench.settle();
    CHECK(drawn() == 0);
    bench.desk->focus().selectSymbol(sitting.symbols[0]);
    bench.settle();
    CHECK(drawn() == 1);
    bench.desk->focus().stepSessions(-1);
    bench.settle();
    CHECK(drawn() == 0);
    bench.desk->focus().goToLatest();
    const std::size_t stock = *bench.desk->focus().selected();
    work.edit(QStringLiteral("put"), [&](Work& edited) {
        putOnto(*edited.editList(1), bench.desk->market().data(), std::span(&stock, 1),
                bench.desk->focus().day(), {}, {});
    });
    bench.go("lists");
    bench.find<ListTree>(QStringLiteral("Watchlists"))
        ->choose(bench.desk->work().now().lists.at(0)->id);
    bench.desk->focus().selectSymbol(sitting.symbols[0]);
    bench.settle();
    auto* listed = bench.chartIn("lists");
    CHECK(listed->chart().symbol == sitting.symbols[0]);
    CHECK(listed->pen().drawings().size() == 1);
}

TEST_CASE("Weigh: a set-up that is kept has a name, is offered, undone and forgotten", "[app]")
{
    const Sitting sitting;
    const WindowBench& bench = sitting.bench;
    Workbench& work = bench.desk->work();
    ChartView* chart = bench.chartIn("weigh");
    charts::SetUp changed = chart->setUp();
    changed.name = "Mine";
    changed.panes[0].layers = {{"sma(close, 7)"}};
    chart->restoreSetUp(charts::toToml(changed));
    bench.settle();
    const auto keepAs = [&](const char* name) {
        findAction(*chart, ActionId::KeepSetUp)->trigger();
        auto* dialog = chart->findChild<QInputDialog*>();
        REQUIRE(dialog);
        dialog->setTextValue(QLatin1String(name));
        dialog->accept();
        QTest::qWait(20);
    };
    keepAs("Candidate"); // a ready one's name
    CHECK(work.now().chartSetUps->empty());
    keepAs("Sevens");
    REQUIRE(work.now().chartSetUps->size() == 1);
    CHECK(work.now().chartSetUps->front().panes[0].layers[0].show == "sma(close, 7)");
    // Round all set-ups it comes again.
    std::set<std::string> seen;
    for (std::size_t i = 0; i <= charts::readySetUps().size(); ++i) {
        findAction(*chart, ActionId::NextSetUp)->trigger();
        seen.insert(chart->setUp().name);
    }
    CHECK(seen.contains("Sevens"));
    CHECK(seen.size() == charts::readySetUps().size() + 1);
    const auto menuOf = [&] {
        findAction(*chart, ActionId::ChooseSetUp)->trigger();
        return qobject_cast<QMenu*>(QApplication::activePopupWidget());
    };
    QMenu* menu = menuOf();
    REQUIRE(menu);
    CHECK(menu->actions().front()->text() == QStringLiteral("Sevens"));
    menu->actions().front()->trigger();
    menu->close();
    CHECK(chart->setUp().name == "Sevens");
    work.undoStack().undo();
    CHECK(work.now().chartSetUps->empty());
    work.undoStack().redo();
    Q_EMIT chart->setUpForgotten(QStringLiteral("Sevens"));
    CHECK(work.now().chartSetUps->empty());
}

TEST_CASE("Weigh: the chart is compared with a group that is found by letters", "[app]")
{
    const Sitting sitting;
    const WindowBench& bench = sitting.bench;
    ChartView* chart = bench.chartIn("weigh");
    const std::size_t layers = chart->setUp().panes[0].layers.size();
    findAction(*chart, ActionId::Compare)->trigger();
    auto* dialog = chart->findChild<CompareDialog*>();
    REQUIRE(dialog);
    auto* words = dialog->findChild<QLineEdit*>();
    QTest::keyClicks(words, QStringLiteral("no such thing"));
    bench.settle();
    CHECK_FALSE(dialog->chosen());
    words->setText(QStringLiteral("all shares"));
    bench.settle();
    QTest::keyClick(words, Qt::Key_Down);
    REQUIRE(dialog->chosen());
    CHECK(dialog->chosen()->expression == "composite(close, weight = cap)");
    QTest::keyClick(words, Qt::Key_Up);
    dialog->accept();
    bench.settle();
    const auto& shown = chart->chart().panes[0].layers;
    REQUIRE(shown.size() == layers + 1);
    CHECK(shown.back().setUp.show == "composite(close)");
    CHECK_FALSE(shown.back().error);
    CHECK(chart->setUp().values == charts::ValueScale::Percent);
}

TEST_CASE("Weigh: a layer that asks for a drawing moves with it", "[app]")
{
    const Sitting sitting;
    const WindowBench& bench = sitting.bench;
    ChartView* chart = bench.chartIn("weigh");
    charts::SetUp asks = chart->setUp();
    asks.panes[0].layers = {{"drawing(\"pivot\")"}};
    chart->restoreSetUp(charts::toToml(asks));
    bench.settle();
    const auto newest = [&] {
        const charts::Layer& layer = chart->chart().panes[0].layers[0];
        return layer.error || layer.values->empty() ? missing : layer.values->back();
    };
    CHECK(isMissing(newest()));
    drawings::Drawing level;
    level.id = bench.desk->work().newId();
    level.tool = drawings::Tool::Level;
    level.name = "pivot";
    level.symbol = sitting.symbols[0];
    level.drawnOn = bench.desk->focus().day();
    level.anchors = {{level.drawnOn, 12.5}};
    bench.desk->work().edit(QStringLiteral("draw"), [&](Work& work) { keepDrawing(work, level); });
    bench.settle();
    CHECK(newest() == 12.5);
    level.anchors[0].price = 13.5;
    bench.desk->work().edit(QStringLiteral("move"), [&](Work& work) { keepDrawing(work, level); });
    bench.settle();
    CHECK(newest() == 13.5);
}

TEST_CASE("Weigh: the next one in hand is ready before it is asked for", "[app]")
{
    const Sitting sitting;
    const WindowBench& bench = sitting.bench;
    ChartView* chart = bench.chartIn("weigh");
    REQUIRE(chart->chart().symbol == sitting.symbols[0]);
    bench.settle(); // while the person looks
    QTest::keyClick(bench.window->place(QStringLiteral("weigh")), Qt::Key_Space);
    CHECK(chart->chart().symbol == sitting.symbols[1]); // with no answer waited for
    bench.settle();
    CHECK(chart->chart().symbol == sitting.symbols[1]);
    // What was made ready for another day is not shown.
    bench.desk->focus().stepSessions(-5);
    bench.settle();
    QTest::keyClick(bench.window->place(QStringLiteral("weigh")), Qt::Key_Space);
    bench.settle();
    CHECK(chart->chart().symbol == sitting.symbols[2]);
    CHECK(chart->chart().bars->days.back() <= bench.desk->focus().day());
}

} // namespace sieve::app
