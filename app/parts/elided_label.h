#pragma once

#include <QLabel>

namespace sieve::app {

/// A line of text that ends in an ellipsis where there is no room for all of it.
class ElidedLabel : public QLabel {
    Q_OBJECT
public:
    using QLabel::QLabel;
    QSize minimumSizeHint() const override { return {0, QLabel::minimumSizeHint().height()}; }

protected:
    void paintEvent(QPaintEvent* event) override;
};

} // namespace sieve::app
