#pragma once

#include "core/base/day.h"

#include <QColor>
#include <QWidget>
#include <optional>
#include <vector>

namespace sieve::app {

/// Worths over sessions on one logarithmic scale, and below them how far the first of them stood
/// under its highest. The session under the pointer is read in a line above.
class CurvePicture : public QWidget {
    Q_OBJECT
public:
    enum class Tint { Own, Benchmark, Other };
    struct Curve {
        QString name;
        std::vector<double> worths; ///< a session, begun near 1; missing where not known
        Tint tint = Tint::Own;
    };
    /// A stretch of sessions behind the curves, such as those in cash.
    struct Stretch {
        std::size_t from = 0;
        std::size_t to = 0; ///< the session after it
    };

    explicit CurvePicture(QWidget* parent = nullptr);
    void show(std::vector<Day> sessions, std::vector<Curve> curves,
              std::vector<Stretch> stretches = {}, std::optional<std::size_t> parted = {});
    QSize sizeHint() const override;
    QSize minimumSizeHint() const override;

protected:
    void paintEvent(QPaintEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent* event) override;

private:
    QRectF plotArea() const;
    double xOf(const QRectF& area, std::size_t session) const;
    void paintTimes(QPainter& painter, const QRectF& area) const;
    void paintWorths(QPainter& painter, const QRectF& area) const;
    void paintFalls(QPainter& painter, const QRectF& area) const;
    void paintReading(QPainter& painter) const;
    QColor colourOf(Tint tint) const;

    std::vector<Day> sessions_;
    std::vector<Curve> curves_;
    std::vector<Stretch> stretches_;
    std::optional<std::size_t> parted_; ///< the session that parts what was looked at from the rest
    std::vector<double> falls_;         ///< of the first curve
    std::optional<std::size_t> pointed_;
};

} // namespace sieve::app
