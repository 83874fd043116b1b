#include "tests/app/window_bench.h"
#include "app/parts/expression_edit.h"

#include <QLabel>
#include <benchmark/benchmark.h>

// What a person waits for on the demo market, with the window painted offscreen.

namespace {

using namespace sieve;
using test::WindowBench;

/// Processes events without a pause until the condition holds.
void spin(const std::function<bool()>& holds)
{
    while (!holds())
        QCoreApplication::processEvents(QEventLoop::AllEvents | QEventLoop::WaitForMoreEvents, 1);
}

bool isIdle(const WindowBench& bench)
{
    for (const auto* asker : bench.window->findChildren<app::Asker*>())
        if (asker->isBusy())
            return false;
    return true;
}

void startToUsableWindow(benchmark::State& state)
{
    test::wholeDemoDataset();
    for (auto _ : state) {
        const test::OwnFolder own;
        app::Desk desk(own.path() / "library.sqlite", own.path() / "markets");
        app::MainWindow window(desk);
        window.show();
        desk.markets().open(test::wholeDemoDataset());
        spin([&] { return desk.hasMarket() && desk.isWorkLoaded(); });
        window.showPlace(QStringLiteral("sift"));
        spin([&] {
            for (const auto* asker : window.findChildren<app::Asker*>())
                if (asker->isBusy())
                    return false;
            return true;
        });
        window.grab();
    }
}

void letterTypedToCountsPainted(benchmark::State& state)
{
    const test::OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite", test::wholeDemoDataset());
    bench.go("sift");
    auto* edit = bench.find<app::ExpressionEdit>(QStringLiteral("Criterion 3"));
    int step = 0;
    for (auto _ : state) {
        const QString text = QStringLiteral("strength_126 >= %1.5").arg(20 + step++ % 60);
        edit->setText(text);
        Q_EMIT edit->textEdited(text);
        spin([&bench] { return isIdle(bench); });
        QCoreApplication::processEvents(); // what the answer changed is painted
    }
}

void nextCandidatePainted(benchmark::State& state)
{
    const test::OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite", test::wholeDemoDataset());
    bench.desk->select(0);
    bench.go("weigh");
    std::size_t stock = 0;
    for (auto _ : state) {
        bench.desk->select(++stock % bench.desk->market().size());
        spin([&bench] { return isIdle(bench); });
        QCoreApplication::processEvents(); // what the answer changed is painted
    }
}

BENCHMARK(startToUsableWindow)->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(letterTypedToCountsPainted)->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(nextCandidatePainted)->Unit(benchmark::kMillisecond)->UseRealTime();

} // namespace

int main(int count, char** arguments)
{
    qputenv("QT_QPA_PLATFORM", "offscreen");
    QApplication application(count, arguments);
    app::wear(app::paperPalette());
    benchmark::Initialize(&count, arguments);
    benchmark::RunSpecifiedBenchmarks();
    QThreadPool::globalInstance()->waitForDone();
    return 0;
}
