#include "app/chart/drawing_picture.h"

#include "app/chart/chart_picture.h"
#include "app/look/palette.h"
#include "app/parts/number_text.h"

#include <QFontMetricsF>
#include <QLineF>
#include <QPainter>
#include <algorithm>
#include <cmath>

namespace sieve::app {

namespace {

constexpr double handleSize = 4.0;

double distanceToSegment(const QPointF& at, const QPointF& from, const QPointF& to)
{
    const QPointF along = to - from;
    const double squared = QPointF::dotProduct(along, along);
    const double share =
        squared > 0.0 ? std::clamp(QPointF::dotProduct(at - from, along) / squared, 0.0, 1.0) : 0.0;
    return QLineF(at, from + along * share).length();
}

/// The part of a line within an area: what lies far outside is slow to draw, and not seen.
std::optional<QLineF> clipped(const QLineF& line, const QRectF& area)
{
    double from = 0.0;
    double to = 1.0;
    const auto cut = [&](double step, double room) { // room: to the edge, along the step
        if (step == 0.0)
            return room >= 0.0;
        const double share = room / step;
        if (step > 0.0)
            to = std::min(to, share);
        else
            from = std::max(from, share);
        return from <= to;
    };
    const bool isSeen =
        cut(line.dx(), area.right() - line.x1()) && cut(-line.dx(), line.x1() - area.left()) &&
        cut(line.dy(), area.bottom() - line.y1()) && cut(-line.dy(), line.y1() - area.top());
    return isSeen ? std::optional(QLineF(line.pointAt(from), line.pointAt(to))) : std::nullopt;
}

void drawPath(QPainter& painter, const QPolygonF& points, const QRectF& area)
{
    const double width = painter.pen().widthF();
    const QRectF around = area.adjusted(-width, -width, width, width);
    QVector<QLineF> lines;
    for (qsizetype i = 1; i < points.size(); ++i) {
        const auto line = clipped(QLineF(points[i - 1], points[i]), around);
        if (line && line->dy() == 0.0) // as whole rows of pixels, which is fast and sharp
            painter.fillRect(QRectF(QPointF(line->x1(), std::round(line->y1() - width / 2.0)),
                                    QPointF(line->x2(), std::round(line->y1() - width / 2.0) +
                                                            std::max(std::round(width), 1.0)))
                                 .normalized(),
                             painter.pen().color());
        else if (line)
            lines.append(*line);
    }
    painter.drawLines(lines);
}

void drawTip(QPainter& painter, const QPolygonF& points)
{
    const QLineF last(points.back(), points[points.size() - 2]);
    if (last.length() < 1.0)
        return;
    for (const double turn : {-24.0, 24.0}) {
        QLineF barb = last;
        barb.setLength(std::min(9.0, last.length()));
        barb.setAngle(last.angle() + turn);
        painter.drawLine(barb);
    }
}

} // namespace

DrawingPicture DrawingPicture::of(const drawings::Drawing& drawing, const ChartPicture& chart,
                                  const QFont& font)
{
    DrawingPicture made;
    made.drawing_ = drawing;
    made.font_ = font;
    if (!chart.hasBars())
        return made;
    made.area_ = chart.panes().front().plot;
    const drawings::Outline outline =
        drawings::Drawn(drawing, *chart.chart().daily).outline(chart.sight());
    const auto at = [&chart](const drawings::Point& place) { return chart.pointOf(place); };
    const auto isSomewhere = [](const QPointF& point) {
        return std::isfinite(point.x()) && std::isfinite(point.y());
    };
    for (const drawings::Stroke& stroke : outline.strokes) {
        Line line{{}, stroke.isFaint, stroke.hasTip};
        for (const drawings::Point& place : stroke.points)
            if (const QPointF point = at(place); isSomewhere(point))
                line.points.append(point);
        if (line.points.size() > 1)
            made.lines_.push_back(std::move(line));
    }
    for (const drawings::Filled& filled : outline.areas)
        made.areas_.push_back(QRectF(at(filled.corner), at(filled.opposite)).normalized());
    for (const drawings::Caption& caption : outline.captions)
        if (const QPointF point = at(caption.at); isSomewhere(point))
            made.texts_.push_back({text(caption.text), point, caption.side});
    for (const drawings::Point& place : outline.handles)
        made.handles_.push_back(at(place));
    return made;
}

/// Where a text may stand, the best place first.
std::vector<QRectF> DrawingPicture::placesOf(const Text& text) const
{
    using Side = drawings::Caption::Side;
    const QFontMetricsF metrics(font_);
    QRectF box(0.0, 0.0, 0.0, 0.0);
    for (const QString& line : text.words.split(QLatin1Char('\n'))) {
        box.setWidth(std::max(box.width(), metrics.horizontalAdvance(line) + 4.0));
        box.setHeight(box.height() + metrics.height());
    }
    const double left = text.side == Side::AtEnd ? text.at.x() - box.width() : text.at.x();
    box.moveLeft(std::max(std::min(left, area_.right() - box.width() - 2.0), area_.left() + 2.0));
    QRectF above = box;
    above.moveBottom(text.at.y() - 3.0);
    QRectF below = box;
    below.moveTop(text.at.y() + 3.0);
    return text.side == Side::Below ? std::vector{below, above} : std::vector{above, below};
}

void DrawingPicture::paint(QPainter& painter, const Palette& colours,
                           std::vector<QRectF>& taken) const
{
    painter.save();
    painter.setClipRect(area_);
    painter.setRenderHint(QPainter::Antialiasing, true);
    const QColor colour = ChartPicture::colourOf(drawing_.colour, colours);
    QColor wash = colour;
    wash.setAlphaF(0.10F);
    for (const QRectF& area : areas_)
        painter.fillRect(area, wash);
    QColor faint = colour;
    faint.setAlphaF(0.55F);
    painter.setBrush(Qt::NoBrush);
    for (const Line& line : lines_) {
        painter.setPen(QPen(line.isFaint ? faint : colour,
                            line.isFaint ? std::min(drawing_.width, 1.0) : drawing_.width));
        drawPath(painter, line.points, area_);
        if (line.hasTip)
            drawTip(painter, line.points);
    }
    painter.setFont(font_);
    QColor ground = colours.sheet;
    ground.setAlphaF(0.8F);
    for (const Text& text : texts_) {
        if (!area_.adjusted(-200.0, -40.0, 200.0, 40.0).contains(text.at))
            continue;
        const std::vector<QRectF> places = placesOf(text);
        const auto free = std::ranges::find_if(places, [&](const QRectF& place) {
            return area_.contains(place) && std::ranges::none_of(taken, [&](const QRectF& other) {
                       return other.intersects(place);
                   });
        });
        if (free == places.end())
            continue;
        taken.push_back(*free);
        painter.fillRect(*free, ground);
        painter.setPen(colour);
        painter.drawText(*free, Qt::AlignCenter, text.words);
    }
    painter.restore();
}

void DrawingPicture::paintHandles(QPainter& painter, const Palette& colours) const
{
    painter.save();
    painter.setClipRect(area_);
    painter.setRenderHint(QPainter::Antialiasing, true);
    painter.setPen(QPen(colours.ink, 1.2));
    painter.setBrush(drawing_.isLocked ? colours.ink : colours.sheet); // what is locked is solid
    for (const QPointF& handle : handles_)
        painter.drawEllipse(handle, handleSize, handleSize);
    painter.restore();
}

double DrawingPicture::distanceTo(const QPointF& at) const
{
    constexpr double far = 1e9;
    double nearest = far;
    if (!area_.contains(at))
        return nearest;
    for (const Line& line : lines_)
        for (int i = 1; i < line.points.size(); ++i)
            nearest = std::min(nearest, distanceToSegment(at, line.points[i - 1], line.points[i]));
    if (lines_.empty()) // a note is its words
        for (const Text& text : texts_)
            if (placesOf(text).front().contains(at) || placesOf(text).back().contains(at))
                nearest = 0.0;
    return nearest;
}

std::optional<std::size_t> DrawingPicture::handleAt(const QPointF& at) const
{
    constexpr double reach = 8.0;
    for (std::size_t i = 0; i < handles_.size(); ++i)
        if (QLineF(handles_[i], at).length() <= reach)
            return i;
    return std::nullopt;
}

} // namespace sieve::app
