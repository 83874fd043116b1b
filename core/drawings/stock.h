#pragma once

#include "core/base/shared.h"
#include "core/drawings/drawing.h"
#include "core/drawings/drawn.h"
#include "core/market/market.h"

#include <memory>
#include <optional>
#include <span>
#include <vector>

namespace sieve::drawings {

// A drawing is of the stock that bore its symbol on the day on which it was drawn, with prices on
// that day's footing.

/// Whether a drawing is of an instrument.
bool isOf(const Drawing& drawing, const market::Market& market, std::size_t instrument);

/// The same with its prices on another footing of its instrument.
Drawing onFooting(const Drawing& drawing, const market::Market& market, std::size_t instrument,
                  std::size_t footing);

/// The drawings of an instrument that were there by a day, as they lie over its bars as of that
/// day.
std::vector<Drawing> drawingsOn(std::span<const Shared<Drawing>> all, const market::Market& market,
                                std::size_t instrument, Day day);

/// One that is drawn, or whose points were moved, on an instrument as of a day: it bears the
/// symbol and the footing of that day. Requires: prices as they lie over the bars as of that day.
Drawing drawnOn(Drawing drawing, const market::Market& market, std::size_t instrument, Day day);

/// A drawing with the name, text and look of another.
Drawing withLookOf(Drawing drawing, const Drawing& other);

/// So many bars later, and by as much higher as `from` lies under `to` (by as large a share, where
/// equal steps are equal shares). Requires: daily bars.
Drawing moved(Drawing drawing, const market::Bars& daily, double bars, double from, double to);

/// A drawing put onto an instrument as of a day. From another stock it keeps its days, and its
/// distance to the close of its first day (of the nearest one with a bar).
/// Missing: empty where the instrument has no bar by the day.
std::optional<Drawing> putOnto(const Drawing& drawing, const market::MarketPtr& market,
                               std::size_t instrument, Day day);

/// All drawings of one name, each of another stock: what an expression asks for.
struct Named {
    std::vector<std::shared_ptr<const Drawing>> drawings;
};
/// The one of an instrument that was drawn last; null when there is none.
const Drawing* drawingOf(const Named& named, const market::Market& market, std::size_t instrument);

} // namespace sieve::drawings
