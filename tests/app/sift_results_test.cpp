#include "app/frame/tray_bar.h"
#include "app/parts/expression_edit.h"
#include "app/parts/figure_table.h"
#include "app/parts/frozen_column.h"
#include "app/parts/number_text.h"
#include "app/parts/table_foot.h"
#include "app/sift/band.h"
#include "app/sift/columns_menu.h"
#include "app/sift/day_line.h"
#include "app/sift/paste_dialog.h"
#include "app/sift/scatter_picture.h"
#include "app/sift/spread_strip.h"
#include "app/sift/text_form.h"
#include "app/sift/wall_lens.h"
#include "tests/app/window_bench.h"

#include <QAction>
#include <QClipboard>
#include <QComboBox>
#include <QDateEdit>
#include <QDropEvent>
#include <QHeaderView>
#include <QLabel>
#include <QListWidget>
#include <QMenu>
#include <QMimeData>
#include <QScrollBar>
#include <QTabWidget>
#include <QTableView>
#include <QToolButton>
#include <QTreeWidget>
#include <QWheelEvent>
#include <Qsci/qsciscintilla.h>
#include <catch2/catch.hpp>

// Sift: limits by hand, and every side of the results.

namespace sieve::app {

namespace {

using test::OwnFolder;
using test::WindowBench;

void press(const WindowBench& bench, const char* name)
{
    for (auto* button : bench.window->findChildren<QToolButton*>())
        if (button->text() == QLatin1String(name) && button->isVisible())
            button->click();
    bench.settle();
}

void showEvidence(const WindowBench& bench, int tab)
{
    bench.window->place(QStringLiteral("sift"))->findChild<QTabWidget*>()->setCurrentIndex(tab);
    bench.settle();
}

/// A screen of one's own in Sift.
void sift(const WindowBench& bench, std::vector<screens::Criterion> criteria)
{
    bench.go("sift");
    bench.desk->edit(QStringLiteral("screen"), [&](Work& work) {
        work.screen = {};
        work.screen.name = "Own";
        work.screen.universe = "kind == \"share\"";
        work.screen.criteria = std::move(criteria);
        work.screen.columns = {"symbol", "close"};
    });
    bench.settle();
}

Band* band(const WindowBench& bench, std::size_t at)
{
    const auto bands = bench.window->place(QStringLiteral("sift"))->findChildren<Band*>();
    std::vector<Band*> shown;
    for (Band* each : bands)
        if (each->isVisible())
            shown.push_back(each);
    std::ranges::sort(shown, {}, &QWidget::y);
    return shown.at(at);
}

std::string criterion(const WindowBench& bench, std::size_t at)
{
    return bench.desk->work().screen.criteria.at(at).text;
}

void drag(QWidget* widget, QPoint from, QPoint to)
{
    QTest::mousePress(widget, Qt::LeftButton, {}, from);
    QTest::mouseMove(widget, (from + to) / 2);
    QTest::mouseMove(widget, to);
    QMouseEvent move(QEvent::MouseMove, to, widget->mapToGlobal(to), Qt::LeftButton, Qt::LeftButton,
                     {});
    QApplication::sendEvent(widget, &move); // offscreen, moves come without the button
    QTest::mouseRelease(widget, Qt::LeftButton, {}, to);
}

} // namespace

TEST_CASE("Sift: a limit is dragged, wheeled and stepped by key, and each is one step of undo",
          "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    sift(bench, {{"rsi(close, 14) <= 50"}, {"close > sma(close, 50)"}});
    SpreadStrip& strip = band(bench, 0)->strip();
    REQUIRE(strip.isVisible());
    const auto find = [&strip] { // the grip is where the cursor says so
        for (int x = 0; x < strip.width(); ++x) {
            QTest::mouseMove(&strip, QPoint(x, 5));
            if (strip.cursor().shape() == Qt::SizeHorCursor)
                return x + 9;
        }
        throw std::runtime_error("no grip");
    };
    const int grip = find();
    drag(&strip, QPoint(grip, 5), QPoint(strip.width() - 6, 5));
    bench.settle();
    const std::string dragged = criterion(bench, 0);
    CHECK(dragged.starts_with("rsi(close, 14) <= "));
    CHECK(std::stod(dragged.substr(18)) > 55.0);
    CHECK(utf8(band(bench, 0)->edit().text()) == dragged);
    bench.desk->undoStack().undo();
    bench.settle();
    CHECK(criterion(bench, 0) == "rsi(close, 14) <= 50");

    QWheelEvent wheel(QPointF(find(), 5), strip.mapToGlobal(QPointF(find(), 5)), {}, {0, 120},
                      Qt::NoButton, {}, Qt::NoScrollPhase, false);
    QApplication::sendEvent(&strip, &wheel);
    bench.settle();
    CHECK(std::stod(criterion(bench, 0).substr(18)) > 50.0);
    const std::string wheeled = criterion(bench, 0);
    band(bench, 0)->edit().setFocus();
    QTest::keyClick(&band(bench, 0)->edit(), Qt::Key_Down, Qt::ControlModifier);
    bench.settle();
    CHECK(criterion(bench, 0) != wheeled);
    const std::string other = criterion(bench, 1);
    QTest::keyClick(&band(bench, 1)->edit(), Qt::Key_Up, Qt::ControlModifier);
    CHECK(criterion(bench, 1) == other); // a limit that is no number stays
}

TEST_CASE("Sift: when few are left, the guidance's offer is taken by its link", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    sift(bench, {{"rsi(close, 14) >= 99"}});
    auto* guidance = bench.find<QLabel>(QStringLiteral("Guidance"));
    const QString said = guidance->text();
    const qsizetype from = said.indexOf(QStringLiteral("href='")) + 6;
    REQUIRE(from > 6);
    Q_EMIT guidance->linkActivated(said.mid(from, said.indexOf(u'\'', from) - from));
    bench.settle();
    CHECK(std::stod(criterion(bench, 0).substr(18)) < 99.0);
    CHECK(bench.desk->undoStack().canUndo());
}

TEST_CASE("Sift: a near miss is chosen, and why it is out is told part by part", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    sift(bench, {{"close > sma(close, 50)"}, {"strength_126 >= 70", true, "leaders"}});
    auto* near = bench.find<QTreeWidget>(QStringLiteral("Near misses"));
    REQUIRE(near->topLevelItemCount() > 0);
    near->setCurrentItem(near->topLevelItem(0));
    bench.settle();
    const QString symbol = near->topLevelItem(0)->text(0);
    const QString by = near->topLevelItem(0)->text(2);
    CHECK(utf8(symbol) == bench.desk->market().instrument(*bench.desk->selected()).symbol);
    showEvidence(bench, 1);
    auto* why = bench.find<QTreeWidget>(QStringLiteral("Why"));
    REQUIRE(why->topLevelItemCount() == 2);
    int missed = 0;
    for (int i = 0; i < 2; ++i) {
        const bool isOut = why->topLevelItem(i)->text(0).startsWith(QChar(0x2715));
        CHECK(isOut == why->topLevelItem(i)->text(0).endsWith(by));
        CHECK(why->topLevelItem(i)->childCount() > 0);
        missed += isOut ? 1 : 0;
    }
    CHECK(missed == 1);
    bool isSaid = false;
    for (const auto* label : bench.window->findChildren<QLabel*>())
        isSaid = isSaid || (label->isVisible() && label->text().startsWith(symbol) &&
                            label->text().endsWith(QStringLiteral("is not in")));
    CHECK(isSaid);
}

TEST_CASE("Sift: a click on the line of days goes there, and entrants are told", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    sift(bench, {{"close > sma(close, 20)"}});
    showEvidence(bench, 2);
    auto* line = bench.window->findChild<DayLine*>();
    const Day latest = bench.desk->day();
    QTest::mouseClick(line, Qt::LeftButton, {}, QPoint(line->width() / 2, line->height() / 3));
    bench.settle();
    CHECK(bench.desk->day() < latest);
    CHECK(latest - bench.desk->day() > 100);
    auto* since = bench.find<QComboBox>(QStringLiteral("Since when"));
    since->setCurrentIndex(3);
    Q_EMIT since->activated(3);
    bench.settle();
    auto* changes = bench.find<QTreeWidget>(QStringLiteral("Who came in and who went out"));
    REQUIRE(changes->topLevelItemCount() > 0);
    changes->setCurrentItem(changes->topLevelItem(0));
    CHECK(utf8(changes->topLevelItem(0)->text(1)) ==
          bench.desk->market().instrument(*bench.desk->selected()).symbol);
}

TEST_CASE("Sift: groups and wall show the same matches as the table", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    sift(bench, {{"close > sma(close, 20)"}});
    press(bench, "Groups");
    auto* groups = bench.find<QTreeWidget>(QStringLiteral("Groups of the results"));
    const auto counted = [groups] {
        int all = 0;
        for (int i = 0; i < groups->topLevelItemCount(); ++i) {
            CHECK(groups->topLevelItem(i)->text(1).toInt() ==
                  groups->topLevelItem(i)->childCount());
            all += groups->topLevelItem(i)->childCount();
        }
        return all;
    };
    const int bySector = counted();
    CHECK(bySector > 4);
    bench.find<QComboBox>(QStringLiteral("Grouped by"))->setCurrentIndex(1);
    CHECK(counted() == bySector);

    press(bench, "Wall");
    auto* wall = bench.window->findChild<WallLens*>();
    const auto shown = [wall] {
        int charts = 0;
        for (const auto* chart : wall->findChildren<PriceChart*>())
            charts += chart->isVisible() ? 1 : 0;
        return charts;
    };
    CHECK(shown() == 4);
    auto* first = wall->findChildren<PriceChart*>().first();
    const QString before = first->reading();
    QTest::keyClick(wall, Qt::Key_PageDown);
    bench.settle();
    CHECK(first->reading() != before);
    bench.find<QComboBox>(QStringLiteral("Charts a page"))->setCurrentIndex(3);
    bench.settle();
    CHECK(shown() == std::min(25, bySector));
    sift(bench, {{"close > 1000000"}});
    CHECK(shown() == 0);
}

TEST_CASE("Sift: the scatter chooses by a click, takes a frame in hand, and moves a limit", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    sift(bench, {{"week_change <= 4%"}});
    press(bench, "Scatter");
    auto* picture = bench.window->findChild<ScatterPicture*>();
    REQUIRE(picture->scatter().points.size() > 5);
    const auto& last = picture->scatter().points.back();
    QTest::mouseClick(picture, Qt::LeftButton, {}, picture->pointOf(last).toPoint());
    bench.settle();
    REQUIRE(bench.desk->selected());
    drag(picture, QPoint(picture->width() / 12, 2),
         QPoint(picture->width() - 2, picture->height() - 30));
    bench.settle();
    std::size_t passing = 0;
    for (const auto& point : picture->scatter().points)
        passing += point.passes ? 1U : 0U;
    CHECK(bench.desk->work().tray.cards().size() == passing);
    // The line of the limit on week_change stands where a point of 4 % would.
    screens::ScatterPoint at;
    at.across = 0.04;
    at.up = 50;
    QPoint line = picture->pointOf(at).toPoint();
    line.setY(picture->height() / 2);
    drag(picture, line, line - QPoint(80, 0));
    bench.settle();
    CHECK(criterion(bench, 0).starts_with("week_change <= "));
    CHECK(std::stod(criterion(bench, 0).substr(15)) < 4.0);
}

TEST_CASE("Sift: a criterion is found by words, and begins with a limit that cuts", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    sift(bench, {});
    auto* line = bench.find<ExpressionEdit>(QStringLiteral("New criterion"));
    line->setFocus();
    QTest::keyClicks(line, QStringLiteral("rsi 14"));
    bench.settle();
    auto* found = bench.find<QListWidget>(QStringLiteral("Criteria found"));
    CHECK(found->currentItem()->text().startsWith(QStringLiteral("RSI")));
    QTest::keyClick(line, Qt::Key_Return);
    bench.settle();
    REQUIRE(bench.desk->work().screen.criteria.size() == 1);
    CHECK(criterion(bench, 0).starts_with("rsi_14 >= "));
    CHECK(line->text().isEmpty());
    CHECK_FALSE(found->isVisible());

    QTest::keyClicks(line, QStringLiteral("trned up")); // with a slip
    bench.settle();
    QTest::keyClick(line, Qt::Key_Return);
    bench.settle();
    CHECK(criterion(bench, 1) == "close > prior(close) and prior(close) < prior(close, 2)");

    QTest::keyClick(line, Qt::Key_Down); // what was used lately comes first
    bench.settle();
    CHECK(bench.find<QListWidget>(QStringLiteral("Criteria found"))
              ->item(0)
              ->text()
              .contains(QStringLiteral("Turned up")));
    QTest::keyClick(line, Qt::Key_Escape);
    CHECK_FALSE(found->isVisible());
    QTest::keyClicks(line, QStringLiteral("sma")); // a function is gone on with
    bench.settle();
    for (int row = 0; row < found->count(); ++row)
        if (found->item(row)->text().startsWith(QStringLiteral("sma(x, n")))
            found->setCurrentRow(row);
    QTest::keyClick(line, Qt::Key_Return);
    CHECK(line->text() == QStringLiteral("sma("));
    CHECK(bench.desk->work().screen.criteria.size() == 2);
}

TEST_CASE("Sift: text and stack say the same, a mistake is marked and loses nothing", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    sift(bench, {{"close > sma(close, 50)", true, "rises"}, {"rsi(close, 14) <= 65", false}});
    press(bench, "As text");
    auto* form = bench.window->findChild<TextForm*>();
    QsciScintilla& editor = form->editor();
    CHECK(editor.text() == QStringLiteral("# rises\nclose > sma(close, 50)\n"
                                          "# off: rsi(close, 14) <= 65\n"));
    editor.append(QStringLiteral("and close > 5"));
    Q_EMIT form->committed(); // as when the focus leaves
    bench.settle();
    REQUIRE(bench.desk->work().screen.criteria.size() == 3);
    CHECK(criterion(bench, 2) == "close > 5");
    CHECK(bench.desk->work().screen.criteria[1].isOn == false);

    editor.append(QStringLiteral("\nand volume >")); // not yet a screen
    bench.settle();
    CHECK(form->told().startsWith(QStringLiteral("Line 5")));
    CHECK(bench.desk->work().screen.criteria.size() == 3);
    press(bench, "As text");
    CHECK(utf8(band(bench, 2)->edit().text()) == "close > 5"); // the stack as it was
    press(bench, "As text");
    CHECK(editor.text().endsWith(QStringLiteral("and volume >"))); // and the text as it was typed
    editor.append(QStringLiteral(" 2 * smaa(volume, 50)"));        // grammar, but no such name
    bench.settle();
    CHECK(form->told().contains(QStringLiteral("smaa")));
    const long from =
        editor.SendScintilla(QsciScintillaBase::SCI_INDICATORSTART, 8UL, editor.length() - 15);
    CHECK(utf8(editor.text().mid(static_cast<int>(from), 4)) == "smaa");
    press(bench, "As text");
    CHECK(utf8(band(bench, 3)->edit().text()) == "volume > 2 * smaa(volume, 50)");
    bench.desk->undoStack().undo();
    bench.desk->undoStack().undo();
    bench.settle();
    press(bench, "As text");
    CHECK(editor.text() == QStringLiteral("# rises\nclose > sma(close, 50)\n"
                                          "# off: rsi(close, 14) <= 65\n"));
}

TEST_CASE("Sift: the universe is chosen from its menu, a tick for what holds", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    sift(bench, {});
    QMenu* menu = bench.find<QToolButton>(QStringLiteral("Choose the universe"))->menu();
    const auto action = [&](const char* group, const char* title) {
        Q_EMIT menu->aboutToShow();
        for (QAction* each : menu->actions())
            if (each->text() == QLatin1String(group))
                for (QAction* choice : each->menu()->actions())
                    if (choice->text() == QLatin1String(title))
                        return choice;
        throw std::runtime_error("no such choice");
    };
    CHECK(action("Kind", "Shares only")->isChecked());
    action("Traded a day at least", "1M")->trigger();
    bench.settle();
    CHECK(bench.desk->work().screen.universe == "kind == \"share\" and average_traded_value >= 1M");
    action("Traded a day at least", "5M")->trigger();
    action("Kind", "Shares only")->trigger(); // out again
    bench.settle();
    CHECK(bench.desk->work().screen.universe == "average_traded_value >= 5M");
    bench.desk->undoStack().undo();
    bench.settle();
    CHECK(action("Kind", "Shares only")->isChecked());
}

TEST_CASE("Paste: symbols of a text are shown before they are taken", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    const std::string first = bench.desk->market().instrument(5).symbol;
    PasteDialog dialog(*bench.desk, text("Look at $" + first + " and at WRNG.C soon"), nullptr);
    test::waitUntil([&] { return !dialog.symbols().empty(); }, "symbols");
    CHECK(dialog.symbols() == std::vector{first});
    auto* picked = dialog.findChild<QTreeWidget*>();
    REQUIRE(picked->topLevelItemCount() == 2);
    CHECK(picked->topLevelItem(1)->text(2) == QStringLiteral("WRNG.C"));
    const auto says = [&dialog](const char* words) {
        for (const auto* label : dialog.findChildren<QLabel*>())
            if (label->text() == QLatin1String(words))
                return true;
        return false;
    };
    CHECK(says("1 to take, 0 left open, 1 unknown"));
    picked->topLevelItem(0)->setCheckState(0, Qt::Unchecked);
    CHECK(dialog.symbols().empty());
    CHECK(says("0 to take, 1 left open, 1 unknown"));
}

TEST_CASE("Sift: pasted symbols are a universe, medians stand in the foot", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    sift(bench, {});
    const auto symbolOf = [&](std::size_t i) { return bench.desk->market().instrument(i).symbol; };
    bench.desk->edit(QStringLiteral("universe"), [&](Work& work) {
        work.screen.universe = "symbol in (\"" + symbolOf(3) + "\", \"" + symbolOf(7) + "\", \"" +
                               symbolOf(11) + "\")";
    });
    bench.settle();
    auto* table = bench.find<QTableView>(QStringLiteral("Results"));
    REQUIRE(table->model()->rowCount() == 3);
    std::vector<double> closes;
    for (int row = 0; row < 3; ++row)
        closes.push_back(table->model()->index(row, 1).data().toString().remove(u',').toDouble());
    std::ranges::sort(closes);
    const auto foot = [&](int column) {
        return table->model()->headerData(column, Qt::Horizontal, TableFoot::footRole).toString();
    };
    CHECK(foot(0) == QStringLiteral("median of %1").arg(table->model()->rowCount()));
    CHECK(foot(1).remove(u',').toDouble() == Approx(closes[1]));
    bench.desk->edit(QStringLiteral("universe"),
                     [](Work& work) { work.screen.universe = "close > 900B"; });
    bench.settle();
    CHECK(table->model()->rowCount() == 0);
    CHECK(foot(1).isEmpty());
    showEvidence(bench, 1); // nobody is chosen
    showEvidence(bench, 2);
    for (const char* lens : {"Wall", "Scatter", "Groups"})
        press(bench, lens); // an empty universe has its words everywhere
}

TEST_CASE("Sift: bands of sixty criteria, long names and letters of any script", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    std::vector<screens::Criterion> many;
    for (int i = 0; i < 60; ++i)
        many.push_back({"close > " + std::to_string(i % 7), true,
                        i == 3 ? std::string(200, 'w') : "\u05d0\u05d1 \u4e2d \u00e9"});
    many[10].text = "\u05d0\u05d1 > 5"; // no name of the language
    sift(bench, many);
    bench.desk->edit(QStringLiteral("name"), [](Work& work) {
        work.screen.name = std::string(200, 'N');
        work.screen.purpose = "\u202eright to left";
    });
    bench.settle();
    CHECK(bench.window->minimumSizeHint().width() <= 1280);
    CHECK(utf8(band(bench, 10)->edit().text()) == many[10].text);
    press(bench, "As text");
    press(bench, "As text");
    CHECK(bench.desk->work().screen.criteria == many);
}

TEST_CASE("Sift: the results are copied as symbols and as a table", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    sift(bench, {{"close > sma(close, 20)"}});
    auto* place = bench.window->place(QStringLiteral("sift"));
    const auto trigger = [&](const char* name) {
        for (QAction* action : place->actions())
            if (action->text() == QLatin1String(name))
                return action->trigger();
        FAIL("no " << name);
    };
    trigger("Copy the symbols");
    const QStringList symbols = QApplication::clipboard()->text().split(u'\n');
    CHECK(symbols.size() > 4);
    trigger("Copy the table");
    const QStringList lines = QApplication::clipboard()->text().split(u'\n', Qt::SkipEmptyParts);
    REQUIRE(lines.size() == symbols.size() + 1);
    CHECK(lines[0] == QStringLiteral("symbol\tclose"));
    CHECK(lines[1].section(u'\t', 0, 0) == symbols[0]);
}

TEST_CASE("Sift: who came and went since any day, and since the last visit", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    sift(bench, {{"rsi(close, 14) <= 50"}});
    showEvidence(bench, 2);
    auto* since = bench.find<QComboBox>(QStringLiteral("Since when"));
    const auto told = [&] {
        for (const auto* label : bench.window->findChildren<QLabel*>())
            if (label->isVisible() && (label->text().startsWith(QStringLiteral("since ")) ||
                                       label->text().contains(QStringLiteral("first visit"))))
                return label->text();
        return QString();
    };
    const auto choose = [&](const char* words) {
        since->setCurrentIndex(since->findText(QLatin1String(words)));
        Q_EMIT since->activated(since->currentIndex());
        bench.settle();
    };
    choose("since the last visit");
    CHECK(told().contains(QStringLiteral("first visit")));
    const Day before = bench.desk->market().sessions()[bench.desk->market().sessions().size() - 9];
    const Day now = bench.desk->day();
    bench.desk->setSetting("last_visit/Own", now.iso() + " " + before.iso()); // an evening before
    choose("since the last visit");
    CHECK(told().startsWith(QStringLiteral("since ") + shortDayText(before)));
    choose("since the day");
    auto* day = bench.find<QDateEdit>(QStringLiteral("Since the day"));
    const Day chosen = bench.desk->market().sessions()[bench.desk->market().sessions().size() - 30];
    day->setDate(QDate::fromString(text(chosen.iso()), Qt::ISODate));
    bench.settle();
    CHECK(told().startsWith(QStringLiteral("since ") + shortDayText(chosen)));
    const auto changes =
        screens::changesBetween(bench.desk->work().screen, bench.desk->nameBook()->names(),
                                *bench.desk->evaluator(), chosen, now);
    CHECK(told().contains(QString::number(changes.entered.size()) + QStringLiteral(" came in")));
}

TEST_CASE("Results: several rows are selected by keys and taken in hand alone", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    sift(bench, {{"close > 1"}});
    auto* table = bench.find<QTableView>(QStringLiteral("Results"));
    table->setFocus();
    table->setCurrentIndex(table->model()->index(0, 0));
    for (int step = 0; step < 3; ++step)
        QTest::keyClick(table, Qt::Key_Down, Qt::ShiftModifier);
    CHECK(table->selectionModel()->selectedRows().size() == 4);
    bench.pressCtrl(Qt::Key_Return);
    bench.settle();
    const auto& cards = bench.desk->work().tray.cards();
    REQUIRE(cards.size() == 4);
    CHECK(utf8(table->model()->index(2, 0).data().toString()) == cards[2].symbol);
    CHECK(cards[0].source == utf8(QStringLiteral("Own, ") + shortDayText(bench.desk->day())));
}

TEST_CASE("Results: heads are dragged into order and drawn to a width that is kept", "[app]")
{
    const OwnFolder own;
    {
        const WindowBench bench(own.path() / "library.sqlite");
        sift(bench, {{"close > 1"}});
        bench.desk->edit(QStringLiteral("columns"), [](Work& work) {
            work.screen.columns = {"symbol", "close", "volume"};
        });
        bench.settle();
        auto* head = bench.find<QTableView>(QStringLiteral("Results"))->horizontalHeader();
        head->moveSection(2, 1);
        bench.settle();
        CHECK(bench.desk->work().screen.columns ==
              std::vector<std::string>{"symbol", "volume", "close"});
        CHECK(head->visualIndex(1) == 1);
        CHECK(head->model()->headerData(1, Qt::Horizontal).toString() == QStringLiteral("Volume"));
        head->resizeSection(1, 177);
        bench.desk->undoStack().undo();
        bench.settle();
        CHECK(bench.desk->work().screen.columns ==
              std::vector<std::string>{"symbol", "close", "volume"});
        CHECK(head->sectionSize(2) == 177); // the width is the column's
    }
    const WindowBench again(own.path() / "library.sqlite");
    again.go("sift");
    CHECK(again.find<QTableView>(QStringLiteral("Results"))->columnWidth(2) == 177);
}

TEST_CASE("Results: the first column stays in sight while the rest is scrolled", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    sift(bench, {{"close > 1"}});
    auto* table = bench.find<QTableView>(QStringLiteral("Results"));
    auto* frozen = table->findChild<FrozenColumn*>();
    CHECK_FALSE(frozen->isVisible());
    bench.desk->edit(QStringLiteral("columns"), [](Work& work) {
        work.screen.columns = {"symbol", "name",         "sector",        "industry",
                               "close",  "volume",       "open",          "market_cap",
                               "rsi_14", "strength_126", "revenue_growth"};
    });
    bench.settle();
    REQUIRE(table->horizontalScrollBar()->maximum() > 0);
    table->horizontalScrollBar()->setValue(table->horizontalScrollBar()->maximum());
    CHECK(frozen->isVisible());
    table->verticalScrollBar()->setValue(table->verticalScrollBar()->maximum());
    CHECK(frozen->verticalScrollBar()->value() == table->verticalScrollBar()->value());
    QTest::mouseClick(frozen->viewport(), Qt::LeftButton, {},
                      QPoint(8, frozen->viewport()->height() / 2));
    REQUIRE(bench.desk->selected());
    CHECK(table->currentIndex().row() ==
          frozen->indexAt(QPoint(8, frozen->viewport()->height() / 2)).row());
    table->horizontalScrollBar()->setValue(0);
    CHECK_FALSE(frozen->isVisible());
}

TEST_CASE("Results: a set of columns is chosen, with lines that come for the rows in sight",
          "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    sift(bench, {{"close > 1"}});
    auto* menu = bench.window->findChild<ColumnsMenu*>();
    QMetaObject::invokeMethod(menu, "aboutToShow");
    const auto entry = [menu](const char* name) {
        for (QAction* action : menu->actions())
            if (action->text() == QLatin1String(name))
                return action;
        throw std::runtime_error(std::string("no entry ") + name);
    };
    entry("At a glance")->trigger();
    bench.settle();
    CHECK(bench.desk->work().screen.columns == screens::readyColumnSets()[0].columns);
    const auto* table = bench.find<QTableView>(QStringLiteral("Results"));
    const auto pictureOf = [&](int row, const char* column) {
        const auto& columns = bench.desk->work().screen.columns;
        const auto place = std::ranges::find(columns, column) - columns.begin();
        return table->model()->index(row, static_cast<int>(place)).data(CellPicture::role);
    };
    test::waitUntil([&] { return pictureOf(0, "close").isValid(); }, "a line");
    CHECK(pictureOf(0, "close").value<CellPicture>().line.size() > 10);
    CHECK_FALSE(pictureOf(table->model()->rowCount() - 1, "close").isValid()); // not in sight
    const QString change = table->model()->index(0, 4).data().toString();
    CHECK(pictureOf(0, "day_change").isValid() == (change != QStringLiteral("0.0 %")));
    Q_EMIT menu->aboutToShow();
    CHECK(entry("At a glance")->isChecked());
}

TEST_CASE("Results: rows leave as symbols, and a text dropped on Sift is shown before it is taken",
          "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    sift(bench, {{"close > 1"}});
    const auto* model = bench.find<QTableView>(QStringLiteral("Results"))->model();
    const std::unique_ptr<QMimeData> rows(
        model->mimeData({model->index(0, 0), model->index(0, 1), model->index(2, 0)}));
    CHECK(rows->text() == model->index(0, 0).data().toString() + QLatin1Char('\n') +
                              model->index(2, 0).data().toString());
    auto* tray = bench.window->findChild<TrayBar*>();
    QDropEvent drop(QPointF(5, 5), Qt::CopyAction, rows.get(), Qt::LeftButton, Qt::NoModifier);
    static_cast<QObject*>(tray)->event(&drop); // the platform would send it to what is below a drag
    REQUIRE(bench.desk->work().tray.cards().size() == 2);
    CHECK(utf8(model->index(2, 0).data().toString()) == bench.desk->work().tray.cards()[1].symbol);
    QMimeData novel;
    novel.setText(QStringLiteral("nothing here is a symbol of any stock"));
    QDropEvent none(QPointF(5, 5), Qt::CopyAction, &novel, Qt::LeftButton, Qt::NoModifier);
    static_cast<QObject*>(tray)->event(&none);
    CHECK(bench.desk->work().tray.cards().size() == 2); // what is in hand stays
    bool isShown = false;
    QTimer::singleShot(300, bench.window.get(), [&] {
        auto* dialog = qobject_cast<PasteDialog*>(QApplication::activeModalWidget());
        isShown = dialog != nullptr;
        if (dialog)
            dialog->reject();
    });
    QDropEvent onSift(QPointF(5, 5), Qt::CopyAction, rows.get(), Qt::LeftButton, Qt::NoModifier);
    static_cast<QObject*>(bench.window->place(QStringLiteral("sift")))->event(&onSift);
    QTest::qWait(400);
    CHECK(isShown);
}

} // namespace sieve::app
