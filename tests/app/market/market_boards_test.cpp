#include "app/chart/chart_view.h"
#include "app/market/evidence.h"
#include "app/market/group_board.h"
#include "app/market/line_chart.h"
#include "app/market/mosaic_view.h"
#include "app/market/state_board.h"
#include "app/parts/actions.h"
#include "app/parts/number_text.h"
#include "core/conditions/market_book.h"
#include "tests/app/opened.h"

#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QLineEdit>
#include <QSignalSpy>
#include <QTabWidget>
#include <QToolButton>
#include <QTreeWidget>
#include <catch2/catch.hpp>

// What the boards and the chart of Market do under the pointer, in menus and by further keys.

namespace sieve::app {

namespace {

using namespace test;

QTreeWidgetItem* groupAt(const WindowBench& bench, int row)
{
    return bench.find<QTreeWidget>(QStringLiteral("Groups"))->topLevelItem(row);
}

void chooseOnGroup(const WindowBench& bench, int row, const QString& words)
{
    auto* tree = bench.find<QTreeWidget>(QStringLiteral("Groups"));
    tree->scrollToItem(groupAt(bench, row));
    chooseAt(bench, tree->viewport(), tree->visualItemRect(groupAt(bench, row)).center(), words);
}

/// Goes to a line that has highs and lows of its own.
void chooseIndex(const WindowBench& bench)
{
    auto* board = bench.find<StateBoard>(QStringLiteral("State of the market"));
    board->setFocus();
    for (int line = 0; line < 20; ++line) {
        if (buttonOf<QToolButton>(*bench.window, QStringLiteral("Gaps and days"))->isEnabled())
            return;
        QTest::keyClick(board, Qt::Key_Down);
        bench.settle();
    }
    FAIL("no line with a range");
}

} // namespace

TEST_CASE("State board: the pointer chooses a line, tells its rule and opens it", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    auto* board = bench.find<StateBoard>(QStringLiteral("State of the market"));
    QSignalSpy lines(board, &StateBoard::lineChosen);
    QSignalSpy rules(board, &StateBoard::ruleWanted);

    const QPoint third = board->cell(2, 1).center();
    const QString tip = tipAt(board, third);
    const auto& rule = bench.desk->work().now().marketBook->trends[1];
    CHECK(tip.contains(text(rule.rising).toHtmlEscaped()));
    CHECK(tip.contains(text(rule.falling).toHtmlEscaped()));
    CHECK(tip.count(QStringLiteral(" on ")) <= 5 + 4); // the newest changes, and words of rules
    QTest::mouseClick(board, Qt::LeftButton, {}, third);
    REQUIRE(lines.count() == 1);
    CHECK(lines[0][0].toULongLong() == 2);
    QTest::mouseClick(board, Qt::LeftButton, {}, third); // it is chosen already
    CHECK(lines.count() == 1);

    QTest::mouseDClick(board, Qt::LeftButton, {}, third);
    bench.settle();
    REQUIRE(rules.count() == 1);
    CHECK(rules[0][0].toULongLong() == 1);
    CHECK(bench.find<QLineEdit>(QStringLiteral("Rising when"))->text() == text(rule.rising));
    CHECK(tipAt(board, {4, 4}).isEmpty()); // the head is no state

    for (const auto& [words, horizon] :
         {std::pair("Edit the short", 0), std::pair("Edit the long", 2)}) {
        rules.clear();
        chooseAt(bench, board, third, QLatin1String(words));
        REQUIRE(rules.count() == 1);
        CHECK(rules[0][0].toInt() == horizon);
    }
}

TEST_CASE("State board: arrows go through lines and horizons and stop at their ends", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    auto* board = bench.find<StateBoard>(QStringLiteral("State of the market"));
    board->setFocus();
    QSignalSpy lines(board, &StateBoard::lineChosen);
    QSignalSpy rules(board, &StateBoard::ruleWanted);
    QTest::keyClick(board, Qt::Key_Up); // nothing stands above the first
    CHECK(lines.count() == 0);
    QTest::keyClick(board, Qt::Key_Down);
    QTest::keyClick(board, Qt::Key_Up);
    REQUIRE(lines.count() == 2);
    CHECK(lines[0][0].toULongLong() == 1);
    CHECK(lines[1][0].toULongLong() == 0);
    for (int i = 0; i < 40; ++i)
        QTest::keyClick(board, Qt::Key_Down);
    const int last = lines.last()[0].toInt();
    CHECK(lines.count() == 2 + last);
    const auto ruleAfter = [&](Qt::Key key, int times) {
        for (int i = 0; i < times; ++i)
            QTest::keyClick(board, key);
        QTest::keyClick(board, Qt::Key_Enter);
        return rules.last()[0].toInt();
    };
    CHECK(ruleAfter(Qt::Key_Left, 5) == 0);
    CHECK(ruleAfter(Qt::Key_Right, 1) == 1);
    CHECK(ruleAfter(Qt::Key_Right, 5) == 2);
    bench.settle();
}

TEST_CASE("State board: what was typed for one horizon is gone when another is opened", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    auto* board = bench.find<StateBoard>(QStringLiteral("State of the market"));
    const auto bands = [&] {
        bench.settle();
        return bench.window->findChild<LineChart*>()->view().grab().toImage();
    };
    const auto openRule = [&] {
        board->setFocus();
        QTest::keyClick(board, Qt::Key_Return);
        bench.settle();
    };
    openRule();
    const QImage asRead = bands();
    bench.find<QLineEdit>(QStringLiteral("Rising when"))->setText(QStringLiteral("close > 0"));
    CHECK(bands() != asRead);
    QTest::keyClick(board, Qt::Key_Left); // from the long to the medium horizon
    openRule();
    CHECK(bands() == asRead);
    QTest::keyClick(board, Qt::Key_Left);
    openRule();
    CHECK(bands() == asRead);
}

TEST_CASE("Timing rules: the menu edits, removes and puts the standard ones back", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    auto* rules = bench.find<QTreeWidget>(QStringLiteral("Timing rules"));
    const auto& book = [&]() -> const conditions::MarketBook& {
        return *bench.desk->work().now().marketBook;
    };
    const std::size_t standard = book().rules.size();
    REQUIRE(standard >= 2);
    const std::string second = book().rules[1].title;
    const auto onSecond = [&](const QString& words) {
        rules->scrollToItem(rules->topLevelItem(1));
        chooseAt(bench, rules->viewport(), rules->visualItemRect(rules->topLevelItem(1)).center(),
                 words);
    };
    onSecond(QStringLiteral("Edit the chosen rule"));
    CHECK(bench.find<QLineEdit>(QStringLiteral("Title of the rule"))->text() == text(second));
    onSecond(QStringLiteral("Remove the chosen rule"));
    REQUIRE(book().rules.size() == standard - 1);
    CHECK(
        std::ranges::none_of(book().rules, [&](const auto& rule) { return rule.title == second; }));
    CHECK(rules->topLevelItemCount() == static_cast<int>(standard) - 1);
    onSecond(QStringLiteral("Put the standard rules back"));
    CHECK(book().rules.size() == standard);
    bench.desk->work().undoStack().undo();
    bench.desk->work().undoStack().undo();
    CHECK(book().rules[1].title == second);
    onSecond(QStringLiteral("New rule"));
    CHECK(bench.find<QLineEdit>(QStringLiteral("Title of the rule"))->text().isEmpty());
}

TEST_CASE("Groups: their menu sifts, takes in hand and draws", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    const QString name = groupAt(bench, 1)->text(0);
    chooseOnGroup(bench, 1, QStringLiteral("Take the shares of the chosen group"));
    const auto& cards = bench.desk->work().now().tray->cards();
    REQUIRE(cards.size() > 1);
    for (const auto& card : cards) {
        const auto stock = bench.desk->market().data().find(card.symbol);
        REQUIRE(stock);
        CHECK(text(bench.desk->market().data().instrument(*stock).sector) == name);
    }
    chooseOnGroup(bench, 1, QStringLiteral("Draw the line"));
    bench.desk->focus().stepSessions(
        -1); // the board is filled anew, the group stays the chosen one
    bench.settle();
    CHECK(findAction(*bench.window->place(QStringLiteral("market")), ActionId::SiftGroup)
              ->isEnabled());
    bench.desk->focus().stepSessions(1);
    bench.settle();
    CHECK(bench.window->findChild<LineChart*>()->reading().contains(name));
    chooseOnGroup(bench, 1, QStringLiteral("Sift the shares"));
    CHECK(bench.desk->work().now().screen->universe.find(utf8(name)) != std::string::npos);
    CHECK(bench.window->place(QStringLiteral("sift"))->isVisible());
}

TEST_CASE("Groups: weights of the sides of the score order the shares, and are kept", "[app]")
{
    const OwnFolder own;
    const auto library = own.path() / "library.sqlite";
    const auto weightsOf = [](const QMenu& menu) {
        std::vector<double> values;
        for (const auto* box : menu.findChildren<QDoubleSpinBox*>())
            values.push_back(box->value());
        return values;
    };
    const auto inWeights = [](const WindowBench& bench, auto act) {
        auto* opener = buttonOf<QToolButton>(*bench.window, QStringLiteral("Blend…"));
        inOpened<QMenu>(
            bench, [opener] { opener->click(); },
            [&](QMenu& menu) {
                act(menu);
                menu.close();
            });
    };
    {
        const WindowBench bench(library);
        inWeights(bench, [&](QMenu& menu) {
            const auto values = weightsOf(menu);
            REQUIRE(values.size() > 2);
            CHECK(std::ranges::count(values, values[0]) ==
                  static_cast<std::ptrdiff_t>(values.size()));
            const auto boxes = menu.findChildren<QDoubleSpinBox*>();
            for (auto* box : boxes)
                box->setValue(0.0); // the last one is refused: something must count
            boxes[1]->setValue(3.5);
        });
        CHECK_FALSE(bench.desk->settings().value("score_weights").empty());
    }
    const WindowBench bench(library);
    inWeights(bench, [&](QMenu& menu) {
        const auto values = weightsOf(menu);
        CHECK(values[0] == 0.0);
        CHECK(values[1] == 3.5);
    });
}

TEST_CASE("Mosaic: the pointer tells of a share, a head leads into its group", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    bench.showTab("Mosaic");
    auto* picture = bench.find<MosaicPicture>(QStringLiteral("Mosaic of the market"));
    auto* part = bench.find<QComboBox>(QStringLiteral("What the mosaic shows"));
    const auto centerOf = [&](std::size_t cell) {
        return picture->areaOf(picture->cells()[cell]).center().toPoint();
    };
    QTest::mouseMove(picture, centerOf(0));
    REQUIRE(picture->current());
    CHECK(*picture->current() == 0);
    CHECK_FALSE(QToolTip::text().isEmpty());
    QTest::mouseMove(picture, QPoint(picture->width() - 1, 1)); // a head is no share
    CHECK_FALSE(picture->current());
    QEvent leave(QEvent::Leave);
    QTest::mouseMove(picture, centerOf(1));
    QApplication::sendEvent(picture, &leave);
    CHECK_FALSE(picture->current());

    picture->setFocus();
    QTest::keyClick(picture, Qt::Key_Right);
    QTest::keyClick(picture, Qt::Key_Right);
    const auto second = picture->current();
    QTest::keyClick(picture, Qt::Key_Left);
    REQUIRE(picture->current());
    CHECK(picture->cells()[*picture->current()].column != picture->cells()[*second].column);
    QTest::keyClick(picture, Qt::Key_Down);
    const auto below = picture->current();
    QTest::keyClick(picture, Qt::Key_Up);
    CHECK(picture->current() != below);

    QTest::mouseClick(picture, Qt::LeftButton, {}, QPoint(20, 4));
    bench.settle();
    CHECK(part->currentIndex() > 0);
}

TEST_CASE("Health of one's own screens: says what became of their matches", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    screens::Screen screen;
    screen.universe = "kind == \"share\"";
    screen.criteria = {{"close > sma(close, 50)", true, {}}};
    for (const auto& [name, side] : {std::pair("Rising", screens::ScreenSide::Long),
                                     std::pair("Falling", screens::ScreenSide::Short)}) {
        screen.name = name;
        screen.side = side;
        bench.desk->screenShelf().save(screen);
    }
    auto* health = bench.window->findChild<OwnScreensView*>();
    REQUIRE(health);
    bench.showTab("Own screens");
    CHECK(health->recordText().contains(QStringLiteral("your 1 long screens")));
    CHECK(health->recordText().contains(QStringLiteral("%")));
    const QImage drawn = health->grab().toImage();
    bench.desk->focus().stepSessions(-40);
    bench.settle();
    CHECK(health->grab().toImage() != drawn);
}

TEST_CASE("Market chart: swings and marked days are laid over the line and taken off", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    auto* chart = bench.window->findChild<LineChart*>();
    const auto picture = [&] {
        bench.settle();
        return chart->view().grab().toImage();
    };
    chooseIndex(bench);
    const QImage plain = picture();
    for (const char* overlay : {"Swings", "Gaps and days"}) {
        INFO(overlay);
        QToolButton* button = buttonOf<QToolButton>(*bench.window, QLatin1String(overlay));
        const bool was = button->isChecked();
        button->click();
        const QImage turned = picture();
        CHECK(turned != plain);
        button->click();
        CHECK(picture() == plain);
        CHECK(button->isChecked() == was);
    }
    QToolButton* divergences = buttonOf<QToolButton>(*bench.window, QStringLiteral("Divergences"));
    divergences->click();
    divergences->click();
    CHECK(picture() == plain);
}

TEST_CASE("Market chart: a marked day is named in the reading", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    auto* chart = bench.window->findChild<LineChart*>();
    chooseIndex(bench);
    QToolButton* marks = buttonOf<QToolButton>(*bench.window, QStringLiteral("Gaps and days"));
    if (!marks->isChecked())
        marks->click();
    bench.settle();
    const QStringList names{QStringLiteral("inside day"), QStringLiteral("outside day"),
                            QStringLiteral("gap up"), QStringLiteral("gap down")};
    int named = 0; // among the sessions that are shown, some are of such a kind
    const int middle = chart->view().height() / 3;
    for (int x = 10; x < chart->view().width() - 80; x += 3) {
        QTest::mouseMove(&chart->view(), QPoint(x, middle));
        for (const QString& name : names)
            named += chart->reading().contains(name, Qt::CaseInsensitive) ? 1 : 0;
    }
    CHECK(named > 2);
}

} // namespace sieve::app
