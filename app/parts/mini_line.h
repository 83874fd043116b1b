#pragma once

#include <QPainter>
#include <QRectF>
#include <span>

namespace sieve::app {

/// Draws a small line of values into a rectangle, lowest at the bottom; missing values leave a gap.
void paintMiniLine(QPainter& painter, const QRectF& area, std::span<const double> values,
                   const QColor& colour);

} // namespace sieve::app
