#include "tests/app/window_bench.h"

#include "app/chart/chart_view.h"
#include "app/market/line_chart.h"
#include "app/parts/actions.h"
#include "app/parts/expression_edit.h"
#include "app/parts/figure_table.h"
#include "app/parts/table_model.h"
#include "app/wall/chart_wall.h"
#include "app/weigh/dossier.h"
#include "core/screens/column_sets.h"
#include "core/studies/aftermath.h"
#include "core/watchlists/stocks.h"
#include "tests/app/one_stock.h"

#include <QComboBox>
#include <QLabel>
#include <QMimeData>
#include <QScrollArea>
#include <QScrollBar>
#include <QTableView>
#include <algorithm>
#include <benchmark/benchmark.h>
#include <chrono>
#include <thread>

// What a person waits for on the demo market, with the window painted offscreen.

namespace {

/// The demo market, or the open dataset that SIEVE_BENCH_DATASET names.
std::filesystem::path dataset()
{
    const QString named = qEnvironmentVariable("SIEVE_BENCH_DATASET");
    return named.isEmpty() ? sieve::test::wholeDemoDataset()
                           : std::filesystem::path(named.toStdString());
}

using namespace sieve;
using test::WindowBench;

/// Lives until the condition holds, as the window does: it sleeps between events, so that both
/// cores are the engine's, and looks every half millisecond.
void spin(const std::function<bool()>& holds)
{
    while (!holds()) {
        QCoreApplication::processEvents(QEventLoop::AllEvents);
        std::this_thread::sleep_for(std::chrono::microseconds(500));
    }
}

/// All who ask the core, found once: the window has thousands of children to look through.
std::vector<const app::Asker*> askersOf(const WindowBench& bench)
{
    std::vector<const app::Asker*> askers;
    for (const QObject* root : {static_cast<const QObject*>(bench.desk.get()),
                                static_cast<const QObject*>(bench.window.get())})
        for (const auto* asker : root->findChildren<app::Asker*>())
            askers.push_back(asker);
    return askers;
}

bool isIdle(const std::vector<const app::Asker*>& askers)
{
    return std::ranges::none_of(askers, &app::Asker::isBusy);
}

void spinUntilIdle(const std::vector<const app::Asker*>& askers)
{
    spin([&askers] { return isIdle(askers); });
}

/// Tells the mean, and what 95 of 100 rounds stay below.
void tell(benchmark::State& state, const std::string& what, std::vector<double> milliseconds)
{
    if (milliseconds.empty())
        return;
    std::ranges::sort(milliseconds);
    double sum = 0.0;
    for (const double each : milliseconds)
        sum += each;
    state.counters[what + "_ms"] = sum / static_cast<double>(milliseconds.size());
    state.counters[what + "_p95_ms"] = milliseconds[milliseconds.size() * 95 / 100];
}

/// When a window has first painted once a condition holds.
class FirstPaint : public QObject {
public:
    FirstPaint(QWidget& window, std::function<bool()> holds) : holds_(std::move(holds))
    {
        window.installEventFilter(this);
    }
    double since(std::chrono::steady_clock::time_point start) const
    {
        return std::chrono::duration<double, std::milli>(at_ - start).count();
    }

protected:
    bool eventFilter(QObject* window, QEvent* event) override
    {
        if (event->type() != QEvent::UpdateRequest || isDone_ || !holds_())
            return false;
        window->event(event);
        at_ = std::chrono::steady_clock::now();
        isDone_ = true;
        return true;
    }

private:
    std::function<bool()> holds_;
    std::chrono::steady_clock::time_point at_;
    bool isDone_ = false;
};

/// Runs one round and gives its length.
double timed(const std::function<void()>& round)
{
    const auto start = std::chrono::steady_clock::now();
    round();
    return std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - start)
        .count();
}

void startToUsableWindow(benchmark::State& state)
{
    dataset();
    for (auto _ : state) {
        const test::OwnFolder own;
        app::Desk desk(own.path() / "library.sqlite", own.path() / "markets");
        app::MainWindow window(desk);
        window.show();
        desk.market().keeper().open(dataset());
        spin([&] { return desk.market().isOpen() && desk.work().isLoaded(); });
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

/// Until counts, ribbon and distributions are painted; `all` is when results and near misses are,
/// too.
void letterTypedToCountsPainted(benchmark::State& state)
{
    const test::OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite", dataset());
    bench.go("sift");
    auto* edit = bench.find<app::ExpressionEdit>(QStringLiteral("Criterion 3"));
    int step = 0;
    const auto askers = askersOf(bench);
    std::vector<double> counts;
    std::vector<double> all;
    for (auto _ : state) {
        const auto start = std::chrono::steady_clock::now();
        const auto now = [start] {
            const auto passed = std::chrono::steady_clock::now() - start;
            return std::chrono::duration<double, std::milli>(passed).count();
        };
        FirstPaint painted(*bench.window, [&] { return isIdle(askers); });
        const QString text = QStringLiteral("strength_126 >= %1.5").arg(20 + step++ % 60);
        edit->setText(text);
        Q_EMIT edit->textEdited(text);
        spinUntilIdle(askers);
        for (int round = 0; round < 3; ++round) // counts, then what follows them, is painted
            QCoreApplication::processEvents();
        all.push_back(now());
        counts.push_back(painted.since(start));
    }
    tell(state, "counts", std::move(counts));
    tell(state, "all", std::move(all));
}

void nextCandidatePainted(benchmark::State& state)
{
    const test::OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite", dataset());
    bench.desk->focus().select(0);
    bench.go("weigh");
    std::size_t stock = 0;
    const auto askers = askersOf(bench);
    for (auto _ : state) {
        bench.desk->focus().select(++stock % bench.desk->market().data().size());
        spinUntilIdle(askers);
        QCoreApplication::processEvents(); // what the answer changed is painted
    }
}

/// So many stocks as a person would take from a screen.
void takeInHand(const WindowBench& bench, std::size_t most)
{
    const market::Market& market = bench.desk->market().data();
    bench.desk->work().edit(QStringLiteral("bench"), [&](library::Work& work) {
        std::vector<std::size_t> stocks;
        for (std::size_t stock = 1; stock <= most && stock < market.size(); ++stock)
            stocks.push_back(stock);
        addTo(work.tray.edit(), market, stocks, bench.desk->focus().day(), "bench");
    });
}

/// Page after page of the wall of those in hand.
void wallOfSixteenPainted(benchmark::State& state)
{
    const test::OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite", dataset());
    takeInHand(bench, 600);
    bench.go("weigh");
    QWidget* weigh = bench.window->place(QStringLiteral("weigh"));
    app::findAction(*weigh, app::ActionId::ShowTrayWall)->trigger();
    auto* wall = weigh->findChild<app::ChartWall*>();
    wall->findChild<QComboBox*>()->setCurrentIndex(2);
    bench.settle();
    auto* first = wall->findChild<app::ChartView*>();
    std::vector<double> pages;
    for (auto _ : state)
        pages.push_back(timed([&] {
            const std::string before = first->chart().symbol;
            QTest::keyClick(wall, pages.size() / 30 % 2 == 0 ? Qt::Key_PageDown : Qt::Key_PageUp);
            spin([&] { return first->chart().symbol != before; });
            wall->repaint();
            for (auto* chart : wall->findChildren<app::ChartView*>())
                chart->repaint();
        }));
    tell(state, "page", std::move(pages));
}

/// From one candidate in hand to the next while each is looked at for a moment.
void nextInHandPainted(benchmark::State& state)
{
    const test::OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite", dataset());
    takeInHand(bench, 60);
    bench.desk->focus().select(1);
    bench.go("weigh");
    QWidget* weigh = bench.window->place(QStringLiteral("weigh"));
    auto* chart = bench.chartIn("weigh");
    std::vector<double> steps;
    for (auto _ : state) {
        bench.settle(); // the person looks, and the next one is made ready
        const std::string before = chart->chart().symbol;
        steps.push_back(timed([&] {
            QTest::keyClick(weigh, Qt::Key_Space);
            spin([&] { return chart->chart().symbol != before; });
            bench.window->repaint(); // with the dossier
        }));
    }
    tell(state, "next", std::move(steps));
}

/// Up and down the page of one stock.
void dossierScrolled(benchmark::State& state)
{
    const test::OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite", dataset());
    bench.desk->focus().select(1);
    bench.go("weigh");
    QScrollBar* bar =
        bench.window->findChild<app::Dossier*>()->findChild<QScrollArea*>()->verticalScrollBar();
    std::vector<double> frames;
    int step = 0;
    for (auto _ : state)
        frames.push_back(timed([&] {
            bar->setValue(++step * 37 % std::max(1, bar->maximum()));
            bench.window->repaint();
        }));
    tell(state, "frame", std::move(frames));
}

/// A condition looked for in all stocks, and then by another stop.
void occurrencesLookedUp(benchmark::State& state)
{
    const test::OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite", dataset());
    const auto evaluator = bench.desk->market().evaluator();
    const Day day = bench.desk->focus().day();
    const auto book = bench.desk->work().nameBook();
    std::vector<double> first;
    std::vector<double> again;
    for (auto _ : state) {
        std::vector<studies::Aftermath> cases;
        first.push_back(timed([&] {
            const auto found = *studies::occurrencesOf(
                "close == highest(close, 252) and volume > 1.5 * sma(volume, 50)", book->names(),
                *evaluator, day);
            cases = studies::aftermathOf(found, {}, evaluator->market(), day);
        }));
        studies::Terms other;
        other.stop = 0.05;
        again.push_back(
            timed([&] { (void)studies::withOtherExits(cases, other, evaluator->market(), day); }));
    }
    tell(state, "first", std::move(first));
    tell(state, "again", std::move(again));
}

/// Nearly ten years of days with four panes, state bands and divergences.
void panningTheLine(benchmark::State& state)
{
    const test::OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite", dataset());
    app::ChartView& view = bench.window->findChild<app::LineChart*>()->view();
    const auto bars = static_cast<double>(view.chart().size());
    view.showBars(0.0, bars * 0.9);
    int step = 0;
    std::vector<double> frames;
    for (auto _ : state)
        frames.push_back(timed([&] {
            const double at = bars * 0.1 * ((step++ % 40) / 40.0);
            view.showBars(at, at + bars * 0.9);
            view.repaint();
        }));
    tell(state, "frame", std::move(frames));
}

void asOfDayStepped(benchmark::State& state)
{
    const test::OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite", dataset());
    std::vector<double> steps;
    const auto askers = askersOf(bench);
    for (auto _ : state)
        steps.push_back(timed([&] {
            bench.desk->focus().stepSessions(-1);
            spinUntilIdle(askers);
            QCoreApplication::processEvents(); // what the answers changed is painted
        }));
    tell(state, "step", std::move(steps));
}

/// Every share that there is, scrolled by three rows, as a wheel does, with bars and signs in
/// cells.
void tableScrolled(benchmark::State& state)
{
    const test::OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite", dataset());
    bench.go("sift");
    bench.desk->work().edit(QStringLiteral("screen"), [](app::Work& work) {
        work.screen.edit().universe.clear();
        work.screen.edit().criteria = {{"close > 0"}};
        work.screen.edit().keep = 0;
        const auto& set = screens::readyColumnSets()[1];
        work.screen.edit().columns = set.columns;
        work.screen.edit().cells = set.cells;
    });
    bench.settle();
    auto* table = bench.find<QTableView>(QStringLiteral("Results"));
    QScrollBar* bar = table->verticalScrollBar();
    std::vector<double> frames;
    for (auto _ : state)
        frames.push_back(timed([&] {
            bar->setValue(bar->value() + 3 > bar->maximum() ? 0 : bar->value() + 3);
            QCoreApplication::processEvents();
        }));
    state.counters["rows"] = table->model()->rowCount();
    tell(state, "frame", std::move(frames));
}

/// Ctrl+C with all rows of a table of 9,000 stocks and twelve columns.
void allRowsCopied(benchmark::State& state)
{
    const market::MarketPtr market = test::oneStock();
    auto table = std::make_shared<screens::ResultTable>();
    constexpr std::size_t rows = 9'000;
    for (std::size_t row = 0; row < rows; ++row)
        table->rows.push_back(0);
    for (int column = 0; column < 12; ++column) {
        screens::TableColumn& each = table->columns.emplace_back();
        each.text = "close";
        each.head = "Close";
        each.decimals = 2;
        for (std::size_t row = 0; row < rows; ++row)
            each.figures.push_back(0.37 * static_cast<double>(row * 7 % 9'001) + column);
    }
    app::TableModel model;
    model.setTable(table, market);
    QTableView view;
    view.setModel(&model);
    app::prepareTable(&view);
    view.setSelectionMode(QAbstractItemView::ExtendedSelection);
    view.selectAll();
    std::vector<double> times;
    for (auto _ : state) {
        const auto start = std::chrono::steady_clock::now();
        const std::unique_ptr<QMimeData> copied(app::copyOf(view));
        times.push_back(
            std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - start)
                .count());
        benchmark::DoNotOptimize(copied->text().size());
    }
    tell(state, "all rows copied", std::move(times));
}

BENCHMARK(allRowsCopied)->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(panningTheLine)->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(asOfDayStepped)->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(startToUsableWindow)->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(letterTypedToCountsPainted)->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(tableScrolled)->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(wallOfSixteenPainted)->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(nextInHandPainted)->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(dossierScrolled)->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(occurrencesLookedUp)->Unit(benchmark::kMillisecond)->UseRealTime();
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
