#include "app/frame/intake_report_dialog.h"
#include "app/lists/entries_model.h"
#include "app/lists/lists_place.h"
#include "app/parts/figure_table.h"
#include "app/parts/number_text.h"
#include "app/parts/table_model.h"
#include "app/sift/band.h"
#include "app/sift/column_chooser.h"
#include "app/sift/stack_view.h"
#include "tests/app/window_bench.h"

#include <QAbstractItemModelTester>
#include <QClipboard>
#include <QDragEnterEvent>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMimeData>
#include <QSignalSpy>
#include <QTableView>
#include <catch2/catch.hpp>

namespace sieve::app {

namespace {

using test::OwnFolder;
using test::WindowBench;

market::MarketPtr oneStock()
{
    market::InstrumentRecord record;
    record.instrument.symbol = "AAAA.C";
    record.instrument.sector = "Energy";
    record.bars.days = {*Day::parse("2024-01-02")};
    record.bars.open = record.bars.high = record.bars.low = record.bars.close = {10.0};
    record.bars.volume = {100.0};
    std::vector<market::InstrumentRecord> records{record};
    return std::make_shared<const market::Market>(market::MarketDescription{}, std::move(records));
}

std::shared_ptr<screens::ResultTable> tableOf(const market::MarketPtr& market)
{
    auto table = std::make_shared<screens::ResultTable>();
    table->rows = {0, 0};
    table->columns.resize(3);
    table->columns[0] = {"symbol",    "Symbol", "Symbol",       "The name", Kind::Text,
                         Unit::Plain, 0,        {1.0, missing}, missing,    std::nullopt};
    table->columns[0].figures[0] = market->text(0, market::TextField::Symbol);
    table->columns[1] = {"change",      "Change", "Chg",         "How far", Kind::Number,
                         Unit::Percent, 1,        {0.05, -0.02}, 0.015,     std::nullopt};
    table->columns[2] = {"on",        "On", "On",           "Whether", Kind::YesNo,
                         Unit::Plain, 0,    {1.0, missing}, missing,   std::nullopt};
    return table;
}

watchlists::Watchlist listOfTwo()
{
    return {3,
            "List",
            {{"AAAA.C", *Day::parse("2024-01-02"), 10.0, "why", "Screen"},
             {"GONE.C", *Day::parse("2024-01-02"), missing, "", ""}}};
}

} // namespace

TEST_CASE("Table model: keeps the promises of a model and shows the core's figures", "[app]")
{
    const auto market = oneStock();
    TableModel model;
    const QAbstractItemModelTester tester(&model);
    CHECK(model.rowCount() == 0);
    model.setTable(tableOf(market), market);
    CHECK(model.rowCount() == 2);
    CHECK(model.columnCount() == 3);
    const auto shown = [&](int row, int column) {
        return model.index(row, column).data().toString();
    };
    CHECK(shown(0, 0) == QStringLiteral("AAAA.C"));
    CHECK(shown(1, 0) == QStringLiteral("–"));
    CHECK(shown(0, 1) == QStringLiteral("5.0 %"));
    CHECK(shown(1, 1) == QStringLiteral("-2.0 %"));
    CHECK(shown(0, 2) == QStringLiteral("yes"));
    CHECK(model.index(1, 1).data(Qt::ForegroundRole).value<QColor>() == look().fall);
    CHECK_FALSE(model.index(0, 1).data(Qt::ForegroundRole).isValid());
    CHECK(model.headerData(1, Qt::Horizontal).toString() == QStringLiteral("Chg"));
    const QString tip = model.headerData(1, Qt::Horizontal, Qt::ToolTipRole).toString();
    CHECK(tip.contains(QStringLiteral("How far")));
    CHECK(tip.contains(QStringLiteral("1.5 %"))); // the median
    CHECK(model.rowOf(0) == 0);
    CHECK(model.rowOf(7) == -1);
}

TEST_CASE("Entries model: shows what became of each, and lets the reason be edited", "[app]")
{
    EntriesModel model;
    const QAbstractItemModelTester tester(&model);
    watchlists::Standing good{12.0, 0.2, true, false};
    model.setEntries(listOfTwo(), {"A Tidal", ""}, {good, {}});
    const auto shown = [&](int row, int column) {
        return model.index(row, column).data().toString();
    };
    CHECK(shown(0, EntriesModel::Name) == QStringLiteral("A Tidal"));
    CHECK(shown(0, EntriesModel::Gain) == QStringLiteral("+20.0 %"));
    CHECK(shown(0, EntriesModel::Source) == QStringLiteral("Screen"));
    CHECK(shown(1, EntriesModel::Name) == QStringLiteral("not in this market"));
    CHECK(shown(1, EntriesModel::Gain) == QStringLiteral("–"));
    CHECK(shown(1, EntriesModel::PriceThen) == QStringLiteral("–"));
    CHECK(shown(1, EntriesModel::Source) == QStringLiteral("by hand"));
    const QSignalSpy changed(&model, &EntriesModel::reasonChanged);
    CHECK_FALSE(
        model.setData(model.index(0, EntriesModel::Name), QStringLiteral("x"), Qt::EditRole));
    CHECK(model.setData(model.index(1, EntriesModel::Reason), QStringLiteral("  new "),
                        Qt::EditRole));
    CHECK(shown(1, EntriesModel::Reason) == QStringLiteral("new"));
    REQUIRE(changed.count() == 1);
    CHECK(changed.first().first().toString() == QStringLiteral("GONE.C"));
    CHECK(model.rowOf("GONE.C") == 1);
    CHECK(model.rowOf("ZZZZ.C") == -1);
}

TEST_CASE("Tables: Ctrl+C copies head and rows for a spreadsheet", "[app]")
{
    const auto market = oneStock();
    TableModel model;
    model.setTable(tableOf(market), market);
    QTableView table;
    table.setModel(&model);
    prepareTable(&table);
    table.show();
    REQUIRE(QTest::qWaitForWindowActive(&table));
    table.setFocus();
    QTest::keyClick(&table, Qt::Key_C, Qt::ControlModifier);
    CHECK(QApplication::clipboard()->text() ==
          QStringLiteral("Symbol\tChg\tOn\nAAAA.C\t5.0 %\tyes\n–\t-2.0 %\t–"));
}

TEST_CASE("Stack: gives back the screen that it was given", "[app]")
{
    screens::Screen screen;
    screen.name = "Name";
    screen.purpose = "Purpose";
    screen.tags = {"mine"};
    screen.universe = "kind == \"share\"";
    screen.criteria = {{"close > 5", true, "why", "from a file\n"}, {"volume > 1k", false, ""}};
    screen.rankBy = "close";
    screen.keep = 12;
    screen.columns = {"symbol"};
    StackView stack;
    const QSignalSpy committed(&stack, &StackView::committed);
    stack.setScreen(screen);
    CHECK(stack.screen() == screen);
    screen.criteria.clear();
    screen.keep = 0;
    stack.setScreen(screen);
    CHECK(stack.screen() == screen);
    CHECK(committed.count() == 0); // being shown is no edit
}

TEST_CASE("Stack: tells the costliest criterion when few are left", "[app]")
{
    StackView stack;
    screens::Screen screen;
    screen.criteria = {{"close > 5", true, ""}, {"volume > 1k", true, ""}};
    stack.setScreen(screen);
    screens::ScreenRun run;
    run.universe = 100;
    run.criteria.resize(2);
    run.criteria[0].leftAfter = 50;
    run.criteria[0].moreWithout = 2;
    run.criteria[1].leftAfter = 1;
    run.criteria[1].moreWithout = 30;
    run.guidance.mostCostly = 1;
    run.guidance.loosenings = {std::nullopt, screens::Loosening{1, 0, 900.0, 12}};
    run.criteria[1].limits.resize(1);
    run.criteria[1].limits[0].limit.bound = "1k";
    run.passing = 1;
    run.matches = {4};
    stack.setRun(run);
    const auto says = [&stack](const char* words) {
        for (const auto* label : stack.findChildren<QLabel*>())
            if (label->text().contains(QLatin1String(words)))
                return true;
        return false;
    };
    CHECK(says("costliest criterion is <i>volume &gt; 1k</i>: without it, 30 more"));
    CHECK(says("900.00 instead of 1k</a> would let 12 more in."));
    CHECK(says("without +30"));
    run.passing = 60;
    run.matches.resize(40);
    stack.setRun(run);
    CHECK(says("60 pass; the best 40 are kept"));
    run.matches.resize(60);
    run.guidance.idle = {0};
    stack.setRun(run);
    CHECK(says("60 are many to go through"));
    CHECK(says("<i>close &gt; 5</i> keeps nobody out"));
}

TEST_CASE("Column chooser: finds by word, ticks, and takes an expression of one's own", "[app]")
{
    ColumnChooser chooser({"symbol", "close"}, {}, expressions::Vocabulary::builtIn(), nullptr);
    CHECK(chooser.columns() == std::vector<std::string>{"symbol", "close"});
    auto* search = chooser.findChild<QLineEdit*>();
    auto* list = chooser.findChild<QListWidget*>();
    search->setText(QStringLiteral("earnings multiple"));
    search->setText(QStringLiteral("EPS quarter"));
    int visible = 0;
    for (int row = 0; row < list->count(); ++row)
        if (!list->item(row)->isHidden()) {
            ++visible;
            if (list->item(row)->data(Qt::UserRole).toString() ==
                QStringLiteral("eps_growth_quarter"))
                list->item(row)->setCheckState(Qt::Checked);
        }
    CHECK(visible >= 1);
    CHECK(visible < list->count() / 10);
    search->setText(QStringLiteral("close / open - 1"));
    QTest::keyClick(search, Qt::Key_Return);
    CHECK(chooser.columns() ==
          std::vector<std::string>{"close / open - 1", "symbol", "close", "eps_growth_quarter"});
}

TEST_CASE("Intake report: every finding has a row, and words find it", "[app]")
{
    auto report = std::make_shared<intake::IntakeReport>();
    report->rows = 10;
    report->findings = {
        {"bars/daily/A.csv", 3, "high", "9", "the high lies under the low", "row left out"},
        {"actions.csv", 0, "", "", "the file is empty", "file left out"}};
    IntakeReportDialog dialog(report, nullptr);
    const auto* table = dialog.findChild<QTableView*>();
    CHECK(table->model()->rowCount() == 2);
    CHECK(table->model()->index(0, 1).data().toInt() == 3);
    CHECK_FALSE(table->model()->index(1, 1).data().isValid()); // the file as a whole
    dialog.findChild<QLineEdit*>()->setText(QStringLiteral("EMPTY"));
    REQUIRE(table->model()->rowCount() == 1);
    CHECK(table->model()->index(0, 0).data().toString() == QStringLiteral("actions.csv"));
}

TEST_CASE("Lists: several lists, their entries and the selected stock", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    const std::string first = bench.desk->market().instrument(4).symbol;
    const std::string second = bench.desk->market().instrument(7).symbol;
    bench.desk->edit(QStringLiteral("lists"), [&](Work& work) {
        const Day day = bench.desk->day();
        work.lists = {{1, "Harbour", {{first, day, 5.0, "", ""}, {second, day, 6.0, "", ""}}},
                      {2, "Hills", {}}};
    });
    bench.go("lists");
    auto* entries = bench.find<QTableView>(QStringLiteral("Entries"));
    CHECK(entries->model()->rowCount() == 2);
    CHECK(bench.desk->selected() == std::optional<std::size_t>(4)); // the first of the list
    QTest::mouseClick(entries->viewport(), Qt::LeftButton, {},
                      entries->visualRect(entries->model()->index(1, 0)).center());
    CHECK(bench.desk->selected() == std::optional<std::size_t>(7));

    auto* names = bench.find<QListWidget>(QStringLiteral("Watchlists"));
    REQUIRE(names->count() == 2);
    names->setCurrentRow(1);
    CHECK_FALSE(entries->isVisible()); // an empty list says what goes there
    names->setFocus();
    QTest::keyClick(names, Qt::Key_Delete);
    CHECK(bench.desk->work().lists.size() == 1);
    CHECK(entries->isVisible());
    QTest::keyClick(bench.window.get(), Qt::Key_Z, Qt::ControlModifier);
    CHECK(bench.desk->work().lists.size() == 2);

    entries->setFocus();
    entries->setCurrentIndex(entries->model()->index(0, EntriesModel::Reason));
    entries->model()->setData(entries->currentIndex(), QStringLiteral("deep water"), Qt::EditRole);
    CHECK(bench.desk->work().lists[0].entries[0].reason == "deep water");
    bench.desk->undoStack().undo();
    CHECK(bench.desk->work().lists[0].entries[0].reason.empty());
}

TEST_CASE("Lists: stocks are dropped on a list's name or on the one that is shown", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    const auto symbolOf = [&](std::size_t stock) {
        return bench.desk->market().instrument(stock).symbol;
    };
    bench.desk->edit(QStringLiteral("lists"), [&](Work& work) {
        work.lists = {{1, "Harbour", {}}, {2, "Hills", {}}};
    });
    bench.go("lists");
    auto* names = bench.find<QListWidget>(QStringLiteral("Watchlists"));
    names->setCurrentRow(0);
    QMimeData two;
    two.setText(text(symbolOf(3) + "\n" + symbolOf(5) + "\n" + symbolOf(3)));
    const auto drop = [&](QWidget& on, const QPoint& at, const QMimeData& what) {
        QDragEnterEvent enter(at, Qt::CopyAction, &what, Qt::LeftButton, Qt::NoModifier);
        QApplication::sendEvent(&on, &enter);
        QDragMoveEvent move(at, Qt::CopyAction, &what, Qt::LeftButton, Qt::NoModifier);
        QApplication::sendEvent(&on, &move);
        QDropEvent event(at, Qt::CopyAction, &what, Qt::LeftButton, Qt::NoModifier);
        QApplication::sendEvent(&on, &event);
        bench.settle();
    };
    drop(*names->viewport(), names->visualItemRect(names->item(1)).center(), two);
    const auto entries = [&](std::size_t list) { return bench.desk->work().lists[list].entries; };
    REQUIRE(entries(1).size() == 2);
    CHECK(entries(1)[0].symbol == symbolOf(3));
    CHECK(entries(1)[1].addedOn == bench.desk->day());
    CHECK(entries(1)[1].priceThen > 0.0);
    CHECK(entries(0).empty());
    CHECK(names->currentRow() == 0); // what is shown stays

    drop(*bench.window->findChild<ListsPlace*>(), QPoint(600, 300), two);
    CHECK(entries(0).size() == 2);
    const QSignalSpy notices(bench.desk.get(), &Desk::noticed);
    QMimeData novel;
    novel.setText(QStringLiteral("nothing here is a symbol of any stock"));
    drop(*names->viewport(), names->visualItemRect(names->item(1)).center(), novel);
    CHECK(notices.count() == 1);
    CHECK(entries(1).size() == 2);
    bench.desk->undoStack().undo();
    CHECK(entries(0).empty());
}

TEST_CASE("Lists: a new name reaches whatever asks for the list, back and forth", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    screens::Screen screen;
    screen.name = "Asks";
    screen.criteria = {{"on_list(\"Harbour\")"}};
    screen.columns = {"symbol"};
    bench.desk->edit(QStringLiteral("lists"), [&](Work& work) {
        work.lists = {{1, "Harbour", {}}, {2, "Hills", {}}};
        work.screen = screen;
        work.marketBook.panes = {"count_of(on_list(\"Harbour\"))"};
    });
    bench.desk->screenShelf().save(screen);
    const auto asked = [&] {
        return bench.desk->work().screen.criteria[0].text + " | " +
               bench.desk->screenShelf().all()[0].criteria[0].text + " | " +
               bench.desk->work().marketBook.panes[0];
    };
    const std::string before = asked();
    bench.desk->edit(QStringLiteral("rename"), [](Work& work) { work.lists[0].name = "Quay"; });
    const std::string after = "on_list(\"Quay\") | on_list(\"Quay\") | count_of(on_list(\"Quay\"))";
    CHECK(asked() == after);
    bench.desk->undoStack().undo();
    CHECK(asked() == before);
    bench.desk->undoStack().redo();
    CHECK(asked() == after);
}

} // namespace sieve::app
