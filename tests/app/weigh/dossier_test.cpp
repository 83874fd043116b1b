#include "app/chart/chart_view.h"
#include "app/parts/actions.h"
#include "app/weigh/dossier.h"
#include "app/weigh/dossier_page.h"
#include "app/weigh/dossier_table_dialog.h"
#include "app/weigh/explain_dialog.h"
#include "tests/app/opened.h"

#include <QClipboard>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QScrollArea>
#include <QScrollBar>
#include <QTableWidget>
#include <QToolButton>
#include <QTreeWidget>
#include <algorithm>
#include <catch2/catch.hpp>

// The dossier in the real window, by mouse and keys.

namespace sieve::app {

namespace {

/// The whole demo market with a stock of long standing in Weigh.
struct Reading {
    Reading() : bench(own.path() / "library.sqlite", test::wholeDemoDataset()) { show("BRCD.C"); }

    void show(const std::string& symbol) const
    {
        bench.desk->focus().select(bench.desk->market().data().find(symbol).value());
        bench.go("weigh");
    }
    DossierPage& page() const { return *bench.window->findChild<DossierPage*>(); }
    Dossier& dossier() const { return *bench.window->findChild<Dossier*>(); }
    int scrolled() const
    {
        return bench.window->findChild<Dossier*>()
            ->findChild<QScrollArea*>()
            ->verticalScrollBar()
            ->value();
    }
    void press(Qt::Key key, Qt::KeyboardModifiers with = Qt::NoModifier) const
    {
        QTest::keyClick(&page(), key, with);
        bench.settle();
    }
    /// Goes down to the first row whose spoken words begin so.
    void goTo(const QString& words) const
    {
        page().setFocus();
        for (int step = 0; step < 400 && !page().spokenRow().startsWith(words); ++step)
            QTest::keyClick(&page(), Qt::Key_Down);
        INFO(words.toStdString());
        REQUIRE(page().spokenRow().startsWith(words));
    }
    template <class Dialog> Dialog& dialog() const
    {
        Dialog* found = nullptr;
        test::waitUntil(
            [&] { return (found = bench.window->findChild<Dialog*>()) && found->isVisible(); },
            "a dialog");
        bench.settle();
        return *found;
    }
    double value(std::string_view table, std::string_view row, std::size_t cell) const
    {
        for (const dossier::Part& part : page().dossier()->parts)
            for (const dossier::Table& each : part.tables)
                for (const dossier::Row& of : each.rows)
                    if (each.key == table && of.title == row)
                        return of.cells.at(cell).value;
        throw std::runtime_error("no such row");
    }

    test::OwnFolder own;
    test::WindowBench bench;
};

} // namespace

TEST_CASE("Dossier: jump words and keys lead from part to part", "[app]")
{
    const Reading reading;
    CHECK(reading.page().dossier()->parts.size() == dossier::partKeys().size());
    QTest::keyClick(reading.bench.window->place(QStringLiteral("weigh")), Qt::Key_J);
    CHECK(reading.scrolled() == reading.page().topOf("figures"));
    QTest::keyClick(reading.bench.window->place(QStringLiteral("weigh")), Qt::Key_J);
    CHECK(reading.scrolled() == reading.page().topOf("score"));
    QTest::keyClick(reading.bench.window->place(QStringLiteral("weigh")), Qt::Key_J,
                    Qt::ShiftModifier);
    CHECK(reading.scrolled() == reading.page().topOf("figures"));
    for (auto* word : reading.dossier().findChildren<QToolButton*>())
        if (word->text() == QStringLiteral("Peers"))
            QTest::mouseClick(word, Qt::LeftButton);
    CHECK(reading.scrolled() == reading.page().topOf("peers"));
}

TEST_CASE("Dossier: a figure tells where it comes from", "[app]")
{
    const Reading reading;
    QTest::keyClick(reading.bench.window->place(QStringLiteral("weigh")), Qt::Key_F);
    CHECK(reading.page().hasFocus());
    reading.goTo(QStringLiteral("Price to earnings"));
    CHECK(reading.page().accessibleDescription() == reading.page().spokenRow());
    CHECK_THAT(reading.page().spokenRow().toStdString(), Catch::Contains("now: 13.7"));
    reading.press(Qt::Key_Return);
    auto& dialog = reading.dialog<ExplainDialog>();
    const auto* parts = dialog.findChild<QTreeWidget*>();
    REQUIRE(parts->topLevelItemCount() == 1);
    CHECK_THAT(parts->topLevelItem(0)->text(0).toStdString(),
               Catch::StartsWith("price_to_earnings"));
    CHECK(parts->topLevelItem(0)->childCount() > 0);
    dialog.close();
    // The newest quarter of a line, and the worth of a value, are what is meant.
    reading.goTo(QStringLiteral("Net income"));
    QString asked;
    QObject::connect(&reading.page(), &DossierPage::explanationAsked, &reading.page(),
                     [&](const QString& expression) { asked = expression; });
    reading.press(Qt::Key_Return);
    CHECK(asked == QStringLiteral("quarter(net_income, 0)"));
    reading.dialog<ExplainDialog>().close();
}

TEST_CASE("Dossier: a table is shown whole, copied, and by year", "[app]")
{
    const Reading reading;
    reading.goTo(QStringLiteral("Revenue;"));
    reading.press(Qt::Key_Return, Qt::ShiftModifier);
    auto& dialog = reading.dialog<DossierTableDialog>();
    const auto* grid = dialog.findChild<QTableWidget*>();
    CHECK(grid->columnCount() == 12);
    CHECK(grid->horizontalHeaderItem(11)->text() == QStringLiteral("31 May 2026"));
    dialog.copy();
    const QStringList lines = QGuiApplication::clipboard()->text().split(QLatin1Char('\n'));
    CHECK(lines[0].startsWith(QStringLiteral("Income, by quarter\t2023-08-31")));
    CHECK(lines[1].startsWith(QStringLiteral("Revenue\t39023000")));
    dialog.close();
    for (auto* button : reading.dossier().findChildren<QToolButton*>())
        if (button->text() == QStringLiteral("Years"))
            QTest::mouseClick(button, Qt::LeftButton);
    reading.page().setFocus();
    reading.goTo(QStringLiteral("Revenue; 2018-11-30"));
}

TEST_CASE("Dossier: a click goes to a peer, and to the day of an event", "[app]")
{
    const Reading reading;
    reading.goTo(QStringLiteral("TRVM.C"));
    reading.press(Qt::Key_Return);
    CHECK(reading.page().dossier()->symbol == "TRVM.C");
    reading.goTo(QStringLiteral("BRCD.C")); // and back
    reading.press(Qt::Key_Return);
    CHECK(reading.page().dossier()->symbol == "BRCD.C");
    const auto* chart = reading.bench.chartIn("weigh");
    int told = -1;
    QObject::connect(chart, &ChartView::pointed, chart, [&](int bar) { told = bar; });
    reading.goTo(QStringLiteral("2025-10-15"));
    reading.press(Qt::Key_Return);
    REQUIRE(told >= 0);
    CHECK(chart->chart().bars->days[static_cast<std::size_t>(told)] == *Day::parse("2025-10-15"));
}

TEST_CASE("Dossier: the model is moved and its result moves with it, figures are chosen", "[app]")
{
    const Reading reading;
    const double growth = reading.value("value.assumed", "Earnings", 0);
    int chartsMade = 0;
    const auto* chart = reading.bench.chartIn("weigh");
    QObject::connect(chart, &ChartView::chartChanged, chart, [&] { ++chartsMade; });
    for (auto* box : reading.dossier().findChildren<QDoubleSpinBox*>())
        if (box->accessibleName() == QStringLiteral("Discount a year"))
            box->setValue(12.0);
    reading.bench.settle();
    CHECK(reading.value("value.assumed", "Earnings", 0) > growth);
    CHECK(chartsMade == 0); // it is what it was
    reading.bench.desk->work().edit(QStringLiteral("test"), [](Work& work) {
        work.columnSets.edit().push_back({"My own", {"beta_60", "close / open"}});
    });
    reading.bench.settle();
    auto* sets =
        reading.bench.find<QComboBox>(QStringLiteral("Set of columns that is shown as figures"));
    sets->setCurrentIndex(sets->findText(QStringLiteral("My own")));
    reading.bench.settle();
    const auto& tables = reading.page().dossier()->part("figures")->tables;
    REQUIRE(tables.size() == 2);
    CHECK(tables[0].rows[0].title == "Beta of 60 days");
    CHECK(tables[1].rows[0].title == "close / open");
}

TEST_CASE("Dossier: what was chosen to see is there after a restart", "[app]")
{
    const test::OwnFolder own;
    const auto file = own.path() / "library.sqlite";
    const auto spin = [](const test::WindowBench& bench, const QString& name) {
        for (auto* box : bench.window->findChildren<QDoubleSpinBox*>())
            if (box->accessibleName() == name)
                return box;
        throw std::runtime_error("no such box");
    };
    const auto chooser = [](const test::WindowBench& bench) {
        for (auto* box : bench.window->findChild<Dossier*>()->findChildren<QComboBox*>())
            if (box->accessibleName().startsWith(QStringLiteral("Set of columns")))
                return box;
        throw std::runtime_error("no chooser");
    };
    {
        const test::WindowBench bench(file);
        bench.go("weigh");
        auto* sets = chooser(bench);
        sets->setCurrentIndex(sets->findText(QStringLiteral("Growth")));
        Q_EMIT sets->activated(sets->currentIndex());
        spin(bench, QStringLiteral("Account"))->setValue(25'000.0);
        spin(bench, QStringLiteral("Discount a year"))->setValue(11.0);
        bench.settle();
    }
    const test::WindowBench again(file);
    again.go("weigh");
    CHECK(chooser(again)->currentText() == QStringLiteral("Growth"));
    const dossier::Choices choices = again.window->findChild<Dossier*>()->choices();
    CHECK(choices.plan.account == 25'000.0);
    CHECK(choices.model.discount == Approx(0.11));
    CHECK(choices.figures.size() == 9);
}

TEST_CASE("Dossier: a fund, a newcomer and an index are shown without a fault", "[app]")
{
    const Reading reading;
    const market::Market& market = reading.bench.desk->market().data();
    std::vector<std::string> odd{market.description().benchmark};
    for (std::size_t stock = 0; stock < market.size() && odd.size() < 5; ++stock) {
        const auto& instrument = market.instrument(stock);
        if (instrument.kind == market::InstrumentKind::Fund || market.bars(stock).size() < 40)
            odd.push_back(instrument.symbol);
    }
    for (const std::string& symbol : odd) {
        INFO(symbol);
        reading.show(symbol);
        CHECK(reading.page().dossier()->symbol == symbol);
        CHECK_FALSE(reading.page().grab().isNull());
    }
}

} // namespace sieve::app
