#pragma once

#include "core/studies/following.h"

#include <QWidget>
#include <memory>
#include <vector>

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
    /// One of the two, on the scale that they share.
    struct Heap {
        const studies::Spread& spread;
        std::vector<double> shares; ///< a column: of all that it holds
    };
    void paintHeap(QPainter& painter, const Heap& heap, const QRectF& area, double low, double high,
                   double most, bool isUpward) const;

    std::shared_ptr<const studies::Following> following_;
    std::size_t horizon_ = 0;
};

} // namespace sieve::app
