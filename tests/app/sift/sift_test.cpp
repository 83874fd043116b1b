#include "app/parts/expression_edit.h"
#include "core/screens/starter.h"
#include "core/watchlists/stocks.h"
#include "tests/app/window_bench.h"

#include <QLineEdit>
#include <QMenu>
#include <QSpinBox>
#include <QTableView>
#include <QToolButton>
#include <QTreeWidget>
#include <QTreeWidgetItemIterator>
#include <catch2/catch.hpp>

// What a person does next in Sift and Weigh, beyond the first way through.

namespace sieve::app {

namespace {

using test::OwnFolder;
using test::WindowBench;

/// Chooses a screen by its name in the browser, with keys.
void chooseScreen(const WindowBench& bench, const QString& name)
{
    bench.inDialog(Qt::Key_B, [&name](QWidget& browser) {
        QTest::keyClicks(QApplication::focusWidget(), name);
        for (auto* tree : browser.findChildren<QTreeWidget*>())
            for (QTreeWidgetItemIterator at(tree); *at; ++at) // another may hold the same words
                if ((*at)->text(0) == name)
                    tree->setCurrentItem(*at);
        QTest::keyClick(QApplication::focusWidget(), Qt::Key_Return);
    });
}

/// Begins an empty one from the menu of screens.
void beginScreen(const WindowBench& bench)
{
    for (QAction* act : bench.find<QToolButton>(QStringLiteral("Screen"))->menu()->actions())
        if (act->text().remove(u'&').startsWith(QStringLiteral("New screen")))
            act->trigger();
    bench.settle();
}

std::string selectedSymbol(const WindowBench& bench)
{
    return bench.desk->market().data().instrument(*bench.desk->focus().selected()).symbol;
}

} // namespace

TEST_CASE("Sift: every starter screen can be chosen and undone", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    bench.go("sift");
    const std::string first = bench.desk->work().now().screen->name;
    for (const screens::Screen& screen : screens::starterScreens()) {
        INFO(screen.name);
        chooseScreen(bench, QString::fromStdString(screen.name));
        CHECK(*bench.desk->work().now().screen == screen);
        const auto* table = bench.find<QTableView>(QStringLiteral("Results"));
        CHECK(table->model()->columnCount() == static_cast<int>(screen.columns.size()));
    }
    while (bench.desk->work().undoStack().canUndo())
        bench.desk->work().undoStack().undo();
    CHECK(bench.desk->work().now().screen->name == first);
}

TEST_CASE("Sift: a new screen begins empty and takes the first criterion", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    bench.go("sift");
    beginScreen(bench);
    CHECK(bench.desk->work().now().screen->criteria.empty());
    const auto* table = bench.find<QTableView>(QStringLiteral("Results"));
    const int all = table->model()->rowCount();
    CHECK(all > 150);
    auto* edit = bench.find<ExpressionEdit>(QStringLiteral("New criterion"));
    edit->setText(QStringLiteral("close > 30"));
    QTest::keyClick(edit, Qt::Key_Return);
    bench.settle();
    CHECK(edit->text().isEmpty()); // ready for the next
    CHECK(table->model()->rowCount() < all);
    CHECK(table->model()->rowCount() > 0);
}

TEST_CASE("Sift: the rank and how many to keep", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    bench.go("sift");
    beginScreen(bench);
    auto* rank = bench.find<ExpressionEdit>(QStringLiteral("Rank by"));
    rank->setFocus();
    QTest::keyClicks(rank, QStringLiteral("-close"));
    QTest::keyClick(rank, Qt::Key_Escape);
    QTest::keyClick(rank, Qt::Key_Return);
    bench.find<QSpinBox>(QStringLiteral("Keep the best"))->setValue(5);
    bench.settle();
    CHECK(bench.desk->work().now().screen->rankBy == "-close");
    CHECK(bench.desk->work().now().screen->keep == 5);
    const auto* table = bench.find<QTableView>(QStringLiteral("Results"));
    REQUIRE(table->model()->rowCount() == 5);
    const auto price = [table](int row) {
        return table->model()->index(row, 3).data().toString().toDouble();
    };
    for (int row = 1; row < 5; ++row)
        CHECK(price(row - 1) <= price(row)); // the cheapest first
    rank->setText(QStringLiteral("sector"));
    Q_EMIT rank->textEdited(rank->text());
    bench.settle();
    CHECK(rank->toolTip().contains(QStringLiteral("no number")));
}

TEST_CASE("Sift: lists and screens are asked for by name, and follow their edits", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    bench.go("sift");
    beginScreen(bench);
    const auto* table = bench.find<QTableView>(QStringLiteral("Results"));
    const auto add = [&](const char* symbol) {
        bench.desk->work().edit(QStringLiteral("add"), [&](Work& work) {
            if (work.lists.empty())
                work.lists.push_back(test::listOf(bench.desk->work().newId(), "Mine"));
            work.lists[0].edit().entries.push_back(
                {symbol, bench.desk->market().data().sessions().front(), 1.0, "", ""});
        });
        bench.settle();
    };
    const auto& market = bench.desk->market().data();
    std::vector<std::string> shares;
    for (std::size_t i = 0; i < market.size() && shares.size() < 2; ++i)
        if (market.instrument(i).kind == market::InstrumentKind::Share &&
            market::barOn(market, i, bench.desk->focus().day()))
            shares.push_back(market.instrument(i).symbol);
    add(shares[0].c_str());
    auto* edit = bench.find<ExpressionEdit>(QStringLiteral("New criterion"));
    edit->setText(QStringLiteral("on_list(\"Mine\")"));
    QTest::keyClick(edit, Qt::Key_Return);
    bench.settle();
    CHECK(table->model()->rowCount() == 1);
    add(shares[1].c_str());
    CHECK(table->model()->rowCount() == 2);
    edit->setText(QStringLiteral("passes(\"Pullback in an uptrend\")"));
    QTest::keyClick(edit, Qt::Key_Return);
    bench.settle();
    CHECK(table->model()->rowCount() <= 2);
    CHECK_FALSE(edit->toolTip().contains(QStringLiteral("no screen")));
}

TEST_CASE("Weigh: what is kept twice stands once, undo takes the entry and the mark back", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    const std::string symbol = bench.desk->market().data().instrument(6).symbol;
    bench.desk->work().edit(QStringLiteral("fill"),
                            [&](Work& work) { work.tray = test::trayOf(bench, {symbol}, "Mine"); });
    bench.desk->focus().selectSymbol(symbol);
    bench.go("weigh");
    auto* weigh = bench.window->place(QStringLiteral("weigh"));
    QTest::keyClick(weigh, Qt::Key_K);
    QTest::keyClick(weigh, Qt::Key_K);
    REQUIRE(bench.desk->work().now().lists.size() == 1);
    CHECK(bench.desk->work().now().lists[0]->entries.size() == 1);
    CHECK(bench.desk->work().now().lists[0]->entries[0].source == "Mine");
    CHECK(selectedSymbol(bench) == symbol); // there is no other to go on to
    bench.desk->work().undoStack().undo();
    CHECK(bench.desk->work().now().lists.empty());
    CHECK(bench.desk->work().now().tray->counts().open == 1);
}

TEST_CASE("Weigh: a stock that is not in hand can be kept, with the price of the as-of day",
          "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    bench.desk->focus().setDay(*Day::parse("2025-11-14"));
    bench.desk->focus().select(3);
    bench.go("weigh");
    auto* weigh = bench.window->place(QStringLiteral("weigh"));
    QTest::keyClick(weigh, Qt::Key_X); // there is nothing to drop it from
    CHECK(bench.desk->work().undoStack().count() == 0);
    QTest::keyClick(weigh, Qt::Key_K);
    REQUIRE(bench.desk->work().now().lists.size() == 1);
    const watchlists::Entry& entry = bench.desk->work().now().lists[0]->entries.at(0);
    CHECK(entry.addedOn.iso() == "2025-11-14");
    CHECK(entry.priceThen == watchlists::priceOn(bench.desk->market().data(), 3, entry.addedOn));
    CHECK(entry.source.empty());

    // A reason given later goes to the entry.
    QTest::keyClick(weigh, Qt::Key_R);
    auto* reason = bench.find<QLineEdit>(QStringLiteral("Reason"));
    QTest::keyClicks(reason, QStringLiteral("breakout"));
    QTest::keyClick(reason, Qt::Key_Return);
    CHECK(bench.desk->work().now().lists[0]->entries[0].reason == "breakout");
    bench.desk->focus().goToLatest();
    bench.settle();
    CHECK_FALSE(
        isMissing(watchlists::resultOf(bench.desk->work().now().lists[0]->entries[0],
                                       bench.desk->market().data(), bench.desk->focus().day())
                      .gain));
}

} // namespace sieve::app
