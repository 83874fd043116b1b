#pragma once

#include "core/engine/day_table.h"
#include "core/engine/plan.h"

#include <cstdint>
#include <functional>
#include <map>
#include <memory>
#include <vector>

namespace sieve::engine {

/// One value an instrument, in the market's order. Yes is 1, a text its number in the market's
/// table, a day its serial.
using Column = std::vector<double>;
using ColumnPtr = std::shared_ptr<const Column>;

/// A part that goes across stocks, on the sessions of the market on which somebody asked for it.
struct AcrossValues {
    DayTable table;
    /// An instrument's row in the table where a group shares one, StockGroups::none where it has
    /// none; empty where each instrument has its own, or the whole market one.
    std::vector<std::uint32_t> rows;
    std::vector<std::uint32_t> places; ///< by session: its place in the table
};

using AcrossTable = std::map<NodeId, AcrossValues>;

/// What parts along the bars of one instrument read besides those bars.
struct Context {
    const market::Market& market;
    const AcrossTable& across;
    /// The market of one instrument that stands for those that a part such as Composite names; null
    /// where this market has none of them.
    std::function<market::MarketPtr(const Node& part)> composite;
};

enum class Depth {
    AsNeeded,     ///< each part reads as far back as it does as a rule
    WholeHistory, ///< as far as it could ever need
};

} // namespace sieve::engine
