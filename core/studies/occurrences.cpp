#include "core/studies/occurrences.h"

#include <algorithm>
#include <atomic>
#include <fmt/format.h>
#include <mutex>

namespace sieve::studies {

namespace {

/// Bars in a row on which the condition held.
struct Run {
    std::size_t stock = 0;
    std::size_t first = 0;
    std::size_t last = 0;
};

/// The runs of one stretch of days; more than one day may have the same bar.
void addRuns(const engine::SweepValues& swept, std::vector<Run>& runs)
{
    for (std::size_t day = 0; day < swept.bars.size(); ++day) {
        const std::size_t bar = swept.bars[day];
        if (swept.value(0, day) != 1.0)
            continue;
        const bool goesOn =
            !runs.empty() && runs.back().stock == swept.instrument && runs.back().last + 1 >= bar;
        if (goesOn)
            runs.back().last = std::max(runs.back().last, bar);
        else
            runs.push_back({swept.instrument, bar, bar});
    }
}

} // namespace

Result<std::vector<Occurrence>> occurrencesOf(std::string_view condition,
                                              const language::Names& names,
                                              engine::Evaluator& evaluator, Day day,
                                              const Progress& progress)
{
    engine::Plan plan;
    const auto checked = language::checkCondition(condition, names, plan);
    if (!checked)
        return checked.error();
    const market::Market& market = evaluator.market();
    const auto sessions = market.sessions();
    const auto end = std::ranges::upper_bound(sessions, day);
    const std::span<const Day> days(sessions.begin(), end);
    std::vector<Run> runs;
    if (!days.empty()) {
        std::mutex mutex; // of `runs`: a stretch of days takes long to evaluate and short to add
        std::atomic<bool> isTooMany = false;
        const engine::NodeId targets[] = {checked->node};
        evaluator.sweep(
            plan, targets, days,
            [&](const engine::SweepValues& swept) {
                if (market.isIndex(swept.instrument) || isTooMany)
                    return;
                std::vector<Run> own;
                addRuns(swept, own);
                const std::scoped_lock lock(mutex);
                runs.insert(runs.end(), own.begin(), own.end());
                isTooMany = runs.size() > 2 * mostOccurrences;
            },
            progress);
        if (isTooMany)
            runs.resize(2 * mostOccurrences);
    }
    std::ranges::sort(runs, {}, [](const Run& run) { return std::pair(run.stock, run.first); });
    std::vector<Occurrence> all;
    for (std::size_t i = 0; i < runs.size(); ++i) {
        // A run that goes on over the seam of two stretches is one.
        const bool goesOn =
            i > 0 && runs[i - 1].stock == runs[i].stock && runs[i - 1].last + 1 >= runs[i].first;
        if (!goesOn)
            all.push_back({runs[i].stock, runs[i].first});
    }
    if (all.size() > mostOccurrences)
        return LocatedError{{},
                            fmt::format("it began to hold more than {} times", mostOccurrences),
                            "ask for something rarer"};
    return all;
}

} // namespace sieve::studies
