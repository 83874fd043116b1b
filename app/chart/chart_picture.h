#pragma once

#include "core/charts/chart.h"
#include "core/charts/value_axis.h"
#include "core/charts/viewport.h"
#include "core/drawings/drawn.h"

#include <QColor>
#include <QFont>
#include <QRectF>
#include <memory>
#include <optional>
#include <vector>

class QPainter;

namespace sieve::app {

struct Palette;

/// Lays a chart out on an area and draws it: panes above each other over one axis of bars, a scale
/// to the right of each (and to the left, where a layer has one of its own), dates below. Knows no
/// window, so that a widget, a page and a file are drawn by the same.
class ChartPicture {
public:
    /// How much stands around the panes.
    enum class Detail {
        Full,    ///< a strip for the figures above each pane, scales, dates
        Compact, ///< on a wall: no strips but where an error is told, few ticks
    };

    void setChart(std::shared_ptr<const charts::Chart> chart);
    /// How bars and values are drawn, which needs no other figures.
    void setForm(charts::BarForm form) { form_ = form; }
    void setValueScale(charts::ValueScale scale) { valueScale_ = scale; }
    /// Prices that should be in sight beside those of the bars, as far as the bars stay legible.
    void setWanted(std::vector<double> prices) { wanted_ = std::move(prices); }
    void setHeights(std::vector<double> heights) { heights_ = std::move(heights); }
    void setDetail(Detail detail) { detail_ = detail; }
    void setFont(const QFont& font) { font_ = font; }
    /// Places everything; needed after each change and before what follows.
    void layOut(const QRectF& area, const charts::Viewport& viewport);

    const charts::Chart& chart() const { return *chart_; }
    const charts::Viewport& viewport() const { return viewport_; }
    void paint(QPainter& painter, const Palette& colours) const;

    struct PaneArea {
        QRectF strip;  ///< for its figures
        QRectF plot;   ///< for what is drawn
        QRectF values; ///< the part of it over which the scale reaches; marks lie below
        charts::ValueAxis axis;
        charts::ValueAxis left; ///< of the layers that have a scale of their own
        bool hasLeft = false;
    };
    const std::vector<PaneArea>& panes() const { return panes_; }
    QRectF plots() const; ///< from the first pane to the last
    double barWidth() const;
    double xOf(double bar) const;
    double barAt(double x) const;
    std::optional<std::size_t> paneAt(double y) const;
    /// The pane above the edge between two panes that is taken hold of at a height.
    std::optional<std::size_t> edgeAt(double y) const;
    double yOf(std::size_t pane, double value) const;
    double valueAt(std::size_t pane, double y) const;
    /// Whether anything can be drawn on: it is laid out and has bars.
    bool hasBars() const { return !panes_.empty() && !chart_->places.empty(); }
    // Drawings are placed by daily bars, whatever the bars that are shown. Each requires hasBars().
    drawings::Sight sight() const;
    QPointF pointOf(const drawings::Point& place) const; ///< on the prices
    drawings::Point placeAt(const QPointF& point) const;
    /// A value as the scale of a pane names it: a price, or its change.
    QString valueText(std::size_t pane, double value) const;
    /// How far a compared layer has gone on a bar since the first one in sight.
    double comparedChange(const charts::Layer& layer, std::size_t bar) const;

    /// A mark at its place: at the foot of the prices, several of a bar above each other. Those
    /// that would lie on one another are drawn once.
    struct MarkPlace {
        std::size_t mark = 0; ///< of the chart's
        QPointF at;
    };
    const std::vector<MarkPlace>& marks() const { return marks_; }
    /// All marks on and right beside the bars under a place where one is drawn; none elsewhere.
    std::vector<std::size_t> marksAt(const QPointF& at) const;

    /// When a bar traded: "30 Sep 2026", with the time of a bar of minutes.
    QString momentText(std::size_t bar) const;

    static QColor colourOf(PalettePart colour, const Palette& colours);

private:
    static constexpr double paneGap = 6.0;      ///< between panes
    static constexpr double labelPadding = 5.0; ///< between a plot and its labels

    double heightOf(std::size_t pane) const;
    void scaleValues();
    double labelsWidth(bool isLeft) const;
    int ticksOf(const PaneArea& pane) const;
    QString tickText(const PaneArea& pane, const charts::ValueAxis& axis, double shown,
                     Unit unit) const;
    Unit unitOf(std::size_t pane) const;
    void paintGrid(QPainter& painter, const Palette& colours) const;
    void paintDates(QPainter& painter, const Palette& colours) const;
    void paintScales(QPainter& painter, const Palette& colours) const;
    void paintBars(QPainter& painter, const Palette& colours) const;
    charts::BarForm formShown() const;
    bool isOfStates(std::size_t pane) const;
    std::vector<double> drawnValues(const charts::Layer& layer) const;
    void paintStates(QPainter& painter, std::size_t pane, const Palette& colours) const;
    void paintJoins(QPainter& painter, std::size_t pane, const Palette& colours) const;
    void placeMarks();
    void paintMarks(QPainter& painter, const Palette& colours) const;
    void paintLayer(QPainter& painter, std::size_t pane, const charts::Layer& layer,
                    const Palette& colours) const;

    std::shared_ptr<const charts::Chart> chart_ =
        std::make_shared<const charts::Chart>(charts::emptyChart(charts::SetUp()));
    charts::BarForm form_ = charts::BarForm::Candles;
    charts::ValueScale valueScale_ = charts::ValueScale::Linear;
    std::vector<double> heights_; ///< of the panes, in place of the chart's
    std::vector<double> wanted_;
    Detail detail_ = Detail::Full;
    QFont font_;
    QRectF area_;
    QRectF dates_;
    charts::Viewport viewport_;
    std::vector<PaneArea> panes_;
    std::vector<MarkPlace> marks_;
};

} // namespace sieve::app
