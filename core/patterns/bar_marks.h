#pragma once

#include "core/market/bars.h"

#include <cstddef>
#include <string_view>
#include <vector>

namespace sieve::patterns {

/// A bar against the one before it.
enum class BarShape { Plain, GapUp, GapDown, Inside, Outside };

///   gap        the low above the high before (up), the high below the low before (down)
///   inside     high and low within those before, not equal to both
///   outside    a higher high and a lower low
/// Plain where either bar has no range (high equal to low, as a line of closes has) or a missing
/// value.
BarShape barShape(double highBefore, double lowBefore, double high, double low);

enum class Mark { GapUp, GapDown, IslandTop, IslandBottom, InsideDay, OutsideDay };
std::string_view markName(Mark mark); ///< "gap up", "island top", …

struct MarkedBar {
    Mark mark = Mark::GapUp;
    std::size_t bar = 0;   ///< on which it is known
    std::size_t first = 0; ///< of an island its first bar; else `bar`

    friend bool operator==(const MarkedBar&, const MarkedBar&) = default;
};

/// Bars that stand out, oldest first: those whose barShape is not plain, and islands.
///   island     a gap up, at most `mostIslandBars` bars, and a gap down that together leave those
///              bars wholly above what lies on both sides (top); the reverse (bottom)
std::vector<MarkedBar> markedBars(const market::BarsView& bars);
inline constexpr std::size_t mostIslandBars = 10;

} // namespace sieve::patterns
