#include "tests/app/pictures.h"

#include "app/parts/actions.h"
#include "app/weigh/dossier_page.h"
#include "app/weigh/occurrences_dialog.h"
#include "app/weigh/sitting_dialog.h"
#include "core/dossier/dossier.h"
#include "core/watchlists/stocks.h"

#include <QScrollArea>
#include <QScrollBar>
#include <QToolButton>

// The parts of a dossier, for stocks of several kinds.

namespace sieve::test {

namespace {

/// A window that is tall enough for a part or two at a time.
void takeStock(const WindowBench& bench, const QDir& folder, const std::string& symbol,
               const char* name)
{
    bench.desk->focus().select(bench.desk->market().data().find(symbol).value());
    bench.go("weigh");
    bench.settle();
    auto* page = bench.window->findChild<app::DossierPage*>();
    page->setMinimumWidth(0);
    const QPixmap whole = page->grab();
    constexpr int height = 1500;
    for (int top = 0, number = 1; top < whole.height(); top += height, ++number)
        whole.copy(0, top, whole.width(), std::min(height, whole.height() - top))
            .save(
                folder.filePath(QStringLiteral("%1_%2.png").arg(QLatin1String(name)).arg(number)));
}

} // namespace

void takeDossier(const QDir& folder)
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite", wholeDemoDataset());
    const market::Market& market = bench.desk->market().data();
    const auto first = [&](auto isMeant) {
        for (std::size_t stock = 0; stock < market.size(); ++stock)
            if (market.isListed(stock, market.sessions().back()) && isMeant(stock))
                return market.instrument(stock).symbol;
        throw std::runtime_error("no such stock");
    };
    const auto ofIndustry = [&](std::string_view word) {
        return first([&](std::size_t stock) {
            return market.instrument(stock).industry.find(word) != std::string::npos;
        });
    };
    takeStock(bench, folder, "BRCD.C", "dossier_steady");
    take(bench, folder, "dossier_window");
    takeStock(bench, folder, ofIndustry("anks"), "dossier_bank");
    takeStock(bench, folder, first([&](std::size_t stock) {
                  return market.instrument(stock).kind == market::InstrumentKind::Fund;
              }),
              "dossier_fund");
    takeStock(bench, folder, first([&](std::size_t stock) {
                  return market.bars(stock).size() < 420 && !market.isIndex(stock);
              }),
              "dossier_newcomer");
    takeStock(bench, folder, first([&](std::size_t stock) {
                  const auto eps = market.statements(stock).trailingTwelveMonths(
                      *market::statementItemNamed("eps"), 0, market.sessions().back(), {});
                  return eps && eps->value < 0.0;
              }),
              "dossier_loser");
    bench.window->resize(1024, 700);
    take(bench, folder, "dossier_small");
    bench.desk->work().edit(QStringLiteral("test"), [&](app::Work& work) {
        work.tray = watchlists::Tray(
            watchlists::cardsOf(market, std::vector<std::size_t>{10, 11, 12, 13, 14, 15, 16, 17},
                                bench.desk->focus().day(), "Dips"));
        const watchlists::Mark marks[] = {watchlists::Mark::Dropped, watchlists::Mark::Kept,
                                          watchlists::Mark::Dropped, watchlists::Mark::Later};
        for (std::size_t card = 0; card < 8; ++card)
            work.tray.edit().mark(card, marks[card % 4],
                                  card % 3 == 1 ? "" : work.weighing->reasons[card % 3 + 1]);
    });
    app::SittingDialog sitting(*bench.desk, 6.4, bench.window.get());
    sitting.show();
    bench.settle();
    sitting.grab().save(folder.filePath(QStringLiteral("sitting.png")));
    sitting.close();
    app::OccurrencesDialog dialog(
        *bench.desk, *bench.desk->focus().selected(),
        QStringLiteral("close == highest(close, 252) and volume > 1.5 * sma(volume, 50)"),
        bench.window.get());
    dialog.show();
    waitUntil([&] { return dialog.answer(); }, "cases");
    bench.settle();
    dialog.grab().save(folder.filePath(QStringLiteral("occurrences.png")));
}

} // namespace sieve::test
