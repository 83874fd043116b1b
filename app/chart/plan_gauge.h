#pragma once

#include "core/watchlists/trade_plan.h"

#include <QCoreApplication>
#include <QFont>
#include <QPointF>
#include <optional>
#include <vector>

class QPainter;

namespace sieve::app {

class ChartPicture;
struct Palette;

/// A plan as one bar at the left of the prices: from the stop over the entry to the targets, with
/// the price on it. Each level is named, goes as a thin line through the bars, and is dragged by
/// its name or its stroke.
class PlanGauge {
    Q_DECLARE_TR_FUNCTIONS(PlanGauge)
public:
    /// Says whether anything is drawn otherwise than before.
    bool setPlan(std::optional<watchlists::TradePlan> plan, const watchlists::PlanTerms& terms);
    std::vector<double> prices() const; ///< of its levels

    void paint(QPainter& painter, const ChartPicture& picture, const Palette& colours,
               const QFont& font) const;
    std::optional<watchlists::PlanLevel> levelAt(const ChartPicture& picture,
                                                 const QPointF& point) const;

    /// Takes hold of the level there; says whether there is one.
    bool press(const ChartPicture& picture, const QPointF& point);
    bool isHeld() const { return held_.has_value(); }
    void drag(const ChartPicture& picture, const QPointF& point);
    /// The plan as it was dragged; empty where nothing moved.
    std::optional<watchlists::TradePlan> release();

private:
    struct Level {
        watchlists::PlanLevel level;
        double price = missing;
        QString words;
    };
    std::vector<Level> levels() const; ///< from the stop up

    std::optional<watchlists::TradePlan> plan_;
    watchlists::PlanTerms terms_;
    std::optional<watchlists::TradePlan> before_; ///< the drag
    std::optional<watchlists::PlanLevel> held_;
};

} // namespace sieve::app
