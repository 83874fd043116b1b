#include "app/chart/chart_picture.h"

#include "app/look/palette.h"
#include "app/parts/number_text.h"
#include "core/base/missing.h"
#include "core/charts/comparison.h"
#include "core/charts/figures.h"

#include <QFontMetricsF>
#include <QLocale>
#include <QPainter>
#include <algorithm>
#include <cmath>
#include <limits>

namespace sieve::app {

using charts::ValueAxis;
using charts::ValueScale;

namespace {

constexpr double markSize = 10.0; ///< of the marks at the foot of the prices
constexpr std::size_t markRows = 3;
constexpr double stripIndent = 8.0; ///< as the line of figures above has

/// The least and the most of some columns over bars [first, end).
struct Extent {
    double least = missing;
    double most = missing;

    void add(std::span<const double> values, std::size_t first, std::size_t end)
    {
        for (std::size_t bar = first; bar < std::min(end, values.size()); ++bar) {
            const double value = values[bar];
            least = isMissing(least) || value < least ? value : least;
            most = isMissing(most) || value > most ? value : most;
        }
    }

    /// Takes in these values too, but grows at most by its height either way, so that the rest is
    /// seen.
    void reach(std::span<const double> values)
    {
        const double room = most - least;
        const Extent before = *this;
        for (const double value : values) {
            least = std::min(least, std::max(value, before.least - room));
            most = std::max(most, std::min(value, before.most + room));
        }
    }
};

} // namespace

void ChartPicture::setChart(std::shared_ptr<const charts::Chart> chart)
{
    chart_ = std::move(chart);
}

void ChartPicture::layOut(const QRectF& area, const charts::Viewport& viewport)
{
    area_ = area;
    viewport_ = viewport;
    panes_.assign(chart_->panes.size(), {});
    const QFontMetricsF metrics(font_);
    const bool isFull = detail_ == Detail::Full;
    double shares = 0.0;
    for (std::size_t i = 0; i < panes_.size(); ++i)
        shares += isOfStates(i) ? 0.0 : heightOf(i);
    dates_ = QRectF(area.left(), area.bottom() - metrics.height() - 4.0, area.width(),
                    metrics.height() + 4.0);
    // Heights first: how many ticks there is room for decides the width of the scales.
    const double strip = isFull ? metrics.height() + 4.0 : 0.0;
    const double gaps = paneGap * static_cast<double>(panes_.size() - 1);
    const auto statesHeight = [&](std::size_t pane) { // their names stand beside them
        return std::round(static_cast<double>(chart_->panes[pane].layers.size()) *
                          metrics.height() * 0.92);
    };
    double strips = 0.0;
    for (std::size_t i = 0; i < panes_.size(); ++i)
        strips += isOfStates(i) ? statesHeight(i) : strip;
    const double height = std::max(dates_.top() - area.top() - gaps - strips, 0.0);
    double top = area.top();
    for (std::size_t i = 0; i < panes_.size(); ++i) {
        const double own =
            isOfStates(i) ? statesHeight(i) : std::floor(height * heightOf(i) / shares);
        const double above = isOfStates(i) ? 0.0 : strip;
        panes_[i].strip = QRectF(area.left(), top, area.width(), above);
        panes_[i].plot = QRectF(area.left(), top + above, area.width(), own);
        top += above + own + paneGap;
    }
    scaleValues();
    const double left = labelsWidth(true);
    const double right = labelsWidth(false);
    for (PaneArea& pane : panes_) {
        pane.plot.setLeft(std::round(area.left() + left));
        pane.plot.setRight(std::max(std::round(area.right() - right), pane.plot.left() + 1.0));
        pane.strip.setLeft(pane.plot.left() + stripIndent);
        pane.strip.setRight(area.right());
        pane.values = pane.plot;
    }
    if (!panes_.empty() && !chart_->marks.empty()) {
        QRectF& values = panes_.front().values;
        values.setBottom(values.bottom() - std::min(1.5 * markSize, values.height() / 5.0));
    }
    placeMarks();
}

void ChartPicture::placeMarks()
{
    marks_.clear();
    if (panes_.empty())
        return;
    const QRectF& plot = panes_.front().plot;
    std::vector<double> freeFrom; // by row: from where on nothing is drawn yet
    std::size_t row = 0;
    std::optional<std::size_t> before; // the bar of the mark before
    for (std::size_t i = 0; i < chart_->marks.size(); ++i) {
        const charts::Mark& mark = chart_->marks[i];
        const double x = xOf(static_cast<double>(mark.bar));
        row = mark.bar == before ? row + 1 : 0;
        before = mark.bar;
        if (x < plot.left() || x > plot.right() || row >= markRows)
            continue;
        freeFrom.resize(markRows, -1.0);
        if (x < freeFrom[row])
            continue;
        freeFrom[row] = x + markSize;
        marks_.push_back({i, {x, plot.bottom() - markSize * (static_cast<double>(row) + 0.75)}});
    }
}

std::vector<std::size_t> ChartPicture::marksAt(const QPointF& at) const
{
    const auto near = std::ranges::find_if(marks_, [&](const MarkPlace& place) {
        return (place.at - at).manhattanLength() < markSize;
    });
    std::vector<std::size_t> found;
    if (near == marks_.end())
        return found;
    for (std::size_t i = 0; i < chart_->marks.size(); ++i)
        if (std::fabs(xOf(static_cast<double>(chart_->marks[i].bar)) - near->at.x()) <
            markSize / 2.0)
            found.push_back(i);
    return found;
}

void ChartPicture::scaleValues()
{
    const std::size_t first = viewport_.first();
    const std::size_t end = viewport_.end();
    const market::Bars& bars = *chart_->bars;
    for (std::size_t i = 0; i < panes_.size(); ++i) {
        Extent own;
        Extent left;
        const bool hasBars = i == 0 && chart_->size() > 0;
        const bool isLine =
            formShown() == charts::BarForm::Line || formShown() == charts::BarForm::Filled;
        if (hasBars) {
            own.add(isLine ? bars.close : bars.low, first, end);
            own.add(isLine ? bars.close : bars.high, first, end);
        }
        if (hasBars)
            own.reach(wanted_);
        for (const charts::Layer& layer : chart_->panes[i].layers) {
            panes_[i].hasLeft = panes_[i].hasLeft || (layer.setUp.hasScaleAtLeft && !layer.error);
            if (charts::isOfCondition(layer.setUp.form) ||
                layer.setUp.form == charts::LayerForm::States)
                continue;
            // Prices have their pane to themselves: a far average does not press them flat.
            Extent& into = layer.setUp.hasScaleAtLeft ? left : own;
            if (layer.setUp.isCompared && hasBars)
                into.add(drawnValues(layer), first, end);
            if (layer.setUp.hasScaleAtLeft || !hasBars) {
                into.add(*layer.values, first, end);
                into.add(*layer.to, first, end);
            }
            const bool isFromZero = layer.setUp.form == charts::LayerForm::Columns;
            if (isFromZero && !hasBars && !isMissing(into.least)) {
                into.least = std::min(into.least, 0.0);
                into.most = std::max(into.most, 0.0);
            }
        }
        const double base = hasBars && first < bars.size() ? bars.close[first] : missing;
        panes_[i].axis = ValueAxis(i == 0 ? valueScale_ : ValueScale::Linear, own.least, own.most,
                                   chart_->panes[i].beginsAtZero, base);
        panes_[i].left = ValueAxis(ValueScale::Linear, left.least, left.most, false);
    }
}

std::vector<double> ChartPicture::drawnValues(const charts::Layer& layer) const
{
    return charts::fromFirstClose(*layer.values, chart_->bars->close, viewport_.first(),
                                  viewport_.end());
}

double ChartPicture::comparedChange(const charts::Layer& layer, std::size_t bar) const
{
    return charts::changeInSight(*layer.values, viewport_.first(), viewport_.end(), bar);
}

/// Bars of closes alone would be dashes.
charts::BarForm ChartPicture::formShown() const
{
    return chart_->hasClosesOnly && form_ != charts::BarForm::Filled ? charts::BarForm::Line
                                                                     : form_;
}

/// Whether a pane has nothing but strips of states.
bool ChartPicture::isOfStates(std::size_t pane) const
{
    const auto& layers = chart_->panes[pane].layers;
    return !layers.empty() && std::ranges::all_of(layers, [](const charts::Layer& layer) {
        return layer.setUp.form == charts::LayerForm::States && !layer.error;
    });
}

int ChartPicture::ticksOf(const PaneArea& pane) const
{
    const double height = detail_ == Detail::Full ? 42.0 : 34.0; // a tick
    const int least = pane.plot.height() < 70.0 ? 2 : 3;
    const int usual = std::max(least, static_cast<int>(pane.plot.height() / height));
    // One tick alone tells no scale: finer steps, where their labels find room.
    const auto most = static_cast<std::size_t>(pane.plot.height() / QFontMetricsF(font_).height());
    for (int about = usual; about <= 4 * usual; ++about)
        if (const std::size_t count = pane.axis.ticks(about).size(); count >= 2)
            return count <= most ? about : usual;
    return usual;
}

Unit ChartPicture::unitOf(std::size_t pane) const
{
    for (const charts::Layer& layer : chart_->panes[pane].layers)
        if (pane > 0 && !layer.error && !layer.setUp.hasScaleAtLeft)
            return layer.unit;
    return Unit::Plain; // of prices: with the decimals of their step
}

QString ChartPicture::tickText(const PaneArea& pane, const ValueAxis& axis, double shown,
                               Unit unit) const
{
    const int decimals = axis.decimals(ticksOf(pane));
    if (axis.scale() == ValueScale::Percent)
        return signedText(shown, Unit::Percent, decimals);
    if (unit == Unit::Percent)
        return numberText(shown, Unit::Percent, std::max(decimals - 2, 0));
    if ((unit == Unit::Shares || unit == Unit::Money) && std::fabs(shown) >= 1e5)
        return numberText(shown, unit, 0);
    return QLocale(QLocale::English).toString(shown, 'f', decimals);
}

double ChartPicture::labelsWidth(bool isLeft) const
{
    const QFontMetricsF metrics(font_);
    double widest = 0.0;
    for (std::size_t i = 0; i < panes_.size(); ++i) {
        const PaneArea& pane = panes_[i];
        if (isLeft && !pane.hasLeft)
            continue;
        if (isOfStates(i)) {
            for (const charts::Layer& layer : chart_->panes[i].layers)
                widest = std::max(widest, metrics.horizontalAdvance(text(layer.title)));
            continue;
        }
        const ValueAxis& axis = isLeft ? pane.left : pane.axis;
        for (const ValueAxis::Tick& tick : axis.ticks(ticksOf(pane)))
            widest = std::max(
                widest, metrics.horizontalAdvance(tickText(pane, axis, tick.shown, unitOf(i))));
    }
    return widest > 0.0 ? widest + 2.0 * labelPadding : 0.0;
}

QRectF ChartPicture::plots() const
{
    if (panes_.empty())
        return {};
    return QRectF(panes_.front().plot.topLeft(), panes_.back().plot.bottomRight());
}

double ChartPicture::barWidth() const
{
    return plots().width() / viewport_.width();
}

double ChartPicture::xOf(double bar) const
{
    return plots().left() + (bar - viewport_.from()) * barWidth();
}

double ChartPicture::barAt(double x) const
{
    return viewport_.from() + (x - plots().left()) / barWidth();
}

std::optional<std::size_t> ChartPicture::paneAt(double y) const
{
    for (std::size_t i = 0; i < panes_.size(); ++i)
        if (y >= panes_[i].plot.top() && y <= panes_[i].plot.bottom())
            return i;
    return std::nullopt;
}

std::optional<std::size_t> ChartPicture::edgeAt(double y) const
{
    constexpr double reach = 2.0;
    for (std::size_t i = 0; i + 1 < panes_.size(); ++i)
        if (const double edge = panes_[i].plot.bottom();
            y > edge - reach && y < edge + paneGap + reach)
            return i;
    return std::nullopt;
}

double ChartPicture::heightOf(std::size_t pane) const
{
    return heights_.size() == chart_->panes.size() ? heights_[pane] : chart_->panes[pane].height;
}

double ChartPicture::yOf(std::size_t pane, double value) const
{
    const PaneArea& area = panes_.at(pane);
    return area.values.bottom() - area.axis.place(value) * area.values.height();
}

double ChartPicture::valueAt(std::size_t pane, double y) const
{
    const PaneArea& area = panes_.at(pane);
    return area.axis.valueAt((area.values.bottom() - y) / area.values.height());
}

drawings::Sight ChartPicture::sight() const
{
    const auto onDays = [this](double place) { return chart_->places.onDays(place); };
    return {onDays(viewport_.from()), onDays(viewport_.to()),
            panes_.front().axis.scale() == ValueScale::Logarithmic};
}

QPointF ChartPicture::pointOf(const drawings::Point& place) const
{
    return {xOf(chart_->places.onScale(place.bar)), yOf(0, place.price)};
}

drawings::Point ChartPicture::placeAt(const QPointF& point) const
{
    return {chart_->places.onDays(barAt(point.x())), valueAt(0, point.y())};
}

QString ChartPicture::valueText(std::size_t pane, double value) const
{
    const PaneArea& area = panes_.at(pane);
    if (area.axis.scale() == ValueScale::Percent) {
        const double base = chart_->bars->close[viewport_.first()];
        return signedText(value / base - 1.0, Unit::Percent, 1);
    }
    const Unit unit = pane == 0 ? Unit::Money : unitOf(pane);
    return numberText(value, unit, unit == Unit::Percent ? 1 : 2);
}

QString ChartPicture::momentText(std::size_t bar) const
{
    const QString day = shortDayText(chart_->bars->days[bar]);
    return chart_->clock.empty()
               ? day
               : day + QLatin1Char(' ') + text(charts::clockText(chart_->clock[bar]));
}

} // namespace sieve::app
