#include "app/desk/navigator.h"
#include "app/parts/actions.h"
#include "app/parts/expression_edit.h"
#include "app/parts/figure_table.h"
#include "app/parts/number_text.h"
#include "app/prove/curve_picture.h"
#include "app/prove/followed_view.h"
#include "app/prove/neighbours_view.h"
#include "app/prove/prove_place.h"
#include "app/prove/question_panel.h"
#include "app/prove/rule_view.h"
#include "app/prove/screen_box.h"
#include "app/prove/standings_view.h"
#include "app/sift/followed_glance.h"
#include "core/studies/cautions.h"
#include "tests/app/opened.h"
#include "tests/app/prove/prove_driving.h"

#include <QAction>
#include <QCheckBox>
#include <QComboBox>
#include <QDateEdit>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QSpinBox>
#include <QTableView>
#include <algorithm>
#include <catch2/catch.hpp>

// The place Prove, driven by keys and mouse in the real window.

namespace sieve::app {

using namespace test;

TEST_CASE("Prove: what followed is asked by keys, with horizons, cautions, groups and cases",
          "[app]")
{
    const WindowBench bench{std::filesystem::path()};
    bench.go("prove");
    auto& view = *bench.window->findChild<FollowedView*>();
    REQUIRE(view.isVisible());
    CHECK(isSaid(view, QStringLiteral("How did it go on?")));
    type(*childOf<ExpressionEdit>(view, QStringLiteral("Condition")), "close > sma(close, 20)");
    bench.pressCtrl(Qt::Key_Return);
    bench.settle();
    const auto following = view.answer().following;
    REQUIRE(following);
    REQUIRE(following->cases.size() > 100);
    const auto& horizons = *childOf<QTableView>(view, QStringLiteral("Horizons"));
    CHECK(cellsOf(horizons, 0).join(QLatin1Char(' ')) == QStringLiteral("1 5 20 60"));
    CHECK(cellsOf(horizons, 2)[1] == signedText(following->horizons[1].own.mean, Unit::Percent, 1));
    CHECK(chosenRow(&horizons) == 2);
    CHECK(isSaid(view, QStringLiteral("After 20 bars the")));
    const auto cautions = studies::cautionsOf(*following, 2);
    REQUIRE_FALSE(cautions.empty()); // they overlap
    for (const auto& caution : cautions)
        CHECK(isSaid(view, text(caution.words)));
    auto& shown = *childOf<QTableView>(view, QStringLiteral("Horizons"));
    chooseRow(&shown, 0);
    CHECK(isSaid(view, QStringLiteral("After 1 bar the")));

    // Groups by another kind, and a figure that tells cases apart.
    const auto& groups = *childOf<QTableView>(view, QStringLiteral("Groups of cases"));
    CHECK(groups.model()->rowCount() >= 1);
    auto* by = childOf<QComboBox>(view, QStringLiteral("Told apart by"));
    by->setCurrentText(QStringLiteral("the day set aside"));
    bench.settle();
    CHECK(groups.model()->rowCount() == 0); // none was
    auto* aside = childOf<QDateEdit>(view, QStringLiteral("Set aside from"));
    aside->setDate(dateOf(view.answer().following->cases.back().day));
    bench.pressCtrl(Qt::Key_Return);
    bench.settle();
    REQUIRE(groups.model()->rowCount() == 2);
    aside->setDate(aside->minimumDate());
    by->setCurrentIndex(0);
    bench.pressCtrl(Qt::Key_Return);
    bench.settle();
    by->setCurrentText(QStringLiteral("sector"));
    bench.settle();
    CHECK(groups.model()->rowCount() > 3);
    by->setCurrentText(QStringLiteral("fifths of the figure"));
    bench.settle();
    CHECK(groups.model()->rowCount() == 0); // none was asked for
    type(*childOf<ExpressionEdit>(view, QStringLiteral("Told apart by")), "rsi(close, 14)");
    QTest::keyClick(childOf<ExpressionEdit>(view, QStringLiteral("Told apart by")), Qt::Key_Return);
    bench.settle();
    CHECK(groups.model()->rowCount() == 5);

    // The newest case comes first; it leads to its stock on its day.
    auto& cases = *childOf<QTableView>(view, QStringLiteral("Cases"));
    REQUIRE(cases.model()->rowCount() == static_cast<int>(following->cases.size()));
    const auto newest = std::ranges::max(following->cases, {}, &studies::FollowedCase::day);
    CHECK(cellsOf(cases, 1).front() == shortDayText(newest.day));
    chooseRow(&cases, 5);
    const Day then = dayOf(QLocale::c().toDate(cellsOf(cases, 1)[5], QStringLiteral("d MMM yyyy")));
    Q_EMIT cases.activated(cases.currentIndex());
    bench.settle();
    CHECK(bench.desk->navigator().shown() == PlaceId::Weigh);
    CHECK(bench.desk->focus().day() == then);
}

TEST_CASE("Prove: faults and empty answers are told, a wall of the cases opens and closes", "[app]")
{
    const WindowBench bench{std::filesystem::path()};
    bench.go("prove");
    auto& view = *bench.window->findChild<FollowedView*>();
    auto& condition = *childOf<ExpressionEdit>(view, QStringLiteral("Condition"));
    bench.pressCtrl(Qt::Key_Return);
    CHECK(isSaid(view, QStringLiteral("Choose a screen or type a condition first")));
    type(condition, "close >");
    bench.pressCtrl(Qt::Key_Return);
    bench.settle();
    CHECK(isSaid(view, QStringLiteral("in 'close >'")));
    type(condition, "close < 0");
    bench.pressCtrl(Qt::Key_Return);
    bench.settle();
    CHECK(isSaid(view, QStringLiteral("never matched")));
    auto* after = childOf<QLineEdit>(view, QStringLiteral("After so many bars"));
    after->setText(QStringLiteral("5, x"));
    bench.pressCtrl(Qt::Key_Return);
    bench.settle();
    CHECK(isSaid(view, QStringLiteral("0 bars cannot be told")));
    after->setText(QStringLiteral("3;10"));
    type(condition, "close > 1.05 * prior(close)");
    bench.pressCtrl(Qt::Key_Return);
    bench.settle();
    CHECK(
        cellsOf(*childOf<QTableView>(view, QStringLiteral("Horizons")), 0).join(QLatin1Char(' ')) ==
        QStringLiteral("3 10"));
    view.findChild<QTabWidget*>()->setCurrentIndex(1);
    buttonOf<QPushButton>(view, QStringLiteral("&Wall of these cases"))->click();
    bench.settle();
    auto* place = bench.window->findChild<ProvePlace*>();
    auto* wall = place->findChild<ChartWall*>();
    REQUIRE(wall->isVisible());
    CHECK(wall->stocksShown() > 0);
    CHECK(wall->stocks().marked.size() >= wall->stocks().stocks.size());
    QTest::keyClick(place, Qt::Key_Escape);
    CHECK(view.isVisible());
}

TEST_CASE("Prove: standings of all screens, one screen's days, and the way back to Sift", "[app]")
{
    const WindowBench bench{std::filesystem::path()};
    bench.go("prove");
    bench.pressCtrl(Qt::Key_2);
    auto& view = *bench.window->findChild<StandingsView*>();
    REQUIRE(view.isVisible());
    childOf<QSpinBox>(view, QStringLiteral("Newest sessions"))->setValue(30);
    childOf<QSpinBox>(view, QStringLiteral("Held"))->setValue(5);
    childOf<QSpinBox>(view, QStringLiteral("Beside"))->setValue(5);
    buttonOf<QPushButton>(view, QStringLiteral("&Ask"))->click();
    CHECK(buttonOf<QPushButton>(view, QStringLiteral("&Stop")) != nullptr);
    bench.settle();
    const auto standings = view.answer().standings;
    REQUIRE(standings);
    CHECK(standings->of.size() == allScreens(bench.desk->work().now()).size());
    CHECK(standings->startAt.size() == 26);
    auto& table = *childOf<QTableView>(view, QStringLiteral("Standings"));
    REQUIRE(table.model()->rowCount() == static_cast<int>(standings->of.size()));
    std::vector<double> gains; // the best first, those without a gain last
    for (int row = 0; row < table.model()->rowCount(); ++row) {
        const QVariant figure = table.model()->index(row, 1).data(figureRole);
        gains.push_back(figure.isValid() ? figure.toDouble() : -9.0);
    }
    CHECK(std::ranges::is_sorted(gains, std::ranges::greater{}));
    CHECK(table.model()->headerData(2, Qt::Horizontal).toString() == QStringLiteral("Newest 5"));
    const auto& starts = *childOf<QTableView>(view, QStringLiteral("Starts"));
    CHECK(starts.model()->rowCount() == 26);
    table.setCurrentIndex(table.model()->index(3, 0));
    const QString name = table.model()->index(3, 0).data().toString();
    CHECK(isSaid(view, name));
    buttonOf<QPushButton>(view, QStringLiteral("&Open in Sift"))->click();
    bench.settle();
    CHECK(bench.desk->navigator().shown() == PlaceId::Sift);
    CHECK(text(bench.desk->work().now().screen->name) == name);

    bench.go("prove");
    buttonOf<QPushButton>(view, QStringLiteral("What &followed"))->click();
    bench.settle();
    const auto& followed = *bench.window->findChild<FollowedView*>();
    REQUIRE(followed.isVisible());
    REQUIRE(followed.answer().following);
    CHECK(text(followed.answer().following->question.screen.name) == name);
}

TEST_CASE("Prove: the stocks of a start, and how all screens did together", "[app]")
{
    const WindowBench bench{std::filesystem::path()};
    bench.go("prove");
    bench.pressCtrl(Qt::Key_2);
    auto& view = *bench.window->findChild<StandingsView*>();
    childOf<QSpinBox>(view, QStringLiteral("Newest sessions"))->setValue(12);
    bench.pressCtrl(Qt::Key_Return);
    bench.settle();
    REQUIRE(view.answer().standings);
    const auto& standings = *view.answer().standings;
    auto& table = *childOf<QTableView>(view, QStringLiteral("Standings"));
    const auto most = std::ranges::max_element(
        standings.of, {}, [](const auto& each) { return each.picks.empty() ? 0 : each.picks[0]; });
    const auto screen = static_cast<std::size_t>(most - standings.of.begin());
    chooseRow(&table, static_cast<int>(screen));
    auto& starts = *childOf<QTableView>(view, QStringLiteral("Starts"));
    chooseRow(&starts, 0);
    Q_EMIT starts.activated(starts.currentIndex());
    bench.settle();
    auto& stocks = *childOf<QTableView>(view, QStringLiteral("Stocks of a start"));
    CHECK(stocks.isVisible());
    REQUIRE(static_cast<std::size_t>(stocks.model()->rowCount()) == most->picks[0]);
    REQUIRE(stocks.model()->rowCount() > 0);
    const auto& together = *childOf<QTableView>(view, QStringLiteral("All together"));
    CHECK(together.model()->rowCount() == static_cast<int>(standings.startAt.size()));
    chooseRow(&stocks, 0);
    Q_EMIT stocks.activated(stocks.currentIndex());
    bench.settle();
    CHECK(bench.desk->navigator().shown() == PlaceId::Weigh);
    CHECK(bench.desk->focus().day() == standings.question.starts[0]);
    // Another screen: the stocks of the former one do not stand beside it.
    bench.go("prove");
    chooseRow(&table, static_cast<int>(screen == 0 ? 1 : 0));
    CHECK(stocks.model()->rowCount() == 0);
}

TEST_CASE("Prove: a portfolio by rule with its months and trades", "[app]")
{
    const WindowBench bench{std::filesystem::path()};
    bench.go("prove");
    bench.pressCtrl(Qt::Key_3);
    auto& view = *bench.window->findChild<RuleView*>();
    REQUIRE(view.isVisible());
    bench.pressCtrl(Qt::Key_Return);
    CHECK(isSaid(view, QStringLiteral("Choose a screen or type a condition first")));
    type(*childOf<ExpressionEdit>(view, QStringLiteral("Condition")), "close > sma(close, 20)");
    type(*childOf<ExpressionEdit>(view, QStringLiteral("Ranked by")), "change(close, 20)");
    childOf<QSpinBox>(view, QStringLiteral("Hold"))->setValue(3);
    childOf<QDoubleSpinBox>(view, QStringLiteral("Stop"))->setValue(8.0);
    bench.pressCtrl(Qt::Key_Return);
    bench.settle();
    const auto portfolio = view.answer().portfolio;
    REQUIRE(portfolio);
    CHECK(portfolio->rule.exits.stop == Approx(0.08));
    CHECK(portfolio->rule.steps[0].hold == 3);
    REQUIRE_FALSE(portfolio->trades.empty());
    const auto& trades = *childOf<QTableView>(view, QStringLiteral("Trades"));
    CHECK(trades.model()->rowCount() == static_cast<int>(portfolio->trades.size()));
    const auto& months = *childOf<QTableView>(view, QStringLiteral("Months"));
    CHECK(months.model()->columnCount() == 15);
    const auto& figures = *childOf<QTableView>(view, QStringLiteral("Figures"));
    CHECK(cellsOf(figures, 0).contains(QStringLiteral("Worst fall")));
    CHECK(isSaid(view, QStringLiteral("became")));
    // A rule that cannot be read is told; the former answer goes.
    type(*childOf<ExpressionEdit>(view, QStringLiteral("While the market")), "nosuch > 1");
    bench.pressCtrl(Qt::Key_Return);
    bench.settle();
    CHECK(isSaid(view, QStringLiteral("nosuch")));
    CHECK_FALSE(trades.isVisible());
}

TEST_CASE("Prove: saved screens are offered, and another market forgets the answer", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    bench.go("prove");
    auto& view = *bench.window->findChild<FollowedView*>();
    auto* box = view.findChild<ScreenBox*>();
    const int before = box->count();
    bench.desk->work().edit(QStringLiteral("test"), [&](Work& work) {
        screens::Screen screen = *work.screen;
        screen.name = "Mine";
        screen.criteria = {{"close > 1"}};
        keepScreen(work, screen, bench.desk->work().newId());
    });
    bench.settle();
    CHECK(box->count() == before + 1);
    box->setCurrentText(QStringLiteral("Mine"));
    bench.pressCtrl(Qt::Key_Return);
    bench.settle();
    REQUIRE(view.answer().following);
    CHECK(view.answer().following->question.screen.name == "Mine");
    bench.desk->market().keeper().open(demoDataset());
    waitUntil([&] { return !view.answer().following; }, "the answer to go");
    CHECK(isSaid(view, QStringLiteral("How did it go on?")));
}

TEST_CASE("Prove: Sift tells at a glance what followed, and leads to the whole answer", "[app]")
{
    const WindowBench bench{std::filesystem::path()};
    bench.go("sift");
    auto* glance = bench.window->findChild<FollowedGlance*>();
    REQUIRE(glance->isVisible());
    waitUntil([&] { return glance->following() != nullptr; }, "what followed");
    CHECK(glance->accessibleDescription().contains(QStringLiteral("After 20 bars")));
    const std::size_t cases = glance->following()->cases.size();
    QTest::mouseClick(glance, Qt::LeftButton, {}, glance->rect().center());
    bench.settle();
    CHECK(bench.desk->navigator().shown() == PlaceId::Prove);
    const auto& view = *bench.window->findChild<FollowedView*>();
    REQUIRE(view.answer().following);
    CHECK(view.answer().following->cases.size() == cases);
    CHECK(view.answer().following->question.screen.criteria ==
          bench.desk->work().now().screen->criteria);
    // Another screen: the former answer does not stand beside it.
    bench.go("sift");
    bench.desk->work().edit(QStringLiteral("test"), [](Work& work) {
        screens::Screen screen = *work.screen;
        screen.criteria = {{"close < 0"}};
        work.screen = screen;
    });
    bench.settle();
    waitUntil([&] { return glance->accessibleDescription().contains(QStringLiteral("No match")); },
              "the other answer");
}

TEST_CASE("Prove: neighbours of two limits are asked when their tab is seen", "[app]")
{
    const WindowBench bench{std::filesystem::path()};
    bench.go("prove");
    auto& view = *bench.window->findChild<FollowedView*>();
    auto& condition = *childOf<ExpressionEdit>(view, QStringLiteral("Condition"));
    type(condition, "close > 5 and rsi(close, 14) < 50 and volume > 100");
    bench.pressCtrl(Qt::Key_Return);
    bench.settle();
    auto* neighbours = view.findChild<NeighboursView*>();
    CHECK_FALSE(neighbours->neighbours()); // nobody looked at them yet
    view.findChild<QTabWidget*>()->setCurrentIndex(2);
    bench.settle();
    REQUIRE(neighbours->neighbours());
    CHECK(neighbours->neighbours()->across == "close");
    CHECK(neighbours->neighbours()->down == "rsi(close, 14)");
    CHECK(neighbours->neighbours()->question.of.horizons == std::vector<int>{20});
    auto* across = childOf<QComboBox>(*neighbours, QStringLiteral("Limit across"));
    CHECK(across->count() == 3);
    across->setCurrentIndex(2);
    Q_EMIT across->activated(2);
    bench.settle();
    CHECK(neighbours->neighbours()->across == "volume");
    across->setCurrentIndex(1);
    Q_EMIT across->activated(1);
    CHECK(isSaid(*neighbours, QStringLiteral("two different limits")));
    type(condition, "close > sma(close, 10)");
    bench.pressCtrl(Qt::Key_Return);
    bench.settle();
    CHECK(isSaid(*neighbours, QStringLiteral("two limits that are numbers")));
}

TEST_CASE("Prove: an answer says when the as-of day is another, and one asked anew is of that day",
          "[app]")
{
    const WindowBench bench{std::filesystem::path()};
    bench.go("prove");
    auto& view = *bench.window->findChild<FollowedView*>();
    type(*childOf<ExpressionEdit>(view, QStringLiteral("Condition")),
         "close > 5 and rsi(close, 14) < 50");
    bench.pressCtrl(Qt::Key_Return);
    bench.settle();
    view.findChild<QTabWidget*>()->setCurrentIndex(2);
    bench.settle();
    auto* neighbours = view.findChild<NeighboursView*>();
    const auto before = neighbours->neighbours();
    REQUIRE(before);
    const Day newest = bench.desk->focus().day();
    bench.desk->focus().stepSessions(-40);
    bench.settle();
    CHECK(isSaid(view, QStringLiteral("This is as known on %1").arg(shortDayText(newest))));
    bench.pressCtrl(Qt::Key_Return);
    bench.settle();
    CHECK_FALSE(isSaid(view, QStringLiteral("This is as known on")));
    CHECK(view.answer().following->day == bench.desk->focus().day());
    REQUIRE(neighbours->neighbours());
    CHECK(neighbours->neighbours() != before); // the same question of another day
    CHECK(neighbours->neighbours()->own().cases < before->own().cases);
}

TEST_CASE("Prove: what is stopped, or asked while another market opens, leaves no trace", "[app]")
{
    const WindowBench bench{std::filesystem::path()};
    bench.go("prove");
    auto& view = *bench.window->findChild<FollowedView*>();
    auto& condition = *childOf<ExpressionEdit>(view, QStringLiteral("Condition"));
    type(condition, "close > sma(close, 20)");
    bench.pressCtrl(Qt::Key_Return);
    buttonOf<QPushButton>(view, QStringLiteral("&Stop"))->click();
    CHECK(isSaid(view, QStringLiteral("Stopped; nothing was found out")));
    CHECK(buttonOf<QPushButton>(view, QStringLiteral("&Ask")) != nullptr);
    bench.pressCtrl(Qt::Key_Return);
    bench.settle();
    REQUIRE(isSaid(view, QStringLiteral("After 20 bars")));
    type(condition, "close > sma(close, 30)");
    bench.pressCtrl(Qt::Key_Return);
    CHECK(isSaid(view, QStringLiteral("Looking through")));
    buttonOf<QPushButton>(view, QStringLiteral("&Stop"))->click();
    CHECK(isSaid(view, QStringLiteral("After 20 bars"))); // the former answer stands
    // A market that opens while one is asked takes the question with it.
    bench.pressCtrl(Qt::Key_Return);
    Q_EMIT bench.desk->market().opened();
    CHECK(buttonOf<QPushButton>(view, QStringLiteral("&Ask")) != nullptr);
    CHECK(isSaid(view, QStringLiteral("How did it go on?")));
    bench.settle();
    CHECK_FALSE(view.answer().following);
}

} // namespace sieve::app
