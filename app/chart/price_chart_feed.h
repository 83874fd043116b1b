#pragma once

#include "app/chart/price_chart.h"
#include "core/engine/evaluator.h"
#include "core/language/checker.h"

#include <span>
#include <string>

namespace sieve::app {

/// The lines that a price chart begins with: expressions of the language.
std::span<const std::string> initialChartLines();

/// Puts together what a price chart shows of a stock as of a day. Runs on the pool.
/// Errors: Stopped.
PriceChartData priceChartData(engine::Evaluator& evaluator, std::size_t instrument, Day day,
                              std::span<const std::string> lines, const language::Names& names,
                              const Progress& progress = {});

} // namespace sieve::app
