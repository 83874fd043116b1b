#include "tests/app/pictures.h"

#include "app/parts/actions.h"
#include "app/weigh/dossier_page.h"
#include "core/dossier/dossier.h"

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
    takeStock(bench, folder, "BRCD.C", "dossier_steady");
    take(bench, folder, "dossier_window");
}

} // namespace sieve::test
