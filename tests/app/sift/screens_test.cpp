#include "app/sift/screen_browser.h"
#include "app/sift/screen_details.h"
#include "core/screens/screen_files.h"
#include "core/screens/starter.h"
#include "tests/app/window_bench.h"

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QTabWidget>
#include <QTextBrowser>
#include <QToolButton>
#include <QTreeWidget>
#include <QTreeWidgetItemIterator>
#include <catch2/catch.hpp>

// What a person keeps in Sift: screens with folders and versions, own fields.

namespace sieve::app {

namespace {

using test::OwnFolder;
using test::WindowBench;

screens::Screen own(const std::string& name, const std::string& folder = {})
{
    screens::Screen screen;
    screen.name = name;
    screen.folder = folder;
    screen.criteria = {{"close > sma(close, 50)"}};
    screen.columns = {"symbol", "close"};
    return screen;
}

template <class Widget> Widget* in(QWidget& window, const QString& accessibleName)
{
    for (auto* widget : window.findChildren<Widget*>())
        if (widget->accessibleName() == accessibleName)
            return widget;
    throw std::runtime_error("nothing called " + accessibleName.toStdString());
}

void press(QWidget& window, const QString& name)
{
    for (auto* button : window.findChildren<QPushButton*>())
        if (button->text() == name)
            return button->click();
    throw std::runtime_error("no button " + name.toStdString());
}

QTreeWidgetItem* itemOf(QTreeWidget* tree, const QString& name)
{
    for (QTreeWidgetItemIterator at(tree); *at; ++at)
        if ((*at)->text(0) == name)
            return *at;
    return nullptr;
}

bool isDone(const QWidget& window)
{
    for (const auto* asker : window.findChildren<Asker*>())
        if (asker->isBusy())
            return false;
    return true;
}

} // namespace

TEST_CASE("Screens: saved under a name and folder, changed, saved again, brought back", "[app]")
{
    const OwnFolder folder;
    const WindowBench bench(folder.path() / "library.sqlite");
    bench.go("sift");
    bench.desk->work().edit(QStringLiteral("screen"),
                            [](Work& work) { work.screen = own("Dips"); });
    auto* name = bench.find<QToolButton>(QStringLiteral("Screen"));
    CHECK(name->text().startsWith(QStringLiteral("Dips  ")));

    bench.inDialog(Qt::Key_S, [](QWidget& dialog) {
        in<QComboBox>(dialog, QStringLiteral("Folder"))
            ->setEditText(QStringLiteral(" Trend / /Weekly "));
        in<QLineEdit>(dialog, QStringLiteral("Tags"))->setText(QStringLiteral("dip, weekly ,"));
        QTest::keyClick(&dialog, Qt::Key_Return);
    });
    REQUIRE(bench.desk->screenShelf().all().size() == 1);
    CHECK(bench.desk->screenShelf().all()[0].folder == "Trend/Weekly");
    CHECK(bench.desk->screenShelf().all()[0].tags == std::vector<std::string>{"dip", "weekly"});
    CHECK(*bench.desk->work().now().screen == bench.desk->screenShelf().all()[0]);

    bench.desk->work().edit(QStringLiteral("limit"), [](Work& work) {
        work.screen.edit().criteria[0].text = "close > sma(close, 20)";
    });
    CHECK(name->text().contains(QStringLiteral("(changed)")));
    bench.pressCtrl(Qt::Key_S); // no question this time
    CHECK_FALSE(name->text().contains(QStringLiteral("(changed)")));

    ScreenBrowser browser(*bench.desk);
    browser.show();
    auto* versions = in<QTreeWidget>(browser, QStringLiteral("Versions"));
    test::waitUntil([&] { return versions->topLevelItemCount() == 2; }, "two versions");
    CHECK(versions->topLevelItem(0)->text(2) == QStringLiteral("criterion"));
    auto* differences = in<QTreeWidget>(browser, QStringLiteral("Differences"));
    REQUIRE(differences->topLevelItemCount() == 1);
    CHECK(differences->topLevelItem(0)->text(1) == QStringLiteral("close > sma(close, 50)"));
    CHECK(differences->topLevelItem(0)->text(2) == QStringLiteral("close > sma(close, 20)"));
    versions->setCurrentItem(versions->topLevelItem(1));
    press(browser, QStringLiteral("Bring this version back"));
    test::waitUntil([&] { return versions->topLevelItemCount() == 3; }, "three versions");
    CHECK(bench.desk->screenShelf().all()[0].criteria[0].text == "close > sma(close, 50)");
}

TEST_CASE("Screens: the browser finds by any word, counts what passes and opens by keys alone",
          "[app]")
{
    const OwnFolder folder;
    const WindowBench bench(folder.path() / "library.sqlite");
    bench.go("sift");
    bench.desk->screenShelf().save(own("Mine", "Trend"));
    screens::Screen broken = own("Broken");
    broken.criteria.push_back({"moon_phase > 3"});
    bench.desk->screenShelf().save(broken);
    const screens::Screen namesake = own("Covered dividends"); // as a ready one is called
    bench.desk->screenShelf().save(namesake);
    bench.inDialog(Qt::Key_B, [&](QWidget& browser) {
        auto* tree = in<QTreeWidget>(browser, QStringLiteral("Screens"));
        test::waitUntil([&] { return isDone(browser); }, "counts");
        CHECK(itemOf(tree, QStringLiteral("Mine"))->text(1).toInt() > 0);
        CHECK(itemOf(tree, QStringLiteral("Mine"))->parent()->text(0) == QStringLiteral("Trend"));
        CHECK(itemOf(tree, QStringLiteral("Broken"))->text(1) == QStringLiteral("does not check"));
        QStringList counted; // one's own and the ready one of the same name, each its own count
        for (QTreeWidgetItemIterator at(tree); *at; ++at)
            if ((*at)->text(0) == QStringLiteral("Covered dividends"))
                counted << (*at)->text(1);
        REQUIRE(counted.size() == 2);
        CHECK(counted[0] == itemOf(tree, QStringLiteral("Mine"))->text(1)); // the same criterion
        CHECK(counted[1] != counted[0]);
        bench.desk->screenShelf().remove({namesake.name});
        tree->setCurrentItem(itemOf(tree, QStringLiteral("Broken")));
        CHECK(in<QTextBrowser>(browser, QStringLiteral("What it asks"))
                  ->toPlainText()
                  .contains(QStringLiteral("moon_phase")));
        QTest::keyClicks(QApplication::focusWidget(), QStringLiteral("covered dividends"));
        CHECK(tree->currentItem()->text(0) == QStringLiteral("Covered dividends"));
        CHECK(itemOf(tree, QStringLiteral("Mine"))->isHidden());
        CHECK(QApplication::focusWidget()->accessibleName() == QStringLiteral("Find a screen"));
        QTest::keyClick(QApplication::focusWidget(), Qt::Key_Return);
    });
    CHECK(bench.desk->work().now().screen->name == "Covered dividends");
    CHECK(bench.desk->screenShelf().all().size() == 2); // a ready screen is copied only when saved
}

TEST_CASE("Screens: renamed with versions, removed, found under Removed and brought back", "[app]")
{
    const OwnFolder folder;
    const WindowBench bench(folder.path() / "library.sqlite");
    bench.go("sift");
    bench.desk->screenShelf().save(own("Mine"));
    screens::Screen other = own("Other");
    other.criteria.push_back({"not passes(\"Mine\")"});
    bench.desk->screenShelf().save(other);
    bench.desk->work().edit(QStringLiteral("screen"),
                            [](Work& work) { work.screen = own("Mine"); });
    bench.desk->work().edit(QStringLiteral("rules"), [](Work& work) {
        work.marketBook.edit().panes = {"share_of(passes(\"Mine\"))"};
    });
    ScreenBrowser browser(*bench.desk);
    browser.show();
    auto* tree = in<QTreeWidget>(browser, QStringLiteral("Screens"));
    auto* details = browser.findChild<ScreenDetails*>();
    auto* name = in<QLineEdit>(*details, QStringLiteral("Name"));
    tree->setCurrentItem(itemOf(tree, QStringLiteral("Mine")));
    name->setText(QStringLiteral("Other"));
    press(browser, QStringLiteral("Save these details"));
    CHECK(bench.desk->screenShelf().find("Mine")); // taken: nothing happened
    name->setText(QStringLiteral("Mine, later"));
    press(browser, QStringLiteral("Save these details"));
    CHECK_FALSE(bench.desk->screenShelf().find("Mine"));
    CHECK(bench.desk->screenShelf().find("Mine, later"));
    CHECK(bench.desk->work().now().screen->name ==
          "Mine, later"); // the one in hand is the same one
    CHECK(tree->currentItem()->text(0) == QStringLiteral("Mine, later"));
    // Who asks for it by its name goes on to find it, and one step back undoes all of it.
    CHECK(bench.desk->screenShelf().find("Other")->criteria[1].text ==
          "not passes(\"Mine, later\")");
    const std::vector<std::string> panes{"share_of(passes(\"Mine, later\"))"};
    CHECK(bench.desk->work().now().marketBook->panes == panes);
    bench.desk->work().undoStack().undo();
    CHECK(bench.desk->screenShelf().find("Mine"));
    CHECK(bench.desk->work().now().screen->name == "Mine");
    CHECK(bench.desk->work().now().marketBook->panes[0] == "share_of(passes(\"Mine\"))");
    CHECK(bench.desk->screenShelf().find("Other")->criteria[1].text == "not passes(\"Mine\")");
    bench.desk->work().undoStack().redo();
    CHECK(bench.desk->work().now().marketBook->panes == panes);

    tree->setCurrentItem(itemOf(tree, QStringLiteral("Mine, later")));
    press(browser, QStringLiteral("Remove"));
    CHECK(bench.desk->screenShelf().all().size() == 1);
    test::waitUntil([&] { return itemOf(tree, QStringLiteral("Removed")) != nullptr; }, "removed");
    QTreeWidgetItem* removed = itemOf(tree, QStringLiteral("Mine, later"));
    REQUIRE(removed);
    tree->setCurrentItem(removed);
    auto* versions = in<QTreeWidget>(browser, QStringLiteral("Versions"));
    // The two names, and each step back and forth between them.
    test::waitUntil([&] { return versions->topLevelItemCount() == 4; }, "its versions");
    press(browser, QStringLiteral("Bring this version back"));
    CHECK(bench.desk->screenShelf().find("Mine, later"));
    test::waitUntil([&] { return itemOf(tree, QStringLiteral("Removed")) == nullptr; },
                    "no removed one");
}

TEST_CASE("Own fields: typed with the value of every part, saved, used, renamed in all texts",
          "[app]")
{
    const OwnFolder folder;
    const WindowBench bench(folder.path() / "library.sqlite");
    bench.go("sift");
    bench.desk->focus().select(3);
    const auto settled = [](QWidget& editor) {
        test::waitUntil([&] { return isDone(editor); }, "the trial");
    };
    const auto type = [&](QWidget& editor, const char* field, const char* typed) {
        in<QLineEdit>(editor, QLatin1String(field))->setText(QLatin1String(typed));
        settled(editor);
    };
    const auto save = [](QWidget& editor) {
        for (auto* button : editor.findChildren<QPushButton*>())
            if (button->text() == QStringLiteral("Save"))
                return button;
        throw std::runtime_error("no button Save");
    };
    bench.inDialog(Qt::Key_E, [&](QWidget& editor) {
        auto* parts = in<QTreeWidget>(editor, QStringLiteral("Parts"));
        type(editor, "Formula", "close / smaa(close, 20)");
        CHECK(parts->topLevelItemCount() == 0);
        CHECK_FALSE(save(editor)->isEnabled());
        type(editor, "Formula", "close / sma(close, 20) - 1");
        REQUIRE(parts->topLevelItemCount() == 1); // the stock, with the tree below
        const QTreeWidgetItem* whole = parts->topLevelItem(0)->child(0);
        CHECK(whole->text(1).contains(QStringLiteral("0.")));
        CHECK(whole->child(0)->childCount() == 2); // close and its mean
        CHECK_FALSE(save(editor)->isEnabled());    // it has no name yet
        type(editor, "Name", "close");
        CHECK_FALSE(save(editor)->isEnabled());
        type(editor, "Name", "my_stretch");
        REQUIRE(save(editor)->isEnabled());
        QTest::keyClick(&editor, Qt::Key_Return);
        QTest::keyClick(&editor, Qt::Key_Escape);
    });
    REQUIRE(bench.desk->fieldShelf().find("my_stretch"));
    CHECK(bench.desk->fieldShelf().find("my_stretch")->unit == Unit::Ratio);

    screens::Screen screen = own("Stretched");
    screen.criteria = {{"my_stretch > 3%"}};
    bench.desk->screenShelf().save(screen);
    bench.desk->work().edit(QStringLiteral("screen"), [&](Work& work) { work.screen = screen; });
    bench.settle();
    bench.inDialog(Qt::Key_E, [&](QWidget& editor) {
        press(editor, QStringLiteral("Remove")); // somebody uses it
        CHECK(bench.desk->fieldShelf().find("my_stretch"));
        type(editor, "Name", "stretch_20");
        QTest::keyClick(&editor, Qt::Key_Return);
        QTest::keyClick(&editor, Qt::Key_Escape);
    });
    CHECK_FALSE(bench.desk->fieldShelf().find("my_stretch"));
    CHECK(bench.desk->work().now().screen->criteria[0].text == "stretch_20 > 3%");
    CHECK(bench.desk->screenShelf().all()[0].criteria[0].text == "stretch_20 > 3%");
}

} // namespace sieve::app
