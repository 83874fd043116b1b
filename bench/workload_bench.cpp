#include "core/conditions/mosaic.h"
#include "core/conditions/panes.h"
#include "core/conditions/reading.h"
#include "core/engine/evaluator.h"
#include "core/language/checker.h"
#include "core/screens/run.h"
#include "core/screens/table.h"
#include "core/storage/market_file.h"

#include <algorithm>
#include <atomic>
#include <chrono>
#include <cstdio>
#include <fmt/format.h>
#include <functional>
#include <iostream>
#include <string>
#include <sys/resource.h>
#include <tbb/parallel_for.h>
#include <vector>

// workload_bench MARKET-FOLDER [ROUNDS [WORKLOAD]]
// With 0 rounds it does one for each line of its input and tells the time alone: bench/alternate
// asks two builds in turn so.
// The workloads of docs/performance.md that the engine answers for, on a market taken in before.
// Each is told as the median of its rounds, and as a multiple of the least possible time: the bytes
// that it must touch over the machine's memory bandwidth, measured on the spot.

namespace {

using namespace sieve;
using engine::Evaluator;
using engine::NodeId;

const std::vector<std::string> criteria{
    "kind == \"share\"",
    "close >= 8",
    "sma(traded_value, 40) >= 40M",
    "close > sma(close, 180)",
    "sma(close, 60) > sma(close, 180)",
    "-1.5% <= close / ema(close, 34) - 1 <= 1.5%",
    "percentile(change(close, 110)) >= 65",
    "42 <= rsi(close, 14) <= 68",
    "atr(14) / close <= 5%",
    "growth(ttm(eps), ttm(eps, 4)) >= 12%",
    "price_to_earnings <= median(price_to_earnings, within = industry)",
    "up_down_volume(40) >= 1",
};

/// The same question in other words: criteria in the place of some of those above.
struct Wording {
    const char* name;
    std::vector<std::pair<std::size_t, const char*>> instead; ///< number of the criterion, and text
    bool isReversed = false;                                  ///< the last criterion first
};
const std::vector<Wording> wordings{
    {"a rank for the percentile", {{6, "rank(change(close, 110)) <= 3000"}}},
    {"a bound that is an expression",
     {{6, "percentile(change(close, 110)) >= if(close > 20, 65, 66)"}, {1, "close >= 4 + 2 ^ 2"}}},
    {"the criteria in the other order", {}, true},
    {"what is asked turned over",
     {{7, "not (rsi(close, 14) < 42 or rsi(close, 14) > 68)"},
      {3, "not sma(close, 180) >= close"}}},
    {"quotients as products",
     {{8, "atr(14) <= 5% * close"},
      {5, "abs(close - ema(close, 34)) <= 1.5% * ema(close, 34)"},
      {9, "ttm(eps) >= 1.12 * if(ttm(eps, 4) > 0, ttm(eps, 4), no_data)"}}},
};

double seconds(const std::function<void()>& work)
{
    const auto start = std::chrono::steady_clock::now();
    work();
    return std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
}

double medianOf(std::vector<double> times)
{
    std::ranges::sort(times);
    return times[times.size() / 2];
}

/// Bytes a second of a[i] = b[i] + 3 c[i] over columns that no cache holds, on all cores.
double bandwidth()
{
    constexpr std::size_t count = 20'000'000;
    std::vector<double> a(count, 1.0);
    std::vector<double> b(count, 2.0);
    std::vector<double> c(count, 3.0);
    std::vector<double> times;
    for (int round = 0; round < 5; ++round)
        times.push_back(seconds([&] {
            tbb::parallel_for(tbb::blocked_range<std::size_t>(0, count, 1'000'000),
                              [&](const tbb::blocked_range<std::size_t>& some) {
                                  for (std::size_t i = some.begin(); i < some.end(); ++i)
                                      a[i] = b[i] + 3.0 * c[i];
                              });
        }));
    return 24.0 * count / *std::ranges::min_element(times);
}

class Bench {
public:
    Bench(market::MarketPtr market, int rounds, std::string only)
        : market_(std::move(market)), rounds_(rounds), only_(std::move(only)),
          bandwidth_(bandwidth())
    {
        for (std::size_t i = 0; i < market_->size(); ++i)
            bars_ += static_cast<double>(market_->bars(i).size());
        fmt::print("{} instruments, {:.1f} M bars, {} sessions; triad {:.1f} GB/s\n",
                   market_->size(), bars_ / 1e6, market_->sessions().size(), bandwidth_ / 1e9);
    }

    void run()
    {
        screen();
        everyDay();
        fiveIndicators();
        movedLimit();
        fiftyColumns();
        chartLines();
        breadth();
        rusage usage{};
        getrusage(RUSAGE_SELF, &usage);
        fmt::print("most resident: {} MiB\n", usage.ru_maxrss / 1024);
    }

private:
    bool isAsked(std::string_view workload) const { return only_.empty() || only_ == workload; }

    void tell(const std::string& name, double bytes, const std::function<void()>& work)
    {
        if (!isAsked(std::string_view(name).substr(0, std::string_view(name).find(' '))))
            return;
        if (rounds_ == 0)
            return whenAsked(work);
        std::vector<double> times;
        for (int round = 0; round < rounds_; ++round)
            times.push_back(seconds(work));
        const double median = medianOf(times);
        fmt::print("{:<44} {:>9.2f} ms, at best {:>9.2f}", name, 1e3 * median,
                   1e3 * *std::ranges::min_element(times));
        if (bytes > 0)
            fmt::print("  {:>6.1f} times the least", median / (bytes / bandwidth_));
        fmt::print("\n");
        std::fflush(stdout);
    }

    static void whenAsked(const std::function<void()>& work)
    {
        for (std::string line; std::getline(std::cin, line);) {
            fmt::print("round {:.4f}\n", 1e3 * seconds(work));
            std::fflush(stdout);
        }
    }

    static screens::Screen twelve()
    {
        screens::Screen screen;
        screen.name = "Twelve";
        for (const std::string& text : criteria)
            screen.criteria.push_back({text, true, {}});
        return screen;
    }

    const language::Vocabulary& vocabulary() const { return language::Vocabulary::builtIn(); }

    NodeId node(const std::string& text)
    {
        const auto checked = language::check(text, {vocabulary()}, plan_);
        if (!checked)
            throw std::logic_error(text + ": " + sentence(checked.error()));
        return checked->node;
    }

    static std::string joined(const std::vector<std::string>& texts)
    {
        std::string text;
        for (const std::string& each : texts)
            text += (text.empty() ? "" : " and ") + each;
        return text;
    }

    void screen()
    {
        // Closes of the longest average's reach, highs and lows of the true range's, volumes.
        const double bytes = 8.0 * static_cast<double>(market_->size()) * (660 + 2 * 530 + 40);
        std::size_t passing = 0;
        tell("W1 twelve criteria, last day, from bare bars", bytes, [&] {
            Evaluator evaluator(market_);
            passing = screens::run(twelve(), {vocabulary()}, evaluator, market_->sessions().back())
                          .passing;
        });
        fmt::print("   {} pass\n", passing);
    }

    void everyDay()
    {
        const NodeId targets[] = {node(joined(criteria)), node("close")};
        const auto days = market_->sessions();
        std::vector<std::atomic<std::uint32_t>> matches(days.size());
        const double bytes = 8.0 * 4.0 * bars_;
        tell("W2 the same on every day: matches per day", bytes, [&] {
            Evaluator evaluator(market_);
            for (auto& each : matches)
                each = 0;
            evaluator.sweep(plan_, std::span(targets).first(1), days,
                            [&](const engine::SweepValues& swept) {
                                for (std::size_t i = 0; i < swept.bars.size(); ++i)
                                    if (swept.value(0, i) == 1.0)
                                        ++matches[swept.firstDay + i];
                            });
        });
        for (const Wording& wording : wordings) {
            std::vector<std::string> texts = criteria;
            for (const auto& [at, text] : wording.instead)
                texts[at] = text;
            if (wording.isReversed)
                std::ranges::reverse(texts);
            const NodeId asked[] = {node(joined(texts))};
            tell(fmt::format("W2 {}", wording.name), bytes, [&] {
                Evaluator evaluator(market_);
                std::atomic<std::size_t> count = 0;
                evaluator.sweep(plan_, asked, days, [&](const engine::SweepValues& swept) {
                    std::size_t own = 0;
                    for (std::size_t i = 0; i < swept.bars.size(); ++i)
                        own += swept.value(0, i) == 1.0 ? 1U : 0U;
                    count += own;
                });
            });
        }
        std::vector<std::atomic<double>> gains(days.size());
        tell("W3 and their mean gain of 20 days", bytes, [&] {
            Evaluator evaluator(market_);
            for (std::size_t i = 0; i < days.size(); ++i) {
                matches[i] = 0;
                gains[i] = 0;
            }
            evaluator.sweep(plan_, targets, days, [&](const engine::SweepValues& swept) {
                for (std::size_t i = 0; i + 20 < swept.bars.size(); ++i)
                    if (swept.value(0, i) == 1.0) {
                        ++matches[swept.firstDay + i];
                        const double gain = swept.value(1, i + 20) / swept.value(1, i) - 1.0;
                        auto& sum = gains[swept.firstDay + i];
                        double before = sum;
                        while (!sum.compare_exchange_weak(before, before + gain))
                            continue;
                    }
            });
        });
        std::size_t all = 0;
        for (const auto& each : matches)
            all += each;
        fmt::print("   {} matches\n", all);
    }

    void fiveIndicators()
    {
        const NodeId targets[] = {node("sma(close, 180)"), node("ema(close, 34)"),
                                  node("rsi(close, 14)"), node("atr(14)"),
                                  node("highest(high, 250)")};
        tell("W5 five indicators at every bar", 8.0 * 3.0 * bars_, [&] {
            Evaluator evaluator(market_);
            std::atomic<std::size_t> known = 0;
            evaluator.sweep(
                plan_, targets, market_->sessions(),
                [&](const engine::SweepValues& swept) { known += swept.values[0].size(); });
        });
    }

    void movedLimit()
    {
        if (!isAsked("W6"))
            return;
        Evaluator evaluator(market_);
        screens::Screen moved = twelve();
        const std::vector<std::string> columns{"symbol",       "close",  "day_change",
                                               "strength_126", "rsi_14", "price_to_earnings"};
        const Day day = market_->sessions().back();
        int step = 0;
        tell("W6 a moved limit, counts and first rows", 0, [&] {
            moved.criteria[6].text =
                fmt::format("percentile(change(close, 110)) >= {}", 40 + step++ % 50);
            const auto result = screens::run(moved, {vocabulary()}, evaluator, day);
            const auto table =
                screens::makeTable(result.matches, columns, {vocabulary()}, evaluator, day);
        });
        screens::Screen longer = twelve();
        longer.criteria.push_back({"", true, {}});
        tell("W6 a new criterion with a new indicator", 0, [&] {
            longer.criteria.back().text = fmt::format("cci({}) > 0", 15 + step++);
            screens::run(longer, {vocabulary()}, evaluator, day);
        });
        screens::Screen all = twelve();
        all.criteria = {{"kind == \"share\"", true, {}}};
        const auto everybody = screens::run(all, {vocabulary()}, evaluator, day);
        tell("W6 the table of all that pass one criterion", 0, [&] {
            screens::makeTable(everybody.matches, columns, {vocabulary()}, evaluator, day);
        });
    }

    void fiftyColumns()
    {
        if (!isAsked("W7"))
            return;
        std::vector<std::string> columns;
        for (const language::Field& field : vocabulary().fields())
            if (columns.size() < 50 && field.kind == Kind::Number && !field.formula.empty() &&
                field.formula.find("weekly") == std::string::npos)
                columns.push_back(field.name);
        std::vector<std::size_t> rows(std::min<std::size_t>(market_->size(), 200));
        for (std::size_t i = 0; i < rows.size(); ++i)
            rows[i] = i;
        const Day day = market_->sessions().back();
        tell("W7 fifty columns for one day, from nothing", 0, [&] {
            Evaluator evaluator(market_);
            const auto table = screens::makeTable(rows, columns, {vocabulary()}, evaluator, day);
        });
        Evaluator evaluator(market_);
        auto table = screens::makeTable(rows, columns, {vocabulary()}, evaluator, day);
        tell("W7 the same again", 0,
             [&] { table = screens::makeTable(rows, columns, {vocabulary()}, evaluator, day); });
    }

    void chartLines()
    {
        std::vector<NodeId> targets;
        for (int n = 5; n < 20; ++n)
            targets.push_back(node(fmt::format("sma(close, {})", 10 * n)));
        for (const char* text :
             {"ema(close, 21)", "ema(close, 55)", "bollinger_upper", "bollinger_lower",
              "rsi(close)", "macd", "macd_signal", "atr(14)", "adx(14)", "stochastic_k",
              "stochastic_d", "obv", "highest(high, 252)", "lowest(low, 252)", "parabolic_stop"})
            targets.push_back(node(text));
        std::size_t longest = 0;
        for (std::size_t i = 0; i < market_->size(); ++i)
            if (market_->bars(i).size() > market_->bars(longest).size())
                longest = i;
        tell("W8 thirty lines of one chart", 0, [&] {
            Evaluator evaluator(market_);
            evaluator.histories(plan_, targets, longest, market_->sessions().back());
        });
        const std::size_t last = market_->bars(longest).size() - 1;
        tell("W8 one more bar of them", 0, [&] {
            Evaluator evaluator(market_);
            evaluator.histories(plan_, targets, longest, market_->sessions().back(), {}, last);
        });
    }

    void breadth()
    {
        if (!isAsked("W12"))
            return;
        const language::Names names{vocabulary()};
        const conditions::Line line = conditions::marketLines(*market_).front();
        std::vector<std::string> texts;
        for (const language::Field& field : vocabulary().fields())
            if (field.family == "Breadth")
                texts.push_back(field.name);
        tell("W12 all breadth series, every day", 8.0 * 4.0 * bars_, [&] {
            Evaluator evaluator(market_);
            readPanes(evaluator, names, line, texts);
        });
        Evaluator evaluator(market_);
        readPanes(evaluator, names, line, texts);
        tell("W12 the same again", 0, [&] { readPanes(evaluator, names, line, texts); });
        tell("W12 lines, states, rules, stance", 0, [&] {
            Evaluator fresh(market_);
            readMarket(fresh, names, conditions::standardBook());
        });
        tell("W12 groups", 0, [&] {
            Evaluator fresh(market_);
            conditions::readGroups(fresh);
        });
        const conditions::Groups groups = conditions::readGroups(evaluator);
        const Day last = market_->sessions().back();
        tell("W12 mosaic of the market", 0, [&] {
            Evaluator fresh(market_);
            marketMosaic(fresh, groups, std::nullopt, last, 21);
        });
    }

    market::MarketPtr market_;
    int rounds_;
    std::string only_;
    double bandwidth_;
    double bars_ = 0;
    engine::Plan plan_;
};

} // namespace

int main(int count, char** arguments)
{
    if (count < 2) {
        std::fputs("Use: workload_bench MARKET-FOLDER [ROUNDS [WORKLOAD]]\n", stderr);
        return 2;
    }
    const auto market = storage::openMarket(arguments[1]);
    if (!market) {
        std::fputs((sentence(market.error()) + "\n").c_str(), stderr);
        return 1;
    }
    Bench(*market, count > 2 ? std::atoi(arguments[2]) : 5, count > 3 ? arguments[3] : "").run();
    return 0;
}
