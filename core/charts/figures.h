#pragma once

#include "core/charts/chart.h"
#include "core/exports/sheet.h"

#include <string>

namespace sieve::charts {

/// A minute of the day as a clock tells it: "10:35".
std::string clockText(int minute);

/// The chart as a table, a row a bar: its day (and time), prices and volume, then each layer that
/// has figures (a band as two columns) under its expression, with its unit.
exports::Sheet figuresOf(const Chart& chart);

/// The chart in one sentence, for those who hear it: the close, its change on the bar and over so
/// many bars, how far it stands from each line over the prices, how highs and lows go, and the last
/// turn.
std::string spokenSummary(const Chart& chart, std::size_t bars);

} // namespace sieve::charts
