#include "app/chart/chart_picture.h"

#include "app/chart/chart_drawing.h"
#include "app/chart/mark_picture.h"
#include "app/look/palette.h"
#include "app/parts/number_text.h"
#include "core/base/missing.h"
#include "core/charts/figures.h"
#include "core/charts/ticks.h"

#include <QFontMetricsF>
#include <QLocale>
#include <QPainter>
#include <algorithm>
#include <cmath>
#include <limits>

// How a chart that is laid out is drawn.

namespace sieve::app {

using charts::ValueAxis;

namespace {

QString tickName(const charts::Chart& chart, const charts::SessionTick& tick)
{
    using charts::CalendarStep;
    if (tick.names > CalendarStep::Day)
        return text(charts::clockText(chart.clock[tick.bar]));
    const QDate date = dateOf(chart.bars->days[tick.bar]);
    if (tick.names == CalendarStep::Year)
        return QString::number(date.year());
    const bool hasDay = tick.names == CalendarStep::Week || tick.names == CalendarStep::Day;
    return QLocale(QLocale::English)
        .toString(date, hasDay ? QStringLiteral("d MMM") : QStringLiteral("MMM"));
}

} // namespace

void ChartPicture::paint(QPainter& painter, const Palette& colours) const
{
    painter.setFont(font_);
    painter.fillRect(area_, colours.sheet);
    paintGrid(painter, colours);
    for (std::size_t i = 0; i < panes_.size(); ++i) {
        painter.save();
        painter.setClipRect(panes_[i].plot);
        const auto paintLayers = [&](bool areAreas) { // areas lie behind the bars, lines before
            for (const charts::Layer& layer : chart_->panes[i].layers) {
                const bool isArea = layer.setUp.form == charts::LayerForm::Band ||
                                    layer.setUp.form == charts::LayerForm::Columns;
                if (!layer.error && isArea == areAreas)
                    paintLayer(painter, i, layer, colours);
            }
        };
        paintLayers(true);
        if (i == 0 && chart_->size() > 0)
            paintBars(painter, colours);
        paintLayers(false);
        paintStates(painter, i, colours);
        paintJoins(painter, i, colours);
        painter.restore();
    }
    paintMarks(painter, colours);
    paintScales(painter, colours);
    paintDates(painter, colours);
}

void ChartPicture::paintMarks(QPainter& painter, const Palette& colours) const
{
    for (const MarkPlace& place : marks_)
        drawMark(painter, chart_->marks[place.mark].kind, place.at, colours);
}

void ChartPicture::paintGrid(QPainter& painter, const Palette& colours) const
{
    painter.setPen(QPen(colours.wash(colours.rule, 0.55), 1.0));
    QVector<QLineF> lines;
    for (const PaneArea& pane : panes_) {
        if (isOfStates(static_cast<std::size_t>(&pane - panes_.data())))
            continue;
        for (const ValueAxis::Tick& tick : pane.axis.ticks(ticksOf(pane))) {
            const double y = std::floor(pane.values.bottom() -
                                        pane.axis.place(tick.value) * pane.values.height()) +
                             0.5;
            lines.append(QLineF(pane.plot.left(), y, pane.plot.right(), y));
        }
    }
    for (const charts::SessionTick& tick :
         charts::sessionTicks(chart_->bars->days, viewport_.from(), viewport_.to(),
                              chart_->places.sessionsEach(), chart_->clock)) {
        const double x = std::floor(xOf(static_cast<double>(tick.bar))) + 0.5;
        for (const PaneArea& pane : panes_)
            lines.append(QLineF(x, pane.plot.top(), x, pane.plot.bottom()));
    }
    painter.drawLines(lines);
    painter.setPen(QPen(colours.rule, 1.0));
    for (const PaneArea& pane : panes_) {
        const double foot = std::floor(pane.plot.bottom()) + 0.5;
        painter.drawLine(QPointF(pane.plot.left(), foot), QPointF(pane.plot.right(), foot));
    }
}

void ChartPicture::paintScales(QPainter& painter, const Palette& colours) const
{
    painter.setPen(colours.softInk);
    const QFontMetricsF metrics(font_);
    for (std::size_t i = 0; i < panes_.size(); ++i) {
        const PaneArea& pane = panes_[i];
        if (isOfStates(i)) {
            const auto& layers = chart_->panes[i].layers;
            const double height = pane.plot.height() / static_cast<double>(layers.size());
            for (std::size_t strip = 0; strip < layers.size(); ++strip)
                painter.drawText(QPointF(pane.plot.right() + labelPadding,
                                         pane.plot.top() +
                                             height * (static_cast<double>(strip) + 0.5) +
                                             (metrics.ascent() - metrics.descent()) / 2.0),
                                 text(layers[strip].title));
            continue;
        }
        const auto write = [&](const ValueAxis& axis, bool isLeft) {
            for (const ValueAxis::Tick& tick : axis.ticks(ticksOf(pane))) {
                const double y =
                    pane.values.bottom() - axis.place(tick.value) * pane.values.height();
                if (y - metrics.height() / 2.0 < pane.plot.top() - 2.0 ||
                    y + metrics.height() / 2.0 > pane.plot.bottom() + paneGap)
                    continue; // it would lie on the strip or on the next pane's
                const QString label = tickText(pane, axis, tick.shown, unitOf(i));
                const double x =
                    isLeft ? pane.plot.left() - labelPadding - metrics.horizontalAdvance(label)
                           : pane.plot.right() + labelPadding;
                painter.drawText(QPointF(x, y + (metrics.ascent() - metrics.descent()) / 2.0),
                                 label);
            }
        };
        write(pane.axis, false);
        if (pane.hasLeft)
            write(pane.left, true);
    }
}

void ChartPicture::paintDates(QPainter& painter, const Palette& colours) const
{
    const QFontMetricsF metrics(font_);
    painter.setPen(colours.softInk);
    double free = -std::numeric_limits<double>::max(); // from where on nothing is written yet
    for (const charts::SessionTick& tick :
         charts::sessionTicks(chart_->bars->days, viewport_.from(), viewport_.to(),
                              chart_->places.sessionsEach(), chart_->clock)) {
        const QString label = tickName(*chart_, tick);
        const double width = metrics.horizontalAdvance(label);
        const double x = xOf(static_cast<double>(tick.bar)) - width / 2.0;
        if (x < std::max(free, area_.left()) || x + width > area_.right())
            continue;
        painter.drawText(QPointF(x, dates_.top() + 2.0 + metrics.ascent()), label);
        free = x + width + metrics.averageCharWidth() * 2.0;
    }
}

void ChartPicture::paintBars(QPainter& painter, const Palette& colours) const
{
    const market::Bars& bars = *chart_->bars;
    const PaneArea& pane = panes_.front();
    const PaneScale scale{pane.values, pane.axis,         viewport_.from(),
                          barWidth(),  viewport_.first(), viewport_.end()};
    const PriceColumns columns{bars.open, bars.high, bars.low, bars.close};
    const BarColours moves{colours.rise, colours.fall, colours.sheet};
    switch (formShown()) {
    case charts::BarForm::Candles:
        return drawCandles(painter, scale, columns, moves);
    case charts::BarForm::Bars:
        return drawStrokes(painter, scale, columns, moves);
    case charts::BarForm::Filled:
        drawFilled(painter, scale, bars.close, colours.wash(colours.rise, 0.18));
        [[fallthrough]];
    case charts::BarForm::Line:
        return drawLine(painter, scale, bars.close, colours.rise, 1.6);
    }
}

void ChartPicture::paintLayer(QPainter& painter, std::size_t pane, const charts::Layer& layer,
                              const Palette& colours) const
{
    using charts::LayerForm;
    const PaneArea& area = panes_[pane];
    const PaneScale scale{area.values,       layer.setUp.hasScaleAtLeft ? area.left : area.axis,
                          viewport_.from(),  barWidth(),
                          viewport_.first(), viewport_.end()};
    const QColor colour = colourOf(layer.setUp.colour, colours);
    switch (layer.setUp.form) {
    case LayerForm::Line:
        if (layer.setUp.isCompared && pane == 0 && chart_->size() > 0)
            return drawLine(painter, scale, drawnValues(layer), colour, layer.setUp.width);
        return drawLine(painter, scale, *layer.values, colour, layer.setUp.width);
    case LayerForm::Band:
        return drawBand(painter, scale, *layer.values, *layer.to, colours.wash(colour, 0.16));
    case LayerForm::Columns: {
        const BarColours moves{colours.wash(colours.rise, 0.55), colours.wash(colours.fall, 0.65),
                               colours.sheet};
        const std::span<const double> none;
        return drawColumns(painter, scale, *layer.values,
                           layer.setUp.isByChange ? std::span<const double>(chart_->bars->close)
                                                  : none,
                           colours.wash(colour, 0.45), moves);
    }
    case LayerForm::Dots:
        return drawDots(painter, scale, *layer.values, colour, layer.setUp.width);
    case LayerForm::Steps:
        return drawSteps(painter, scale, *layer.values, colour, layer.setUp.width);
    case LayerForm::Ribbon:
        return drawRibbon(painter, scale, *layer.values, colour);
    case LayerForm::Marks:  // they stand among the chart's marks
    case LayerForm::Trades: // and these among what lies over several bars
    case LayerForm::States: // they share the pane
        break;
    }
}

/// Each strip has its share of the pane; rising lies high in it, falling low.
void ChartPicture::paintStates(QPainter& painter, std::size_t pane, const Palette& colours) const
{
    const auto& layers = chart_->panes[pane].layers;
    const auto strips =
        static_cast<double>(std::ranges::count_if(layers, [](const charts::Layer& layer) {
            return layer.setUp.form == charts::LayerForm::States;
        }));
    const QRectF& area = panes_[pane].plot;
    double at = 0.0;
    for (const charts::Layer& layer : layers) {
        if (layer.setUp.form != charts::LayerForm::States || layer.error)
            continue;
        const double height = area.height() / strips;
        const QRectF strip(area.left(), area.top() + height * at++ + 1.0, area.width(),
                           height - 2.0);
        drawStates(painter,
                   {strip, {}, viewport_.from(), barWidth(), viewport_.first(), viewport_.end()},
                   *layer.values, colours);
    }
}

/// Lines over several bars, with their words.
void ChartPicture::paintJoins(QPainter& painter, std::size_t pane, const Palette& colours) const
{
    using charts::Join;
    const QFontMetricsF metrics(font_);
    painter.setFont(font_);
    for (const Join& join : chart_->joins) {
        const QPointF from(xOf(static_cast<double>(join.from.bar)), yOf(pane, join.from.value));
        const QPointF to(xOf(static_cast<double>(join.to.bar)), yOf(pane, join.to.value));
        const bool isSeen = join.pane == pane && !isMissing(from.y()) && !isMissing(to.y()) &&
                            to.x() >= area_.left() && from.x() <= area_.right();
        if (!isSeen)
            continue;
        painter.setRenderHint(QPainter::Antialiasing, true);
        painter.setPen(QPen(colourOf(join.colour, colours), 1.4,
                            join.stroke == Join::Stroke::Dashes ? Qt::DashLine
                            : join.stroke == Join::Stroke::Dots ? Qt::DotLine
                                                                : Qt::SolidLine));
        painter.drawLine(from, to);
        painter.setRenderHint(QPainter::Antialiasing, false);
        if (join.words.empty())
            continue;
        const QString words = text(join.words);
        const double width = metrics.horizontalAdvance(words);
        QPointF at = join.where == Join::Words::Above ? to + QPointF(-width / 2.0, -4.0)
                     : join.where == Join::Words::Below
                         ? to + QPointF(-width / 2.0, metrics.ascent() + 4.0)
                         : from + QPointF(-width - 4.0, metrics.ascent() / 2.0 - 1.0);
        at.setX(std::max(at.x(), panes_[pane].plot.left() + 2.0)); // its begin may be out of sight
        QColor ground = colours.sheet;
        ground.setAlphaF(0.8F); // what lies behind stays to be seen
        painter.fillRect(
            QRectF(at.x() - 1.0, at.y() - metrics.ascent(), width + 2.0, metrics.height()), ground);
        painter.drawText(at, words);
    }
}

QColor ChartPicture::colourOf(PalettePart colour, const Palette& colours)
{
    switch (colour) {
    case PalettePart::Mark:
        return colours.mark;
    case PalettePart::Caution:
        return colours.caution;
    case PalettePart::Fall:
        return colours.fall;
    case PalettePart::Rise:
        return colours.rise;
    case PalettePart::Ink:
        return colours.ink;
    case PalettePart::Soft:
        break;
    }
    return colours.softInk;
}

} // namespace sieve::app
