#include "app/chart/mark_picture.h"

#include "app/look/palette.h"

#include <QPainter>
#include <QPolygonF>

namespace sieve::app {

namespace {

void drawLines(QPainter& painter, const QPointF& at, const QList<QPolygonF>& lines)
{
    for (const QPolygonF& line : lines)
        painter.drawPolyline(line.translated(at));
}

} // namespace

void drawMark(QPainter& painter, charts::MarkKind kind, const QPointF& at, const Palette& colours)
{
    using charts::MarkKind;
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing, true);
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(colours.softInk, 1.4));
    switch (kind) {
    case MarkKind::Report: // a pin
        painter.setPen(QPen(colours.mark, 1.6));
        painter.drawLine(at + QPointF(0.0, 5.0), at);
        painter.setBrush(colours.mark);
        painter.drawEllipse(at - QPointF(0.0, 1.5), 2.0, 2.0);
        break;
    case MarkKind::Dividend: // a ring
        painter.setPen(QPen(colours.rise, 1.4));
        painter.drawEllipse(at, 2.6, 2.6);
        break;
    case MarkKind::Split: // two strokes
        painter.setPen(QPen(colours.ink, 1.4));
        drawLines(painter, at, {{{-1.8, -3.5}, {-1.8, 3.5}}, {{1.8, -3.5}, {1.8, 3.5}}});
        break;
    case MarkKind::News: // a dot
        painter.setPen(Qt::NoPen);
        painter.setBrush(colours.softInk);
        painter.drawEllipse(at, 1.8, 1.8);
        break;
    case MarkKind::Rating: // an arch
        painter.setPen(QPen(colours.caution, 1.4));
        painter.drawArc(QRectF(at.x() - 3.0, at.y() - 2.0, 6.0, 6.0), 0, 180 * 16);
        break;
    case MarkKind::Entry: // a slip, as put between pages
        painter.setPen(Qt::NoPen);
        painter.setBrush(colours.mark);
        painter.drawPolygon(
            QPolygonF({{-2.2, -3.5}, {2.2, -3.5}, {2.2, 3.5}, {0.0, 1.4}, {-2.2, 3.5}})
                .translated(at));
        break;
    case MarkKind::Gap: // two edges apart
        drawLines(painter, at, {{{-3.0, -2.2}, {3.0, -2.2}}, {{-3.0, 2.2}, {3.0, 2.2}}});
        break;
    case MarkKind::Island: // one edge over water
        drawLines(painter, at,
                  {{{-3.2, 2.4}, {3.2, 2.4}}, {{-1.6, -0.8}, {0.0, -2.6}, {1.6, -0.8}}});
        break;
    case MarkKind::Inside: // a short stroke within brackets
        drawLines(
            painter, at,
            {{{-3.0, -3.0}, {-3.0, 3.0}}, {{0.0, -1.2}, {0.0, 1.2}}, {{3.0, -3.0}, {3.0, 3.0}}});
        break;
    case MarkKind::Outside: // a long stroke between short ones
        drawLines(
            painter, at,
            {{{-3.0, -1.0}, {-3.0, 1.0}}, {{0.0, -3.4}, {0.0, 3.4}}, {{3.0, -1.0}, {3.0, 1.0}}});
        break;
    case MarkKind::Swing: // a turn
        drawLines(painter, at, {{{-3.0, 2.0}, {0.0, -2.0}, {3.0, 2.0}}});
        break;
    case MarkKind::Trade: // a stroke between two points
        painter.setPen(QPen(colours.ink, 1.2));
        painter.drawLine(at - QPointF(2.6, 0.0), at + QPointF(2.6, 0.0));
        painter.setBrush(colours.ink);
        painter.drawEllipse(at - QPointF(2.6, 0.0), 1.3, 1.3);
        painter.drawEllipse(at + QPointF(2.6, 0.0), 1.3, 1.3);
        break;
    case MarkKind::Divergence: // two strokes that part
        painter.setPen(QPen(colours.caution, 1.4));
        drawLines(painter, at, {{{-3.0, 0.0}, {3.0, -3.0}}, {{-3.0, 0.6}, {3.0, 3.4}}});
        break;
    case MarkKind::Match: // a lozenge
        painter.setPen(Qt::NoPen);
        painter.setBrush(colours.caution);
        painter.drawPolygon(
            QPolygonF({{0.0, -3.4}, {2.6, 0.0}, {0.0, 3.4}, {-2.6, 0.0}}).translated(at));
        break;
    }
    painter.restore();
}

} // namespace sieve::app
