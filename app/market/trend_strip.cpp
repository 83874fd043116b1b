#include "app/market/trend_strip.h"

#include "app/look/look.h"
#include "app/market/state_board.h"
#include "app/parts/number_text.h"

#include <algorithm>
#include <cmath>

namespace sieve::app {

namespace {

void drawRun(QCPPainter* painter, const QRectF& band, std::optional<conditions::Trend> state,
             int from, int end, const QCPAxis* axis)
{
    if (!state)
        return;
    const double left = axis->coordToPixel(from - 0.5);
    const double right = axis->coordToPixel(end - 0.5);
    const double half = band.height() / 2.0;
    const bool isUp = state == conditions::Trend::Rising;
    const bool isDown = state == conditions::Trend::Falling;
    const double y = isUp ? band.top() : isDown ? band.top() + half : band.top() + half * 0.6;
    const double height = isUp || isDown ? half : half * 0.8;
    painter->fillRect(QRectF(left, y, right - left, height), look().wash(trendColour(state), 0.75));
}

} // namespace

void TrendStrip::draw(QCPPainter* painter)
{
    const QCPAxis* axis = pane_->axis(QCPAxis::atBottom);
    const QRectF area = pane_->rect();
    const int first = std::max(0, static_cast<int>(std::floor(axis->range().lower)));
    const int last =
        std::min(static_cast<int>(bars) - 1, static_cast<int>(std::ceil(axis->range().upper)));
    for (std::size_t i = 0; i < histories.size(); ++i) {
        if (!histories[i] || last < first)
            continue;
        const double height = area.height() / 3.0;
        const QRectF band(area.left(), area.top() + height * static_cast<double>(i) + 1.0,
                          area.width(), height - 2.0);
        painter->fillRect(band, look().wash(look().rule, 0.35));
        painter->setFont(fontOf(Weight::Regular, 0.78));
        painter->setPen(look().softInk);
        painter->drawText(QRectF(band.right() + 5.0, band.top() - 3.0, 60.0, band.height() + 6.0),
                          Qt::AlignLeft | Qt::AlignVCenter,
                          text(conditions::horizonName(conditions::horizons[i])));
        const conditions::TrendHistory& history = *histories[i];
        const int end = std::min(last + 1, static_cast<int>(history.size()));
        for (int bar = first; bar < end;) { // a run of one state is one rectangle
            const int from = bar;
            while (bar < end && history[static_cast<std::size_t>(bar)] ==
                                    history[static_cast<std::size_t>(from)])
                ++bar;
            drawRun(painter, band, history[static_cast<std::size_t>(from)], from, bar, axis);
        }
    }
}

} // namespace sieve::app
