#include "app/lists/lists_place.h"

#include "app/lists/entries_model.h"
#include "app/lists/list_tree.h"
#include "app/parts/figure_table.h"
#include "app/parts/number_text.h"
#include "tests/app/window_bench.h"
#include "tests/core/made_market.h"

#include <QAbstractItemModelTester>
#include <QDragEnterEvent>
#include <QLabel>
#include <QLineEdit>
#include <QMimeData>
#include <QSignalSpy>
#include <QTableView>
#include <catch2/catch.hpp>

namespace sieve::app {

using test::OwnFolder;
using test::WindowBench;

namespace {

watchlists::Watchlist listOfTwo()
{
    return {3,
            "List",
            {{"AAAA.C", *Day::parse("2024-01-02"), 10.0, "why", "Screen"},
             {"GONE.C", *Day::parse("2024-01-02"), missing, "", ""}},
            {}};
}

} // namespace

TEST_CASE("Entries model: shows what became of each, and lets the reason be edited", "[app]")
{
    auto record = test::recordOf("AAAA.C", {20, 24, 12}); // a split of two for one on the third day
    record.instrument.name = "A Tidal";
    record.bars.days = {*Day::parse("2024-01-02"), *Day::parse("2024-01-03"),
                        *Day::parse("2024-01-04")};
    record.actions.push_back({record.bars.days[2], market::ActionKind::Split, 2.0});
    watchlists::Watchlist list = listOfTwo();
    list.entries[0].priceThen = 20.0;
    list.entries[0].plan = watchlists::TradePlan{record.bars.days[0], 24.0, 18.0, {30.0}};
    list.entries[0].page.tags = {"one", "two"};
    EntriesModel model;
    const QAbstractItemModelTester tester(&model);
    engine::Evaluator evaluator(test::marketOf({record}));
    const screens::NameBook book;
    ShownList told;
    told.market = evaluator.marketPtr();
    told.told = watchlists::tell(list, evaluator, book.names(), {}, record.bars.days[2]);
    model.setShown(std::make_shared<const ShownList>(told));
    const auto shown = [&](int row, int column) {
        return model.index(row, column).data().toString();
    };
    CHECK(shown(0, EntriesModel::Name) == QStringLiteral("A Tidal"));
    CHECK(shown(0, EntriesModel::Gain) == QStringLiteral("+20.0 %"));
    CHECK(shown(0, EntriesModel::PriceThen) == QStringLiteral("10.00")); // as the close stands
    CHECK(shown(0, EntriesModel::Price) == QStringLiteral("12.00"));
    CHECK(shown(0, EntriesModel::State).startsWith(QStringLiteral("triggered, 3 Jan")));
    CHECK(shown(0, EntriesModel::Tags) == QStringLiteral("one, two"));
    CHECK(model.index(0, EntriesModel::Plan)
              .data(Qt::ToolTipRole)
              .toString()
              .contains(QStringLiteral("Stop 9.00, entry 12.00, target 15.00, close 12.00")));
    CHECK(model.index(0, EntriesModel::PriceThen)
              .data(Qt::ToolTipRole)
              .toString()
              .contains(QStringLiteral("traded at 20.00")));
    CHECK(shown(0, EntriesModel::Source) == QStringLiteral("Screen"));
    CHECK(shown(1, EntriesModel::Name) == QStringLiteral("not in this market"));
    CHECK(shown(1, EntriesModel::Gain) == QStringLiteral("–"));
    CHECK(shown(1, EntriesModel::PriceThen) == QStringLiteral("–"));
    CHECK(shown(1, EntriesModel::Source) == QStringLiteral("by hand"));
    const QSignalSpy typed(&model, &EntriesModel::typed);
    CHECK_FALSE(
        model.setData(model.index(0, EntriesModel::Name), QStringLiteral("x"), Qt::EditRole));
    CHECK(model.setData(model.index(1, EntriesModel::Reason), QStringLiteral("  new "),
                        Qt::EditRole));
    CHECK(model.setData(model.index(0, EntriesModel::Tags), QStringLiteral("one, two"),
                        Qt::EditRole)); // the same is no change
    REQUIRE(typed.count() == 1);
    CHECK(typed.first()[0].value<watchlists::Entry>().symbol == "GONE.C");
    CHECK(typed.first()[2].toString() == QStringLiteral("new"));
    CHECK(model.rowOf(0) == 0);
    CHECK(model.rowOf(1) == -1);
    CHECK_FALSE(model.stock(1));
}

TEST_CASE("Lists: several lists, their entries and the selected stock", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    const std::string first = bench.desk->market().data().instrument(4).symbol;
    const std::string second = bench.desk->market().data().instrument(7).symbol;
    bench.desk->work().edit(QStringLiteral("lists"), [&](Work& work) {
        const Day day = bench.desk->focus().day();
        work.lists = {test::listOf(1, "Harbour", {{first, day, 5.0}, {second, day, 6.0}}),
                      test::listOf(2, "Hills")};
    });
    const auto before = bench.desk->focus().selected();
    bench.go("lists");
    auto* entries = bench.find<QTableView>(QStringLiteral("Entries"));
    CHECK(entries->model()->rowCount() == 2);
    CHECK(bench.desk->focus().selected() == before); // to look at the lists is no choice
    QTest::mouseClick(
        entries->viewport(), Qt::LeftButton, {},
        entries->visualRect(entries->model()->index(1, EntriesModel::Symbol)).center());
    CHECK(bench.desk->focus().selected() == std::optional<std::size_t>(7));

    auto* names = bench.find<ListTree>(QStringLiteral("Watchlists"));
    REQUIRE(names->topLevelItemCount() == 2);
    names->choose(2);
    CHECK_FALSE(entries->isVisible()); // an empty list says what goes there
    names->setFocus();
    QTest::keyClick(names, Qt::Key_Delete);
    CHECK(bench.desk->work().now().lists.size() == 1);
    CHECK(entries->isVisible());
    QTest::keyClick(bench.window.get(), Qt::Key_Z, Qt::ControlModifier);
    CHECK(bench.desk->work().now().lists.size() == 2);

    bench.settle();
    entries->setFocus();
    entries->setCurrentIndex(entries->model()->index(0, EntriesModel::Reason));
    entries->model()->setData(entries->currentIndex(), QStringLiteral("deep water"), Qt::EditRole);
    REQUIRE(bench.desk->work().now().lists[0]->entries[0].reason == "deep water");
    bench.desk->work().undoStack().undo();
    CHECK(bench.desk->work().now().lists[0]->entries[0].reason.empty());
}

TEST_CASE("Lists: stocks are dropped on a list's name or on the one that is shown", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    const auto symbolOf = [&](std::size_t stock) {
        return bench.desk->market().data().instrument(stock).symbol;
    };
    bench.desk->work().edit(QStringLiteral("lists"), [&](Work& work) {
        work.lists = {test::listOf(1, "Harbour"), test::listOf(2, "Hills")};
    });
    bench.go("lists");
    auto* names = bench.find<ListTree>(QStringLiteral("Watchlists"));
    names->choose(1);
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
    drop(*names->viewport(), names->visualItemRect(names->topLevelItem(1)).center(), two);
    const auto entries = [&](std::size_t list) {
        return bench.desk->work().now().lists[list]->entries;
    };
    REQUIRE(entries(1).size() == 2);
    CHECK(entries(1)[0].symbol == symbolOf(3));
    CHECK(entries(1)[1].addedOn == bench.desk->focus().day());
    CHECK(entries(1)[1].priceThen > 0.0);
    CHECK(entries(0).empty());
    CHECK(names->chosen() == 1); // what is shown stays

    drop(*bench.window->findChild<ListsPlace*>(), QPoint(600, 300), two);
    CHECK(entries(0).size() == 2);
    const QSignalSpy notices(bench.desk.get(), &Desk::noticed);
    QMimeData novel;
    novel.setText(QStringLiteral("nothing here is a symbol of any stock"));
    drop(*names->viewport(), names->visualItemRect(names->topLevelItem(1)).center(), novel);
    CHECK(notices.count() == 1);
    CHECK(entries(1).size() == 2);
    bench.desk->work().undoStack().undo();
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
    bench.desk->work().edit(QStringLiteral("lists"), [&](Work& work) {
        work.lists = {test::listOf(1, "Harbour"), test::listOf(2, "Hills")};
        work.screen = screen;
        work.marketBook.edit().panes = {"count_of(on_list(\"Harbour\"))"};
    });
    bench.desk->screenShelf().save(screen);
    const auto asked = [&] {
        return bench.desk->work().now().screen->criteria[0].text + " | " +
               bench.desk->screenShelf().all()[0].criteria[0].text + " | " +
               bench.desk->work().now().marketBook->panes[0];
    };
    const std::string before = asked();
    bench.desk->work().edit(QStringLiteral("rename"),
                            [](Work& work) { work.lists[0].edit().name = "Quay"; });
    const std::string after = "on_list(\"Quay\") | on_list(\"Quay\") | count_of(on_list(\"Quay\"))";
    CHECK(asked() == after);
    bench.desk->work().undoStack().undo();
    CHECK(asked() == before);
    bench.desk->work().undoStack().redo();
    CHECK(asked() == after);
}

} // namespace sieve::app
