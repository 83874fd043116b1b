#include "app/chart/chart_drawing.h"

#include "app/look/palette.h"
#include "core/base/missing.h"

#include <QPainter>
#include <QPainterPath>
#include <QPolygonF>
#include <QVector>
#include <algorithm>
#include <cmath>

namespace sieve::app {

namespace {

/// Strokes and bodies of one colour, drawn with one call each.
struct Strokes {
    QVector<QLineF> lines;
    QVector<QRectF> bodies;
};

/// The middle of a pixel: a stroke of one pixel lies on it, not between two.
double middle(double x)
{
    return std::floor(x) + 0.5;
}

void draw(QPainter& painter, const Strokes& strokes, const QColor& colour, const QColor& inside)
{
    painter.setPen(QPen(colour, 1.0));
    painter.drawLines(strokes.lines);
    painter.setBrush(inside);
    painter.drawRects(strokes.bodies);
}

/// Where one bar stands, in the middles of pixels.
struct BarPlace {
    double x, open, high, low, close;
    double half; ///< of its width; under 1 there is room for a stroke only
};

/// Draws the bars in sight, rises and falls each in their colour: `add(strokes, place)` gives the
/// strokes of a bar that has room for more than one. Where several share a column of pixels, each
/// column is one stroke from the lowest to the highest of them.
template <class Add> void drawBars(QPainter& painter, const PaneScale& scale,
                                   const PriceColumns& bars, const BarColours& colours, Add add)
{
    Strokes rises;
    Strokes falls;
    const auto stroke = [](Strokes& strokes, double x, double high, double low) {
        strokes.lines.append(QLineF(x, high, x, std::max(low, high + 1.0)));
    };
    if (scale.isReduced()) {
        for (const charts::ColumnExtent& each :
             reducedBars(bars.open, bars.high, bars.low, bars.close, scale.first, scale.end,
                         scale.columns()))
            stroke(each.last >= each.first ? rises : falls,
                   scale.area.left() + static_cast<double>(each.column) + 0.5,
                   middle(scale.y(each.high)), middle(scale.y(each.low)));
    } else {
        const double half = std::floor(scale.barWidth * 0.68 / 2.0);
        for (std::size_t bar = scale.first; bar < scale.end; ++bar) {
            const BarPlace place{
                middle(scale.x(static_cast<double>(bar))), middle(scale.y(bars.open[bar])),
                middle(scale.y(bars.high[bar])),           middle(scale.y(bars.low[bar])),
                middle(scale.y(bars.close[bar])),          half};
            Strokes& strokes = bars.close[bar] >= bars.open[bar] ? rises : falls;
            if (isMissing(place.close))
                continue;
            if (half < 1.0)
                stroke(strokes, place.x, place.high, place.low);
            else
                add(strokes, place);
        }
    }
    draw(painter, rises, colours.rise, colours.ground);
    draw(painter, falls, colours.fall, colours.fall);
}

/// The points of a line in sight and of one bar before and behind, where it goes on; each stretch
/// without a gap is one polygon.
template <class Take>
void eachStretch(const PaneScale& scale, std::span<const double> values, Take take)
{
    const std::size_t first = scale.first - std::min<std::size_t>(scale.first, 1);
    const std::size_t end = std::min(scale.end + 1, values.size());
    QPolygonF points;
    const auto finish = [&] {
        if (!points.isEmpty())
            take(points);
        points.clear();
    };
    if (scale.isReduced()) {
        std::vector<std::size_t> breaks;
        const auto columns = reducedLine(values, first, end, scale.columns(), &breaks);
        std::size_t next = 0;
        for (std::size_t i = 0; i < columns.size(); ++i) {
            if (next < breaks.size() && breaks[next] == i) {
                finish();
                ++next;
            }
            const charts::ColumnExtent& each = columns[i];
            const double x = scale.area.left() + static_cast<double>(each.column) + 0.5;
            points.append({x, scale.y(each.first)});
            if (each.high != each.low) {
                points.append({x, scale.y(each.last >= each.first ? each.low : each.high)});
                points.append({x, scale.y(each.last >= each.first ? each.high : each.low)});
                points.append({x, scale.y(each.last)});
            }
        }
        return finish();
    }
    for (std::size_t bar = first; bar < end; ++bar) {
        const double y = scale.y(values[bar]);
        if (isMissing(y))
            finish();
        else
            points.append({scale.x(static_cast<double>(bar)), y});
    }
    finish();
}

void drawPolylines(QPainter& painter, const PaneScale& scale, std::span<const double> values)
{
    // Where many bars share a pixel, smoothing costs most of the frame and shows nothing.
    painter.setRenderHint(QPainter::Antialiasing, !scale.isReduced());
    eachStretch(scale, values, [&](const QPolygonF& points) {
        if (points.size() == 1)
            return painter.drawPoint(points.front());
        if (painter.pen().widthF() <= 1.0)
            return painter.drawPolyline(points);
        // Joining wide strokes costs several times what drawing them one by one does.
        QVector<QLineF> strokes;
        strokes.reserve(points.size());
        for (qsizetype i = 1; i < points.size(); ++i)
            strokes.append(QLineF(points[i - 1], points[i]));
        painter.drawLines(strokes);
    });
    painter.setRenderHint(QPainter::Antialiasing, false);
}

} // namespace

charts::ColumnScale PaneScale::columns() const
{
    return {from, 1.0 / barWidth, static_cast<std::size_t>(std::max(area.width(), 0.0))};
}

void drawCandles(QPainter& painter, const PaneScale& scale, const PriceColumns& bars,
                 const BarColours& colours)
{
    drawBars(painter, scale, bars, colours, [](Strokes& strokes, const BarPlace& bar) {
        const double top = std::min(bar.open, bar.close); // upwards is less
        const double foot = std::max(bar.open, bar.close);
        if (bar.high < top)
            strokes.lines.append(QLineF(bar.x, bar.high, bar.x, top));
        if (bar.low > foot)
            strokes.lines.append(QLineF(bar.x, foot, bar.x, bar.low));
        if (foot - top < 1.0) // open and close at one price
            strokes.lines.append(QLineF(bar.x - bar.half, top, bar.x + bar.half, top));
        else
            strokes.bodies.append(QRectF(bar.x - bar.half, top, 2.0 * bar.half, foot - top));
    });
}

void drawStrokes(QPainter& painter, const PaneScale& scale, const PriceColumns& bars,
                 const BarColours& colours)
{
    drawBars(painter, scale, bars, colours, [](Strokes& strokes, const BarPlace& bar) {
        strokes.lines.append(QLineF(bar.x, bar.high, bar.x, std::max(bar.low, bar.high + 1.0)));
        strokes.lines.append(QLineF(bar.x - bar.half, bar.open, bar.x, bar.open));
        strokes.lines.append(QLineF(bar.x, bar.close, bar.x + bar.half, bar.close));
    });
}

void drawLine(QPainter& painter, const PaneScale& scale, std::span<const double> values,
              const QColor& colour, double width)
{
    painter.setPen(QPen(colour, scale.isReduced() ? 1.0 : width));
    drawPolylines(painter, scale, values);
}

void drawFilled(QPainter& painter, const PaneScale& scale, std::span<const double> values,
                const QColor& colour)
{
    painter.setPen(Qt::NoPen);
    painter.setBrush(colour);
    eachStretch(scale, values, [&](QPolygonF points) {
        points.append({points.back().x(), scale.area.bottom()});
        points.append({points.front().x(), scale.area.bottom()});
        painter.drawPolygon(points);
    });
}

void drawBand(QPainter& painter, const PaneScale& scale, std::span<const double> from,
              std::span<const double> to, const QColor& colour)
{
    painter.setPen(Qt::NoPen);
    painter.setBrush(colour);
    const std::size_t first = scale.first - std::min<std::size_t>(scale.first, 1);
    const std::size_t end = std::min({scale.end + 1, from.size(), to.size()});
    const auto step =
        static_cast<std::size_t>(std::max(1.0, std::floor(0.5 / scale.barWidth))); // half a pixel
    QPolygonF upper;
    QPolygonF lower;
    const auto finish = [&] {
        if (upper.size() > 1) {
            std::reverse(lower.begin(), lower.end());
            painter.drawPolygon(upper + lower);
        }
        upper.clear();
        lower.clear();
    };
    for (std::size_t bar = first; bar < end; bar += step) {
        const double a = scale.y(from[bar]);
        const double b = scale.y(to[bar]);
        if (isMissing(a) || isMissing(b)) {
            finish();
            continue;
        }
        const double x = scale.x(static_cast<double>(bar));
        upper.append({x, a});
        lower.append({x, b});
    }
    finish();
}

void drawColumns(QPainter& painter, const PaneScale& scale, std::span<const double> values,
                 std::span<const double> closes, const QColor& colour, const BarColours& moves)
{
    const double zero = std::clamp(scale.y(0.0), scale.area.top(), scale.area.bottom());
    if (scale.isReduced()) {
        QVector<QLineF> lines;
        for (const charts::ColumnExtent& each :
             reducedLine(values, scale.first, scale.end, scale.columns())) {
            const double x = scale.area.left() + static_cast<double>(each.column) + 0.5;
            const double top = std::min(scale.y(std::max(each.high, 0.0)), zero);
            const double foot = std::max(scale.y(std::min(each.low, 0.0)), zero);
            if (foot > top)
                lines.append(QLineF(x, top, x, foot));
        }
        painter.setPen(QPen(colour, 1.0));
        return painter.drawLines(lines);
    }
    QVector<QRectF> plain;
    QVector<QRectF> rises;
    QVector<QRectF> falls;
    const double width = std::max(1.0, std::floor(scale.barWidth * 0.68));
    for (std::size_t bar = scale.first; bar < std::min(scale.end, values.size()); ++bar) {
        const double y = scale.y(values[bar]);
        if (isMissing(y))
            continue;
        const double x = std::floor(scale.x(static_cast<double>(bar)) - width / 2.0 + 0.5);
        const QRectF column(x, std::min(y, zero), width, std::fabs(y - zero));
        const bool isTold = bar > 0 && bar < closes.size();
        QVector<QRectF>& into = !isTold                         ? plain
                                : closes[bar] > closes[bar - 1] ? rises
                                : closes[bar] < closes[bar - 1] ? falls
                                                                : plain;
        into.append(column);
    }
    painter.setPen(Qt::NoPen);
    for (const auto& [columns, brush] :
         {std::pair(&plain, colour), {&rises, moves.rise}, {&falls, moves.fall}}) {
        painter.setBrush(brush);
        painter.drawRects(*columns);
    }
}

void drawDots(QPainter& painter, const PaneScale& scale, std::span<const double> values,
              const QColor& colour, double width)
{
    painter.setRenderHint(QPainter::Antialiasing, true);
    painter.setPen(Qt::NoPen);
    painter.setBrush(colour);
    const double radius = std::max(width, 1.0);
    double lastX = -1e9;
    double lastY = -1e9;
    for (std::size_t bar = scale.first; bar < std::min(scale.end, values.size()); ++bar) {
        const double y = scale.y(values[bar]);
        const double x = scale.x(static_cast<double>(bar));
        const bool isSeen = std::fabs(x - lastX) >= 0.5 || std::fabs(y - lastY) >= 0.5;
        if (isMissing(y) || !isSeen)
            continue;
        painter.drawEllipse(QPointF(x, y), radius, radius);
        lastX = x;
        lastY = y;
    }
    painter.setRenderHint(QPainter::Antialiasing, false);
}

void drawSteps(QPainter& painter, const PaneScale& scale, std::span<const double> values,
               const QColor& colour, double width)
{
    painter.setPen(QPen(colour, std::max(std::round(width), 1.0)));
    const std::size_t first = scale.first - std::min<std::size_t>(scale.first, 1);
    const std::size_t end = std::min(scale.end + 1, values.size());
    const double most = 4.0 * scale.area.width();
    QVector<QLineF> lines;
    for (std::size_t bar = first; bar < end;) {
        if (scale.isReduced() && static_cast<double>(lines.size()) > most)
            return drawPolylines(painter, scale, values); // steps narrower than a pixel
        std::size_t next = bar + 1;
        while (next < end && values[next] == values[bar])
            ++next;
        const double y = middle(scale.y(values[bar]));
        if (!isMissing(y)) {
            const double right = scale.x(static_cast<double>(next) - 0.5);
            lines.append(QLineF(scale.x(static_cast<double>(bar) - 0.5), y, right, y));
            if (next < end && !isMissing(values[next]))
                lines.append(QLineF(right, y, right, middle(scale.y(values[next]))));
        }
        bar = next;
    }
    painter.drawLines(lines);
}

void drawRibbon(QPainter& painter, const PaneScale& scale, std::span<const double> condition,
                const QColor& colour)
{
    constexpr double height = 4.0;
    QVector<QRectF> runs;
    for (std::size_t bar = scale.first; bar < std::min(scale.end, condition.size());) {
        std::size_t next = bar + 1;
        while (next < std::min(scale.end, condition.size()) && condition[next] == condition[bar])
            ++next;
        if (condition[bar] == 1.0) {
            const double left = scale.x(static_cast<double>(bar) - 0.5);
            runs.append(QRectF(left, scale.area.bottom() - height,
                               std::max(scale.x(static_cast<double>(next) - 0.5) - left, 1.0),
                               height));
        }
        bar = next;
    }
    painter.setPen(Qt::NoPen);
    painter.setBrush(colour);
    painter.drawRects(runs);
}

void drawStates(QPainter& painter, const PaneScale& scale, std::span<const double> states,
                const Palette& colours)
{
    const QRectF& strip = scale.area;
    painter.fillRect(strip, colours.wash(colours.rule, 0.35));
    const double half = strip.height() / 2.0;
    const std::size_t end = std::min(scale.end, states.size());
    for (std::size_t bar = scale.first; bar < end;) { // a run of one state is one rectangle
        std::size_t next = bar + 1;
        while (next < end && states[next] == states[bar])
            ++next;
        const double state = states[bar];
        const double left = scale.x(static_cast<double>(bar) - 0.5);
        const double right = scale.x(static_cast<double>(next) - 0.5);
        const double y = state > 0.0   ? strip.top()
                         : state < 0.0 ? strip.top() + half
                                       : strip.top() + half * 0.6;
        const QColor colour = state > 0.0   ? colours.rise
                              : state < 0.0 ? colours.fall
                                            : colours.softInk;
        if (!isMissing(state))
            painter.fillRect(QRectF(left, y, right - left, state == 0.0 ? half * 0.8 : half),
                             colours.wash(colour, 0.75));
        bar = next;
    }
}

} // namespace sieve::app
