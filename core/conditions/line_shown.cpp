#include "core/conditions/line_shown.h"

#include <algorithm>
#include <functional>

namespace sieve::conditions {

namespace {

constexpr double swingReversal = 0.05;

/// The line at the levels that were known on a day.
Line onScaleOf(const Line& line, Day day)
{
    const double scale = line.scaleOn(day);
    if (scale == 1.0)
        return line;
    market::InstrumentRecord record;
    record.instrument = line.market->instrument(0);
    record.bars = market::Bars(line.bars());
    for (auto* prices :
         {&record.bars.open, &record.bars.high, &record.bars.low, &record.bars.close})
        for (double& price : *prices)
            price *= scale;
    std::vector<market::InstrumentRecord> records;
    records.push_back(std::move(record));
    Line scaled = line;
    scaled.market =
        std::make_shared<const market::Market>(market::MarketDescription{}, std::move(records));
    return scaled;
}

} // namespace

LineShown lineShown(engine::Evaluator& evaluator, const language::Names& names,
                    const LineReading& read, std::span<const std::string> panes, Day day,
                    const Progress& progress)
{
    LineShown shown;
    shown.line = onScaleOf(read.line, day);
    const auto bar = read.line.barBy(day);
    shown.bars = bar ? *bar + 1 : 0;
    for (std::size_t i = 0; i < shown.trends.size(); ++i)
        shown.trends[i] = read.trends[i].history;
    shown.panes = readPanes(evaluator, names, read.line, panes, progress);
    if (!bar)
        return shown;
    market::BarsView bars = shown.line.bars();
    for (std::span<const double>* column : {&bars.open, &bars.high, &bars.low, &bars.close})
        *column = column->first(shown.bars);
    shown.swings = patterns::swingsByReversal(bars.high, bars.low, swingReversal);
    shown.marks = patterns::markedBars(bars);
    for (std::size_t pane = 0; pane < shown.panes.size(); ++pane)
        for (const DivergenceFound& found :
             findDivergences(bars.close, shown.panes[pane].values, *bar))
            shown.divergences.push_back({pane, found});
    std::ranges::stable_sort(shown.divergences, std::greater{},
                             [](const auto& each) { return each.found.knownOn; });
    return shown;
}

} // namespace sieve::conditions
