#include "tests/app/pictures.h"

#include "app/desk/alert_dialog.h"
#include "app/desk/alert_keeper.h"
#include "app/desk/alerts_dialog.h"
#include "app/desk/plan_dialog.h"
#include "app/lists/combine_dialog.h"
#include "app/lists/entries_dialog.h"
#include "app/lists/list_dialog.h"
#include "app/lists/list_tree.h"
#include "app/lists/moves_dialog.h"
#include "app/lists/terms_dialog.h"
#include "app/lists/trade_dialog.h"
#include "app/parts/actions.h"
#include "core/watchlists/plan_course.h"
#include "core/watchlists/stocks.h"

#include <QAction>
#include <QTableView>
#include <map>

// Lists with entries in all states, as after some weeks of use.

namespace sieve::test {

namespace {

using watchlists::Entry;
using watchlists::PlanState;

/// An entry of sixty sessions ago with a plan some percent above the price of then.
Entry plannedThen(const market::Market& market, std::size_t stock, Day day)
{
    const double close = watchlists::priceOn(market, stock, day);
    Entry entry{market::symbolOn(market.instrument(stock), day), day, close};
    entry.plan =
        watchlists::TradePlan{day, 1.03 * close, 0.93 * close, {1.12 * close, 1.25 * close}};
    return entry;
}

/// One or two entries in each state that the market offers.
std::vector<Entry> entriesInAllStates(const WindowBench& bench)
{
    engine::Evaluator& evaluator = *bench.desk->market().evaluator();
    const market::Market& market = evaluator.market();
    const auto book = bench.desk->work().nameBook();
    const auto sessions = market.sessions();
    const Day today = bench.desk->focus().day();
    const Day then = sessions[sessions.size() - 61];
    const char* reasons[] = {"Tight above its average", "Base of nine weeks",
                             "Cheap for what it earns", "Turns with its group"};
    std::map<PlanState, int> found;
    std::vector<Entry> entries;
    for (std::size_t stock = 0; stock < market.size() && entries.size() < 18; ++stock) {
        if (market.isIndex(stock) || !market.isListed(stock, then) ||
            market.instrument(stock).kind == market::InstrumentKind::Fund ||
            market.isInOtherCurrency(stock))
            continue;
        Entry entry = plannedThen(market, stock, then);
        if (!(entry.priceThen > 8.0))
            continue;
        if (stock % 3 == 0)
            entry.plan->exitRule = "close < sma(close, 50)";
        if (stock % 5 == 0)
            entry.plan->stopRule = "lowest(low, 20)";
        const auto courseNow = [&] {
            return coursesOf(std::span(&entry, 1), evaluator, book->names(), {}, today).front();
        };
        auto course = courseNow();
        if (course.enteredOn && stock % 4 != 0) {
            (void)addTrade(entry, {*course.enteredOn, course.enteredAt, 100.0, "at the entry"});
            course = courseNow();
        }
        if (found[course.state()]++ >= 2)
            continue;
        entry.reason = reasons[stock % std::size(reasons)];
        entry.source = stock % 2 == 0 ? "Pullback in an uptrend" : "";
        entry.page.category = stock % 2 == 0 ? "pullback" : "base";
        entry.page.sign = watchlists::signs[stock % watchlists::signs.size()];
        if (stock % 3 == 0)
            entry.page.reviewOn = today.plusDays(static_cast<int>(stock % 20));
        entry.page.tags = {stock % 2 == 0 ? "harbour" : "second base"};
        entry.page.notes = {{then, "Volume dries up while the *range* narrows."},
                            {today.plusDays(-9), "**Report** was well received:\n\n- sales +14 %\n"
                                                 "- margin up two points"}};
        entries.push_back(std::move(entry));
    }
    return entries;
}

template <class Dialog> void takeNext(const WindowBench& bench, const QDir& folder,
                                      const char* name, const std::function<void()>& open)
{
    QTimer::singleShot(0, bench.window.get(), [&] {
        Dialog* dialog = nullptr;
        waitUntil(
            [&] {
                dialog = bench.window->template findChild<Dialog*>();
                return dialog && dialog->isVisible();
            },
            "a dialog");
        dialog->grab().save(folder.filePath(QLatin1String(name) + QStringLiteral(".png")));
        dialog->close();
    });
    open();
    bench.settle();
    waitUntil([&] { return bench.window->template findChild<Dialog*>() == nullptr; }, "its end");
    bench.activate();
}

/// Alerts of a list and of a stock, with what they told in forty sessions.
void takeAlerts(const WindowBench& bench, const QDir& folder)
{
    using watchlists::Alert;
    const auto sessions = bench.desk->market().data().sessions();
    bench.desk->work().edit(QStringLiteral("test"), [&](app::Work& work) {
        Alert alert;
        alert.since = sessions[sessions.size() - 40];
        alert.repeat = Alert::Repeat::EachCrossing;
        const auto add = [&](Alert::What what, std::int64_t list, const char* rule,
                             const char* words) {
            alert.id = bench.desk->work().newId();
            alert.what = what;
            alert.about.list = list;
            alert.rule = rule;
            alert.words = words;
            keepAlert(work, alert);
        };
        add(Alert::What::State, work.lists[0]->id, "", "");
        add(Alert::What::Rule, work.lists[0]->id, "rsi(close, 14) < 30", "wait for a turn");
        add(Alert::What::Market, 0, "", "");
        add(Alert::What::Review, 0, "", "");
    });
    waitUntil([&] { return !bench.desk->alerts().log().empty(); }, "what they tell");
    bench.settle();
    QTest::keyClick(bench.window.get(), Qt::Key_L, Qt::ControlModifier);
    auto* dialog = bench.window->findChild<app::AlertsDialog*>();
    bench.settle();
    dialog->grab().save(folder.filePath(QStringLiteral("alerts_told.png")));
    dialog->showAlerts();
    bench.settle();
    dialog->grab().save(folder.filePath(QStringLiteral("alerts.png")));
    dialog->close();
    bench.activate();
    takeNext<app::AlertDialog>(bench, folder, "alerts_new", [&] {
        QTest::keyClick(bench.window.get(), Qt::Key_L, Qt::ControlModifier | Qt::ShiftModifier);
    });
}

} // namespace

void fillLists(const WindowBench& bench)
{
    bench.desk->work().edit(QStringLiteral("test"), [&](app::Work& work) {
        const auto id = [&] { return bench.desk->work().newId(); };
        work.lists = {
            watchlists::Watchlist{id(), "Ideas", entriesInAllStates(bench), {}, {"Trading"}},
            watchlists::Watchlist{id(), "Long term", {}, {}, {"Holding"}},
            watchlists::Watchlist{
                id(), "Near their highs", {}, {}, {"Trading", "Pullback in an uptrend"}},
            watchlists::Watchlist{id(), "Harbour names", {}, {}, {}}};
        putOnto(work.lists[3].edit(), bench.desk->market().data(),
                std::vector<std::size_t>{10, 11, 12}, bench.desk->focus().day(), "", "");
    });
    bench.settle();
    bench.find<app::ListTree>(QStringLiteral("Watchlists"))
        ->choose(bench.desk->work().now().lists[0]->id);
    bench.settle();
    bench.find<QTableView>(QStringLiteral("Entries"))->selectRow(9);
    bench.settle();
}

void takeLists(const QDir& folder)
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite", wholeDemoDataset());
    bench.go("lists");
    fillLists(bench);
    auto* table = bench.find<QTableView>(QStringLiteral("Entries"));
    auto* tree = bench.find<app::ListTree>(QStringLiteral("Watchlists"));
    table->setFocus();
    take(bench, folder, "lists_states");
    table->selectRow(2);
    bench.window->resize(1024, 700);
    bench.settle();
    take(bench, folder, "lists_small");
    bench.window->resize(1280, 800);
    takeNext<app::PlanDialog>(bench, folder, "lists_plan",
                              [&] { QTest::keyClick(table, Qt::Key_G); });
    takeNext<app::TradeDialog>(bench, folder, "lists_trade",
                               [&] { QTest::keyClick(table, Qt::Key_B); });
    takeNext<app::EntriesDialog>(bench, folder, "lists_several",
                                 [&] { QTest::keyClick(table, Qt::Key_E); });
    tree->setFocus();
    takeNext<app::ListDialog>(bench, folder, "lists_list",
                              [&] { QTest::keyClick(tree, Qt::Key_F2); });
    tree->setFocus();
    takeNext<app::CombineDialog>(bench, folder, "lists_combine",
                                 [&] { QTest::keyClick(tree, Qt::Key_J, Qt::ControlModifier); });
    takeNext<app::TermsDialog>(bench, folder, "lists_terms", [&] {
        QTest::keyClick(bench.window.get(), Qt::Key_T, Qt::ControlModifier);
    });
    tree->choose(bench.desk->work().now().lists[2]->id);
    bench.settle();
    table->selectRow(1);
    bench.settle();
    take(bench, folder, "lists_by_rule");
    tree->setFocus();
    takeNext<app::MovesDialog>(bench, folder, "lists_moves",
                               [&] { QTest::keyClick(tree, Qt::Key_C); });
    tree->choose(bench.desk->work().now().lists[1]->id);
    bench.settle();
    take(bench, folder, "lists_empty");
    app::findAction(*bench.window, app::ActionId::ShowReview)->trigger();
    bench.settle();
    take(bench, folder, "lists_review");
    app::findAction(*bench.window, app::ActionId::ShowAgenda)->trigger();
    bench.settle();
    take(bench, folder, "lists_calendar");
    takeAlerts(bench, folder);
}

} // namespace sieve::test
