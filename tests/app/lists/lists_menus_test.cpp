#include "app/lists/list_dialog.h"
#include "app/lists/list_tree.h"
#include "app/parts/number_text.h"
#include "tests/app/opened.h"

#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QSignalSpy>
#include <QTableView>
#include <QToolButton>
#include <catch2/catch.hpp>

// Names of lists as they are typed, and where a double click on an entry leads.

namespace sieve::app {

namespace {

using namespace test;

template <class Widget> Widget* childNamed(const QWidget& parent, const QString& name)
{
    for (auto* child : parent.findChildren<Widget*>())
        if (child->accessibleName() == name)
            return child;
    throw std::runtime_error("no child " + name.toStdString());
}

QAction* actionOf(const QWidget* widget, const QString& words)
{
    for (QAction* action : widget->actions())
        if (action->text().remove(u'&') == words)
            return action;
    throw std::runtime_error("no action " + words.toStdString());
}

} // namespace

TEST_CASE("Lists: a new one and a new name are typed, a taken name is refused and told", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    bench.go("lists");
    const auto lists = [&] { return bench.desk->work().now().lists; };
    const auto answer = [&](const std::function<void()>& open, const QString& name, bool isTaken) {
        QString told;
        inOpened<ListDialog>(bench, open, [&](ListDialog& dialog) {
            auto* line = childNamed<QLineEdit>(dialog, QStringLiteral("Name"));
            line->setFocus();
            line->selectAll();
            QTest::keyClicks(line, name.isEmpty() ? QStringLiteral(" ") : name);
            if (isTaken)
                accept(dialog);
            for (auto* label : dialog.findChildren<QLabel*>())
                if (dialog.isVisible() && label->wordWrap())
                    told = label->text();
            if (dialog.isVisible())
                dialog.reject();
        });
        return told;
    };
    const auto add = [&](const QString& name, bool isTaken = true) {
        return answer(
            [&] { buttonOf<QToolButton>(*bench.window, QStringLiteral("New list…"))->click(); },
            name, isTaken);
    };
    const std::size_t before = lists().size();
    add(QStringLiteral("  Harbour "));
    add(QStringLiteral("Hills"));
    add(QStringLiteral("Moor"), false);
    CHECK(add(QString()).contains(QStringLiteral("needs a name")));
    REQUIRE(lists().size() == before + 2);
    CHECK(lists()[before]->name == "Harbour");
    CHECK(lists()[before]->id != lists()[before + 1]->id);
    CHECK(add(QStringLiteral("Hills")).contains(QStringLiteral("already")));
    CHECK(lists().size() == before + 2);

    auto* names = bench.find<ListTree>(QStringLiteral("Watchlists"));
    CHECK(names->currentItem()->text(0) == QStringLiteral("Hills")); // the newest is shown
    const auto rename = [&](const QString& name, bool isTaken = true) {
        answer([&] { actionOf(names, QStringLiteral("Name, folder and columns…"))->trigger(); },
               name, isTaken);
        return lists()[before + 1]->name;
    };
    CHECK(rename(QStringLiteral("Downs")) == "Downs");
    CHECK(rename(QStringLiteral("Harbour")) == "Downs");
    CHECK(rename(QStringLiteral("Downs")) == "Downs"); // its own name is not taken
    CHECK(rename(QStringLiteral("Fells"), false) == "Downs");
    actionOf(names, QStringLiteral("Remove the list"))->trigger();
    CHECK(lists().size() == before + 1);
    bench.desk->work().undoStack().undo();
    CHECK(lists()[before + 1]->name == "Downs");
}

TEST_CASE("Lists: a double click on an entry leads to Weigh, on its reason into the reason",
          "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    const auto symbolOf = [&](std::size_t stock) {
        return bench.desk->market().data().instrument(stock).symbol;
    };
    bench.desk->work().edit(QStringLiteral("lists"), [&](Work& work) {
        work.lists = {test::listOf(1, "Harbour")};
        for (const std::size_t stock : {4U, 6U})
            work.lists[0].edit().entries.push_back(
                {symbolOf(stock), bench.desk->focus().day(), 1.0, "held its ground", ""});
    });
    bench.go("lists");
    auto* entries = bench.find<QTableView>(QStringLiteral("Entries"));
    int reason = -1;
    for (int column = 0; column < entries->model()->columnCount(); ++column)
        if (entries->model()->index(1, column).data().toString() ==
            QStringLiteral("held its ground"))
            reason = column;
    REQUIRE(reason > 0);
    const auto doubleClick = [&](int column) {
        const QPoint at = entries->visualRect(entries->model()->index(1, column)).center();
        QTest::mouseClick(entries->viewport(), Qt::LeftButton, {}, at);
        QTest::mouseDClick(entries->viewport(), Qt::LeftButton, {}, at);
        bench.settle();
    };
    doubleClick(reason);
    CHECK(bench.window->place(QStringLiteral("lists"))->isVisible());
    doubleClick(1);
    CHECK(bench.window->place(QStringLiteral("weigh"))->isVisible());
    CHECK(bench.desk->focus().selected() == bench.desk->market().data().find(symbolOf(6)));
}

} // namespace sieve::app
