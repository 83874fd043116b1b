#include "app/chart/price_chart_feed.h"

#include "app/parts/number_text.h"

#include <array>

namespace sieve::app {

std::span<const std::string> initialChartLines()
{
    static const std::array<std::string, 3> lines{"ema(close, 21)", "sma(close, 50)",
                                                  "sma(close, 200)"};
    return lines;
}

PriceChartData priceChartData(engine::Evaluator& evaluator, std::size_t instrument, Day day,
                              std::span<const std::string> lines, const language::Names& names,
                              const Progress& progress)
{
    const market::AsOf asOf(evaluator.marketPtr(), day);
    PriceChartData data;
    data.title = text(evaluator.market().instrument(instrument).symbol);
    data.bars = asOf.adjustedBars(instrument);
    engine::Plan plan;
    for (const std::string& line : lines)
        if (const auto checked = check(line, names, plan))
            data.lines.push_back(
                {text(line), evaluator.history(plan, checked->node, instrument, day, progress)});
    return data;
}

} // namespace sieve::app
