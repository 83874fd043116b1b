#include "app/parts/mini_line.h"

#include "core/base/missing.h"

#include <QPainterPath>
#include <algorithm>

namespace sieve::app {

void paintMiniLine(QPainter& painter, const QRectF& area, std::span<const double> values,
                   const QColor& colour)
{
    double least = missing;
    double most = missing;
    for (const double value : values) {
        least = isMissing(least) || value < least ? value : least;
        most = isMissing(most) || value > most ? value : most;
    }
    if (isMissing(least) || values.size() < 2)
        return;
    const double span = most > least ? most - least : 1.0;
    QPainterPath path;
    bool isDrawing = false;
    for (std::size_t i = 0; i < values.size(); ++i) {
        if (isMissing(values[i])) {
            isDrawing = false;
            continue;
        }
        const QPointF point(area.left() + area.width() * static_cast<double>(i) /
                                              static_cast<double>(values.size() - 1),
                            area.bottom() - area.height() * (values[i] - least) / span);
        if (isDrawing)
            path.lineTo(point);
        else
            path.moveTo(point);
        isDrawing = true;
    }
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(QPen(colour, 1.3));
    painter.setBrush(Qt::NoBrush);
    painter.drawPath(path);
    painter.restore();
}

} // namespace sieve::app
