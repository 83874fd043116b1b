#pragma once

#include "core/charts/reduction.h"
#include "core/charts/value_axis.h"

#include <QColor>
#include <QRectF>
#include <span>

class QPainter;

namespace sieve::app {

struct Palette;

/// Where bars and values stand in a pane.
struct PaneScale {
    QRectF area;
    charts::ValueAxis axis;
    double from = 0.0;     ///< the place, in bars, of the left edge
    double barWidth = 1.0; ///< in pixels
    std::size_t first = 0; ///< bars in sight: [first, end)
    std::size_t end = 0;

    double x(double bar) const { return area.left() + (bar - from) * barWidth; }
    double y(double value) const { return area.bottom() - axis.place(value) * area.height(); }
    charts::ColumnScale columns() const;
    /// Whether several bars share a column of pixels.
    bool isReduced() const { return barWidth < 1.4; }
};

/// Prices as columns, a bar each.
struct PriceColumns {
    std::span<const double> open;
    std::span<const double> high;
    std::span<const double> low;
    std::span<const double> close;
};

/// What bars and their moves are drawn in.
struct BarColours {
    QColor rise;
    QColor fall;
    QColor ground; ///< inside of a hollow body
};

// Each draws the bars in sight, no more of them than pixels can show, and leaves out what is
// missing.

/// Rises hollow, falls filled; narrow ones are strokes.
void drawCandles(QPainter& painter, const PaneScale& scale, const PriceColumns& bars,
                 const BarColours& colours);
/// Strokes from low to high with a tick for open and close.
void drawStrokes(QPainter& painter, const PaneScale& scale, const PriceColumns& bars,
                 const BarColours& colours);
void drawLine(QPainter& painter, const PaneScale& scale, std::span<const double> values,
              const QColor& colour, double width);
/// The area from the line down to the foot of the pane.
void drawFilled(QPainter& painter, const PaneScale& scale, std::span<const double> values,
                const QColor& colour);
/// The area between two lines.
void drawBand(QPainter& painter, const PaneScale& scale, std::span<const double> from,
              std::span<const double> to, const QColor& colour);
/// From 0; `closes`, if given, tell whose day rose and whose fell.
void drawColumns(QPainter& painter, const PaneScale& scale, std::span<const double> values,
                 std::span<const double> closes, const QColor& colour, const BarColours& moves);
void drawDots(QPainter& painter, const PaneScale& scale, std::span<const double> values,
              const QColor& colour, double width);
void drawSteps(QPainter& painter, const PaneScale& scale, std::span<const double> values,
               const QColor& colour, double width);
/// A strip at the foot of the pane where the condition is 1.
void drawRibbon(QPainter& painter, const PaneScale& scale, std::span<const double> condition,
                const QColor& colour);

/// The area of the scale as a strip by the sign of each bar's figure: high above 0, low below.
void drawStates(QPainter& painter, const PaneScale& scale, std::span<const double> states,
                const Palette& colours);

} // namespace sieve::app
