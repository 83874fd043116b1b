#include "core/conditions/reading.h"
#include "core/intake/take_in.h"
#include "core/screens/run.h"
#include "core/screens/starter.h"
#include "core/screens/table.h"
#include "demo_market/dataset.h"

#include <benchmark/benchmark.h>
#include <filesystem>

// What the engine takes on the demo market, without the window.

namespace {

using namespace sieve;

const std::filesystem::path& dataset()
{
    static const std::filesystem::path folder = [] {
        auto made = std::filesystem::temp_directory_path() / "wise-sieve-bench-market";
        demo_market::writeDataset(demo_market::makeMarket(20260930), made);
        return made;
    }();
    return folder;
}

std::filesystem::path madeMarket()
{
    return std::filesystem::temp_directory_path() / "wise-sieve-bench-market-made";
}

const market::MarketPtr& demoMarket()
{
    static const market::MarketPtr market = (*intake::openSource(dataset(), madeMarket())).market;
    return market;
}

const screens::Screen& pullback()
{
    for (const screens::Screen& screen : screens::starterScreens())
        if (screen.name == "Pullback in an uptrend")
            return screen;
    throw std::logic_error("no such screen");
}

screens::ScreenRun run(const screens::Screen& screen, engine::Evaluator& evaluator)
{
    return screens::run(screen, {language::Vocabulary::builtIn()}, evaluator,
                        demoMarket()->sessions().back());
}

void makeTheDemoMarket(benchmark::State& state)
{
    for (auto _ : state)
        benchmark::DoNotOptimize(demo_market::makeMarket(20260930));
}

void takeInTheDemoMarket(benchmark::State& state)
{
    dataset();
    double rows = 0;
    for (auto _ : state) {
        const auto report = intake::takeIn({dataset(), madeMarket()});
        rows += static_cast<double>(report->rows);
    }
    state.counters["rows/s"] = benchmark::Counter(rows, benchmark::Counter::kIsRate);
}

void screenFromNothing(benchmark::State& state)
{
    for (auto _ : state) {
        engine::Evaluator evaluator(demoMarket());
        benchmark::DoNotOptimize(run(pullback(), evaluator));
    }
}

void movedLimit(benchmark::State& state)
{
    engine::Evaluator evaluator(demoMarket());
    screens::Screen screen = pullback();
    run(screen, evaluator);
    int step = 0;
    for (auto _ : state) {
        screen.criteria[2].text = "strength_126 >= " + std::to_string(20 + step++ % 60) + ".5";
        const screens::ScreenRun result = run(screen, evaluator);
        benchmark::DoNotOptimize(screens::makeTable(result.matches, screen.columns,
                                                    {language::Vocabulary::builtIn()}, evaluator,
                                                    demoMarket()->sessions().back()));
    }
}

void newIndicator(benchmark::State& state)
{
    engine::Evaluator evaluator(demoMarket());
    screens::Screen screen = pullback();
    run(screen, evaluator);
    int step = 0;
    for (auto _ : state) {
        screen.criteria[0].text = "close > ema(close, " + std::to_string(20 + step++ % 400) + ")";
        benchmark::DoNotOptimize(run(screen, evaluator));
    }
}

void readTheMarket(benchmark::State& state)
{
    for (auto _ : state) {
        engine::Evaluator evaluator(demoMarket());
        benchmark::DoNotOptimize(conditions::readMarket(
            evaluator, {language::Vocabulary::builtIn()}, conditions::standardBook()));
    }
}

BENCHMARK(makeTheDemoMarket)->Unit(benchmark::kMillisecond);
BENCHMARK(takeInTheDemoMarket)->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(screenFromNothing)->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(movedLimit)->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(newIndicator)->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(readTheMarket)->Unit(benchmark::kMillisecond)->UseRealTime();

} // namespace

BENCHMARK_MAIN();
