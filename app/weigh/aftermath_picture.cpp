#include "app/weigh/aftermath_picture.h"

#include "app/look/look.h"
#include "app/parts/number_text.h"

#include <QPainter>
#include <algorithm>
#include <array>
#include <cmath>

namespace sieve::app {

namespace {

int lineHeight()
{
    return QFontMetrics(fontOf(Weight::Regular)).height() + 6;
}

constexpr int linesASum = 6; // title, three spans, two of ends

} // namespace

AftermathPicture::AftermathPicture(QWidget* parent) : QWidget(parent)
{
    setAccessibleName(tr("What followed, in sum"));
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
}

void AftermathPicture::show(const studies::Summary& own, const studies::Summary& all,
                            const studies::Terms& terms, const QString& symbol)
{
    own_ = own;
    all_ = all;
    terms_ = terms;
    symbol_ = symbol;
    QStringList told;
    for (std::size_t span = 0; span < terms.spans.size(); ++span)
        told << tr("after %1 bars: median %2, all stocks %3")
                    .arg(terms.spans[span])
                    .arg(signedText(all.spans[span].median, Unit::Percent, 1),
                         signedText(all.spans[span].others, Unit::Percent, 1));
    setAccessibleDescription(told.join(QStringLiteral("; ")));
    update();
}

QSize AftermathPicture::sizeHint() const
{
    return {760, linesASum * lineHeight() + 12};
}

/// The change that the strips reach to either side of 0.
double AftermathPicture::reach() const
{
    double most = 0.01;
    for (const studies::Summary* sum : {&own_, &all_})
        for (const auto& span : sum->spans)
            for (const double value : {span.lowerQuarter, span.upperQuarter, span.others})
                if (!isMissing(value))
                    most = std::max(most, std::fabs(value));
    return 1.1 * most;
}

void AftermathPicture::paintEvent(QPaintEvent*)
{
    QPainter painter(this);
    painter.fillRect(rect(), look().sheet);
    const int half = width() / 2;
    paintSum(painter, own_, symbol_, QRect(0, 4, half - 16, height() - 8));
    paintSum(painter, all_, tr("All stocks"), QRect(half, 4, half - 4, height() - 8));
}

void AftermathPicture::paintSum(QPainter& painter, const studies::Summary& sum,
                                const QString& title, const QRect& place) const
{
    const Palette& colours = look();
    const int line = lineHeight();
    int y = place.top();
    const auto rowAt = [&](int left, int width) { return QRect(left, y, width, line); };
    painter.setFont(fontOf(Weight::SemiBold));
    painter.setPen(colours.ink);
    const QString counted =
        tr("%1: %2 cases, %3 independent, in %4 stretches of time")
            .arg(title, countText(sum.cases), countText(sum.independent), countText(sum.periods));
    painter.drawText(rowAt(place.left(), place.width()), Qt::AlignLeft | Qt::AlignVCenter,
                     painter.fontMetrics().elidedText(counted, Qt::ElideRight, place.width()));
    painter.setFont(fontOf(Weight::Regular));
    const QFontMetrics metrics(painter.font());
    const int name = metrics.horizontalAdvance(QStringLiteral("after 5000")) + 8;
    const int figure = metrics.horizontalAdvance(QStringLiteral("+88.8 %")) + 8;
    const QRectF strip(place.left() + name + 4, 0, place.width() - name - 2 * figure - 12, line);
    const double most = reach();
    const auto xOf = [&](double change) {
        return strip.center().x() + strip.width() / 2.0 * std::clamp(change / most, -1.0, 1.0);
    };
    for (std::size_t i = 0; i < sum.spans.size(); ++i) {
        y += line;
        const studies::Summary::Span& span = sum.spans[i];
        painter.setPen(colours.softInk);
        painter.drawText(rowAt(place.left(), name), Qt::AlignLeft | Qt::AlignVCenter,
                         tr("after %1").arg(terms_.spans[i]));
        const double middle = y + line / 2.0;
        painter.fillRect(QRectF(strip.left(), middle - 0.5, strip.width(), 1.0), colours.rule);
        painter.fillRect(QRectF(strip.center().x() - 0.5, middle - 6.0, 1.0, 12.0), colours.rule);
        if (span.known > 0) { // the middle half, the median, and the mean of all stocks
            const double left = xOf(span.lowerQuarter);
            painter.fillRect(
                QRectF(left, middle - 4.0, std::max(xOf(span.upperQuarter) - left, 1.0), 8.0),
                colours.wash(colours.mark, 0.45));
            painter.fillRect(QRectF(xOf(span.median) - 1.0, middle - 6.0, 2.0, 12.0), colours.mark);
            if (!isMissing(span.others))
                painter.fillRect(QRectF(xOf(span.others) - 1.0, middle - 7.0, 2.0, 14.0),
                                 colours.caution);
        }
        painter.setPen(span.median < 0.0 ? colours.fall : colours.ink);
        const int right = place.right() - 2 * figure;
        painter.drawText(rowAt(right, figure), Qt::AlignRight | Qt::AlignVCenter,
                         signedText(span.median, Unit::Percent, 1));
        painter.setPen(colours.caution);
        painter.drawText(rowAt(right + figure, figure), Qt::AlignRight | Qt::AlignVCenter,
                         signedText(span.others, Unit::Percent, 1));
    }
    y += line;
    const std::size_t ended = sum.reached + sum.stopped + sum.neither;
    painter.setPen(colours.softInk);
    QStringList ends{tr("Nothing ended yet.")};
    if (ended > 0) {
        const auto share = [&](std::size_t count) {
            return numberText(static_cast<double>(count) / static_cast<double>(ended),
                              Unit::Percent, 0);
        };
        ends = {tr("Target %1, stop %2, time %3; mean %4 in %5 bars")
                    .arg(share(sum.reached), share(sum.stopped), share(sum.neither),
                         signedText(sum.meanResult, Unit::Percent, 1))
                    .arg(sum.meanBars, 0, 'f', 0),
                tr("Worst on the way: %1 in the middle, %2 at most")
                    .arg(signedText(sum.medianWorst, Unit::Percent, 1),
                         signedText(sum.worst, Unit::Percent, 0))};
    }
    painter.setFont(fontOf(Weight::Regular, 0.92));
    for (const QString& told : ends) {
        painter.drawText(rowAt(place.left(), place.width()), Qt::AlignLeft | Qt::AlignVCenter,
                         painter.fontMetrics().elidedText(told, Qt::ElideRight, place.width()));
        y += line;
    }
}

} // namespace sieve::app
