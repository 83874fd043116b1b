#include "tests/app/pictures.h"

#include "app/desk/plan_dialog.h"
#include "app/weigh/checklists_dialog.h"
#include "app/weigh/dossier_dialog.h"
#include "app/weigh/dossier_page.h"
#include "app/weigh/peers_scatter_dialog.h"
#include "app/weigh/side_by_side_dialog.h"
#include "app/weigh/stock_pages.h"
#include "app/weigh/verdict_dialog.h"
#include "app/weigh/weigh_place.h"
#include "core/watchlists/stocks.h"

// What is asked and decided in Weigh: a plan on the chart, a verdict, why a stock moved, others
// beside it, a printed page.

namespace sieve::test {

namespace {

template <class Dialog> Dialog& shownDialog(const WindowBench& bench)
{
    Dialog* found = nullptr;
    waitUntil([&] { return (found = bench.window->findChild<Dialog*>()) && found->isVisible(); },
              "a dialog");
    bench.settle();
    QTest::qWait(200);
    return *found;
}

template <class Dialog> void takeDialog(const WindowBench& bench, const QDir& folder,
                                        const char* name, Qt::Key key,
                                        Qt::KeyboardModifiers with = Qt::NoModifier)
{
    bench.activate();
    QTest::keyClick(bench.window->place(QStringLiteral("weigh")), key, with);
    auto& dialog = shownDialog<Dialog>(bench);
    dialog.grab().save(folder.filePath(QLatin1String(name) + QStringLiteral(".png")));
    dialog.close();
    waitUntil([&] { return bench.window->template findChild<Dialog*>() == nullptr; }, "its end");
}

} // namespace

void takeWeighing(const QDir& folder)
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite", wholeDemoDataset());
    const market::Market& market = bench.desk->market().data();
    const std::size_t stock = market.find("BRCD.C").value();
    const Day day = bench.desk->focus().day();
    const double close = watchlists::priceOn(market, stock, day);
    bench.desk->focus().select(stock);
    bench.desk->work().edit(QStringLiteral("test"), [&](app::Work& work) {
        std::vector<std::size_t> stocks{stock};
        for (std::size_t other = 10; other < 17; ++other)
            stocks.push_back(other);
        watchlists::Watchlist list{bench.desk->work().newId(), "Harbour names", {}, {}};
        putOnto(list, market, stocks, day, "Cheap for what it earns", "Dips");
        list.entries[0].plan =
            watchlists::TradePlan{day, close, close * 0.93, {close * 1.09, close * 1.2}};
        work.lists.emplace_back(list);
        for (const std::size_t each : stocks)
            watchlists::follow(work.weighing.edit(), market, each, day.plusDays(-40), true);
        watchlists::Verdict verdict{
            bench.desk->work().newId(),     "BRCD.C", day.plusDays(-20), "Before buying", {},
            "Wait until the report is out."};
        for (const watchlists::Question& question : work.checklists->front().questions)
            verdict.said.push_back({question.words, !question.rule.empty(), question.rule.empty()});
        keepVerdict(work, verdict);
    });
    bench.go("weigh");
    bench.settle();
    take(bench, folder, "weighing_plan");
    bench.window->resize(1024, 700);
    bench.settle();
    take(bench, folder, "weighing_small");
    bench.window->resize(1280, 800);
    takeDialog<app::PlanDialog>(bench, folder, "weighing_plan_dialog", Qt::Key_G);
    takeDialog<app::VerdictDialog>(bench, folder, "weighing_verdict", Qt::Key_V);
    takeDialog<app::ChecklistsDialog>(bench, folder, "weighing_checklists", Qt::Key_V,
                                      Qt::ShiftModifier);
    takeDialog<app::DossierDialog>(bench, folder, "weighing_move", Qt::Key_Y);
    takeDialog<app::DossierDialog>(bench, folder, "weighing_digest", Qt::Key_U, Qt::ShiftModifier);
    takeDialog<app::PeersScatterDialog>(bench, folder, "weighing_scatter", Qt::Key_T);
    takeDialog<app::SideBySideDialog>(bench, folder, "weighing_side_by_side", Qt::Key_C);
    auto* place = qobject_cast<app::WeighPlace*>(bench.window->place(QStringLiteral("weigh")));
    place->writePages(place->pagesOf({stock}, {}), folder.filePath(QStringLiteral("page.pdf")));
    waitUntil([&] { return QFile::exists(folder.filePath(QStringLiteral("page.pdf"))); }, "a page");
    place->writePages(place->pagesOf({stock, 10, 11, 12}, QStringLiteral("Harbour names")),
                      folder.filePath(QStringLiteral("booklet.pdf")));
    waitUntil([&] { return QFile::exists(folder.filePath(QStringLiteral("booklet.pdf"))); },
              "a booklet");
}

} // namespace sieve::test
