#include "app/chart/chart_view.h"
#include "app/parts/actions.h"
#include "app/parts/expression_edit.h"
#include "app/weigh/case_model.h"
#include "app/weigh/occurrences_dialog.h"
#include "tests/app/opened.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QPushButton>
#include <QTableView>
#include <catch2/catch.hpp>

namespace sieve::app {

namespace {

/// Weigh with one stock, and the window of occurrences open over it.
struct Looking {
    Looking() : bench(own.path() / "library.sqlite")
    {
        stock = bench.desk->market().data().find("BRCD.C").value_or(6);
        bench.desk->focus().select(stock);
        bench.go("weigh");
        QTest::keyClick(bench.window->place(QStringLiteral("weigh")), Qt::Key_O);
        test::waitUntil([&] { return bench.window->findChild<OccurrencesDialog*>(); }, "a dialog");
    }

    OccurrencesDialog& dialog() const { return *bench.window->findChild<OccurrencesDialog*>(); }
    const OccurrencesDialog::Answer& ask(const QString& condition) const
    {
        auto* edit = dialog().findChild<ExpressionEdit*>();
        edit->setText(condition);
        QTest::keyClick(edit, Qt::Key_Return);
        bench.settle();
        REQUIRE(dialog().answer());
        return *dialog().answer();
    }
    CaseModel& model() const { return *dialog().findChild<CaseModel*>(); }
    QString told() const
    {
        QString all;
        for (const auto* label : dialog().findChildren<QLabel*>())
            all += label->text() + QLatin1Char('\n');
        return all;
    }

    test::OwnFolder own;
    test::WindowBench bench;
    std::size_t stock = 0;
};

} // namespace

TEST_CASE("Occurrences: a condition is asked by keys, its cases and sums are shown", "[app]")
{
    const Looking looking;
    const auto& answer = looking.ask(QStringLiteral("crosses_above(close, sma(close, 50))"));
    CHECK(answer.all.cases > 20);
    CHECK(answer.own.cases > 0);
    CHECK(answer.own.cases < answer.all.cases);
    CHECK(looking.model().rowCount() ==
          static_cast<int>(std::min<std::size_t>(answer.all.cases, 2000)));
    auto* alone = looking.dialog().findChild<QCheckBox*>();
    QTest::mouseClick(alone, Qt::LeftButton, {}, QPoint(10, alone->height() / 2));
    CHECK(looking.model().rowCount() == static_cast<int>(answer.own.cases));
    for (int row = 0; row < looking.model().rowCount(); ++row) {
        CHECK(looking.model().caseAt(row).of.of.stock == looking.stock);
        CHECK(looking.model().caseAt(row).way.size() == CaseModel::before + CaseModel::after);
    }
    CHECK_FALSE(looking.dialog().grab().isNull());
    // Another stop ends the same cases otherwise.
    const std::size_t count = answer.all.cases;
    const std::size_t stopped = answer.all.stopped;
    for (auto* box : looking.dialog().findChildren<QDoubleSpinBox*>())
        if (box->accessibleName() == QStringLiteral("Stop"))
            box->setValue(2.0);
    const auto& other = looking.ask(QStringLiteral("crosses_above(close, sma(close, 50))"));
    CHECK(other.all.cases == count);
    CHECK(other.all.stopped > stopped);
}

TEST_CASE("Occurrences: a case leads to its stock and day", "[app]")
{
    const Looking looking;
    looking.ask(QStringLiteral("close == highest(close, 252)"));
    int row = 0;
    while (looking.model().caseAt(row).of.of.stock == looking.stock)
        ++row;
    const studies::Aftermath wanted = looking.model().caseAt(row).of;
    int told = -1;
    const auto* view = looking.bench.chartIn("weigh");
    QObject::connect(view, &ChartView::pointed, view, [&](int bar) { told = bar; });
    auto* table = looking.dialog().findChild<QTableView*>();
    table->setCurrentIndex(looking.model().index(row, 0));
    QTest::keyClick(table, Qt::Key_Return);
    looking.bench.settle();
    CHECK(looking.bench.desk->focus().selected() == wanted.of.stock);
    const charts::Chart& chart = looking.bench.chartIn("weigh")->chart();
    REQUIRE(told >= 0);
    CHECK(chart.bars->days[static_cast<std::size_t>(told)] == wanted.day);
    CHECK(chart.symbol == looking.bench.desk->market().data().instrument(wanted.of.stock).symbol);
}

TEST_CASE("Occurrences: what is wrong is told, a screen is asked by its name", "[app]")
{
    const Looking looking;
    auto* edit = looking.dialog().findChild<ExpressionEdit*>();
    edit->setText(QStringLiteral("close > smaa(close, 50)"));
    QTest::keyClick(edit, Qt::Key_Return);
    looking.bench.settle();
    CHECK_FALSE(looking.dialog().answer());
    CHECK(looking.told().contains(QStringLiteral("smaa")));
    auto* screens = looking.dialog().findChild<QComboBox*>();
    REQUIRE(screens->count() > 2);
    screens->setCurrentIndex(1);
    Q_EMIT screens->activated(1);
    looking.bench.settle();
    CHECK(edit->text() == QStringLiteral("passes(\"%1\")").arg(screens->itemText(1)));
    CHECK(looking.dialog().answer());
}

} // namespace sieve::app
