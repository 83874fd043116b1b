#include "app/frame/tray_bar.h"
#include "app/parts/figure_table.h"
#include "app/parts/frozen_column.h"
#include "app/parts/number_text.h"
#include "app/parts/table_foot.h"
#include "app/sift/columns_menu.h"
#include "app/sift/paste_dialog.h"
#include "tests/app/sift_bench.h"

#include <QAction>
#include <QClipboard>
#include <QDropEvent>
#include <QHeaderView>
#include <QLabel>
#include <QMenu>
#include <QMimeData>
#include <QScrollBar>
#include <QTableView>
#include <QTreeWidget>
#include <array>
#include <catch2/catch.hpp>

// Sift: the table of what passes, its columns, and what goes out of it and comes in.

namespace sieve::app {

using namespace test;

TEST_CASE("Sift: pasted symbols are a universe, medians stand in the foot", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    sift(bench, {});
    const auto symbolOf = [&](std::size_t i) {
        return bench.desk->market().data().instrument(i).symbol;
    };
    bench.desk->work().edit(QStringLiteral("universe"), [&](Work& work) {
        work.screen.edit().universe = "symbol in (\"" + symbolOf(3) + "\", \"" + symbolOf(7) +
                                      "\", \"" + symbolOf(11) + "\")";
    });
    bench.settle();
    auto* table = bench.find<QTableView>(QStringLiteral("Results"));
    REQUIRE(table->model()->rowCount() == 3);
    std::vector<double> closes;
    for (int row = 0; row < 3; ++row)
        closes.push_back(table->model()->index(row, 1).data().toString().remove(u',').toDouble());
    std::ranges::sort(closes);
    const auto foot = [&](int column) {
        return table->model()->headerData(column, Qt::Horizontal, TableFoot::footRole).toString();
    };
    CHECK(foot(0) == QStringLiteral("median of %1").arg(table->model()->rowCount()));
    CHECK(foot(1).remove(u',').toDouble() == Approx(closes[1]));
    bench.desk->work().edit(QStringLiteral("universe"),
                            [](Work& work) { work.screen.edit().universe = "close > 900B"; });
    bench.settle();
    CHECK(table->model()->rowCount() == 0);
    CHECK(foot(1).isEmpty());
    showEvidence(bench, 1); // nobody is chosen
    showEvidence(bench, 2);
    for (const char* lens : {"Wall", "Scatter", "Groups"})
        press(bench, lens); // an empty universe has its words everywhere
}

TEST_CASE("Sift: the results are copied as symbols and as a table", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    sift(bench, {{"close > sma(close, 20)"}});
    auto* place = bench.window->place(QStringLiteral("sift"));
    const auto trigger = [&](const char* name) {
        for (QAction* action : place->actions())
            if (action->text().remove(u'&') == QLatin1String(name))
                return action->trigger();
        FAIL("no " << name);
    };
    trigger("Copy the symbols");
    const QStringList symbols = QApplication::clipboard()->text().split(u'\n');
    CHECK(symbols.size() > 4);
    trigger("Copy the table of all results");
    const QStringList lines = QApplication::clipboard()->text().split(u'\n', Qt::SkipEmptyParts);
    REQUIRE(lines.size() == symbols.size() + 1);
    CHECK(lines[0] == QStringLiteral("symbol\tclose"));
    CHECK(lines[1].section(u'\t', 0, 0) == symbols[0]);
}

TEST_CASE("Results: several rows are selected by keys and taken in hand alone", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    sift(bench, {{"close > 1"}});
    auto* table = bench.find<QTableView>(QStringLiteral("Results"));
    table->setFocus();
    table->setCurrentIndex(table->model()->index(0, 0));
    for (int step = 0; step < 3; ++step)
        QTest::keyClick(table, Qt::Key_Down, Qt::ShiftModifier);
    CHECK(table->selectionModel()->selectedRows().size() == 4);
    bench.pressCtrl(Qt::Key_Return);
    bench.settle();
    const auto& cards = bench.desk->work().now().tray->cards();
    REQUIRE(cards.size() == 4);
    CHECK(utf8(table->model()->index(2, 0).data().toString()) == cards[2].symbol);
    CHECK(cards[0].source ==
          utf8(QStringLiteral("Own, ") + shortDayText(bench.desk->focus().day())));
}

TEST_CASE("Results: heads are dragged into order and drawn to a width that is kept", "[app]")
{
    const OwnFolder own;
    {
        const WindowBench bench(own.path() / "library.sqlite");
        sift(bench, {{"close > 1"}});
        bench.desk->work().edit(QStringLiteral("columns"), [](Work& work) {
            work.screen.edit().columns = {"symbol", "close", "volume"};
        });
        bench.settle();
        auto* head = bench.find<QTableView>(QStringLiteral("Results"))->horizontalHeader();
        head->moveSection(2, 1);
        bench.settle();
        CHECK(bench.desk->work().now().screen->columns ==
              std::vector<std::string>{"symbol", "volume", "close"});
        CHECK(head->visualIndex(1) == 1);
        CHECK(head->model()->headerData(1, Qt::Horizontal).toString() == QStringLiteral("Volume"));
        head->resizeSection(1, 177);
        bench.desk->work().undoStack().undo();
        bench.settle();
        CHECK(bench.desk->work().now().screen->columns ==
              std::vector<std::string>{"symbol", "close", "volume"});
        CHECK(head->sectionSize(2) == 177); // the width is the column's
    }
    const WindowBench again(own.path() / "library.sqlite");
    again.go("sift");
    CHECK(again.find<QTableView>(QStringLiteral("Results"))->columnWidth(2) == 177);
}

TEST_CASE("Results: the first column stays in sight while the rest is scrolled", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    sift(bench, {{"close > 1"}});
    auto* table = bench.find<QTableView>(QStringLiteral("Results"));
    auto* frozen = table->findChild<FrozenColumn*>();
    CHECK_FALSE(frozen->isVisible());
    bench.desk->work().edit(QStringLiteral("columns"), [](Work& work) {
        work.screen.edit().columns = {"symbol", "name",         "sector",        "industry",
                                      "close",  "volume",       "open",          "market_cap",
                                      "rsi_14", "strength_126", "revenue_growth"};
    });
    bench.settle();
    REQUIRE(table->horizontalScrollBar()->maximum() > 0);
    auto* foot = bench.find<TableFoot>(QStringLiteral("Medians"));
    const QRect firstCell(0, 0, table->columnWidth(0), foot->height());
    const auto footBegin = [&] {
        bench.settle();
        return foot->grab(firstCell).toImage();
    };
    table->horizontalScrollBar()->setValue(1);
    const QImage atRest = footBegin();
    table->horizontalScrollBar()->setValue(table->horizontalScrollBar()->maximum());
    CHECK(frozen->isVisible());
    CHECK(footBegin() == atRest); // what the foot tells of the first column stays in sight too
    table->verticalScrollBar()->setValue(table->verticalScrollBar()->maximum());
    CHECK(frozen->verticalScrollBar()->value() == table->verticalScrollBar()->value());
    QTest::mouseClick(frozen->viewport(), Qt::LeftButton, {},
                      QPoint(8, frozen->viewport()->height() / 2));
    REQUIRE(bench.desk->focus().selected());
    CHECK(table->currentIndex().row() ==
          frozen->indexAt(QPoint(8, frozen->viewport()->height() / 2)).row());
    table->horizontalScrollBar()->setValue(0);
    CHECK_FALSE(frozen->isVisible());
}

TEST_CASE("Results: a set of columns is chosen, with lines that come for the rows in sight",
          "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    sift(bench, {{"close > 1"}});
    auto* menu = bench.window->findChild<ColumnsMenu*>();
    QMetaObject::invokeMethod(menu, "aboutToShow");
    const auto entry = [menu](const char* name) {
        for (QAction* action : menu->actions())
            if (action->text().remove(u'&') == QLatin1String(name))
                return action;
        throw std::runtime_error(std::string("no entry ") + name);
    };
    entry("At a glance")->trigger();
    bench.settle();
    CHECK(bench.desk->work().now().screen->columns == screens::readyColumnSets()[0].columns);
    const auto* table = bench.find<QTableView>(QStringLiteral("Results"));
    const auto pictureOf = [&](int row, const char* column) {
        const auto& columns = bench.desk->work().now().screen->columns;
        const auto place = std::ranges::find(columns, column) - columns.begin();
        return table->model()->index(row, static_cast<int>(place)).data(CellPicture::role);
    };
    test::waitUntil([&] { return pictureOf(0, "close").isValid(); }, "a line");
    CHECK(pictureOf(0, "close").value<CellPicture>().line.size() > 10);
    CHECK_FALSE(pictureOf(table->model()->rowCount() - 1, "close").isValid()); // not in sight
    const QString change = table->model()->index(0, 4).data().toString();
    CHECK(pictureOf(0, "day_change").isValid() == (change != QStringLiteral("0.0 %")));
    Q_EMIT menu->aboutToShow();
    CHECK(entry("At a glance")->isChecked());
}

TEST_CASE("Results: rows leave as symbols, and a text dropped on Sift is shown before it is taken",
          "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    sift(bench, {{"close > 1"}});
    const auto* model = bench.find<QTableView>(QStringLiteral("Results"))->model();
    const std::unique_ptr<QMimeData> rows(
        model->mimeData({model->index(0, 0), model->index(0, 1), model->index(2, 0)}));
    CHECK(rows->text() == model->index(0, 0).data().toString() + QLatin1Char('\n') +
                              model->index(2, 0).data().toString());
    auto* tray = bench.window->findChild<TrayBar*>();
    QDropEvent drop(QPointF(5, 5), Qt::CopyAction, rows.get(), Qt::LeftButton, Qt::NoModifier);
    static_cast<QObject*>(tray)->event(&drop); // the platform would send it to what is below a drag
    bench.settle();
    REQUIRE(bench.desk->work().now().tray->cards().size() == 2);
    CHECK(utf8(model->index(2, 0).data().toString()) ==
          bench.desk->work().now().tray->cards()[1].symbol);
    QMimeData novel;
    novel.setText(QStringLiteral("nothing here is a symbol of any stock"));
    QDropEvent none(QPointF(5, 5), Qt::CopyAction, &novel, Qt::LeftButton, Qt::NoModifier);
    static_cast<QObject*>(tray)->event(&none);
    bench.settle();
    CHECK(bench.desk->work().now().tray->cards().size() == 2); // what is in hand stays
    std::array<QMimeData, 2> quick; // two drops in a row, faster than they are looked through
    for (int row : {4, 5}) {
        QMimeData& text = quick[static_cast<std::size_t>(row - 4)];
        text.setText(model->index(row, 0).data().toString());
        QDropEvent next(QPointF(5, 5), Qt::CopyAction, &text, Qt::LeftButton, Qt::NoModifier);
        static_cast<QObject*>(tray)->event(&next);
    }
    bench.settle();
    CHECK(bench.desk->work().now().tray->cards().size() == 4);
    bool isShown = false;
    QTimer::singleShot(300, bench.window.get(), [&] {
        auto* dialog = qobject_cast<PasteDialog*>(QApplication::activeModalWidget());
        isShown = dialog != nullptr;
        if (dialog)
            dialog->reject();
    });
    QDropEvent onSift(QPointF(5, 5), Qt::CopyAction, rows.get(), Qt::LeftButton, Qt::NoModifier);
    static_cast<QObject*>(bench.window->place(QStringLiteral("sift")))->event(&onSift);
    QTest::qWait(400);
    CHECK(isShown);
}

} // namespace sieve::app
