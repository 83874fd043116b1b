#pragma once

#include "core/screens/scatter.h"

#include <QWidget>
#include <memory>
#include <optional>

namespace sieve::app {

/// Draws a scatter: what passes in the accent, the rest of the universe soft behind it. A click
/// chooses the nearest stock, a dragged frame takes those that pass inside it, a dragged line moves
/// a limit. Figures beyond the outermost hundredth stand at the edge.
class ScatterPicture : public QWidget {
    Q_OBJECT
public:
    explicit ScatterPicture(QWidget* parent = nullptr);
    void show(std::shared_ptr<const screens::Scatter> scatter, market::MarketPtr market);
    void setChosen(std::optional<std::size_t> stock);
    QPointF pointOf(const screens::ScatterPoint& point) const;
    const screens::Scatter& scatter() const { return *scatter_; }

Q_SIGNALS:
    void chosen(std::size_t instrument);
    void surrounded(const std::vector<std::size_t>& instruments);
    void boundWanted(std::size_t criterion, std::size_t limit, double bound);

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    bool event(QEvent* event) override;
    QSize sizeHint() const override { return {420, 320}; }

private:
    struct Line { ///< a limit, by its place on an axis
        std::size_t axis = 0;
        std::size_t bound = 0;
    };
    QRectF field() const;
    QRectF legend() const;
    double placeOf(std::size_t axis, double figure) const;
    double figureAt(std::size_t axis, QPointF at) const;
    std::optional<Line> lineNear(QPointF at) const;
    const screens::ScatterPoint* pointNear(QPointF at) const;
    void paintAxes(QPainter& painter) const;
    void paintBounds(QPainter& painter) const;
    void paintPoint(QPainter& painter, const screens::ScatterPoint& point) const;
    void paintLegend(QPainter& painter) const;
    void numberSectors();
    std::vector<double> ticksOf(const screens::Distribution& spread) const;

    std::shared_ptr<const screens::Scatter> scatter_ = std::make_shared<const screens::Scatter>();
    market::MarketPtr market_;
    std::vector<std::uint32_t> sectors_; ///< texts, in the order of their shapes
    std::optional<std::size_t> chosen_;
    std::optional<Line> dragged_;
    double draggedTo_ = 0.0;
    QPointF pressedAt_;
    QRectF frame_;
};

} // namespace sieve::app
