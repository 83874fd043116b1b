#pragma once

#include "core/studies/neighbours.h"

#include <QWidget>
#include <memory>
#include <optional>

namespace sieve::app {

/// What followed for each pair of two limits, a cell each: the stronger the colour, the larger the
/// difference to all stocks, above or below. The screen's own cell is framed; the one under the
/// pointer is read in a line above.
class NeighbourPicture : public QWidget {
    Q_OBJECT
public:
    explicit NeighbourPicture(QWidget* parent = nullptr);
    void show(std::shared_ptr<const studies::Neighbours> neighbours); ///< null shows nothing
    QSize sizeHint() const override { return {520, 240}; }
    QSize minimumSizeHint() const override { return {240, 230}; }

protected:
    void paintEvent(QPaintEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent* event) override;

private:
    struct Place {
        std::size_t down = 0;
        std::size_t across = 0;
    };
    QRectF field() const;
    QRectF cellAt(std::size_t down, std::size_t across) const;
    void paintCells(QPainter& painter) const;
    void paintBounds(QPainter& painter) const;
    QString reading(const Place& place) const;

    std::shared_ptr<const studies::Neighbours> neighbours_;
    std::optional<Place> pointed_;
};

} // namespace sieve::app
