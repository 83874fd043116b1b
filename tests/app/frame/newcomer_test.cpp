#include "app/sift/band.h"
#include "app/sift/spread_strip.h"
#include "tests/app/window_bench.h"

#include <QLabel>
#include <QMenu>
#include <QPushButton>
#include <QTabBar>
#include <QTabWidget>
#include <QTableView>
#include <QToolButton>
#include <QTreeWidget>
#include <QTreeWidgetItemIterator>
#include <catch2/catch.hpp>

// The first minutes of somebody new: a ready screen, a limit moved, why one is out, twelve in hand;
// once with the mouse alone, once with keys alone.

namespace sieve::app {

namespace {

using test::OwnFolder;
using test::WindowBench;

constexpr const char* readyScreen = "Covered dividends";

void click(QWidget* widget, const QPoint& at, Qt::KeyboardModifiers keys = {})
{
    QTest::mouseClick(widget, Qt::LeftButton, keys, at);
}

void click(QWidget* widget)
{
    click(widget, widget->rect().center());
}

template <class Button> Button* button(const QWidget& window, const QString& text)
{
    for (auto* each : window.findChildren<Button*>())
        if (each->isVisible() && each->text().startsWith(text))
            return each;
    throw std::runtime_error("no button " + text.toStdString());
}

QString verdict(const WindowBench& bench)
{
    for (const auto* label : bench.window->place(QStringLiteral("sift"))->findChildren<QLabel*>())
        if (label->isVisible() && (label->text().endsWith(QStringLiteral("is not in")) ||
                                   label->text().endsWith(QStringLiteral("is in"))))
            return label->text();
    return {};
}

QTreeWidgetItem* itemThere(QTreeWidget* tree, const QString& name)
{
    for (QTreeWidgetItemIterator at(tree); *at; ++at)
        if ((*at)->text(0) == name)
            return *at;
    throw std::runtime_error("nothing called " + name.toStdString());
}

/// The first band whose limit can be drawn, and where its grip is.
std::pair<Band*, int> gripIn(const WindowBench& bench)
{
    for (Band* band : bench.window->place(QStringLiteral("sift"))->findChildren<Band*>()) {
        SpreadStrip& strip = band->strip();
        for (int x = 0; strip.isVisible() && x < strip.width(); ++x) {
            QTest::mouseMove(&strip, QPoint(x, 5));
            if (strip.cursor().shape() == Qt::SizeHorCursor)
                return {band, x + 9};
        }
    }
    throw std::runtime_error("no grip");
}

void checkTwelveInHand(const WindowBench& bench)
{
    const auto& cards = bench.desk->work().now().tray->cards();
    REQUIRE(cards.size() == 12);
    CHECK(cards[0].source.starts_with(readyScreen));
    CHECK(bench.window->place(QStringLiteral("weigh"))->isVisible()); // to go through them
}

} // namespace

TEST_CASE("Newcomer: from the open market to twelve in hand with the mouse alone", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    click(button<QToolButton>(*bench.window, QStringLiteral("Sift")));
    bench.settle();

    QTimer::singleShot(100, bench.window.get(), [&] { // the menu, then the browser
        auto* menu = bench.find<QToolButton>(QStringLiteral("Screen"))->menu();
        for (QAction* action : menu->actions())
            if (action->text().remove(u'&').startsWith(QStringLiteral("All screens")))
                QTimer::singleShot(0, bench.window.get(), [menu, action] {
                    click(menu, menu->actionGeometry(action).center());
                });
        QTimer::singleShot(400, bench.window.get(), [] {
            auto* tree = QApplication::activeModalWidget()->findChild<QTreeWidget*>();
            for (auto* each : QApplication::activeModalWidget()->findChildren<QTreeWidget*>())
                if (each->accessibleName() == QStringLiteral("Screens"))
                    tree = each;
            QTreeWidgetItem* item = itemThere(tree, QLatin1String(readyScreen));
            tree->scrollToItem(item);
            click(tree->viewport(), tree->visualItemRect(item).center());
            click(button<QPushButton>(*QApplication::activeModalWidget(), QStringLiteral("Open")));
        });
    });
    click(bench.find<QToolButton>(QStringLiteral("Screen")));
    bench.settle();
    REQUIRE(bench.desk->work().now().screen->name == readyScreen);

    const auto before = bench.desk->work().now().screen->criteria;
    const auto [band, grip] = gripIn(bench);
    SpreadStrip& strip = band->strip();
    const QPoint to(grip > strip.width() / 2 ? grip - 40 : grip + 40, 5);
    QTest::mousePress(&strip, Qt::LeftButton, {}, QPoint(grip, 5));
    QMouseEvent move(QEvent::MouseMove, to, strip.mapToGlobal(to), Qt::LeftButton, Qt::LeftButton,
                     {});
    QApplication::sendEvent(&strip, &move); // offscreen, moves come without the button
    QTest::mouseRelease(&strip, Qt::LeftButton, {}, to);
    bench.settle();
    CHECK_FALSE(bench.desk->work().now().screen->criteria == before);
    bench.desk->work().undoStack().undo(); // so that enough pass on this market
    bench.settle();

    auto* near = bench.find<QTreeWidget>(QStringLiteral("Near misses"));
    REQUIRE(near->topLevelItemCount() > 0);
    click(near->viewport(), near->visualItemRect(near->topLevelItem(0)).center());
    auto* tabs = bench.window->place(QStringLiteral("sift"))->findChild<QTabWidget*>();
    click(tabs->tabBar(), tabs->tabBar()->tabRect(1).center());
    bench.settle();
    CHECK(verdict(bench).endsWith(QStringLiteral("is not in")));

    auto* results = bench.find<QTableView>(QStringLiteral("Results"));
    REQUIRE(results->model()->rowCount() >= 12);
    click(results->viewport(), results->visualRect(results->model()->index(0, 0)).center());
    results->scrollTo(results->model()->index(11, 0));
    click(results->viewport(), results->visualRect(results->model()->index(11, 0)).center(),
          Qt::ShiftModifier);
    bench.settle();
    click(button<QPushButton>(*bench.window, QStringLiteral("Take the 12 selected")));
    bench.settle();
    checkTwelveInHand(bench);
}

TEST_CASE("Newcomer: the same with keys alone", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    const auto press = [&](Qt::Key key, Qt::KeyboardModifiers with = {}) {
        bench.activate();
        QWidget* focus = QApplication::focusWidget();
        QTest::keyClick(focus ? focus : bench.window.get(), key, with);
        bench.settle();
    };
    press(Qt::Key_2, Qt::AltModifier);
    bench.inDialog(Qt::Key_B, [](QWidget&) {
        QTest::keyClicks(QApplication::focusWidget(), QLatin1String(readyScreen));
        QTest::keyClick(QApplication::focusWidget(), Qt::Key_Return);
    });
    REQUIRE(bench.desk->work().now().screen->name == readyScreen);

    const auto before = bench.desk->work().now().screen->criteria;
    for (int step = 0; step < 40 && bench.desk->work().now().screen->criteria == before; ++step) {
        press(Qt::Key_Up); // from line to line, upwards
        press(Qt::Key_Home);
        for (int letter = 0; letter < 60 && bench.desk->work().now().screen->criteria == before;
             ++letter) {
            QTest::keyClick(QApplication::focusWidget(), Qt::Key_Up, Qt::ControlModifier);
            QTest::keyClick(QApplication::focusWidget(), Qt::Key_Right);
        }
        bench.settle();
    }
    CHECK_FALSE(bench.desk->work().now().screen->criteria == before);
    while (!(bench.desk->work().now().screen->criteria == before))
        bench.desk->work().undoStack().undo();
    bench.settle();

    press(Qt::Key_N, Qt::AltModifier);
    press(Qt::Key_Down);
    press(Qt::Key_W, Qt::AltModifier);
    CHECK(verdict(bench).endsWith(QStringLiteral("is not in")));

    press(Qt::Key_1, Qt::ControlModifier);
    REQUIRE(bench.find<QTableView>(QStringLiteral("Results"))->model()->rowCount() >= 12);
    for (int row = 1; row < 12; ++row)
        press(Qt::Key_Down, Qt::ShiftModifier);
    CHECK(bench.find<QTableView>(QStringLiteral("Results"))
              ->selectionModel()
              ->selectedRows()
              .size() == 12);
    press(Qt::Key_Return, Qt::ControlModifier);
    checkTwelveInHand(bench);
}

} // namespace sieve::app
