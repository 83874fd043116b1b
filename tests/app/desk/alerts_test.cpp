#include "app/chart/chart_view.h"
#include "app/desk/alert_dialog.h"
#include "app/desk/alert_keeper.h"
#include "app/desk/alerts_dialog.h"
#include "app/parts/actions.h"
#include "app/parts/number_text.h"
#include "core/library/alert_log.h"
#include "core/library/kept_work.h"
#include "core/watchlists/stocks.h"
#include "tests/app/opened.h"

#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLineEdit>
#include <QPushButton>
#include <QTreeWidget>
#include <catch2/catch.hpp>

// Alerts as a person makes them and hears of them.

namespace sieve::app {

namespace {

using namespace test;
using watchlists::Alert;

template <class Widget> Widget* lineOf(const QWidget& parent, const char* name)
{
    for (auto* child : parent.findChildren<Widget*>())
        if (child->accessibleName() == QString::fromUtf8(name))
            return child;
    throw std::runtime_error(std::string("no child ") + name);
}

} // namespace

TEST_CASE("Alerts: at the close that a chart reads, by one key", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    const market::Market& market = bench.desk->market().data();
    bench.desk->focus().select(4);
    bench.go("weigh");
    bench.settle();
    auto* chart = bench.chartIn("weigh");
    chart->setFocus();
    answerNext<AlertDialog>(bench, [](AlertDialog& dialog) {
        lineOf<QLineEdit>(dialog, "Note")->setText(QStringLiteral("the pivot"));
        accept(dialog);
    });
    QTest::keyClick(chart, Qt::Key_A);
    bench.settle();
    const Work& work = bench.desk->work().now();
    REQUIRE(work.alerts->size() == 1);
    const Alert& alert = *work.alerts->front();
    CHECK(alert.what == Alert::What::Level);
    CHECK(alert.about.symbol == market.instrument(4).symbol);
    CHECK(alert.level ==
          Approx(watchlists::priceOn(market, 4, market.sessions().back())).epsilon(0.001));
    CHECK(alert.since == market.sessions().back());
    CHECK(alert.words == "the pivot");
    bench.desk->work().undoStack().undo();
    CHECK(bench.desk->work().now().alerts->empty());
}

TEST_CASE("Alerts: a wrong one is refused with the reason", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    answerNext<AlertDialog>(bench, [](AlertDialog& dialog) {
        auto* what = lineOf<QComboBox>(dialog, "When");
        what->setCurrentIndex(1); // a condition
        auto* about = lineOf<QComboBox>(dialog, "Of");
        about->setCurrentIndex(0);
        auto* symbol = lineOf<QLineEdit>(dialog, "Symbol");
        symbol->setText(QStringLiteral("NOBODY"));
        accept(dialog);
        CHECK(dialog.isVisible());
        about->setCurrentIndex(1); // all lists
        auto* rule = lineOf<QLineEdit>(dialog, "Condition");
        rule->setText(QStringLiteral("close >"));
        accept(dialog);
        CHECK(dialog.isVisible());
        rule->setText(QStringLiteral("close > 5"));
        accept(dialog);
    });
    QTest::keyClick(bench.window.get(), Qt::Key_L, Qt::ControlModifier | Qt::ShiftModifier);
    bench.settle();
    REQUIRE(bench.desk->work().now().alerts->size() == 1);
    CHECK(bench.desk->work().now().alerts->front()->rule == "close > 5");
}

TEST_CASE("Alerts: what happened while the program did not run is told once, as late", "[app]")
{
    const OwnFolder own;
    const auto file = own.path() / "library.sqlite";
    std::size_t told = 0;
    {
        const WindowBench bench(file);
        const market::Market& market = bench.desk->market().data();
        const auto sessions = market.sessions();
        const Day then = sessions[sessions.size() - 40];
        std::size_t stock = 3;
        while (!market.isListed(stock, then) || market.isIndex(stock))
            ++stock;
        bench.desk->work().edit(QStringLiteral("alert"), [&](Work& work) {
            Alert alert;
            alert.id = bench.desk->work().newId();
            alert.what = Alert::What::Rule;
            alert.about.symbol = market::symbolOn(market.instrument(stock), then);
            alert.since = then;
            alert.rule = "close > prior(close)";
            alert.repeat = Alert::Repeat::EachCrossing;
            keepAlert(work, alert);
        });
        waitUntil([&] { return !bench.desk->alerts().log().empty(); }, "what it tells");
        told = bench.desk->alerts().log().size();
        CHECK(told > 3);
        CHECK(bench.desk->alerts().log().front().isLate);
        CHECK(bench.desk->alerts().unseen() == told);
        QTest::keyClick(bench.window.get(), Qt::Key_L, Qt::ControlModifier);
        bench.settle();
        auto* dialog = bench.window->findChild<AlertsDialog*>();
        REQUIRE(dialog);
        auto* log = lineOf<QTreeWidget>(*dialog, "What alerts told");
        CHECK(log->topLevelItemCount() == static_cast<int>(told));
        log->topLevelItem(1)->setSelected(true);
        for (auto* button : dialog->findChildren<QPushButton*>())
            if (button->text() == QStringLiteral("&Seen"))
                button->click();
        CHECK(bench.desk->alerts().unseen() == told - 1);
        bench.desk->work().undoStack().undo(); // of the alert; what it told stays
        bench.settle();
        CHECK(bench.desk->alerts().log().size() == told);
    }
    const WindowBench again(file);
    waitUntil([&] { return !again.desk->alerts().log().empty(); }, "the log");
    CHECK(again.desk->alerts().log().size() == told);
    CHECK(again.desk->alerts().unseen() == told - 1);
}

} // namespace sieve::app
