#pragma once

#include "core/drawings/drawn.h"

#include <QFont>
#include <QPolygonF>
#include <QRectF>
#include <optional>
#include <vector>

class QPainter;

namespace sieve::app {

class ChartPicture;
struct Palette;

/// Drawings as they lie on the prices of a chart that is laid out, in pixels.
class DrawingPicture {
public:
    /// Places a drawing on the chart; nothing where the chart has no bars.
    static DrawingPicture of(const drawings::Drawing& drawing, const ChartPicture& chart,
                             const QFont& font);

    /// `taken`: where words of others stand. What has no room is left out; what is written is
    /// added.
    void paint(QPainter& painter, const Palette& colours, std::vector<QRectF>& taken) const;
    void paintHandles(QPainter& painter, const Palette& colours) const;

    /// How far a point is from what is drawn, in pixels; a large number where nothing is.
    double distanceTo(const QPointF& at) const;
    /// The point of the drawing that is taken hold of there.
    std::optional<std::size_t> handleAt(const QPointF& at) const;
    const std::vector<QPointF>& handles() const { return handles_; }

private:
    struct Line {
        QPolygonF points;
        bool isFaint = false;
        bool hasTip = false;
    };
    struct Text {
        QString words;
        QPointF at;
        drawings::Caption::Side side = drawings::Caption::Side::Above;
    };
    std::vector<QRectF> placesOf(const Text& text) const;

    drawings::Drawing drawing_;
    QRectF area_; ///< of the prices
    QFont font_;
    std::vector<Line> lines_;
    std::vector<QRectF> areas_;
    std::vector<Text> texts_;
    std::vector<QPointF> handles_;
};

} // namespace sieve::app
