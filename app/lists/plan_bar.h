#pragma once

#include "core/base/missing.h"
#include "core/watchlists/entry.h"
#include "core/watchlists/trade_plan.h"

#include <QMetaType>
#include <QRectF>
#include <optional>

class QPainter;

namespace sieve::app {

/// A plan as one bar, from the stop over the entry to the last target, with the price on it.
struct PlanBar {
    watchlists::TradePlan plan;
    double price = missing;
};

/// The part of a bar's width at which a price stands, 0 to 1; beside them: it lies outside.
double placeOn(const PlanBar& bar, double price);

void paintPlanBar(QPainter& painter, const QRectF& area, const PlanBar& bar);
/// A sign by its shape, in the accent colour.
void paintSign(QPainter& painter, const QRectF& area, watchlists::Sign sign);

/// Of a model's data.
inline constexpr int planBarRole = 0x0100 + 61;  ///< a PlanBar
inline constexpr int signRole = planBarRole + 1; ///< a watchlists::Sign as an int

} // namespace sieve::app

Q_DECLARE_METATYPE(sieve::app::PlanBar)
