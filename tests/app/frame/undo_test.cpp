#include "app/parts/expression_edit.h"
#include "app/sift/criterion_finder.h"
#include "app/sift/spread_strip.h"
#include "tests/app/opened.h"

#include <QCheckBox>
#include <QLineEdit>
#include <QStatusBar>
#include <QWheelEvent>
#include <catch2/catch.hpp>

// One undo, as a person expects it: the real keys in the real inputs.

namespace sieve::app {

namespace {

using test::OwnFolder;
using test::WindowBench;

void undoByKey(const WindowBench& bench)
{
    bench.window->activateWindow(); // the offscreen platform leaves it to a list that popped up
    REQUIRE(QTest::qWaitForWindowActive(bench.window.get()));
    QTest::keyClick(bench.window->focusWidget(), Qt::Key_Z, Qt::ControlModifier);
    bench.settle();
}

const std::vector<screens::Criterion>& criteria(const WindowBench& bench)
{
    return bench.desk->work().now().screen->criteria;
}

void addTyped(const WindowBench& bench, const QString& words)
{
    auto* edit = bench.find<ExpressionEdit>(QStringLiteral("New criterion"));
    edit->setFocus();
    QTest::keyClicks(edit, words);
    QTest::keyClick(edit, Qt::Key_Escape);
    QTest::keyClick(edit, Qt::Key_Return);
    bench.settle();
}

} // namespace

TEST_CASE("Undo: right after a criterion was added it is taken out, and the line stays empty",
          "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    bench.go("sift");
    const std::size_t before = criteria(bench).size();
    addTyped(bench, QStringLiteral("close > 5"));
    REQUIRE(criteria(bench).size() == before + 1);
    auto* edit = bench.find<ExpressionEdit>(QStringLiteral("New criterion"));
    REQUIRE(edit->hasFocus());
    undoByKey(bench);
    CHECK(criteria(bench).size() == before);
    CHECK(edit->text().isEmpty());
    CHECK(bench.window->statusBar()->currentMessage().startsWith(
        QStringLiteral("Undone: Add the criterion close > 5")));
}

TEST_CASE("Undo: a criterion that was taken from the finder's words is taken out again", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    bench.go("sift");
    const std::size_t before = criteria(bench).size();
    auto* edit = bench.find<ExpressionEdit>(QStringLiteral("New criterion"));
    edit->setFocus();
    QTest::keyClicks(edit, QStringLiteral("margin"));
    bench.settle();
    auto* finder = bench.window->findChild<CriterionFinder*>();
    REQUIRE(finder->isVisible());
    QTest::keyClick(edit, Qt::Key_Return);
    bench.settle();
    REQUIRE(criteria(bench).size() == before + 1);
    undoByKey(bench);
    CHECK(criteria(bench).size() == before);
    CHECK(edit->text().isEmpty());
    CHECK_FALSE(finder->isVisible());
}

TEST_CASE("Undo: in a line with letters of its own it is for them, else for the last step", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    bench.go("sift");
    addTyped(bench, QStringLiteral("close > 5"));
    const std::size_t count = criteria(bench).size();
    auto* edit = bench.find<ExpressionEdit>(QStringLiteral("New criterion"));
    QTest::keyClicks(edit, QStringLiteral("vol"));
    QTest::keyClick(edit, Qt::Key_Escape);
    undoByKey(bench);
    CHECK(edit->text().isEmpty()); // the letters
    CHECK(criteria(bench).size() == count);
    edit->setText(QString());
    undoByKey(bench);
    CHECK(criteria(bench).size() == count - 1); // the step
}

TEST_CASE("Undo: the notches of a wheel are one step", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    bench.go("sift");
    bench.desk->work().edit(QStringLiteral("screen"), [](Work& work) {
        work.screen.edit().criteria = {{"close > 20"}};
        work.screen.edit().universe = "kind == \"share\"";
    });
    bench.settle();
    auto* strip = bench.window->findChild<SpreadStrip*>();
    const int steps = bench.desk->work().undoStack().count();
    const auto* line = bench.find<ExpressionEdit>(QStringLiteral("Criterion 1"));
    int turned = 0;
    for (int x = 0; x < strip->width() && turned < 8; x += 4) {
        const QString before = line->text();
        for (int notch = 0; notch < 8; ++notch) {
            QWheelEvent wheel(QPointF(x, strip->height() / 2.0),
                              strip->mapToGlobal(QPointF(x, strip->height() / 2.0)), {}, {0, 120},
                              Qt::NoButton, Qt::NoModifier, Qt::NoScrollPhase, false);
            QApplication::sendEvent(strip, &wheel);
        }
        turned += line->text() != before ? 8 : 0;
    }
    REQUIRE(turned == 8);
    bench.settle();
    CHECK(bench.desk->work().undoStack().count() == steps + 1);
    bench.desk->work().undoStack().undo();
    CHECK(criteria(bench)[0].text == "close > 20");
}

TEST_CASE("Undo: what changes is shown to change, in its place", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    bench.go("lists");
    bench.desk->work().edit(QStringLiteral("Add a list"),
                            [](Work& work) { work.lists = {test::listOf(1, "Harbour")}; });
    bench.go("market");
    undoByKey(bench);
    CHECK(bench.window->shownPlace() == QStringLiteral("lists"));
    CHECK(bench.desk->work().now().lists.empty());
    bench.go("market");
    QTest::keyClick(bench.window.get(), Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    CHECK(bench.window->shownPlace() == QStringLiteral("lists"));
    CHECK(bench.window->statusBar()->currentMessage() == QStringLiteral("Done again: Add a list"));
}

TEST_CASE("Undo: saved screens, own fields and sets of columns are part of the work", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    Workbench& work = bench.desk->work();
    screens::Screen screen;
    screen.name = "Mine";
    bench.desk->screenShelf().save(screen);
    CHECK(bench.desk->screenShelf().find("Mine"));
    work.undoStack().undo();
    CHECK_FALSE(bench.desk->screenShelf().find("Mine"));
    work.undoStack().redo();
    CHECK(bench.desk->screenShelf().find("Mine"));
    language::Field field;
    field.name = "half";
    field.title = "Half";
    field.meaning = "Half of the close";
    field.formula = "close / 2";
    REQUIRE_FALSE(bench.desk->fieldShelf().put({}, field));
    CHECK(bench.desk->fieldShelf().find("half"));
    work.undoStack().undo();
    CHECK_FALSE(bench.desk->fieldShelf().find("half"));
    work.edit(QStringLiteral("columns"), [](Work& edited) {
        edited.columnSets.edit().push_back({"Prices", {"close"}, {}});
    });
    work.undoStack().undo();
    CHECK(work.now().columnSets->empty());
}

TEST_CASE("Undo: a screen that is left unsaved comes back by its name", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    bench.go("sift");
    const std::string first = bench.desk->work().now().screen->name;
    addTyped(bench, QStringLiteral("close > 5"));
    const screens::Screen changed = *bench.desk->work().now().screen;
    const auto choose = [&](const screens::Screen& wanted) {
        bench.desk->work().edit(QStringLiteral("choose"),
                                [&](Work& work) { library::takeInHand(work, wanted); });
        bench.settle();
    };
    screens::Screen other;
    other.name = "Other";
    choose(other);
    REQUIRE(bench.desk->work().now().drafts.size() == 1);
    choose(changed.name == first ? changed : other);
    CHECK(*bench.desk->work().now().screen == changed);
}

TEST_CASE("Undo: what one place alone shows is seen there, wherever it was changed from", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    bench.go("market");
    bench.desk->work().edit(QStringLiteral("Take a group as universe"), [](Work& work) {
        work.screen.edit().universe = "sector == \"Energy\"";
    });
    bench.desk->work().edit(QStringLiteral("Add the list"),
                            [](Work& work) { work.lists.push_back(test::listOf(1, "Harbour")); });
    undoByKey(bench);
    CHECK(bench.window->shownPlace() == QStringLiteral("market")); // lists are seen in several
    undoByKey(bench);
    CHECK(bench.window->shownPlace() == QStringLiteral("sift"));
}

} // namespace sieve::app
