#include "tests/app/opened.h"

#include "app/chart/chart_view.h"
#include "app/lists/entries_model.h"
#include "app/lists/list_tree.h"
#include "app/parts/expression_edit.h"
#include "core/screens/run.h"
#include "core/watchlists/stocks.h"

#include <QCheckBox>
#include <QCompleter>
#include <QInputDialog>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QTableView>
#include <catch2/catch.hpp>
#include <fstream>

// The program as a person uses it: real windows, driven by keys and mouse.

namespace sieve::app {

namespace {

using test::OwnFolder;
using test::WindowBench;
using watchlists::Mark;

/// The line for a new criterion, or the n-th criterion (from 1).
ExpressionEdit* line(const WindowBench& bench, const QString& name)
{
    return bench.find<ExpressionEdit>(name);
}

void type(QWidget* widget, const QString& text)
{
    widget->setFocus();
    QTest::keyClicks(widget, text);
}

/// Types a criterion into the line for new ones; Escape closes the list of words first.
void addCriterion(const WindowBench& bench, const QString& text)
{
    ExpressionEdit* edit = line(bench, QStringLiteral("New criterion"));
    type(edit, text);
    QTest::keyClick(edit, Qt::Key_Escape);
    QTest::keyClick(edit, Qt::Key_Return);
    bench.window->activateWindow(); // the offscreen platform leaves it to the list of words
    REQUIRE(QTest::qWaitForWindowActive(bench.window.get()));
    bench.settle();
}

void replaceText(ExpressionEdit* edit, const QString& text)
{
    edit->setFocus();
    edit->selectAll();
    QTest::keyClicks(edit, text);
    QTest::keyClick(edit, Qt::Key_Escape);
}

std::vector<std::string> shownSymbols(const WindowBench& bench)
{
    const auto* table = bench.find<QTableView>(QStringLiteral("Results"));
    std::vector<std::string> symbols;
    for (int row = 0; row < table->model()->rowCount(); ++row)
        symbols.push_back(table->model()->index(row, 0).data().toString().toStdString());
    return symbols;
}

screens::ScreenRun coreRun(const WindowBench& bench)
{
    return screens::run(*bench.desk->work().now().screen, {language::Vocabulary::builtIn()},
                        *bench.desk->market().evaluator(), bench.desk->focus().day());
}

const watchlists::Entry& onlyEntry(const WindowBench& bench)
{
    REQUIRE(bench.desk->work().now().lists.size() == 1);
    REQUIRE(bench.desk->work().now().lists[0]->entries.size() == 1);
    return bench.desk->work().now().lists[0]->entries[0];
}

} // namespace

TEST_CASE("Window: from a screen to a watchlist by keys and mouse, and there again after a restart",
          "[app]")
{
    const OwnFolder own;
    const auto library = own.path() / "library.sqlite";
    std::string kept;
    {
        const WindowBench bench(library);
        // Sift: a new criterion is typed; the table shows what the core finds.
        QTest::keyClick(bench.window.get(), Qt::Key_2, Qt::AltModifier);
        bench.settle();
        REQUIRE(bench.window->shownPlace() == QStringLiteral("sift"));
        addCriterion(bench, QStringLiteral("close > 5"));
        REQUIRE(bench.desk->work().now().screen->criteria.back().text == "close > 5");
        const screens::ScreenRun run = coreRun(bench);
        REQUIRE(run.matches.size() >= 2);
        std::vector<std::string> wanted;
        for (const std::size_t match : run.matches)
            wanted.push_back(bench.desk->market().data().instrument(match).symbol);
        CHECK(shownSymbols(bench) == wanted);

        // A click on the second row selects that stock everywhere.
        auto* table = bench.find<QTableView>(QStringLiteral("Results"));
        QTest::mouseClick(table->viewport(), Qt::LeftButton, {},
                          table->visualRect(table->model()->index(1, 0)).center());
        CHECK(bench.desk->market().data().instrument(*bench.desk->focus().selected()).symbol ==
              wanted[1]);

        // Taking them in hand leads to Weigh, at the first.
        for (auto* button : bench.window->findChildren<QPushButton*>())
            if (button->isVisible() && button->text().startsWith(QStringLiteral("Take ")))
                QTest::mouseClick(button, Qt::LeftButton);
        bench.settle();
        REQUIRE(bench.window->shownPlace() == QStringLiteral("weigh"));
        CHECK(bench.desk->work().now().tray->cards().size() == wanted.size());

        // R gives the reason, K keeps and goes on, X drops.
        auto* weigh = bench.window->place(QStringLiteral("weigh"));
        QTest::keyClick(weigh, Qt::Key_R);
        auto* reason = bench.find<QLineEdit>(QStringLiteral("Reason"));
        QTest::keyClicks(reason, QStringLiteral("at the average, kxl"));
        QTest::keyClick(reason, Qt::Key_Return);
        kept = bench.desk->market().data().instrument(*bench.desk->focus().selected()).symbol;
        CHECK(bench.desk->work().now().lists.empty()); // letters of a reason are no commands
        QTest::keyClick(weigh, Qt::Key_K);
        bench.settle();
        CHECK(bench.desk->market().data().instrument(*bench.desk->focus().selected()).symbol ==
              wanted[1]);
        QTest::keyClick(weigh, Qt::Key_X);
        CHECK(bench.desk->work().now().tray->counts().kept == 1);
        CHECK(bench.desk->work().now().tray->counts().dropped == 1);
        CHECK(onlyEntry(bench).symbol == kept);
    }
    {
        const WindowBench bench(library);
        CHECK(bench.window->shownPlace() == QStringLiteral("weigh")); // where one stopped
        CHECK(bench.desk->work().now().tray->counts().kept == 1);
        CHECK(bench.desk->work().now().screen->criteria.back().text == "close > 5");
        const watchlists::Entry& entry = onlyEntry(bench);
        CHECK(entry.symbol == kept);
        CHECK(entry.reason == "at the average, kxl");
        CHECK(entry.source == "Pullback in an uptrend, 30 Sep 2026");
        CHECK(entry.addedOn == bench.desk->focus().day());
        const std::size_t stock = *bench.desk->market().data().find(kept);
        CHECK(entry.priceThen ==
              watchlists::priceOn(bench.desk->market().data(), stock, bench.desk->focus().day()));
        QTest::keyClick(bench.window.get(), Qt::Key_4, Qt::AltModifier);
        bench.settle();
        auto* entries = bench.find<QTableView>(QStringLiteral("Entries"));
        REQUIRE(entries->model()->rowCount() == 1);
        CHECK(entries->model()->index(0, EntriesModel::Symbol).data().toString().toStdString() ==
              kept);
        CHECK(entries->model()->index(0, EntriesModel::Reason).data().toString() ==
              QStringLiteral("at the average, kxl"));

        // Delete takes it off; undo brings it back.
        entries->setFocus();
        entries->setCurrentIndex(entries->model()->index(0, 0));
        test::inOpened<QInputDialog>(
            bench, [&] { QTest::keyClick(entries, Qt::Key_Delete); },
            [](QInputDialog& dialog) {
                dialog.setTextValue(QStringLiteral(" below the average "));
                dialog.accept();
            });
        CHECK(bench.desk->work().now().lists[0]->entries.empty());
        REQUIRE(bench.desk->work().now().lists[0]->former.size() == 1);
        const watchlists::FormerEntry former = bench.desk->work().now().lists[0]->former[0];
        CHECK(former.reasonLeft == "below the average");
        CHECK(former.leftOn == bench.desk->focus().day());
        CHECK(former.priceLeft == former.entry.priceThen); // on the same day
        bench.window->activateWindow(); // the offscreen platform leaves it to the dialog
        REQUIRE(QTest::qWaitForWindowActive(bench.window.get()));
        QTest::keyClick(bench.window.get(), Qt::Key_Z, Qt::ControlModifier);
        CHECK(onlyEntry(bench).symbol == kept);
    }
    const WindowBench bench(library);
    CHECK(onlyEntry(bench).symbol == kept);
}

TEST_CASE("Window: the as-of day governs every place", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    const Day latest = bench.desk->focus().day();
    bench.go("sift");
    QTest::keyClick(bench.window.get(), Qt::Key_BracketLeft);
    bench.settle();
    CHECK(bench.desk->focus().day() < latest);
    QTest::keyClick(bench.window.get(), Qt::Key_BraceLeft);
    bench.settle();
    CHECK(latest - bench.desk->focus().day() >= 7);
    const screens::ScreenRun run = coreRun(bench);
    CHECK(shownSymbols(bench).size() == run.matches.size());

    bench.desk->focus().select(
        *bench.desk->market().data().find(bench.desk->market().data().instrument(10).symbol));
    bench.go("weigh");
    auto* chart = bench.chartIn("weigh");
    REQUIRE(chart);
    const auto lastDay = [chart] { return chart->chart().bars->days.back(); };
    CHECK(lastDay() <= bench.desk->focus().day()); // nothing of later days is drawn
    QTest::keyClick(bench.window.get(), Qt::Key_BracketRight, Qt::ControlModifier);
    bench.settle();
    CHECK(bench.desk->focus().day() == latest);
    CHECK(lastDay() == latest);
    CHECK(bench.desk->focus().isLatest());
}

TEST_CASE("Sift: a mistake is shown in its band, the other criteria go on", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    bench.go("sift");
    const std::size_t before = shownSymbols(bench).size();
    auto* first = line(bench, QStringLiteral("Criterion 8"));
    replaceText(first, QStringLiteral("clos > 5"));
    bench.settle();
    CHECK(first->toolTip().contains(QStringLiteral("no field 'clos'")));
    CHECK(shownSymbols(bench).size() >= before);
    replaceText(first, QStringLiteral("close > 1000000"));
    bench.settle();
    CHECK(first->toolTip().isEmpty());
    CHECK(shownSymbols(bench).empty());
}

TEST_CASE("Sift: words are completed while typing", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    bench.go("sift");
    auto* edit = line(bench, QStringLiteral("New criterion"));
    type(edit, QStringLiteral("5% < operating_m"));
    QTest::keyClick(edit, Qt::Key_Tab);
    CHECK(edit->text() == QStringLiteral("5% < operating_margin"));
    type(edit, QStringLiteral(" and sm"));
    QTest::keyClick(edit, Qt::Key_Return); // takes the word, not the criterion
    CHECK(edit->text() == QStringLiteral("5% < operating_margin and sma("));
}

TEST_CASE("Sift: criteria are switched off, moved, taken out, and undone", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    bench.go("sift");
    const auto& criteria = [&]() -> const std::vector<screens::Criterion>& {
        return bench.desk->work().now().screen->criteria;
    };
    const auto original = criteria();
    auto* box = bench.find<QCheckBox>(QStringLiteral("Criterion counts"));
    QTest::mouseClick(box, Qt::LeftButton, {}, {6, box->height() / 2});
    CHECK_FALSE(criteria()[0].isOn);
    QTest::keyClick(line(bench, QStringLiteral("Criterion 1")), Qt::Key_Down, Qt::AltModifier);
    CHECK(criteria()[1].text == original[0].text);
    QTest::keyClick(line(bench, QStringLiteral("Criterion 3")), Qt::Key_Delete, Qt::AltModifier);
    CHECK(criteria().size() == original.size() - 1);
    for (int step = 0; step < 3; ++step)
        bench.desk->work().undoStack().undo();
    CHECK(criteria() == original);
    CHECK(line(bench, QStringLiteral("Criterion 1"))->text().toStdString() == original[0].text);
    bench.desk->work().undoStack().redo();
    CHECK_FALSE(criteria()[0].isOn);
}

TEST_CASE("Sift: a click on a head sorts, missing last both ways", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    bench.go("sift");
    bench.desk->work().edit(QStringLiteral("test"), [](Work& work) {
        work.screen.edit().criteria.clear();
        work.screen.edit().universe.clear();
        work.screen.edit().keep = 0;
        work.screen.edit().columns = {"symbol", "price_to_earnings"};
    });
    bench.settle();
    auto* table = bench.find<QTableView>(QStringLiteral("Results"));
    const int rows = table->model()->rowCount();
    REQUIRE(rows > 100);
    for (int click = 0; click < 2; ++click) {
        QTest::mouseClick(table->horizontalHeader()->viewport(), Qt::LeftButton, {},
                          {table->columnViewportPosition(1) + 20, 8});
        bench.settle();
        CHECK(table->model()->index(rows - 1, 1).data().toString() == QStringLiteral("–"));
        const double first =
            table->model()->index(0, 1).data().toString().remove(QLatin1Char(',')).toDouble();
        const double second =
            table->model()->index(1, 1).data().toString().remove(QLatin1Char(',')).toDouble();
        CHECK((click == 0 ? first >= second : first <= second));
    }
    bench.desk->work().edit(QStringLiteral("test"), [](Work& work) {
        work.screen.edit().columns = {"symbol", "sector", "close"};
    });
    bench.settle();
    for (const auto& [column, modifier] :
         {std::pair(1, Qt::NoModifier), std::pair(2, Qt::ShiftModifier)}) {
        QTest::keyPress(bench.window.get(), Qt::Key_Shift, modifier);
        QTest::mouseClick(table->horizontalHeader()->viewport(), Qt::LeftButton, modifier,
                          {table->columnViewportPosition(column) + 20, 8});
        QTest::keyRelease(bench.window.get(), Qt::Key_Shift);
        bench.settle();
    }
    const auto cell = [table](int row, int column) {
        return table->model()->index(row, column).data().toString();
    };
    for (int row = 1; row < 40; ++row) { // by sector, and inside one by the close
        CHECK(cell(row - 1, 1) >= cell(row, 1));
        if (cell(row - 1, 1) == cell(row, 1))
            CHECK(cell(row - 1, 2).remove(u',').toDouble() >= cell(row, 2).remove(u',').toDouble());
    }
}

TEST_CASE("Weigh: weeks as bars are asked for by a key, and stay for the next stock", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    bench.desk->focus().select(3);
    bench.go("weigh");
    auto* chart = bench.chartIn("weigh");
    const std::size_t days = chart->chart().size();
    chart->setFocus();
    QTest::keyClick(chart, Qt::Key_W, Qt::ShiftModifier);
    bench.settle();
    CHECK(chart->chart().size() < days / 4);
    bench.desk->focus().select(5);
    bench.settle();
    CHECK(chart->chart().setUp.scale == charts::BarScale::Week);
    QTest::keyClick(chart, Qt::Key_D, Qt::ShiftModifier);
    bench.settle();
    CHECK(chart->chart().setUp.scale == charts::BarScale::Day);
}

TEST_CASE("Weigh: Space and Shift+Space go round, L comes again at the end, digits choose the list",
          "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    std::vector<std::string> symbols;
    for (const std::size_t stock : {4U, 8U, 12U})
        symbols.push_back(bench.desk->market().data().instrument(stock).symbol);
    bench.desk->work().edit(QStringLiteral("test"), [&](Work& work) {
        work.tray = test::trayOf(bench, symbols, "test");
        work.lists = {test::listOf(1, "First"), test::listOf(2, "Second")};
    });
    bench.desk->focus().selectSymbol(symbols[0]);
    bench.go("weigh");
    auto* weigh = bench.window->place(QStringLiteral("weigh"));
    const auto selected = [&] {
        return bench.desk->market().data().instrument(*bench.desk->focus().selected()).symbol;
    };
    QTest::keyClick(weigh, Qt::Key_Space);
    CHECK(selected() == symbols[1]);
    QTest::keyClick(weigh, Qt::Key_Space, Qt::ShiftModifier);
    QTest::keyClick(weigh, Qt::Key_Space, Qt::ShiftModifier);
    CHECK(selected() == symbols[2]);
    QTest::keyClick(weigh, Qt::Key_L);
    CHECK(selected() == symbols[0]);
    QTest::keyClick(weigh, Qt::Key_2);
    CHECK(bench.desk->work().now().lists[1]->entries.size() == 1);
    CHECK(bench.desk->work().now().lists[0]->entries.empty());
    CHECK(selected() == symbols[1]);
    QTest::keyClick(weigh, Qt::Key_9); // there is no ninth list
    CHECK(selected() == symbols[1]);
    QTest::keyClick(weigh, Qt::Key_X);
    CHECK(selected() == symbols[2]);
    CHECK(bench.desk->work().now().tray->counts().later == 1);
}

TEST_CASE("Finder: a few letters lead to a stock, Escape closes", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    const market::Instrument& wanted = bench.desk->market().data().instrument(20);
    QTest::keyClick(bench.window.get(), Qt::Key_K, Qt::ControlModifier);
    auto* words = bench.find<QLineEdit>(QStringLiteral("Find anything"));
    QTest::keyClicks(words, QString::fromStdString(wanted.symbol).toLower());
    QTest::keyClick(words, Qt::Key_Return);
    bench.settle();
    CHECK(bench.desk->focus().selected() == std::optional<std::size_t>(20));
    CHECK(bench.window->shownPlace() == QStringLiteral("weigh"));
    bench.desk->work().edit(QStringLiteral("test"), [](Work& work) {
        work.lists = {test::listOf(1, "Harbour"), test::listOf(2, "Quay names")};
    });
    QTest::keyClick(bench.window.get(), Qt::Key_K, Qt::ControlModifier);
    QTest::keyClicks(words, QStringLiteral("quay"));
    QTest::keyClick(words, Qt::Key_Return);
    bench.settle();
    CHECK(bench.window->shownPlace() == QStringLiteral("lists"));
    CHECK(bench.find<ListTree>(QStringLiteral("Watchlists"))->chosen() ==
          bench.desk->work().now().lists.at(1)->id);
    QTest::keyClick(bench.window.get(), Qt::Key_K, Qt::ControlModifier);
    QTest::keyClick(words, Qt::Key_Escape);
    CHECK_FALSE(words->isVisible());
}

TEST_CASE("Finder: what another market has is found, and nothing of the former one", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    const market::MarketPtr former = bench.desk->market().evaluator()->marketPtr();
    QTest::keyClick(bench.window.get(), Qt::Key_K, Qt::ControlModifier);
    auto* words = bench.find<QLineEdit>(QStringLiteral("Find anything"));
    auto* found = bench.find<QListWidget>(QStringLiteral("Found"));
    QTest::keyClicks(words, QString::fromStdString(former->instrument(20).symbol));
    test::waitUntil([&] { return found->count() == 1; }, "the stock");
    const OwnFolder other;
    other.write("QUAY.csv", "Date,Open,High,Low,Close,Volume\n2025-03-14,1,2,1,2,10\n");
    bench.desk->market().keeper().open(other.path());
    test::waitUntil([&] { return bench.desk->market().evaluator()->marketPtr() != former; },
                    "the other market");
    bench.settle();
    CHECK(found->count() == 0);
    words->clear();
    QTest::keyClicks(words, QStringLiteral("quay"));
    QTest::keyClick(words, Qt::Key_Return);
    bench.settle();
    CHECK(bench.window->shownPlace() == QStringLiteral("weigh"));
    CHECK(bench.desk->focus().selected() == std::optional<std::size_t>(0));
}

TEST_CASE("Finder: Escape gives the focus back, so that the place's keys work on", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    bench.go("lists");
    auto* lists = bench.find<ListTree>(QStringLiteral("Watchlists"));
    lists->setFocus();
    QTest::keyClick(bench.window.get(), Qt::Key_K, Qt::ControlModifier);
    auto* words = bench.find<QLineEdit>(QStringLiteral("Find anything"));
    REQUIRE(bench.window->focusWidget() == words);
    QTest::keyClick(words, Qt::Key_K, Qt::ControlModifier); // once more changes nothing
    QTest::keyClick(words, Qt::Key_Escape);
    CHECK_FALSE(words->isVisible());
    CHECK(bench.window->focusWidget() == lists);
}

TEST_CASE("Window: a folder that is no dataset is told, and the former market stays", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    bench.desk->market().keeper().open(own.path());
    test::waitUntil([&] { return !bench.window->noticeText().isEmpty(); }, "the notice");
    CHECK(bench.window->noticeText().contains(QStringLiteral("holds no prices")));
    CHECK(bench.window->noticeText().contains(QStringLiteral("former market stays open")));
    CHECK(bench.desk->market().data().size() > 150);
}

TEST_CASE("Window: a library that cannot be written is told at the start", "[app]")
{
    const WindowBench bench("/proc/nowhere/library.sqlite");
    CHECK(bench.window->noticeText().contains(QStringLiteral("Nothing is being saved")));
    bench.desk->work().edit(QStringLiteral("test"),
                            [](Work& work) { work.lists = {test::listOf(1, "Held")}; });
    CHECK(bench.desk->work().now().lists.size() == 1); // it can be used all the same
}

TEST_CASE("Window: a damaged library is told, and its backup is there", "[app]")
{
    const OwnFolder own;
    const auto library = own.path() / "library.sqlite";
    {
        const WindowBench bench(library, {});
        bench.desk->work().edit(QStringLiteral("test"),
                                [](Work& work) { work.lists = {test::listOf(1, "Held")}; });
        bench.desk->keeper().enqueue([](library::Library& open) { open.backUp(); });
        bench.desk->keeper().waitUntilDone();
    }
    {
        std::ofstream damage(library, std::ios::binary | std::ios::in | std::ios::out);
        damage << "no database any more";
    }
    const WindowBench bench(library, {});
    CHECK(bench.window->noticeText().contains(QStringLiteral("damaged")));
    REQUIRE(bench.desk->work().now().lists.size() == 1);
    CHECK(bench.desk->work().now().lists[0]->name == "Held");
}

TEST_CASE("Window: without a market every place says what to do", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite", {});
    for (const char* place : {"market", "sift", "weigh", "lists", "prove", "live"}) {
        bench.go(place);
        CHECK(bench.window->shownPlace() == QLatin1String(place));
        QTest::keyClick(bench.window->place(QLatin1String(place)), Qt::Key_K);
        QTest::keyClick(bench.window.get(), Qt::Key_BracketLeft);
        QTest::keyClick(bench.window.get(), Qt::Key_Return, Qt::ControlModifier);
    }
    CHECK_FALSE(bench.desk->market().isOpen());
}

TEST_CASE("Window: both palettes, a small window and a large one", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    for (const auto& palette : {harbourPalette(), paperPalette()}) {
        wear(palette);
        for (const QSize& size : {QSize(1024, 700), QSize(3840, 2160)}) {
            bench.window->resize(size);
            for (const char* place : {"market", "sift", "weigh", "lists"}) {
                bench.go(place);
                CHECK_FALSE(bench.window->grab().isNull());
            }
        }
        CHECK(bench.window->minimumSizeHint().width() <= 1024);
    }
}

} // namespace sieve::app
