#pragma once

#include "core/studies/following.h"

#include <QWidget>
#include <memory>

namespace sieve::app {

/// How the changes of cases lay, beside those of all stocks on the same days: two heaps over one
/// scale, the cases' above the line and all stocks' hanging below it, each with its middle half and
/// its median.
class ChangePicture : public QWidget {
    Q_OBJECT
public:
    explicit ChangePicture(QWidget* parent = nullptr);
    /// Null shows nothing.
    void show(std::shared_ptr<const studies::Following> following, std::size_t horizon);
    QSize sizeHint() const override;
    QSize minimumSizeHint() const override;

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    struct Heap {
        std::vector<double> shares; ///< a column
        studies::Spread spread;
    };
    Heap ownHeap(double low, double width, std::size_t columns) const;
    Heap allHeap(double low, double width, std::size_t columns) const;
    void paintHeap(QPainter& painter, const Heap& heap, const QRectF& area, double low, double high,
                   double most, bool isUpward) const;

    std::shared_ptr<const studies::Following> following_;
    std::size_t horizon_ = 0;
};

} // namespace sieve::app
