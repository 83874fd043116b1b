#include "app/chart/chart_view.h"
#include "app/chart/price_chart.h"
#include "app/desk/open_market.h"
#include "app/desk/workbench.h"
#include "app/parts/expression_edit.h"
#include "app/prove/answer_model.h"
#include "app/prove/curve_picture.h"
#include "app/prove/followed_view.h"
#include "app/prove/kept_view.h"
#include "app/prove/rule_form.h"
#include "app/prove/rule_view.h"
#include "app/prove/standings_view.h"
#include "app/prove/step_fields.h"
#include "app/prove/trade_chart.h"
#include "tests/app/opened.h"
#include "tests/app/prove/prove_driving.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDateEdit>
#include <QDoubleSpinBox>
#include <QFileDialog>
#include <QInputDialog>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QSpinBox>
#include <QTabWidget>
#include <QTableView>
#include <catch2/catch.hpp>

// Answers that are kept, asked again, compared and saved, by keys and mouse in the real window.

namespace sieve::app {

using namespace test;

namespace {

void askCondition(const WindowBench& bench, const char* condition)
{
    auto& view = *bench.window->findChild<FollowedView*>();
    type(*childOf<ExpressionEdit>(view, QStringLiteral("Condition")), condition);
    bench.pressCtrl(Qt::Key_Return);
    bench.settle();
    REQUIRE(view.answer().following);
}

RuleView& askRule(const WindowBench& bench, const char* condition)
{
    bench.pressCtrl(Qt::Key_3);
    auto& view = *bench.window->findChild<RuleView*>();
    type(*childOf<ExpressionEdit>(view, QStringLiteral("Condition")), condition);
    bench.pressCtrl(Qt::Key_Return);
    bench.settle();
    REQUIRE(view.answer().portfolio);
    return view;
}

QPushButton& buttonOf(const QWidget& root, const char* words)
{
    for (auto* button : root.findChildren<QPushButton*>())
        if (button->text() == QString::fromUtf8(words))
            return *button;
    throw std::runtime_error(std::string("no button is called ") + words);
}

void saveAs(const WindowBench& bench, const std::filesystem::path& path, const QString& filter)
{
    bench.activate();
    answerNext<QFileDialog>(bench, [&](QFileDialog& dialog) {
        for (const QString& each : dialog.nameFilters())
            if (each.startsWith(filter))
                dialog.selectNameFilter(each);
        choose(dialog, path);
    });
    bench.pressCtrl(Qt::Key_S);
    bench.settle();
}

} // namespace

TEST_CASE("Prove: an answer is kept, undone, asked again and written about", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    bench.go("prove");
    bench.pressCtrl(Qt::Key_4);
    auto& kept = *bench.window->findChild<KeptView*>();
    REQUIRE(kept.isVisible());
    CHECK(isSaid(kept, QStringLiteral("Nothing is kept yet")));
    bench.pressCtrl(Qt::Key_1);
    bench.pressCtrl(Qt::Key_D); // without an answer nothing happens
    CHECK(bench.desk->work().now().runs->empty());
    askCondition(bench, "close > sma(close, 20)");
    bench.pressCtrl(Qt::Key_D);
    REQUIRE(bench.desk->work().now().runs->size() == 1);
    const studies::KeptRun run = *bench.desk->work().now().runs->front();
    CHECK(run.kind == studies::KeptRun::Kind::Followed);
    CHECK(run.question.find("close > sma(close, 20)") != std::string::npos);
    CHECK(run.data == bench.desk->market().identity());
    CHECK(run.data.size() == 16);
    CHECK_FALSE(run.sentence.empty());
    CHECK_FALSE(run.cautions.empty());

    bench.pressCtrl(Qt::Key_4);
    CHECK(isSaid(kept, QStringLiteral("After 20 bars the")));
    QTest::mouseClick(&buttonOf(kept, "Ask again"), Qt::LeftButton);
    bench.settle();
    CHECK(isSaid(kept, QStringLiteral("to the last bit")));
    auto& notes = *childOf<QPlainTextEdit>(kept, QStringLiteral("Notes"));
    for (auto* tabs : kept.findChildren<QTabWidget*>())
        tabs->setCurrentWidget(&notes);
    notes.setFocus();
    QTest::keyClicks(&notes, QStringLiteral("worth another look"));
    bench.pressCtrl(Qt::Key_1); // the notes are left
    bench.settle();
    CHECK(bench.desk->work().now().runs->front()->notes == "worth another look");
    bench.desk->work().undoStack().undo();
    CHECK(bench.desk->work().now().runs->front()->notes.empty());
    bench.desk->work().undoStack().undo();
    CHECK(bench.desk->work().now().runs->empty());
    bench.pressCtrl(Qt::Key_4);
    CHECK(isSaid(kept, QStringLiteral("Nothing is kept yet")));
    bench.desk->work().undoStack().redo();
    CHECK(*bench.desk->work().now().runs->front() == run);
    answerNext<QInputDialog>(bench, [](QInputDialog& dialog) {
        dialog.setTextValue(QStringLiteral("Above its average"));
        dialog.accept();
    });
    QTest::mouseClick(&buttonOf(kept, "Rename…"), Qt::LeftButton);
    CHECK(bench.desk->work().now().runs->front()->name == "Above its average");
    QTest::mouseClick(&buttonOf(kept, "Remove"), Qt::LeftButton);
    CHECK(bench.desk->work().now().runs->empty());
}

TEST_CASE("Prove: kept answers stand beside each other, and lead back to their questions", "[app]")
{
    const WindowBench bench{std::filesystem::path()};
    bench.go("prove");
    auto& rule = askRule(bench, "close > sma(close, 20)");
    bench.pressCtrl(Qt::Key_D);
    childOf<QDoubleSpinBox>(rule, QStringLiteral("Stop"))->setValue(5.0);
    askRule(bench, "close > sma(close, 20)");
    bench.pressCtrl(Qt::Key_D);
    bench.pressCtrl(Qt::Key_2);
    childOf<QSpinBox>(*bench.window->findChild<StandingsView*>(), QStringLiteral("Newest sessions"))
        ->setValue(20);
    bench.pressCtrl(Qt::Key_Return);
    bench.settle();
    bench.pressCtrl(Qt::Key_D);
    REQUIRE(bench.desk->work().now().runs->size() == 3);

    bench.pressCtrl(Qt::Key_4);
    auto& kept = *bench.window->findChild<KeptView*>();
    auto& table = *childOf<QTableView>(kept, QStringLiteral("Kept answers"));
    REQUIRE(table.model()->rowCount() == 3); // the newest first
    CHECK(cellsOf(table, 1) == QStringList{QStringLiteral("standings"),
                                           QStringLiteral("a portfolio by rule"),
                                           QStringLiteral("a portfolio by rule")});
    chooseRow(&table, 1);
    alsoChooseRow(&table, 2);
    CHECK(isSaid(kept, QStringLiteral("2 answers beside each other")));
    const auto& differs = *childOf<QTableView>(kept, QStringLiteral("What differs"));
    CHECK(cellsOf(differs, 0) == QStringList{QStringLiteral("exits: stop")});
    CHECK(cellsOf(differs, 1) == QStringList{QStringLiteral("0.05")});
    CHECK(cellsOf(differs, 2) == QStringList{QStringLiteral("0")});
    const auto& figures = *childOf<QTableView>(kept, QStringLiteral("Figures"));
    CHECK(figures.model()->columnCount() == 3);
    CHECK(kept.findChild<CurvePicture*>()->accessibleDescription().count(u';') == 1);

    // Back to the question: the fields bear it, and the same comes out.
    childOf<QDoubleSpinBox>(rule, QStringLiteral("Stop"))->setValue(33.0);
    chooseRow(&table, 1);
    QTest::mouseClick(&buttonOf(kept, "To the question"), Qt::LeftButton);
    CHECK(rule.isVisible());
    CHECK(childOf<QDoubleSpinBox>(rule, QStringLiteral("Stop"))->value() == Approx(5.0));
    bench.pressCtrl(Qt::Key_Return);
    bench.settle();
    bench.pressCtrl(Qt::Key_D);
    const auto& runs = *bench.desk->work().now().runs;
    CHECK(runs[3]->answer == runs[1]->answer);
    CHECK(runs[3]->question == runs[1]->question);

    bench.pressCtrl(Qt::Key_4);
    chooseRow(&table, 1); // of the four the standings
    Q_EMIT table.activated(table.currentIndex());
    auto& standings = *bench.window->findChild<StandingsView*>();
    CHECK(standings.isVisible());
    bench.pressCtrl(Qt::Key_Return);
    bench.settle();
    CHECK(standings.answer().kept.answer == runs[2]->answer);
}

TEST_CASE("Prove: each variant of an idea is counted and told", "[app]")
{
    const WindowBench bench{std::filesystem::path()};
    bench.go("prove");
    auto& view = *bench.window->findChild<FollowedView*>();
    childOf<QLineEdit>(view, QStringLiteral("Idea"))->setText(QStringLiteral("averages"));
    askCondition(bench, "close > sma(close, 20)");
    CHECK_FALSE(isSaid(view, QStringLiteral("variants of the idea")));
    askCondition(bench, "close > sma(close, 30)");
    CHECK(isSaid(view, QStringLiteral("one of 2 variants of the idea")));
    askCondition(bench, "close > sma(close, 20)"); // asked before: no other variant
    CHECK(isSaid(view, QStringLiteral("one of 2 variants of the idea")));
    childOf<QLineEdit>(view, QStringLiteral("Idea"))->setText(QStringLiteral("other"));
    bench.pressCtrl(Qt::Key_Return);
    bench.settle();
    CHECK_FALSE(isSaid(view, QStringLiteral("variants of the idea")));

    auto& rule = askRule(bench, "close > sma(close, 20)");
    CHECK_FALSE(isSaid(rule, QStringLiteral("variants of the idea"))); // of another kind
    askRule(bench, "close > sma(close, 30)");
    CHECK(isSaid(rule, QStringLiteral("one of 2 variants of the idea")));
    CHECK(isSaid(rule, QStringLiteral("Sharpe ratio is truly above")));
}

TEST_CASE("Prove: an answer is saved as a report and as tables", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    bench.go("prove");
    askCondition(bench, "close > sma(close, 20) and volume > 0");
    saveAs(bench, own.path() / "report.html", QStringLiteral("Report, HTML"));
    const std::string html = own.read("report.html");
    CHECK_THAT(html, Catch::Contains("After 20 bars the"));
    CHECK_THAT(html, Catch::Contains("What weakens it"));
    CHECK_THAT(html, Catch::Contains("data:image/png;base64,"));
    CHECK_THAT(html, Catch::Contains("close &gt; sma(close, 20)"));
    CHECK_THAT(html, Catch::Contains("What it supposes"));
    CHECK_THAT(html, Catch::Contains(bench.desk->market().identity()));
    saveAs(bench, own.path() / "cases.csv", QStringLiteral("Cases, CSV"));
    const std::string cases = own.read("cases.csv");
    CHECK(static_cast<std::size_t>(std::ranges::count(cases, '\n')) ==
          bench.window->findChild<FollowedView*>()->answer().following->cases.size() + 1);

    // Another kind is chosen under the name that is offered: it takes that kind's ending.
    bench.activate();
    answerNext<QFileDialog>(bench, [&](QFileDialog& dialog) {
        CHECK(dialog.selectedFiles().front().endsWith(QLatin1String(".pdf")));
        dialog.setDirectory(QString::fromStdString(own.path().string()));
        auto& kinds = *dialog.findChild<QComboBox*>(QStringLiteral("fileTypeCombo"));
        for (int kind = 0; kind < kinds.count(); ++kind)
            if (kinds.itemText(kind).startsWith(QStringLiteral("Cases, workbook"))) {
                kinds.setCurrentIndex(kind);
                Q_EMIT kinds.activated(kind);
                Q_EMIT kinds.textActivated(kinds.itemText(kind));
            }
        CHECK(dialog.selectedFiles().front().endsWith(QLatin1String(".xlsx")));
        accept(dialog);
    });
    bench.pressCtrl(Qt::Key_S);
    bench.settle();
    std::size_t workbooks = 0;
    for (const auto& file : std::filesystem::directory_iterator(own.path()))
        workbooks += file.path().extension() == ".xlsx" ? 1U : 0U;
    CHECK(workbooks == 1);

    const auto& rule = askRule(bench, "close > sma(close, 20)");
    saveAs(bench, own.path() / "rule.pdf", QStringLiteral("Report, PDF"));
    CHECK(own.read("rule.pdf").starts_with("%PDF"));
    saveAs(bench, own.path() / "trades.xlsx", QStringLiteral("Trades, workbook"));
    CHECK(own.read("trades.xlsx").starts_with("PK"));
    saveAs(bench, own.path() / "curve.csv", QStringLiteral("Curve, CSV"));
    const std::string curve = own.read("curve.csv");
    CHECK(static_cast<std::size_t>(std::ranges::count(curve, '\n')) ==
          rule.answer().portfolio->sessions.size() + 1);
    saveAs(bench, own.path() / "nowhere" / "rule.pdf", QStringLiteral("Report, PDF"));
    CHECK(isSaid(*bench.window, QStringLiteral("could not be saved")));
    // Of a kept answer, without asking it again.
    bench.pressCtrl(Qt::Key_D);
    bench.pressCtrl(Qt::Key_4);
    saveAs(bench, own.path() / "kept.html", QStringLiteral("Report, HTML"));
    CHECK_THAT(own.read("kept.html"), Catch::Contains("Worth day by day"));
}

TEST_CASE("Prove: a rule of several steps, filled at a limit and chosen anew on a condition",
          "[app]")
{
    const WindowBench bench{std::filesystem::path()};
    bench.go("prove");
    bench.pressCtrl(Qt::Key_3);
    auto& view = *bench.window->findChild<RuleView*>();
    auto& form = *view.findChild<RuleForm*>();
    QTest::mouseClick(&buttonOf(form, "What is held else…"), Qt::LeftButton);
    QTest::mouseClick(&buttonOf(form, "What is held else…"), Qt::LeftButton);
    auto steps = form.findChildren<StepFields*>();
    REQUIRE(steps.size() == 3);
    const auto fill = [](StepFields* step, const char* condition, const char* when) {
        type(*childOf<ExpressionEdit>(*step, QStringLiteral("Condition")), condition);
        type(*childOf<ExpressionEdit>(*step, QStringLiteral("While the market")), when);
    };
    fill(steps[0], "close > sma(close, 20)", "close > sma(close, 50)");
    for (auto* box : steps[1]->findChildren<QCheckBox*>())
        box->setChecked(box->text().contains(QStringLiteral("cash")));
    type(*childOf<ExpressionEdit>(*steps[1], QStringLiteral("While the market")),
         "close > sma(close, 10)");
    fill(steps[2], "close > 1", "");
    childOf<QComboBox>(form, QStringLiteral("Filled"))->setCurrentIndex(2);
    childOf<QDoubleSpinBox>(form, QStringLiteral("Limit below the close"))->setValue(1.0);
    childOf<QComboBox>(form, QStringLiteral("Chosen anew"))->setCurrentIndex(3);
    type(*childOf<ExpressionEdit>(form, QStringLiteral("Anew when")), "close > prior(close, 5)");
    auto* aside = childOf<QDateEdit>(form, QStringLiteral("Set aside from"));
    aside->setDate(
        aside->minimumDate().addDays(aside->minimumDate().daysTo(aside->maximumDate()) / 2));
    bench.pressCtrl(Qt::Key_Return);
    bench.settle();
    REQUIRE(view.answer().portfolio);
    const auto& rule = view.answer().portfolio->rule;
    REQUIRE(rule.steps.size() == 3);
    CHECK(rule.steps[0].when == "close > sma(close, 50)");
    CHECK(rule.steps[1].isCash);
    CHECK(rule.steps[2].screen.criteria.front().text == "close > 1");
    CHECK(rule.trading.filledAt == studies::Trading::FilledAt::Limit);
    CHECK(rule.trading.limit == Approx(0.01));
    CHECK(rule.rebalancing.by == studies::Rebalancing::By::Condition);
    CHECK(rule.rebalancing.condition == "close > prior(close, 5)");
    REQUIRE(view.answer().split);
    const auto& figures = *childOf<QTableView>(view, QStringLiteral("Figures"));
    CHECK(figures.model()->columnCount() == 5);

    // The rule comes back whole into fields that say something else; a step can be taken away.
    const studies::PortfolioRule whole = rule;
    QTest::mouseClick(&buttonOf(*steps[1], "Take away"), Qt::LeftButton);
    form.setExample();
    aside->setDate(aside->minimumDate());
    CHECK_FALSE(form.rule(bench.desk->work().now()).setAside);
    CHECK(form.rule(bench.desk->work().now()).steps.size() == 2);
    CHECK(form.setRule(bench.desk->work().now(), whole));
    CHECK(form.rule(bench.desk->work().now()) == whole);
    // What the fields cannot show leaves them alone.
    studies::PortfolioRule odd = whole;
    odd.steps[0].screen.criteria = {{"close > 1 # a comment"}};
    CHECK_FALSE(form.setRule(bench.desk->work().now(), odd));
    CHECK(form.rule(bench.desk->work().now()) == whole);
}

TEST_CASE("Prove: a trade is seen on the chart of its stock", "[app]")
{
    const WindowBench bench{std::filesystem::path()};
    bench.go("prove");
    auto& view = askRule(bench, "close > sma(close, 20)");
    for (auto* tabs : view.findChildren<QTabWidget*>())
        tabs->setCurrentIndex(2);
    bench.settle();
    auto& trades = *childOf<QTableView>(view, QStringLiteral("Trades"));
    const auto& portfolio = *view.answer().portfolio;
    chooseRow(&trades, 1);
    bench.settle();
    const charts::Chart& chart = view.findChild<TradeChart*>()->chart().view().chart();
    const studies::Trade& trade = portfolio.trades[1];
    CHECK(chart.symbol == bench.desk->market().data().instrument(trade.stock).symbol);
    const auto isMarked = [&chart](Day day, const char* words) {
        return std::ranges::any_of(chart.marks, [&](const charts::Mark& mark) {
            return mark.day == day && mark.text.find(words) != std::string::npos;
        });
    };
    CHECK(isMarked(portfolio.sessions[trade.entered], "Bought at"));
    if (trade.left)
        CHECK(isMarked(portfolio.sessions[*trade.left], "Sold at"));
}

} // namespace sieve::app
