#include "app/chart/chart_view.h"
#include "app/lists/entries_model.h"
#include "app/parts/figure_table.h"
#include "app/parts/number_text.h"
#include "tests/app/opened.h"

#include <QComboBox>
#include <QHeaderView>
#include <QMimeData>
#include <QSplitter>
#include <QTabWidget>
#include <QTableView>
#include <QToolButton>
#include <catch2/catch.hpp>

// What the window remembers, what goes onto the clipboard, and another market under the places.

namespace sieve::app {

namespace {

using test::OwnFolder;
using test::WindowBench;

QToolButton* buttonNamed(const WindowBench& bench, const char* words)
{
    for (auto* button : bench.window->findChildren<QToolButton*>())
        if (button->text() == QLatin1String(words) && button->isVisible())
            return button;
    throw std::runtime_error(std::string("no button ") + words);
}

QSplitter* splitterOf(const WindowBench& bench, const char* key)
{
    for (auto* splitter : bench.window->findChildren<QSplitter*>())
        if (splitter->property("rememberedAs").toString() == QLatin1String(key))
            return splitter;
    throw std::runtime_error(std::string("no splitter ") + key);
}

} // namespace

TEST_CASE("Layout: splitters, tabs, lenses, overlays, place and size are there after a crash",
          "[app]")
{
    const OwnFolder own;
    const auto library = own.path() / "library.sqlite";
    const auto copy = own.path() / "after.sqlite"; // as a crash leaves it: the window never closed
    QList<int> widths;
    {
        const WindowBench bench(library);
        bench.window->resize(1200, 740);
        bench.showTab("Breadth");
        buttonNamed(bench, "Swings")->click();
        bench.go("sift");
        auto* split = splitterOf(bench, "sift.split");
        widths = split->sizes();
        widths[0] -= 60;
        widths[1] += 60;
        split->setSizes(widths);
        Q_EMIT split->splitterMoved(widths[0], 1); // as a drag does
        widths = split->sizes();
        buttonNamed(bench, "Wall")->click();
        bench.settle();
        bench.find<QComboBox>(QStringLiteral("Charts a page"))->setCurrentIndex(0);
        QTest::qWait(700);
        bench.desk->keeper().waitUntilDone();
        SQLite::Database(library.string()).exec("VACUUM INTO '" + copy.string() + "'");
    }
    const WindowBench bench(copy);
    CHECK(bench.window->size() == QSize(1200, 740));
    CHECK(bench.window->shownPlace() == QStringLiteral("sift"));
    CHECK(splitterOf(bench, "sift.split")->sizes() == widths);
    CHECK(buttonNamed(bench, "Wall")->isChecked());
    CHECK(bench.find<QComboBox>(QStringLiteral("Charts a page"))->currentIndex() == 0);
    bench.go("market");
    CHECK(buttonNamed(bench, "Swings")->isChecked());
    for (const auto* tabs : bench.window->findChildren<QTabWidget*>())
        if (tabs->property("rememberedAs").toString() == QStringLiteral("market.tabs"))
            CHECK(tabs->tabText(tabs->currentIndex()) == QStringLiteral("Breadth"));
}

TEST_CASE("Layout: widths that the person gave and the scale of a chart are there again", "[app]")
{
    const OwnFolder own;
    const auto library = own.path() / "library.sqlite";
    const auto head = [](const WindowBench& bench) {
        return bench.find<QTableView>(QStringLiteral("Entries"))->horizontalHeader();
    };
    const auto chartOf = [](const WindowBench& bench, const char* place) {
        return bench.chartIn(place);
    };
    const auto chart = [&](const WindowBench& bench) { return chartOf(bench, "lists"); };
    const auto isLogarithmic = [](const ChartView* view) {
        return view->setUp().values == charts::ValueScale::Logarithmic;
    };
    constexpr int added = EntriesModel::Since;
    constexpr int price = EntriesModel::Price;
    int fitted = 0;
    {
        const WindowBench bench(library);
        const market::Market& market = bench.desk->market().data();
        bench.desk->work().edit(QStringLiteral("list"), [&](Work& work) {
            work.lists = {test::listOf(
                1, "Harbour", {{market.instrument(4).symbol, bench.desk->focus().day(), 5.0}})};
        });
        chartOf(bench, "market")->setFocus();
        QTest::keyClick(chartOf(bench, "market"), Qt::Key_L, Qt::ShiftModifier);
        REQUIRE(isLogarithmic(chartOf(bench, "market")));
        bench.go("lists");
        fitted = head(bench)->sectionSize(price);
        head(bench)->resizeSection(added, 171); // as a drag of its edge does
        bench.desk->work().edit(QStringLiteral("entry"), [&](Work& work) {
            work.editList(1)->entries.push_back(
                {market.instrument(7).symbol, bench.desk->focus().day(), 6.0});
        });
        bench.settle();
        CHECK(head(bench)->sectionSize(added) == 171); // fitting leaves it
        bench.desk->focus().select(4);
        bench.settle();
        chart(bench)->setFocus();
        QTest::keyClick(chart(bench), Qt::Key_L, Qt::ShiftModifier);
        QTest::keyClick(chart(bench), Qt::Key_W, Qt::ShiftModifier);
        bench.settle();
        QTest::qWait(700);
        bench.desk->keeper().waitUntilDone();
    }
    const WindowBench bench(library);
    CHECK(head(bench)->sectionSize(added) == 171);
    CHECK(std::abs(head(bench)->sectionSize(price) - fitted) <= 12); // as wide as what it holds
    CHECK(chart(bench)->setUp().values == charts::ValueScale::Logarithmic);
    CHECK(chart(bench)->setUp().scale == charts::BarScale::Week);
    bench.go("market");
    CHECK(isLogarithmic(chartOf(bench, "market")));
}

TEST_CASE("Copy: the selected rows, as shown and with their raw figures", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    bench.go("sift");
    bench.desk->work().edit(QStringLiteral("test"), [](Work& work) {
        work.screen.edit().criteria = {{"close > 5"}};
        work.screen.edit().columns = {"symbol", "day_change"};
    });
    bench.settle();
    auto* table = bench.find<QTableView>(QStringLiteral("Results"));
    REQUIRE(table->model()->rowCount() > 3);
    table->clearSelection();
    table->selectionModel()->select(table->model()->index(1, 0),
                                    QItemSelectionModel::Select | QItemSelectionModel::Rows);
    const std::unique_ptr<QMimeData> copied(copyOf(*table));
    const QStringList lines = copied->text().split(u'\n');
    REQUIRE(lines.size() == 2); // the head and the one row
    const QString shown = table->model()->index(1, 1).data().toString();
    CHECK(lines[1] == table->model()->index(1, 0).data().toString() + u'\t' + shown);
    CHECK(shown.endsWith(u'%'));
    const QString raw =
        QString::fromUtf8(copied->data(QStringLiteral("text/tab-separated-values")));
    const double figure = raw.split(u'\n')[1].split(u'\t')[1].toDouble();
    CHECK(figure == Approx(table->model()->index(1, 1).data(figureRole).toDouble()));
    CHECK(std::abs(figure) < 0.5); // and no percentage
    CHECK(copied->html().contains(QStringLiteral("sdval=")));
    CHECK(copied->html().contains(shown));
    table->clearSelection();
    const std::unique_ptr<QMimeData> all(copyOf(*table));
    CHECK(all->text().split(u'\n').size() == table->model()->rowCount() + 1);
}

TEST_CASE("Another market: the stock stays selected, and nothing of the former one is shown",
          "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    const std::string symbol = bench.desk->market().data().instrument(9).symbol;
    bench.desk->focus().select(9);
    bool wasShown = true;
    QObject::connect(&bench.desk->market(), &OpenMarket::settled, bench.window.get(), [&] {
        for (auto* splitter : bench.window->findChildren<QSplitter*>())
            if (splitter->property("rememberedAs").toString() == QStringLiteral("market.halves"))
                wasShown = splitter->isVisible();
    });
    const market::Market* former = &bench.desk->market().data();
    bench.desk->market().keeper().open(test::demoDataset());
    test::waitUntil([&] { return &bench.desk->market().data() != former; }, "the other market");
    CHECK_FALSE(wasShown);
    CHECK(bench.desk->market().data().instrument(*bench.desk->focus().selected()).symbol == symbol);
    bench.settle();
    CHECK(splitterOf(bench, "market.halves")->isVisible());
}

TEST_CASE("Another market: opened while questions are under way, none of its stocks is mistaken",
          "[app]")
{
    const OwnFolder own;
    const OwnFolder other; // fewer stocks, so that a number of the former market is out of place
    for (const char* symbol : {"AAAA", "BBBB", "CCCC"})
        other.write(std::string(symbol) + ".csv",
                    "Date,Open,High,Low,Close,Volume\n2025-03-13,10,20,10,20,100\n"
                    "2025-03-14,10,20,10,20,100\n");
    const WindowBench bench(own.path() / "library.sqlite");
    bench.go("sift");
    bench.desk->work().edit(QStringLiteral("test"), [](Work& work) {
        work.screen.edit().universe.clear();
        work.screen.edit().criteria = {{"close > 5"}};
    });
    bench.settle();
    auto* results = bench.find<QTableView>(QStringLiteral("Results"));
    REQUIRE(results->model()->rowCount() > 20);
    bench.desk->work().edit(QStringLiteral("list"), [&](Work& work) {
        work.lists = {test::listOf(1, "Harbour", {{"AAAA", bench.desk->focus().day(), 5.0}})};
    });
    bench.go("lists");
    auto* entries = bench.find<QTableView>(QStringLiteral("Entries"));
    CHECK(entries->model()->rowCount() == 1);
    bench.go("sift");
    int rowsThen = -1;
    QObject::connect(&bench.desk->market(), &OpenMarket::settled, results, [&] {
        rowsThen = results->model()->rowCount() + entries->model()->rowCount();
    });
    for (const auto& dataset : {other.path(), test::demoDataset(), other.path()}) {
        const market::Market* former = &bench.desk->market().data();
        for (const char* place : {"market", "weigh", "sift"})
            bench.window->showPlace(QLatin1String(place)); // each asks, and nobody waits
        bench.desk->work().edit(QStringLiteral("test"), [](Work& work) {
            work.screen.edit().criteria.push_back({"volume > 1"});
        });
        bench.desk->market().keeper().open(dataset);
        test::waitUntil([&] { return &bench.desk->market().data() != former; }, "the market");
        CHECK(rowsThen == 0);
        bench.settle();
        REQUIRE(results->model()->rowCount() > 0);
        QTest::mouseClick(results->viewport(), Qt::LeftButton, {},
                          results->visualRect(results->model()->index(0, 0)).center());
        bench.settle();
        const auto& chosen =
            bench.desk->market().data().instrument(bench.desk->focus().selected().value());
        CHECK(results->model()->index(0, 0).data().toString() == text(chosen.symbol));
    }
    CHECK(results->model()->rowCount() == 3);
}

} // namespace sieve::app
