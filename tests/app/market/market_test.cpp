#include "app/chart/chart_view.h"
#include "app/chart/picture_file.h"
#include "app/market/evidence.h"
#include "app/market/group_board.h"
#include "app/market/line_chart.h"
#include "app/market/mosaic_view.h"
#include "app/market/state_board.h"
#include "app/parts/number_text.h"
#include "core/conditions/reading.h"
#include "tests/app/window_bench.h"

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QSpinBox>
#include <QTabWidget>
#include <QTableWidget>
#include <QToolButton>
#include <QTreeWidget>
#include <catch2/catch.hpp>

namespace sieve::app {

namespace {

using test::OwnFolder;
using test::WindowBench;

void press(const WindowBench& bench, const char* text)
{
    for (auto* button : bench.window->findChildren<QAbstractButton*>())
        if (button->text() == QLatin1String(text) && button->isVisible()) {
            QTest::mouseClick(button, Qt::LeftButton);
            return bench.settle();
        }
    throw std::runtime_error(std::string("no button ") + text);
}

QLineEdit* type(const WindowBench& bench, const char* field, const char* typed)
{
    auto* edit = bench.find<QLineEdit>(QLatin1String(field));
    edit->setFocus();
    edit->setText(QLatin1String(typed)); // letter by letter, completion would offer its words
    bench.settle();
    return edit;
}

void enter(const WindowBench& bench, QWidget* where)
{
    QTest::keyClick(where, Qt::Key_Return);
    bench.settle();
}

QString toldBy(const WindowBench& bench, const char* label)
{
    return bench.find<QLabel>(QLatin1String(label))->text();
}

constexpr const char* effect = "What the rule makes of the history";

} // namespace

TEST_CASE("Market: says in words what the core reads, on every day", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    const conditions::Reading reading =
        conditions::readMarket(*bench.desk->market().evaluator(), {language::Vocabulary::builtIn()},
                               conditions::standardBook());
    for (const char* on : {"2026-09-30", "2022-02-18", "2020-10-20"}) {
        bench.desk->focus().setDay(*Day::parse(on));
        bench.settle();
        const auto bar = *reading.market().barBy(bench.desk->focus().day());
        const auto* board = bench.find<StateBoard>(QStringLiteral("State of the market"));
        for (std::size_t horizon = 0; horizon < 3; ++horizon) {
            const QString state = trendWord(reading.lines[0].trends[horizon].history[bar]);
            INFO(on << " " << state.toStdString());
            CHECK(board->accessibleDescription().contains(
                text(conditions::horizonName(conditions::horizons[horizon])) +
                QStringLiteral(": ") + state));
        }
        if (!isMissing(reading.stance[bar])) {
            const QString stance = numberText(reading.stance[bar], Unit::Percent, 0);
            CHECK(bench.find<QLabel>(QStringLiteral("Stance"))->text().startsWith(stance));
            CHECK(bench.find<QToolButton>(QStringLiteral("Stance of the market"))
                      ->text()
                      .contains(stance));
        }
    }
    CHECK(trendSign(conditions::Trend::Rising) != trendSign(conditions::Trend::Falling));
    CHECK(trendWord(std::nullopt) == QStringLiteral("too early to say"));
}

TEST_CASE("Market: groups by the span that is typed, open in place, and go to Sift", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    const conditions::Groups groups = conditions::readGroups(*bench.desk->market().evaluator());
    auto* tree = bench.find<QTreeWidget>(QStringLiteral("Groups"));
    auto* span = bench.find<QSpinBox>(QStringLiteral("Sessions over which groups are compared"));
    const std::size_t last = groups.sessions.size() - 1;
    for (const int sessions : {21, 63, 5}) {
        span->setFocus();
        span->selectAll();
        QTest::keyClicks(span, QString::number(sessions));
        QTest::keyClick(span, Qt::Key_Return);
        bench.settle();
        const auto standings = conditions::rankGroups(
            groups, std::nullopt, changesOver(groups, last, static_cast<std::size_t>(sessions)));
        REQUIRE(tree->topLevelItemCount() == static_cast<int>(standings.size()));
        for (int row = 0; row < tree->topLevelItemCount(); ++row) {
            const auto& standing = standings.at(static_cast<std::size_t>(row));
            CHECK(tree->topLevelItem(row)->text(0) == text(groups.all[standing.group].name));
            CHECK(tree->topLevelItem(row)->text(1) ==
                  signedText(standing.figure, Unit::Percent, 1));
            CHECK(tree->topLevelItem(row)->text(2).toInt() == row + 1);
        }
    }
    QTest::mouseClick(tree->viewport(), Qt::LeftButton, {},
                      tree->visualItemRect(tree->topLevelItem(0)).center());
    CHECK(tree->topLevelItem(0)->isExpanded());
    CHECK(tree->topLevelItem(0)->childCount() > 0);
    const QString opened = tree->topLevelItem(0)->text(0);
    bench.desk->focus().stepSessions(-40); // another day, another order: what was open stays so
    bench.settle();
    const auto again = tree->findItems(opened, Qt::MatchExactly);
    REQUIRE(again.size() == 1);
    CHECK(again.first()->isExpanded());

    const std::string before = bench.desk->work().now().screen->universe;
    auto* board = qobject_cast<GroupBoard*>(tree->parentWidget());
    REQUIRE(board);
    Q_EMIT board->sharesWanted(QStringLiteral("sector == \"%1\"").arg(opened));
    bench.settle();
    CHECK(bench.desk->work().now().screen->universe ==
          "sector == \"" + opened.toStdString() + "\"");
    bench.desk->work().undoStack().undo();
    CHECK(bench.desk->work().now().screen->universe == before);
}

TEST_CASE("Market: groups by any figure, down to their stocks, into the tray", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    auto* tree = bench.find<QTreeWidget>(QStringLiteral("Groups"));
    const auto figureOf = [tree](int row) { return tree->topLevelItem(row)->text(1); };
    const QString byChange = figureOf(0);
    bench.find<QComboBox>(QStringLiteral("What groups are ranked by"))->setCurrentIndex(1);
    bench.settle();
    constexpr const char* figure = "Figure by which groups are ranked";
    auto* edit = type(bench, figure, "rsi(close, 14");
    enter(bench, edit);
    CHECK(edit->toolTip().contains(QStringLiteral("olumn")));
    enter(bench, type(bench, figure, "rsi(close, 14)"));
    CHECK(figureOf(0) != byChange);
    CHECK(figureOf(0).toDouble() > 30.0);
    CHECK(figureOf(0).toDouble() >= figureOf(1).toDouble());

    const auto eachIndustry = [&](auto of) {
        for (int row = 0; row < tree->topLevelItemCount(); ++row)
            for (int child = 0; child < tree->topLevelItem(row)->childCount(); ++child) {
                tree->topLevelItem(row)->setExpanded(true);
                of(tree->topLevelItem(row)->child(child));
            }
    };
    eachIndustry([](QTreeWidgetItem* each) { each->setExpanded(true); });
    bench.settle();                      // stocks are asked for when a group is opened
    QTreeWidgetItem* industry = nullptr; // one of several stocks
    eachIndustry(
        [&](QTreeWidgetItem* each) { industry = each->childCount() > 1 ? each : industry; });
    REQUIRE(industry);
    constexpr int blend = 9;
    CHECK(industry->child(0)->text(blend).toDouble() >= industry->child(1)->text(blend).toDouble());
    tree->setCurrentItem(industry->child(1));
    REQUIRE(bench.desk->focus().selected());
    const std::string symbol =
        bench.desk->market().data().instrument(*bench.desk->focus().selected()).symbol;
    CHECK(industry->child(1)->text(0).startsWith(text(symbol)));
    bench.desk->focus().stepSessions(-1); // ranks are others, the stock stays the current one
    bench.settle();
    REQUIRE(tree->currentItem());
    CHECK(tree->currentItem()->text(0).startsWith(text(symbol)));

    auto* board = qobject_cast<GroupBoard*>(tree->parentWidget());
    Q_EMIT board->trayWanted(QStringLiteral("Peat"), {symbol});
    REQUIRE(bench.desk->work().now().tray->cards().size() == 1);
    CHECK(bench.desk->work().now().tray->cards()[0].source == "Peat");
}

TEST_CASE("Market: a state's rule is edited in place, seen while typed, kept and taken back",
          "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    auto* board = bench.find<StateBoard>(QStringLiteral("State of the market"));
    board->setFocus();
    QTest::keyClick(board, Qt::Key_Left); // from the long to the medium horizon
    enter(bench, board);
    const std::string before = bench.desk->work().now().marketBook->trends[1].rising;
    CHECK(bench.find<QLineEdit>(QStringLiteral("Rising when"))->text() == text(before));
    CHECK(toldBy(bench, effect).contains(QStringLiteral("changes of state")));
    type(bench, "Rising when", "close > smaa(close, 50)");
    CHECK(toldBy(bench, effect).contains(QStringLiteral("no function 'smaa'")));
    type(bench, "Rising when", "close < 0");
    CHECK(toldBy(bench, effect).contains(QStringLiteral("was never rising")));
    auto* rising = type(bench, "Rising when", "close > 0");
    CHECK(toldBy(bench, effect).contains(QStringLiteral("both hold on")));
    enter(bench, rising);
    CHECK(bench.desk->work().now().marketBook->trends[1].rising == "close > 0");
    CHECK(bench.desk->conditions().reading()->book.trends[1].rising == "close > 0");
    bench.desk->work().undoStack().undo();
    bench.settle();
    CHECK(bench.desk->conditions().reading()->book.trends[1].rising == before);

    board->setFocus();
    enter(bench, board);
    QTest::keyClick(type(bench, "Rising when", "no"), Qt::Key_Escape);
    CHECK(bench.desk->work().now().marketBook->trends[1].rising == before);
}

TEST_CASE("Market: a rule of one's own joins the stance, and is there the next time", "[app]")
{
    const OwnFolder own;
    const auto library = own.path() / "library.sqlite";
    {
        const WindowBench bench(library);
        const std::size_t rules = bench.desk->work().now().marketBook->rules.size();
        press(bench, "New rule");
        type(bench, "Title of the rule", "Never");
        type(bench, "On when", "close < 0");
        CHECK(toldBy(bench, effect).contains(QStringLiteral("never have been on")));
        type(bench, "On when", "close > 1 and advances > 100k");
        press(bench, "Keep the rule");
        REQUIRE(bench.desk->work().now().marketBook->rules.size() == rules + 1);
        auto* tree = bench.find<QTreeWidget>(QStringLiteral("Timing rules"));
        REQUIRE(tree->topLevelItemCount() == static_cast<int>(rules) + 1);
        const QTreeWidgetItem* rule = tree->topLevelItem(static_cast<int>(rules));
        CHECK(rule->text(0) == QStringLiteral("○ Never"));
        REQUIRE(rule->childCount() == 2);
        CHECK(rule->child(0)->text(0).startsWith(QStringLiteral("✓")));
        CHECK(rule->child(1)->text(0).startsWith(QStringLiteral("○")));
        CHECK(rule->child(1)->text(2).startsWith(QLatin1Char('+'))); // so many more are needed
    }
    const WindowBench bench(library);
    CHECK(bench.desk->work().now().marketBook->rules.back().title == "Never");
}

TEST_CASE("Market: arrows choose the line, ticks and typed figures its panes", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    auto* board = bench.find<StateBoard>(QStringLiteral("State of the market"));
    auto* chart = bench.window->findChild<LineChart*>();
    const QString whole = chart->reading();
    QTest::keyClick(board, Qt::Key_Down);
    bench.settle();
    CHECK(chart->reading() != whole);
    CHECK(chart->reading().contains(text(bench.desk->conditions().reading()->lines[1].line.title)));

    bench.showTab("Breadth");
    auto* table = bench.find<QTableWidget>(QStringLiteral("Breadth in figures"));
    const std::size_t panes = bench.desk->work().now().marketBook->panes.size();
    CHECK(table->item(0, 0)->checkState() == Qt::Checked);
    table->item(0, 0)->setCheckState(Qt::Unchecked);
    bench.settle();
    CHECK(bench.desk->work().now().marketBook->panes.size() == panes - 1);
    auto* figure = type(bench, "Another figure to draw", "advances -");
    enter(bench, figure);
    CHECK_FALSE(figure->toolTip().isEmpty());
    enter(bench, type(bench, "Another figure to draw", "advances / declines"));
    CHECK(bench.desk->work().now().marketBook->panes.back() == "advances / declines");
    CHECK(chart->view().figuresText().contains(QStringLiteral("advances / declines")));
    bench.desk->work().undoStack().undo();
    bench.desk->work().undoStack().undo();
    bench.settle();
    CHECK(bench.desk->work().now().marketBook->panes.size() == panes);
}

TEST_CASE("Market: the mosaic is walked by keys and looked into by clicks", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    bench.showTab("Mosaic");
    auto* picture = bench.find<MosaicPicture>(QStringLiteral("Mosaic of the market"));
    auto* part = bench.find<QComboBox>(QStringLiteral("What the mosaic shows"));
    double area = 0.0;
    for (const auto& cell : picture->cells())
        area += cell.width * cell.height;
    CHECK(area == Approx(1.0));
    picture->setFocus();
    QTest::keyClick(picture, Qt::Key_Right);
    const auto first = picture->current();
    REQUIRE(first);
    QTest::keyClick(picture, Qt::Key_Right);
    CHECK(picture->cells()[*picture->current()].column != picture->cells()[*first].column);
    QTest::keyClick(picture, Qt::Key_Down);
    enter(bench, picture);
    CHECK(part->currentIndex() > 0);
    QTest::mouseClick(picture, Qt::LeftButton, {},
                      picture->areaOf(picture->cells()[0]).center().toPoint());
    bench.settle();
    CHECK(bench.desk->focus().selected());
    QTest::keyClick(picture, Qt::Key_Backspace);
    bench.settle();
    CHECK(part->currentIndex() == 0);
}

TEST_CASE("Market: a list in the mosaic is drawn as a line of its own", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    const auto sessions = bench.desk->market().data().sessions();
    bench.desk->work().edit(QStringLiteral("lists"), [&](Work& work) {
        work.lists = {test::listOf(1, "Harbour"),
                      test::listOf(2, "Nobody", {{"NONE.C", sessions.back(), 1.0}})};
        for (const std::size_t stock : {3U, 8U})
            work.lists[0].edit().entries.push_back(
                {bench.desk->market().data().instrument(stock).symbol,
                 sessions[sessions.size() - 100], 1.0, "", ""});
    });
    bench.showTab("Mosaic");
    auto* part = bench.find<QComboBox>(QStringLiteral("What the mosaic shows"));
    auto* chart = bench.window->findChild<LineChart*>();
    for (const auto& [name, lines] : {std::pair("Harbour", 101), std::pair("Nobody", 1)}) {
        part->setCurrentText(QStringLiteral("List: ") + QLatin1String(name));
        Q_EMIT part->activated(part->currentIndex());
        bench.settle();
        CHECK(chart->reading().contains(QLatin1String(name)));
        const QString rows = chart->view().figuresText().trimmed();
        CHECK(std::abs(rows.count(u'\n') + 1 - lines) <= 2); // a session each, and the head
    }
}

TEST_CASE("Market: a retracement by two clicks and over the last swing", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    auto* chart = bench.window->findChild<LineChart*>();
    press(bench, "Last swing");
    CHECK(chart->retracementText().contains(QStringLiteral("taken back now")));
    press(bench, "Retrace");
    CHECK(chart->retracementText().contains(QStringLiteral("Click near where")));
    ChartView& plot = chart->view();
    const auto at = [&](double share) {
        return QPoint(static_cast<int>(plot.width() * share), plot.height() / 5);
    };
    QTest::mouseClick(&plot, Qt::LeftButton, {}, at(0.2));
    CHECK(chart->retracementText().contains(QStringLiteral("Now click")));
    QTest::mouseClick(&plot, Qt::LeftButton, {}, at(0.7));
    CHECK(chart->retracementText().contains(QStringLiteral("at most")));
    press(bench, "Retrace");
    CHECK(chart->retracementText().isEmpty());
}

TEST_CASE("Market: a divergence in the list is shown on the chart, stances tell what followed",
          "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    auto* chart = bench.window->findChild<LineChart*>();
    bench.showTab("Divergences");
    auto* table = bench.find<QTableWidget>(QStringLiteral("Divergences"));
    REQUIRE(table->rowCount() > 3);
    const double before = chart->view().viewport().from();
    table->setFocus();
    table->setCurrentCell(table->rowCount() - 1, 0);
    CHECK(chart->view().viewport().from() < before);
    bench.showTab("Stances");
    CHECK(bench.find<QTableWidget>(QStringLiteral("Past stances"))->rowCount() > 1);
    bench.desk->focus().setDay(bench.desk->market().data().sessions().front());
    bench.settle();
    CHECK(bench.find<QTableWidget>(QStringLiteral("Past stances"))->rowCount() == 0);
    bench.showTab("Own screens");
    CHECK(toldBy(bench, "Health of your own screens").contains(QStringLiteral("Save a long")));
}

TEST_CASE("Market: a chosen rule stays chosen when the day changes, and its actions work", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    auto* rules = bench.find<QTreeWidget>(QStringLiteral("Timing rules"));
    const auto remove = [&]() -> QAction* {
        for (QAction* action : rules->actions())
            if (action->text().contains(QStringLiteral("Remove")))
                return action;
        throw std::runtime_error("no such action");
    }();
    CHECK_FALSE(remove->isEnabled());
    rules->setCurrentItem(rules->topLevelItem(1)->child(0)); // a part stands for its rule
    CHECK(remove->isEnabled());
    bench.desk->focus().stepSessions(-1);
    bench.settle();
    CHECK(rules->currentItem() == rules->topLevelItem(1));
    REQUIRE(remove->isEnabled());
    const auto before = bench.desk->work().now().marketBook->rules;
    remove->trigger();
    bench.settle();
    const auto& after = bench.desk->work().now().marketBook->rules;
    REQUIRE(after.size() + 1 == before.size());
    CHECK(after[1].title == before[2].title);
}

TEST_CASE("Charts: logarithmic by a key, figures copied, pictures saved", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    ChartView& plot = bench.window->findChild<LineChart*>()->view();
    const auto isLogarithmic = [&] {
        return plot.setUp().values == charts::ValueScale::Logarithmic;
    };
    plot.setFocus();
    QTest::keyClick(&plot, Qt::Key_L, Qt::ShiftModifier);
    CHECK(isLogarithmic());
    QTest::keyClick(&plot, Qt::Key_L, Qt::ShiftModifier);
    CHECK_FALSE(isLogarithmic());
    const QStringList lines = plot.figuresText().trimmed().split(QLatin1Char('\n'));
    CHECK(lines.size() ==
          static_cast<qsizetype>(bench.desk->market().data().sessions().size()) + 1);
    CHECK(lines.first().startsWith(QStringLiteral("day\topen\thigh\tlow\tclose\t")));
    CHECK(lines.last().startsWith(text(bench.desk->focus().day().iso())));
    const auto saves = [&](const std::filesystem::path& file) {
        return writePicture(text(file.string()), plot.pictureFor(text(file.string()))());
    };
    for (const char* name : {"chart.png", "chart.svg"}) {
        const auto file = own.path() / name;
        CHECK(saves(file));
        CHECK(std::filesystem::file_size(file) > 5000);
    }
    CHECK_FALSE(saves(own.path() / "none" / "chart.svg"));
    CHECK_FALSE(saves(own.path() / "none" / "chart.png"));
}

} // namespace sieve::app
