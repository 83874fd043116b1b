#pragma once

#include "core/conditions/reading.h"

#include <array>
#include <cstddef>
#include <optional>
#include <qcustomplot.h>

namespace sieve::app {

/// The states at the three horizons as bands on the sessions of the chart, short on top.
class TrendStrip : public QCPLayerable {
public:
    explicit TrendStrip(QCPAxisRect* pane)
        : QCPLayerable(pane->parentPlot(), QStringLiteral("main")), pane_(pane)
    {
    }
    std::array<const conditions::TrendHistory*, 3> histories{};
    std::size_t bars = 0;

protected:
    QRect clipRect() const override { return pane_->outerRect(); }
    void applyDefaultAntialiasingHint(QCPPainter* painter) const override
    {
        painter->setAntialiasing(false);
    }
    void draw(QCPPainter* painter) override;

private:
    QCPAxisRect* pane_;
};

} // namespace sieve::app
