#include "app/desk/plan_dialog.h"
#include "app/lists/combine_dialog.h"
#include "app/lists/entries_dialog.h"
#include "app/lists/entries_model.h"
#include "app/lists/entry_page.h"
#include "app/lists/list_dialog.h"
#include "app/lists/list_tree.h"
#include "app/lists/lists_place.h"
#include "app/lists/moves_dialog.h"
#include "app/lists/terms_dialog.h"
#include "app/lists/trade_dialog.h"
#include "app/parts/actions.h"
#include "app/parts/figure_table.h"
#include "app/parts/number_text.h"
#include "core/screens/run.h"
#include "tests/app/opened.h"

#include <QApplication>
#include <QCheckBox>
#include <QClipboard>
#include <QComboBox>
#include <QDateEdit>
#include <QDoubleSpinBox>
#include <QDropEvent>
#include <QFileDialog>
#include <QHeaderView>
#include <QInputDialog>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPlainTextEdit>
#include <QTableView>
#include <QTextBrowser>
#include <QTreeWidget>
#include <algorithm>
#include <catch2/catch.hpp>
#include <filesystem>

// What a person does with the entries of a list: by keys, in dialogs, on the page, by the mouse.

namespace sieve::app {

namespace {

using namespace test;
using watchlists::Entry;
using watchlists::priceOn;

template <class Widget> Widget* named(const QWidget& parent, const char* name)
{
    for (auto* child : parent.findChildren<Widget*>())
        if (child->accessibleName() == QString::fromUtf8(name))
            return child;
    throw std::runtime_error(std::string("no child ") + name);
}

/// A window on Lists with two lists, of which the first holds five stocks.
struct Keeping {
    OwnFolder own;
    WindowBench bench{own.path() / "library.sqlite"};
    std::vector<std::size_t> stocks;

    Keeping()
    {
        const market::Market& market = bench.desk->market().data();
        for (std::size_t stock = 3; stocks.size() < 5; ++stock)
            if (!market.isIndex(stock) && market.isListed(stock, bench.desk->focus().day()))
                stocks.push_back(stock);
        bench.desk->work().edit(QStringLiteral("lists"), [&](Work& work) {
            work.lists = {listOf(101, "Harbour"), listOf(102, "Hills")};
            putOnto(work.lists[0].edit(), market, stocks, bench.desk->focus().day(), "why", "");
        });
        bench.go("lists");
        bench.settle();
    }
    const Work& work() const { return bench.desk->work().now(); }
    const std::vector<Entry>& entries(std::size_t list = 0) const
    {
        return work().lists[list]->entries;
    }
    QTableView& table() const { return *bench.find<QTableView>(QStringLiteral("Entries")); }
    ListTree& tree() const { return *bench.find<ListTree>(QStringLiteral("Watchlists")); }
    EntryPage& page() const { return *bench.window->findChild<EntryPage*>(); }
    double close(std::size_t of) const
    {
        return priceOn(bench.desk->market().data(), stocks[of], bench.desk->focus().day());
    }
    void keyOnTree(Qt::Key key, Qt::KeyboardModifiers with = {}) const
    {
        tree().setFocus();
        QTest::keyClick(&tree(), key, with);
        bench.settle();
        bench.activate();
    }
    void choose(std::initializer_list<int> rows) const
    {
        bench.activate();
        table().setFocus();
        table().clearSelection();
        for (const int row : rows) {
            const QPoint at = table().visualRect(table().model()->index(row, 1)).center();
            QTest::mouseClick(table().viewport(), Qt::LeftButton,
                              row == *rows.begin() ? Qt::NoModifier : Qt::ControlModifier, at);
        }
        bench.settle();
    }
    void key(Qt::Key key, Qt::KeyboardModifiers with = {}) const
    {
        table().setFocus();
        QTest::keyClick(&table(), key, with);
        bench.settle();
        bench.activate(); // a dialog may have closed
    }
    void drop(QWidget& on, const QPoint& at, const QMimeData& what,
              Qt::KeyboardModifiers with = {}) const
    {
        QDragEnterEvent enter(at, Qt::CopyAction | Qt::MoveAction, &what, Qt::LeftButton, with);
        QApplication::sendEvent(&on, &enter);
        QDragMoveEvent move(at, Qt::CopyAction | Qt::MoveAction, &what, Qt::LeftButton, with);
        QApplication::sendEvent(&on, &move);
        QDropEvent event(at, Qt::CopyAction | Qt::MoveAction, &what, Qt::LeftButton, with);
        QApplication::sendEvent(&on, &event);
        bench.settle();
    }
    QMimeData* dragged(std::initializer_list<int> rows) const
    {
        const auto* model = bench.window->findChild<EntriesModel*>();
        QModelIndexList indexes;
        for (const int row : rows)
            indexes << model->index(row, 0);
        return model->mimeData(indexes);
    }
    std::vector<std::size_t> order(std::size_t list = 0) const
    {
        std::vector<std::size_t> order;
        for (const Entry& entry : entries(list))
            order.push_back(static_cast<std::size_t>(
                std::ranges::find(stocks, stockOf(entry, bench.desk->market().data()).value()) -
                stocks.begin()));
        return order;
    }
};
using Order = std::vector<std::size_t>;

} // namespace

TEST_CASE("Entries: bought and sold by keys, the state follows, one undo", "[app]")
{
    Keeping keeping;
    keeping.choose({1});
    answerNext<TradeDialog>(keeping.bench, [](TradeDialog& dialog) {
        named<QDoubleSpinBox>(dialog, "Shares")->setValue(120.0);
        accept(dialog);
    });
    keeping.key(Qt::Key_B);
    REQUIRE(keeping.entries()[1].page.trades.size() == 1);
    CHECK(keeping.entries()[1].page.trades[0].shares == 120.0);
    CHECK(keeping.entries()[1].page.trades[0].price == Approx(keeping.close(1)).epsilon(0.001));
    const auto state = [&] {
        return keeping.table().model()->index(1, EntriesModel::State).data().toString();
    };
    CHECK(state().startsWith(QStringLiteral("held")));
    answerNext<TradeDialog>(keeping.bench, [](TradeDialog& dialog) {
        auto* shares = named<QDoubleSpinBox>(dialog, "Shares");
        CHECK(shares->value() == 120.0); // all that is held is proposed
        shares->setValue(500.0);
        accept(dialog);
        CHECK(dialog.isVisible()); // more than there are
        shares->setValue(120.0);
        accept(dialog);
    });
    keeping.key(Qt::Key_S);
    CHECK(keeping.entries()[1].page.trades.size() == 2);
    CHECK(state().startsWith(QStringLiteral("sold")));
    keeping.bench.desk->work().undoStack().undo();
    keeping.bench.settle();
    CHECK(state().startsWith(QStringLiteral("held")));
    keeping.choose({0}); // nothing of this one is held
    const QSignalSpy notices(keeping.bench.desk.get(), &Desk::noticed);
    keeping.key(Qt::Key_S);
    CHECK(notices.count() == 1);
}

TEST_CASE("Entries: a plan with rules is made beside the list", "[app]")
{
    Keeping keeping;
    keeping.choose({2});
    keeping.key(Qt::Key_G);
    auto* dialog = keeping.bench.window->findChild<PlanDialog*>();
    REQUIRE(dialog);
    REQUIRE(keeping.entries()[2].plan);
    CHECK(keeping.entries()[2].plan->entry == Approx(keeping.close(2)));
    CHECK(keeping.work().tray->isEmpty()); // the plan is the entry's alone
    auto* rule = named<QLineEdit>(*dialog, "Stop by rule");
    rule->setFocus();
    QTest::keyClicks(rule, QStringLiteral("close * 0.9"));
    QTest::keyClick(rule, Qt::Key_Return);
    keeping.bench.settle();
    CHECK(keeping.entries()[2].plan->stopRule == "close * 0.9");
    CHECK(keeping.entries()[2].plan->stop == Approx(0.9 * keeping.close(2)));
    auto* exit = named<QLineEdit>(*dialog, "Leave when");
    exit->setFocus();
    QTest::keyClicks(exit, QStringLiteral("close <")); // no condition yet: it does not count
    keeping.bench.settle();
    named<QLineEdit>(*dialog, "Stop by rule")->setFocus();
    CHECK(keeping.entries()[2].plan->exitRule.empty());
    exit->setFocus();
    QTest::keyClicks(exit, QStringLiteral(" 1000000"));
    QTest::keyClick(exit, Qt::Key_Return);
    keeping.bench.settle();
    CHECK(keeping.entries()[2].plan->exitRule == "close < 1000000");
    dialog->close();
    keeping.bench.settle();
    // Bought, it is time to leave at once.
    keeping.bench.activate();
    answerNext<TradeDialog>(keeping.bench, [](TradeDialog& trade) { accept(trade); });
    keeping.key(Qt::Key_B);
    CHECK(keeping.table()
              .model()
              ->index(2, EntriesModel::State)
              .data()
              .toString()
              .startsWith(QStringLiteral("time to leave")));
}

TEST_CASE("Entry page: all that is typed is kept when it is left", "[app]")
{
    Keeping keeping;
    keeping.choose({0});
    EntryPage& page = keeping.page();
    const auto type = [&](const char* line, const char* words) {
        auto* edit = named<QLineEdit>(page, line);
        edit->setFocus();
        edit->selectAll();
        QTest::keyClicks(edit, QString::fromUtf8(words));
    };
    type("Reason", "deep water");
    type("Tags", "quay, north,, quay");
    auto* category = named<QComboBox>(page, "Category");
    category->lineEdit()->setFocus();
    QTest::keyClicks(category->lineEdit(), QStringLiteral("breakout"));
    auto* note = named<QPlainTextEdit>(page, "A note");
    note->setFocus();
    keeping.bench.settle();
    CHECK(keeping.entries()[0].reason == "deep water");
    CHECK(keeping.entries()[0].page.tags == std::vector<std::string>{"quay", "north"});
    CHECK(keeping.entries()[0].page.category == "breakout");
    QTest::keyClicks(note, QStringLiteral("Tight. <b>not</b> *slanted*"));
    keeping.choose({1}); // another entry: the note belongs to the first
    REQUIRE(keeping.entries()[0].page.notes.size() == 1);
    CHECK(keeping.entries()[0].page.notes[0].text == "Tight. <b>not</b> *slanted*");
    CHECK(keeping.entries()[0].page.notes[0].on == keeping.bench.desk->focus().day());
    CHECK(keeping.entries()[1].page.notes.empty());
    CHECK(note->toPlainText().isEmpty());
    keeping.choose({0});
    const auto* shown = named<QTextBrowser>(page, "Notes");
    CHECK(shown->toPlainText().contains(QStringLiteral("Tight. <b>not</b> slanted")));

    type("A link", "file:///etc/passwd");
    const QSignalSpy notices(keeping.bench.desk.get(), &Desk::noticed);
    QTest::keyClick(named<QLineEdit>(page, "A link"), Qt::Key_Return);
    CHECK(notices.count() >= 1);
    type("A link", "https://example.org/quay");
    QTest::keyClick(named<QLineEdit>(page, "A link"), Qt::Key_Return);
    keeping.bench.settle();
    CHECK(keeping.entries()[0].page.links == std::vector<std::string>{"https://example.org/quay"});
    // Each was a step of its own.
    for (int step = 0; step < 5; ++step)
        keeping.bench.desk->work().undoStack().undo();
    CHECK(keeping.entries()[0].reason == "why");
}

TEST_CASE("Entry page: a note is written anew and removed", "[app]")
{
    Keeping keeping;
    keeping.bench.desk->work().edit(QStringLiteral("note"), [&](Work& work) {
        work.editList(101)->entries[0].page.notes = {{keeping.bench.desk->focus().day(), "first"},
                                                     {keeping.bench.desk->focus().day(), "second"}};
    });
    keeping.bench.settle();
    keeping.choose({0});
    auto* shown = named<QTextBrowser>(keeping.page(), "Notes");
    auto* note = named<QPlainTextEdit>(keeping.page(), "A note");
    Q_EMIT shown->anchorClicked(QUrl(QStringLiteral("entry:note/0")));
    CHECK(note->toPlainText() == QStringLiteral("first"));
    QTest::keyClicks(note, QStringLiteral(" thoughts"));
    QTest::keyClick(note, Qt::Key_Return, Qt::ControlModifier);
    keeping.bench.settle();
    CHECK(keeping.entries()[0].page.notes[0].text == "first thoughts");
    CHECK(keeping.entries()[0].page.notes.size() == 2);
    Q_EMIT shown->anchorClicked(QUrl(QStringLiteral("entry:drop/1")));
    keeping.bench.settle();
    CHECK(keeping.entries()[0].page.notes.size() == 1);
}

TEST_CASE("Entry page: what is undone is not typed again, what is begun goes nowhere else", "[app]")
{
    Keeping keeping;
    keeping.choose({0});
    auto* review = named<QDateEdit>(keeping.page(), "Review on");
    review->setFocus();
    review->setDate(QDate(2027, 3, 1));
    QTest::keyClick(review, Qt::Key_Return);
    keeping.bench.settle();
    REQUIRE(keeping.entries()[0].page.reviewOn == Day::parse("2027-03-01"));
    keeping.bench.desk->work().undoStack().undo(); // while the line has the focus still
    keeping.bench.settle();
    auto* link = named<QLineEdit>(keeping.page(), "A link");
    link->setFocus();
    QTest::keyClicks(link, QStringLiteral("https://example.org/first"));
    keeping.bench.desk->focus().select(keeping.stocks[1]); // by something else than a click
    keeping.bench.settle();
    CHECK_FALSE(keeping.entries()[0].page.reviewOn);
    CHECK(keeping.entries()[0].page.links.size() == 1);
    CHECK(keeping.entries()[1].page.links.empty());
    CHECK(link->text().isEmpty());
}

TEST_CASE("Entry page: a note reads no files and has no links like the page's own", "[app]")
{
    Keeping keeping;
    keeping.bench.desk->work().edit(QStringLiteral("note"), [&](Work& work) {
        work.editList(101)->entries[0].page.notes = {
            {keeping.bench.desk->focus().day(),
             "![x](/dev/zero) [tidy](entry:drop/0) [mine](https://example.org)"}};
    });
    keeping.bench.settle();
    keeping.choose({0});
    const QString html = named<QTextBrowser>(keeping.page(), "Notes")->toHtml();
    CHECK_FALSE(html.contains(QStringLiteral("/dev/zero")));
    CHECK(html.count(QStringLiteral("entry:drop/0")) == 1); // the page's own
    CHECK(html.contains(QStringLiteral("https://example.org")));
}

TEST_CASE("Entries: several are changed at once, as one step", "[app]")
{
    Keeping keeping;
    keeping.choose({1, 3});
    answerNext<EntriesDialog>(keeping.bench, [](EntriesDialog& dialog) {
        named<QLineEdit>(dialog, "Add tags")->parentWidget(); // it is there
        for (auto* box : dialog.findChildren<QCheckBox*>())
            if (const QString title = box->text().remove(u'&');
                title == QStringLiteral("Category") || title == QStringLiteral("Add tags") ||
                title == QStringLiteral("Review on"))
                box->setChecked(true);
        named<QComboBox>(dialog, "Category")->setEditText(QStringLiteral("pullback"));
        named<QLineEdit>(dialog, "Add tags")->setText(QStringLiteral("a, b"));
        named<QDateEdit>(dialog, "Review on")->setDate(QDate(2027, 3, 1));
        accept(dialog);
    });
    keeping.key(Qt::Key_E);
    for (const std::size_t changed : {1U, 3U}) {
        CHECK(keeping.entries()[changed].page.category == "pullback");
        CHECK(keeping.entries()[changed].page.tags == std::vector<std::string>{"a", "b"});
        CHECK(keeping.entries()[changed].page.reviewOn == Day::parse("2027-03-01"));
        CHECK(keeping.entries()[changed].reason == "why"); // it was not ticked
    }
    CHECK(keeping.entries()[0].page == watchlists::EntryPage{});
    keeping.key(Qt::Key_I);
    CHECK(keeping.entries()[1].page.sign == watchlists::Sign::Circle);
    CHECK(keeping.entries()[3].page.sign == watchlists::Sign::Circle);
    keeping.bench.desk->work().undoStack().undo();
    keeping.bench.desk->work().undoStack().undo();
    CHECK(keeping.entries()[3].page == watchlists::EntryPage{});
}

TEST_CASE("Entries: moved by keys and mouse, sorted, and the order kept", "[app]")
{
    Keeping keeping;
    keeping.choose({1, 2});
    keeping.key(Qt::Key_Up, Qt::AltModifier);
    CHECK(keeping.order() == Order{1, 2, 0, 3, 4});
    keeping.key(Qt::Key_Down, Qt::AltModifier);
    keeping.key(Qt::Key_Down, Qt::AltModifier);
    CHECK(keeping.order() == Order{0, 3, 1, 2, 4});
    const std::unique_ptr<QMimeData> last(keeping.dragged({4}));
    keeping.drop(*keeping.table().viewport(),
                 keeping.table().visualRect(keeping.table().model()->index(0, 1)).topLeft() +
                     QPoint(2, 2),
                 *last);
    CHECK(keeping.order() == Order{4, 0, 3, 1, 2});

    keeping.table().sortByColumn(EntriesModel::Symbol, Qt::AscendingOrder);
    const QSignalSpy notices(keeping.bench.desk.get(), &Desk::noticed);
    keeping.choose({0});
    keeping.key(Qt::Key_Down, Qt::AltModifier);
    CHECK(notices.count() == 1); // sorted rows are not moved by hand
    CHECK(keeping.order() == Order{4, 0, 3, 1, 2});
    findAction(*keeping.bench.window, ActionId::KeepOrder)->trigger();
    keeping.bench.settle();
    CHECK(keeping.order() == Order{0, 1, 2, 3, 4}); // instruments stand by symbol
    keeping.bench.desk->work().undoStack().undo();
    CHECK(keeping.order() == Order{4, 0, 3, 1, 2});
}

TEST_CASE("Entries: onto another list with all that was written to them", "[app]")
{
    Keeping keeping;
    keeping.bench.desk->work().edit(QStringLiteral("write"), [](Work& work) {
        work.editList(101)->entries[1].page.category = "base";
    });
    keeping.bench.settle();
    keeping.choose({1, 2});
    keeping.key(Qt::Key_2); // copies
    CHECK(keeping.order(1) == Order{1, 2});
    CHECK(keeping.entries(1)[0].page.category == "base");
    CHECK(keeping.entries(1)[0].source == "Harbour");
    CHECK(keeping.entries().size() == 5);
    keeping.key(Qt::Key_2); // it is there
    CHECK(keeping.entries(1).size() == 2);
    keeping.choose({4});
    keeping.key(Qt::Key_2, Qt::ControlModifier | Qt::ShiftModifier); // moves
    CHECK(keeping.order(1) == Order{1, 2, 4});
    CHECK(keeping.order() == Order{0, 1, 2, 3});
    const std::unique_ptr<QMimeData> first(keeping.dragged({0}));
    CHECK(first->text() == keeping.table().model()->index(0, 1).data().toString());
    keeping.drop(*keeping.tree().viewport(),
                 keeping.tree().visualItemRect(keeping.tree().topLevelItem(1)).center(), *first,
                 Qt::ShiftModifier);
    CHECK(keeping.order(1) == Order{1, 2, 4, 0});
    CHECK(keeping.order() == Order{1, 2, 3});
    keeping.bench.desk->work().undoStack().undo();
    CHECK(keeping.order() == Order{0, 1, 2, 3});
}

TEST_CASE("Entries: several are taken off, with one reason", "[app]")
{
    Keeping keeping;
    keeping.choose({0, 4});
    answerNext<QInputDialog>(keeping.bench, [](QInputDialog& dialog) {
        dialog.setTextValue(QStringLiteral("too dear"));
        accept(dialog);
    });
    keeping.key(Qt::Key_Delete);
    CHECK(keeping.order() == Order{1, 2, 3});
    REQUIRE(keeping.work().lists[0]->former.size() == 2);
    CHECK(keeping.work().lists[0]->former[1].reasonLeft == "too dear");
}

TEST_CASE("Lists: in folders, moved, archived and brought back", "[app]")
{
    Keeping keeping;
    ListTree& tree = keeping.tree();
    answerNext<ListDialog>(keeping.bench, [](ListDialog& dialog) {
        named<QComboBox>(dialog, "Folder")->setEditText(QStringLiteral(" Trading / Long "));
        accept(dialog);
    });
    tree.choose(102);
    keeping.keyOnTree(Qt::Key_F2);
    CHECK(keeping.work().findList(102)->head.folder == "Trading/Long");
    REQUIRE(tree.topLevelItemCount() == 2);
    CHECK(tree.topLevelItem(1)->text(0) == QStringLiteral("Trading"));
    CHECK(tree.topLevelItem(1)->child(0)->child(0)->text(0) == QStringLiteral("Hills"));
    CHECK(tree.chosen() == 102);
    Q_EMIT tree.listMoved(101, QStringLiteral("Trading/Long"), 102);
    CHECK(keeping.work().findList(101)->head.folder == "Trading/Long");
    tree.choose(102);
    keeping.keyOnTree(Qt::Key_Up, Qt::AltModifier);
    CHECK(keeping.work().lists[0]->id == 102);
    findAction(*keeping.bench.window, ActionId::ArchiveList)->trigger();
    keeping.bench.settle();
    CHECK(keeping.work().findList(102)->head.isArchived);
    CHECK(tree.chosen() == 101); // it is out of sight
    CHECK(library::listsByHand(keeping.work()).size() == 1);
    findAction(*keeping.bench.window, ActionId::ShowArchive)->trigger();
    tree.choose(102);
    CHECK(tree.chosen() == 102);
    findAction(*keeping.bench.window, ActionId::ArchiveList)->trigger();
    CHECK_FALSE(keeping.work().findList(102)->head.isArchived);
    CHECK(keeping.work().findList(102)->head.folder == "Trading/Long"); // where it was
}

TEST_CASE("Lists: combined into a new one", "[app]")
{
    Keeping keeping;
    keeping.choose({1, 2});
    keeping.key(Qt::Key_2);
    const auto combine = [&](int how, const char* name) {
        keeping.tree().choose(101);
        keeping.bench.settle();
        answerNext<CombineDialog>(keeping.bench, [&](CombineDialog& dialog) {
            accept(dialog);
            CHECK(dialog.isVisible()); // no other list is chosen yet
            named<QComboBox>(dialog, "What is taken")->setCurrentIndex(how);
            named<QListWidget>(dialog, "Other lists")->item(0)->setCheckState(Qt::Checked);
            named<QLineEdit>(dialog, "Name of the new list")->setText(QString::fromUtf8(name));
            accept(dialog);
        });
        keeping.keyOnTree(Qt::Key_J, Qt::ControlModifier);
    };
    combine(1, "Both");
    REQUIRE(keeping.work().lists.size() == 3);
    CHECK(keeping.order(2) == Order{1, 2});
    combine(2, "Without");
    CHECK(keeping.order(3) == Order{0, 3, 4});
}

TEST_CASE("Lists: one that a screen keeps follows the day, and keeps what is written", "[app]")
{
    Keeping keeping;
    screens::Screen screen;
    screen.name = "Near highs";
    screen.criteria = {{"close >= 0.97 * highest(high, 60)"}};
    keeping.bench.desk->screenShelf().save(screen);
    keeping.bench.desk->work().edit(QStringLiteral("list"), [](Work& work) {
        work.lists.emplace_back(
            watchlists::Watchlist{103, "By rule", {}, {}, {.screen = "Near highs"}});
    });
    keeping.tree().choose(103);
    keeping.bench.settle();
    const auto* model = keeping.bench.window->findChild<EntriesModel*>();
    const auto& market = keeping.bench.desk->market().data();
    const auto onIt = [&] {
        std::vector<std::size_t> stocks;
        for (int row = 0; row < model->rowCount(); ++row)
            stocks.push_back(model->stock(row).value());
        std::ranges::sort(stocks);
        return stocks;
    };
    const auto passing = [&] {
        auto matches =
            run(screen, keeping.bench.desk->work().nameBook()->names(),
                *keeping.bench.desk->market().evaluator(), keeping.bench.desk->focus().day())
                .matches;
        std::ranges::sort(matches);
        return matches;
    };
    REQUIRE(onIt() == passing());
    REQUIRE(onIt().size() > 3);
    keeping.choose({1});
    const Entry written = model->entry(1);
    auto* reason = named<QLineEdit>(keeping.page(), "Reason");
    reason->setFocus();
    QTest::keyClicks(reason, QStringLiteral("tight"));
    QTest::keyClick(reason, Qt::Key_Return);
    keeping.bench.settle();
    REQUIRE(keeping.work().findList(103)->entries.size() == 1);
    CHECK(model->entry(1).reason == "tight");
    CHECK(onIt() == passing()); // who is on it is the screen's to say
    // Nobody is put onto it or taken off by hand.
    const QSignalSpy notices(keeping.bench.desk.get(), &Desk::noticed);
    keeping.key(Qt::Key_Delete);
    CHECK(notices.count() == 1);

    keeping.keyOnTree(Qt::Key_C);
    auto* moves = keeping.bench.window->findChild<MovesDialog*>();
    REQUIRE(moves);
    CHECK(named<QTreeWidget>(*moves, "Days")->topLevelItemCount() > 20);
    moves->close();
    keeping.bench.settle();
    keeping.bench.activate();

    keeping.bench.desk->focus().stepSessions(-15);
    keeping.bench.settle();
    CHECK(onIt() == passing());
    keeping.keyOnTree(Qt::Key_D, Qt::ControlModifier); // as it was on that day
    REQUIRE(keeping.work().lists.size() == 4);
    CHECK_FALSE(keeping.work().lists[3]->isKeptByRule());
    CHECK(keeping.work().lists[3]->entries.size() == passing().size());
    CHECK(market.isListed(*stockOf(written, market), keeping.bench.desk->focus().day()));
}

TEST_CASE("Lists: columns of a set stand behind the list's own", "[app]")
{
    Keeping keeping;
    keeping.bench.desk->work().edit(QStringLiteral("columns"), [](Work& work) {
        work.columnSets = std::vector<screens::ColumnSet>{{"Mine", {"close * 2", "sector"}, {}}};
        work.editList(101)->head.columns = "Mine";
    });
    keeping.bench.settle();
    const auto* model = keeping.bench.window->findChild<EntriesModel*>();
    REQUIRE(model->columnCount() == EntriesModel::OwnColumns + 2);
    const auto figure = model->index(0, EntriesModel::OwnColumns).data().toString();
    CHECK(figure == numberText(2.0 * keeping.close(0), Unit::Money, 2));
    CHECK(model->index(0, EntriesModel::OwnColumns + 1).data().toString() ==
          text(keeping.bench.desk->market().data().instrument(keeping.stocks[0]).sector));
    keeping.table().sortByColumn(EntriesModel::OwnColumns, Qt::DescendingOrder);
    std::vector<double> shown;
    for (int row = 0; row < 5; ++row)
        shown.push_back(
            keeping.table().model()->index(row, EntriesModel::Price).data(figureRole).toDouble());
    CHECK(std::ranges::is_sorted(shown, std::greater{}));
}

TEST_CASE("Lists: a column in which nothing stood has room once something does", "[app]")
{
    Keeping keeping;
    auto* table = &keeping.table();
    CHECK(table->isColumnHidden(EntriesModel::Plan));
    CHECK(table->isColumnHidden(EntriesModel::Category));
    keeping.bench.desk->work().edit(QStringLiteral("plan"), [&](Work& work) {
        Entry& entry = work.editList(101)->entries[2];
        const double close = keeping.close(2);
        entry.plan =
            watchlists::TradePlan{keeping.bench.desk->focus().day(), 1.05 * close, 0.9 * close};
        entry.page.category = "a category of many letters";
    });
    keeping.bench.settle();
    CHECK_FALSE(table->isColumnHidden(EntriesModel::Plan));
    CHECK(table->columnWidth(EntriesModel::Plan) >= 110);
    CHECK(table->columnWidth(EntriesModel::State) > 80);
    CHECK(table->columnWidth(EntriesModel::Category) > 100);
    keeping.bench.desk->work().undoStack().undo();
    keeping.bench.settle();
    CHECK(table->isColumnHidden(EntriesModel::Plan));
}

TEST_CASE("Lists: account and limits are one for Lists and Weigh", "[app]")
{
    Keeping keeping;
    answerNext<TermsDialog>(keeping.bench, [](TermsDialog& dialog) {
        named<QDoubleSpinBox>(dialog, "Account")->setValue(40'000.0);
        named<QDoubleSpinBox>(dialog, "Near: so close to the entry")->setValue(2.0);
        named<QComboBox>(dialog, "Leave the market when")->setCurrentIndex(1);
        accept(dialog);
    });
    QTest::keyClick(keeping.bench.window.get(), Qt::Key_T, Qt::ControlModifier);
    keeping.bench.settle();
    CHECK(keeping.work().terms->plan.account == 40'000.0);
    CHECK(keeping.work().terms->near == Approx(0.02));
    CHECK(keeping.work().terms->leavingRule == keeping.work().marketBook->rules.at(0).title);
    keeping.bench.go("weigh");
    keeping.bench.settle();
    CHECK(named<QDoubleSpinBox>(*keeping.bench.window, "Account")->value() == 40'000.0);
}

TEST_CASE("Lists: saved as a file by its ending, and symbols pasted onto a list", "[app]")
{
    Keeping keeping;
    for (const char* name : {"a.csv", "a.json", "a.txt", "a.xlsx"}) {
        INFO(name);
        const auto path = keeping.own.path() / name;
        answerNext<QFileDialog>(keeping.bench, [&](QFileDialog& dialog) { choose(dialog, path); });
        keeping.tree().choose(101);
        keeping.keyOnTree(Qt::Key_S, Qt::ControlModifier);
        waitUntil([&] { return std::filesystem::exists(path); }, "the file");
    }
    const std::string csv = keeping.own.read("a.csv");
    CHECK(csv.starts_with("symbol,name,added_on,price_then,reason,"));
    CHECK(std::ranges::count(csv, '\n') == 6);
    const std::string symbols = keeping.own.read("a.txt");
    CHECK(symbols.starts_with(
        keeping.bench.desk->market().data().instrument(keeping.stocks[0]).symbol + "\n"));
    CHECK(keeping.own.read("a.json").starts_with("["));
    // A file that cannot be written is told.
    const QSignalSpy notices(keeping.bench.desk.get(), &Desk::noticed);
    answerNext<QFileDialog>(keeping.bench, [&](QFileDialog& dialog) {
        choose(dialog, keeping.own.path() / "a.csv" / "b.csv");
    });
    keeping.keyOnTree(Qt::Key_S, Qt::ControlModifier);
    waitUntil([&] { return notices.count() > 0; }, "why");

    QApplication::clipboard()->setText(QString::fromStdString(symbols));
    keeping.tree().choose(102);
    keeping.bench.settle();
    keeping.keyOnTree(Qt::Key_V, Qt::ControlModifier);
    waitUntil([&] { return keeping.entries(1).size() == 5; }, "the pasted ones");
    CHECK(keeping.order(1) == keeping.order());
}

} // namespace sieve::app
