#pragma once

#include "core/screens/answers.h"
#include "core/screens/distribution.h"

#include <QWidget>
#include <optional>
#include <vector>

namespace sieve::app {

/// How a criterion's field is spread over the stocks that arrive at it, the kept part shaded, with
/// a grip on each limit: dragged, or moved by the wheel. A small mark says where the chosen stock
/// stands. Computes nothing: it is shown finished counts and tells where a grip went.
class SpreadStrip : public QWidget {
    Q_OBJECT
public:
    struct Grip {
        double bound = 0.0;
        bool wantsMore = true; ///< what lies above is kept
        bool isMovable = true; ///< its bound is a number in the criterion's text

        friend bool operator==(const Grip&, const Grip&) = default;
    };

    explicit SpreadStrip(QWidget* parent = nullptr);
    void show(screens::Distribution spread, std::vector<Grip> grips, Unit unit);
    void setChosen(double figure); ///< of the chosen stock; missing: none
    bool isDragging() const { return dragged_.has_value(); }

Q_SIGNALS:
    void gripMoved(std::size_t grip, double bound); ///< a round figure
    void gripLeft();                                ///< the person let go
    void percentWanted(std::size_t grip);           ///< to be typed

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    bool event(QEvent* event) override;
    QSize sizeHint() const override;
    QSize minimumSizeHint() const override { return {60, sizeHint().height()}; }

private:
    QRectF field() const;
    double xOf(double figure) const;
    double figureAt(double x) const;
    bool isKept(double figure) const;
    std::optional<std::size_t> gripNear(double x, double reach) const;
    void moveTo(std::size_t grip, double bound);
    QString textAt(double x) const;

    screens::Distribution spread_;
    std::vector<Grip> grips_;
    Unit unit_ = Unit::Plain;
    double chosen_ = missing;
    std::optional<std::size_t> dragged_;
};

} // namespace sieve::app
