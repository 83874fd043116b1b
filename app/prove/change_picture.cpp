#include "app/prove/change_picture.h"

#include "app/look/look.h"
#include "app/parts/number_text.h"
#include "core/charts/value_axis.h"

#include <QPainter>
#include <algorithm>
#include <cmath>

namespace sieve::app {

namespace {

/// What of a heap lies in each of so many columns of a width; what lies beyond is heaped at the
/// ends. A bin is shared among the columns over which it lies.
std::vector<double> sharesOf(const studies::Histogram& heap, double low, double width,
                             std::size_t columns)
{
    std::vector<double> shares(columns);
    const auto weights = heap.weights();
    const double most = static_cast<double>(columns);
    for (std::size_t bin = 0; bin < weights.size(); ++bin) {
        if (weights[bin] == 0.0)
            continue;
        const double begin = -1.0 + studies::Histogram::width * static_cast<double>(bin);
        const double from = std::clamp((begin - low) / width, 0.0, most - 1e-6);
        const double to =
            std::clamp((begin + studies::Histogram::width - low) / width, from + 1e-9, most);
        for (auto at = static_cast<std::size_t>(from); static_cast<double>(at) < to; ++at) {
            const double part = std::min(to, static_cast<double>(at) + 1.0) -
                                std::max(from, static_cast<double>(at));
            shares[at] += weights[bin] / heap.weight() * part / (to - from);
        }
    }
    return shares;
}

} // namespace

ChangePicture::ChangePicture(QWidget* parent) : QWidget(parent)
{
    setAccessibleName(tr("How the changes lay"));
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
}

QSize ChangePicture::sizeHint() const
{
    return {640, 230};
}

QSize ChangePicture::minimumSizeHint() const
{
    return {260, 150};
}

void ChangePicture::show(std::shared_ptr<const studies::Following> following, std::size_t horizon)
{
    following_ = std::move(following);
    horizon_ = horizon;
    if (following_) {
        const studies::FollowedHorizon& told = following_->horizons[horizon_];
        setAccessibleDescription(tr("Median of the cases %1, of all stocks %2")
                                     .arg(signedText(told.own.median, Unit::Percent, 1),
                                          signedText(told.all.median, Unit::Percent, 1)));
    }
    update();
}

void ChangePicture::paintHeap(QPainter& painter, const Heap& heap, const QRectF& area, double low,
                              double high, double most, bool isUpward) const
{
    const Palette& colours = look();
    const auto xOf = [&](double change) {
        return area.left() + area.width() * std::clamp((change - low) / (high - low), 0.0, 1.0);
    };
    const double column = area.width() / static_cast<double>(heap.shares.size());
    const QColor body =
        isUpward ? colours.wash(colours.mark, 0.55) : colours.wash(colours.softInk, 0.4);
    for (std::size_t i = 0; i < heap.shares.size(); ++i) {
        const double height = area.height() * heap.shares[i] / most;
        const QRectF bar(area.left() + static_cast<double>(i) * column,
                         isUpward ? area.bottom() - height : area.top(),
                         std::max(1.0, column - 1.0), height);
        painter.fillRect(bar, body);
    }
    if (heap.spread.known == 0)
        return;
    // The middle half lies along the line, the median crosses the heap.
    const QColor line = isUpward ? colours.mark : colours.softInk;
    const double y = isUpward ? area.bottom() - 3.0 : area.top();
    painter.fillRect(
        QRectF(xOf(heap.spread.lowerQuarter), y,
               std::max(2.0, xOf(heap.spread.upperQuarter) - xOf(heap.spread.lowerQuarter)), 3.0),
        line);
    painter.fillRect(QRectF(xOf(heap.spread.median) - 1.0, area.top(), 2.0, area.height()), line);
    painter.setPen(line);
    const QString words =
        isUpward ? tr("cases: median %1").arg(signedText(heap.spread.median, Unit::Percent, 1))
                 : tr("all stocks, same days: median %1")
                       .arg(signedText(heap.spread.median, Unit::Percent, 1));
    const Qt::Alignment at = Qt::AlignRight | (isUpward ? Qt::AlignTop : Qt::AlignBottom);
    painter.drawText(area, static_cast<int>(at), words);
}

void ChangePicture::paintEvent(QPaintEvent*)
{
    QPainter painter(this);
    const Palette& colours = look();
    painter.fillRect(rect(), colours.sheet);
    if (!following_ || following_->horizons[horizon_].own.known == 0)
        return;
    const studies::FollowedHorizon& told = following_->horizons[horizon_];
    // What all but one in a hundred of both have; what lies beyond is heaped at the ends.
    double reach = 0.01;
    for (const studies::Histogram* heap : {&told.ownHeap, &told.allHeap})
        for (const double share : {0.005, 0.995})
            reach = std::max(reach, std::fabs(heap->quantile(share)));
    reach = std::min(reach, 3.0);
    const double low = std::max(-1.0, -reach);
    const double high = reach;
    painter.setFont(fontOf(Weight::Regular, 0.92));
    const double line = painter.fontMetrics().height() + 2.0;
    const QRectF inside = QRectF(rect()).adjusted(12.0, 8.0, -12.0, -8.0 - line);
    // Columns are no narrower than what is counted together.
    const double mostColumns = std::min(std::clamp(inside.width() / 7.0, 20.0, 120.0),
                                        (high - low) / studies::Histogram::width);
    const auto columns = static_cast<std::size_t>(std::max(4.0, mostColumns));
    const double width = (high - low) / static_cast<double>(columns);
    const Heap own{told.own, sharesOf(told.ownHeap, low, width, columns)};
    const Heap all{told.all, sharesOf(told.allHeap, low, width, columns)};
    const double most = std::max(std::ranges::max(own.shares), std::ranges::max(all.shares));
    const QRectF upper(inside.left(), inside.top(), inside.width(), 0.56 * inside.height());
    const QRectF lower(inside.left(), upper.bottom() + 1.0, inside.width(),
                       inside.bottom() - upper.bottom() - 1.0);
    const charts::ValueAxis axis(charts::ValueScale::Linear, low, high, false);
    for (const auto& tick : axis.ticks(8)) {
        if (tick.value < low || tick.value > high)
            continue;
        const double x = inside.left() + inside.width() * (tick.value - low) / (high - low);
        painter.fillRect(QRectF(x - 0.5, inside.top(), 1.0, inside.height()),
                         std::fabs(tick.value) < 1e-12 ? colours.softInk : colours.rule);
        painter.setPen(colours.softInk);
        painter.drawText(QRectF(x - 40.0, inside.bottom() + 2.0, 80.0, line),
                         Qt::AlignHCenter | Qt::AlignTop,
                         signedText(tick.value, Unit::Percent, width < 0.002 ? 1 : 0));
    }
    painter.fillRect(QRectF(inside.left(), upper.bottom(), inside.width(), 1.0), colours.softInk);
    paintHeap(painter, own, upper, low, high, most, true);
    paintHeap(painter, all, lower, low, high, most, false);
}

} // namespace sieve::app
