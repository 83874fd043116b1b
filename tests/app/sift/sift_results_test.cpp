#include "app/chart/chart_view.h"
#include "app/chart/drawing_pen.h"
#include "app/chart/price_chart.h"
#include "app/frame/tray_bar.h"
#include "app/parts/expression_edit.h"
#include "app/parts/figure_table.h"
#include "app/parts/frozen_column.h"
#include "app/parts/number_text.h"
#include "app/parts/scatter_picture.h"
#include "app/parts/table_foot.h"
#include "app/sift/band.h"
#include "app/sift/columns_menu.h"
#include "app/sift/day_line.h"
#include "app/sift/paste_dialog.h"
#include "app/sift/spread_strip.h"
#include "app/sift/text_form.h"
#include "app/sift/wall_lens.h"
#include "app/wall/chart_wall.h"
#include "tests/app/sift_bench.h"

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
#include <QSplitter>
#include <QTabWidget>
#include <QTableView>
#include <QToolButton>
#include <QTreeWidget>
#include <QWheelEvent>
#include <Qsci/qsciscintilla.h>
#include <catch2/catch.hpp>

// Sift: limits by hand, text, lenses and evidence.

namespace sieve::app {

using namespace test;

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
    bench.desk->work().undoStack().undo();
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
    CHECK(bench.desk->work().undoStack().canUndo());
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
    CHECK(utf8(symbol) ==
          bench.desk->market().data().instrument(*bench.desk->focus().selected()).symbol);
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
    const Day latest = bench.desk->focus().day();
    QTest::mouseClick(line, Qt::LeftButton, {}, QPoint(line->width() / 2, line->height() / 3));
    bench.settle();
    CHECK(bench.desk->focus().day() < latest);
    CHECK(latest - bench.desk->focus().day() > 100);
    auto* since = bench.find<QComboBox>(QStringLiteral("Since when"));
    since->setCurrentIndex(3);
    Q_EMIT since->activated(3);
    bench.settle();
    auto* changes = bench.find<QTreeWidget>(QStringLiteral("Who came in and who went out"));
    REQUIRE(changes->topLevelItemCount() > 0);
    changes->setCurrentItem(changes->topLevelItem(0));
    CHECK(utf8(changes->topLevelItem(0)->text(1)) ==
          bench.desk->market().data().instrument(*bench.desk->focus().selected()).symbol);
}

TEST_CASE("Sift: groups and wall show the same matches as the table", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    sift(bench, {{"close > sma(close, 20)"}});
    press(bench, "Groups");
    auto* groups = bench.find<QTreeWidget>(QStringLiteral("Groups of the results"));
    const auto counted = [&] {
        bench.settle();
        int all = 0;
        for (int i = 0; i < groups->topLevelItemCount(); ++i) {
            QTreeWidgetItem* group = groups->topLevelItem(i);
            CHECK(group->childCount() == 0); // filled once it is opened
            group->setExpanded(true);
            CHECK(group->text(1).toInt() == group->childCount());
            all += group->childCount();
        }
        return all;
    };
    const int bySector = counted();
    CHECK(bySector > 4);
    bench.find<QComboBox>(QStringLiteral("Grouped by"))->setCurrentIndex(1);
    CHECK(counted() == bySector);

    press(bench, "Wall");
    auto* wall = bench.window->findChild<WallLens*>()->findChild<ChartWall*>();
    const auto shown = [wall] {
        int charts = 0;
        for (const auto* chart : wall->findChildren<PriceChart*>())
            charts += chart->isVisible() ? 1 : 0;
        return charts;
    };
    CHECK(shown() == 4);
    auto* first = wall->findChildren<PriceChart*>().first();
    // What one is pointed at is read on all, on the same day.
    auto* other = wall->findChildren<PriceChart*>().at(1);
    const auto& days = first->view().chart().bars->days;
    first->view().pointAt(days[days.size() - 30]);
    CHECK(first->reading().contains(shortDayText(days[days.size() - 30])));
    CHECK(other->reading().contains(shortDayText(days[days.size() - 30])));
    first->view().pointAt(std::nullopt);
    CHECK_FALSE(other->reading().contains(shortDayText(days[days.size() - 30])));
    // What is drawn on a stock is seen on its chart, and on no other.
    drawings::Drawing level;
    level.id = bench.desk->work().newId();
    level.tool = drawings::Tool::Level;
    level.symbol = first->view().chart().symbol;
    level.drawnOn = bench.desk->focus().day();
    level.anchors = {{level.drawnOn, first->view().chart().bars->close.back()}};
    bench.desk->work().edit(QStringLiteral("draw"), [&](Work& work) { keepDrawing(work, level); });
    CHECK(first->view().pen().drawings().size() == 1);
    CHECK(other->view().pen().drawings().empty());
    const QString before = first->reading();
    QTest::keyClick(wall, Qt::Key_PageDown);
    bench.settle();
    CHECK(first->reading() != before);
    bench.find<QComboBox>(QStringLiteral("Charts a page"))->setCurrentIndex(3);
    bench.settle();
    CHECK(shown() == std::min(25, bySector));
    sift(bench, {{"close > 1000000"}});
    waitUntil([&] { return shown() == 0; }, "an empty wall");
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
    REQUIRE(bench.desk->focus().selected());
    drag(picture, QPoint(picture->width() / 12, 2),
         QPoint(picture->width() - 2, picture->height() - 30));
    bench.settle();
    std::size_t passing = 0;
    for (const auto& point : picture->scatter().points)
        passing += point.passes ? 1U : 0U;
    CHECK(bench.desk->work().now().tray->cards().size() == passing);
    const QPoint line = limitLine(*picture, 0.04);
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
    REQUIRE(bench.desk->work().now().screen->criteria.size() == 1);
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
    CHECK(bench.desk->work().now().screen->criteria.size() == 2);
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
    REQUIRE(bench.desk->work().now().screen->criteria.size() == 3);
    CHECK(criterion(bench, 2) == "close > 5");
    CHECK(bench.desk->work().now().screen->criteria[1].isOn == false);

    editor.append(QStringLiteral("\nand volume >")); // not yet a screen
    bench.settle();
    CHECK(form->told().startsWith(QStringLiteral("Line 5")));
    CHECK(bench.desk->work().now().screen->criteria.size() == 3);
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
    bench.desk->work().undoStack().undo();
    bench.desk->work().undoStack().undo();
    bench.settle();
    press(bench, "As text");
    CHECK(editor.text() == QStringLiteral("# rises\nclose > sma(close, 50)\n"
                                          "# off: rsi(close, 14) <= 65\n"));
}

TEST_CASE("Sift: in the text form words are completed and a function tells what it takes", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    sift(bench, {{"close > 1"}});
    press(bench, "As text");
    bench.activate();
    QsciScintilla& editor = bench.window->findChild<TextForm*>()->editor();
    editor.setFocus();
    editor.setCursorPosition(0, editor.lineLength(0) - 1);
    const auto is = [&](unsigned int message) { return editor.SendScintilla(message) == 1; };
    QTest::keyClicks(&editor, QStringLiteral(" and wil"));
    waitUntil( // the words are made ready beside the window's thread
        [&] {
            if (!is(QsciScintillaBase::SCI_AUTOCACTIVE)) {
                QTest::keyClick(&editor, Qt::Key_Backspace);
                QTest::keyClicks(&editor, QStringLiteral("l"));
            }
            return is(QsciScintillaBase::SCI_AUTOCACTIVE);
        },
        "the words");
    QTest::keyClick(&editor, Qt::Key_Return);
    QTest::keyClicks(&editor, QStringLiteral("("));
    waitUntil([&] { return is(QsciScintillaBase::SCI_CALLTIPACTIVE); }, "the call tip");
    QTest::keyClicks(&editor, QStringLiteral("close, "));
    CHECK(is(QsciScintillaBase::SCI_CALLTIPACTIVE)); // now for the second
    QTest::keyClicks(&editor, QStringLiteral("20) > 2"));
    CHECK_FALSE(is(QsciScintillaBase::SCI_CALLTIPACTIVE));
    bench.settle();
    CHECK(criterion(bench, 0) == "close > 1");
    QTest::keyClicks(&editor, QStringLiteral(" and sma("));
    waitUntil([&] { return is(QsciScintillaBase::SCI_CALLTIPACTIVE); }, "another call tip");
    press(bench, "As text");
    CHECK_FALSE(is(QsciScintillaBase::SCI_CALLTIPACTIVE)); // it does not float over the bands
    CHECK(utf8(band(bench, 1)->edit().text()) == "wilder(close, 20) > 2");
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
    CHECK(bench.desk->work().now().screen->universe ==
          "kind == \"share\" and average_traded_value >= 1M");
    action("Traded a day at least", "5M")->trigger();
    action("Kind", "Shares only")->trigger(); // out again
    bench.settle();
    CHECK(bench.desk->work().now().screen->universe == "average_traded_value >= 5M");
    bench.desk->work().undoStack().undo();
    bench.settle();
    CHECK(action("Kind", "Shares only")->isChecked());
}

TEST_CASE("Paste: symbols of a text are shown before they are taken", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    const std::string first = bench.desk->market().data().instrument(5).symbol;
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

TEST_CASE("Sift: in a small window no band is cut off, however much there is to tell", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    bench.window->resize(1024, 700);
    sift(bench,
         {{"eps_growth > 0%", true, "a comment that is longer than the room beside the counts"},
          {"price_to_earnings < 200"},
          {"close > sma(close, 50) and close > sma(close, 100) and close > sma(close, 200)"}});
    CHECK(bench.window->width() == 1024);
    auto* halves = bench.window->place(QStringLiteral("sift"))->findChild<QSplitter*>();
    halves->setSizes({1, 5000}); // as far as the handle goes
    const auto isInSight = [&](std::size_t at) {
        const Band* each = band(bench, at);
        const QWidget* viewport = each->parentWidget()->parentWidget();
        const auto buttons = each->findChildren<QToolButton*>();
        return !buttons.isEmpty() && std::ranges::all_of(buttons, [&](const QToolButton* button) {
            return button->mapTo(viewport, button->rect().bottomRight()).x() < viewport->width();
        });
    };
    for (std::size_t at = 0; at < 3; ++at) // laid out soon after, later on a busy machine
        CHECK_NOTHROW(test::waitUntil([&] { return isInSight(at); }, "a whole band"));
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
    bench.desk->work().edit(QStringLiteral("name"), [](Work& work) {
        work.screen.edit().name = std::string(200, 'N');
        work.screen.edit().purpose = "\u202eright to left";
    });
    bench.settle();
    CHECK(bench.window->minimumSizeHint().width() <= 1280);
    CHECK(utf8(band(bench, 10)->edit().text()) == many[10].text);
    press(bench, "As text");
    press(bench, "As text");
    CHECK(bench.desk->work().now().screen->criteria == many);
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
    const Day before =
        bench.desk->market().data().sessions()[bench.desk->market().data().sessions().size() - 9];
    const Day now = bench.desk->focus().day();
    bench.desk->settings().set("last_visit/Own",
                               now.iso() + " " + before.iso()); // an evening before
    choose("since the last visit");
    CHECK(told().startsWith(QStringLiteral("since ") + shortDayText(before)));
    choose("since the day");
    auto* day = bench.find<QDateEdit>(QStringLiteral("Since the day"));
    const Day chosen =
        bench.desk->market().data().sessions()[bench.desk->market().data().sessions().size() - 30];
    day->setDate(QDate::fromString(text(chosen.iso()), Qt::ISODate));
    bench.settle();
    CHECK(told().startsWith(QStringLiteral("since ") + shortDayText(chosen)));
    const auto changes = screens::changesBetween(*bench.desk->work().now().screen,
                                                 bench.desk->work().nameBook()->names(),
                                                 *bench.desk->market().evaluator(), chosen, now);
    CHECK(told().contains(QString::number(changes.entered.size()) + QStringLiteral(" came in")));
}

} // namespace sieve::app
