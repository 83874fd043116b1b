#include "app/parts/actions.h"

#include "app/desk/in_hand.h"
#include "app/frame/finder.h"
#include "app/frame/places.h"
#include "app/market/brief_view.h"
#include "app/parts/number_text.h"
#include "tests/app/opened.h"

#include <QAction>
#include <QLineEdit>
#include <QListWidget>
#include <QMenuBar>
#include <QToolButton>
#include <QTreeWidget>
#include <catch2/catch.hpp>
#include <set>

// The table of actions, and that every action of it can be reached and is done.

namespace sieve::app {

namespace {

using namespace test;

/// Calls visit(row, number) for each action, the numbered ones one by one.
template <class Visit> void eachAction(Visit visit)
{
    for (const ActionRow& row : actionRows())
        for (int number = 1; number <= row.count; ++number) {
            INFO(row.title << ' ' << number);
            visit(row, number);
        }
}

QString shownTitle(const QAction& action)
{
    return action.text().section(u'\t', 0, 0).remove(u'&');
}

QAction* menuEntry(const WindowBench& bench, const char* menu, ActionId id)
{
    for (QAction* each : bench.window->menuBar()->actions())
        if (each->text().remove(u'&') == QLatin1String(menu))
            for (QAction* entry : each->menu()->actions())
                if (shownTitle(*entry) == plainTitleOf(id))
                    return entry;
    return nullptr;
}

} // namespace

TEST_CASE("Actions: no two keys are the same where both can be meant", "[app]")
{
    struct Key {
        QKeySequence key;
        const ActionRow* row;
    };
    std::vector<Key> keys;
    eachAction([&](const ActionRow& row, int number) {
        for (const QKeySequence& key : keysOf(row.id, number)) {
            CHECK_FALSE(key.isEmpty());
            CHECK(key[0].key() != Qt::Key_unknown);
            for (const Key& other : keys) {
                INFO("and " << other.row->title);
                CHECK_FALSE((other.key == key && overlap(other.row->within, row.within)));
            }
            keys.push_back({key, &row});
        }
    });
    CHECK(keys.size() > 50);
}

TEST_CASE("Actions: a part overlaps with its place and the window, not with its neighbour", "[app]")
{
    CHECK(overlap(Within::Criterion, Within::Sift));
    CHECK(overlap(Within::Window, Within::Entries));
    CHECK(overlap(Within::Chart, Within::Weigh));
    CHECK_FALSE(overlap(Within::Entries, Within::ListNames));
    CHECK_FALSE(overlap(Within::Sift, Within::Weigh));
}

TEST_CASE("Actions: the letters of the menus are no keys of an action", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite", {});
    std::set<QKeySequence> letters;
    for (const QAction* menu : bench.window->menuBar()->actions()) {
        const QKeySequence letter = QKeySequence::mnemonic(menu->text());
        INFO(menu->text().toStdString());
        CHECK_FALSE(letter.isEmpty());
        CHECK(letters.insert(letter).second);
    }
    eachAction([&](const ActionRow& row, int number) {
        for (const QKeySequence& key : keysOf(row.id, number))
            CHECK_FALSE(letters.contains(key));
    });
}

TEST_CASE("Actions: each is done somewhere, stands in a menu and is found by its title", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    const std::string symbol = bench.desk->market().data().instrument(2).symbol;
    bench.desk->work().edit(QStringLiteral("test"), [&symbol](Work& work) {
        work.lists = {test::listOf(1, "Harbour")};
        work.lists[0].edit().entries.push_back(
            {symbol, *Day::parse("2024-01-02"), missing, "", ""});
        work.screen.edit().criteria = {{"close > 1"}};
    });
    bench.desk->focus().select(2); // so that there is a chart
    for (const PlaceRow& place : places()) {
        bench.window->showPlace(QLatin1String(place.key));
        bench.settle();
    }
    takeInHand(*bench.desk, bench.window.get(), {symbol}, QStringLiteral("hand"),
               QStringLiteral("a test"));
    bench.go("weigh");
    findAction(*bench.window->place(QStringLiteral("weigh")), ActionId::ShowTrayWall)->trigger();
    bench.settle();
    std::set<QString> entries;
    for (const QAction* menu : bench.window->menuBar()->actions())
        for (const QAction* entry : menu->menu()->actions())
            entries.insert(shownTitle(*entry));
    Finder& finder = *bench.window->findChild<Finder*>();
    const auto live = [&](const ActionRow& row, int number) {
        const QAction* action = nullptr;
        if (row.within == Within::Brief) // a page that takes the place of all else in Market
            return static_cast<const QAction*>(
                findAction(*bench.window->findChild<BriefView*>(), row.id, number));
        for (const PlaceRow& place : places()) {
            const QWidget* page = bench.window->place(QLatin1String(place.key));
            if (const QAction* found = findAction(*page, row.id, number))
                action = found;
        }
        return action ? action : findAction(*bench.window, row.id, number);
    };
    eachAction([&](const ActionRow& row, int number) {
        const QAction* action = live(row, number);
        REQUIRE(action);
        CHECK(action->shortcuts() == keysOf(row.id, number));
        if (row.id == ActionId::ShowPlace)
            return;
        const QString title = plainTitleOf(row.id, number);
        CHECK(std::ranges::any_of( // undo tells what it undoes
            entries, [&](const QString& entry) { return entry.startsWith(title); }));
        finder.openOver(bench.window.get());
        finder.findChild<QLineEdit*>()->setText(title);
        test::waitUntil([&] { return finder.findChild<QListWidget*>()->count() > 0; }, "a find");
        CHECK(finder.findChild<QListWidget*>()->item(0)->text().startsWith(title));
    });
}

TEST_CASE("Actions: a menu entry of another place goes there and does it", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    bench.window->showPlace(QStringLiteral("market"));
    QAction* reason = menuEntry(bench, "Weigh", ActionId::GiveReason);
    REQUIRE(reason);
    CHECK(reason->shortcut().isEmpty()); // its key is the place's
    menuEntry(bench, "Sift", ActionId::ScreenAsText)->trigger();
    CHECK(bench.window->shownPlace() == QStringLiteral("sift"));
    auto* rail =
        bench.window->findChild<QWidget*>(QStringLiteral("rail"))->findChild<QToolButton*>();
    rail->setFocus(); // outside of the place, which is seen
    auto* asText = buttonOf<QToolButton>(*bench.window, QStringLiteral("As text"));
    CHECK(asText->isChecked());
    QTest::keyClick(rail, Qt::Key_T, Qt::ControlModifier);
    CHECK_FALSE(asText->isChecked());
    menuEntry(bench, "Market", ActionId::ShowBreadth)->trigger();
    rail->setFocus();
    QTest::keyClick(rail, Qt::Key_T, Qt::ControlModifier); // Sift cannot be seen
    CHECK_FALSE(asText->isChecked());
    CHECK(bench.window->shownPlace() == QStringLiteral("market"));
    const auto* tabs = bench.window->place(QStringLiteral("market"))->findChild<QTabWidget*>();
    CHECK(tabs->tabText(tabs->currentIndex()) == plainTitleOf(ActionId::ShowBreadth));
    QAction* remove = menuEntry(bench, "Market", ActionId::RemoveRule);
    for (QAction* menu : bench.window->menuBar()->actions())
        Q_EMIT menu->menu()->aboutToShow();
    CHECK_FALSE(remove->isEnabled()); // no rule is chosen
    QTest::keyClick(bench.window.get(), Qt::Key_K, Qt::ControlModifier);
    auto* words = bench.find<QLineEdit>(QStringLiteral("Find anything"));
    QTest::keyClicks(words, plainTitleOf(ActionId::RemoveRule));
    QTest::keyClick(words, Qt::Key_Return);
    bench.settle();
    CHECK(bench.window->noticeText().contains(plainTitleOf(ActionId::RemoveRule)));
    auto* rules = bench.find<QTreeWidget>(QStringLiteral("Timing rules"));
    const std::size_t before = bench.desk->work().now().marketBook->rules.size();
    rules->setCurrentItem(rules->topLevelItem(0)); // its menu entry was not enabled when last seen
    QTest::keyClick(bench.window.get(), Qt::Key_K, Qt::ControlModifier);
    QTest::keyClicks(words, plainTitleOf(ActionId::RemoveRule));
    QTest::keyClick(words, Qt::Key_Return);
    bench.settle();
    CHECK(bench.desk->work().now().marketBook->rules.size() == before - 1);
}

} // namespace sieve::app
