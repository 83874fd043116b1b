#include "app/chart/chart_view.h"

#include "app/chart/drawing_pen.h"
#include "app/chart/picture_file.h"
#include "app/chart/plan_gauge.h"
#include "app/look/look.h"
#include "app/parts/number_text.h"
#include "core/charts/figures.h"

#include <QBuffer>
#include <QPainter>
#include <QPdfWriter>
#include <QPrintDialog>
#include <QPrinter>
#include <QSvgGenerator>
#include <algorithm>
#include <cmath>

// How a chart is painted: in its window, into a picture, on a page.

namespace sieve::app {

QFont ChartView::drawingFont() const
{
    return fontOf(Weight::Medium, 0.86);
}

void ChartView::paintEvent(QPaintEvent*)
{
    QPainter painter(this);
    const QSize pixels = size() * devicePixelRatioF();
    const auto paintStill = [this](QPainter& into) {
        picture_.paint(into, look());
        wordsTaken_ = pen_->paintStill(into, look(), drawingFont());
    };
    if (stillFrames_ == 0) { // while it is panned no frame is like the one before: nothing is kept
        paintStill(painter);
    } else {
        if (stillFrames_ == 1 || kept_.size() != pixels) {
            if (kept_.size() != pixels)
                kept_ = QPixmap(pixels);
            kept_.setDevicePixelRatio(devicePixelRatioF());
            QPainter keeping(&kept_);
            paintStill(keeping);
        }
        painter.drawPixmap(0, 0, kept_);
    }
    stillFrames_ = std::min(stillFrames_ + 1, 2);
    pen_->paintMoving(painter, look(), drawingFont(), wordsTaken_);
    gauge_->paint(painter, picture_, look(), drawingFont());
    paintPointer(painter);
    paintStrips(painter, picture_, look());
    paintCard(painter);
}

/// What the marks under the pointer, or the one that was gone to, have to tell.
void ChartView::paintCard(QPainter& painter) const
{
    if (told_.empty())
        return;
    const Palette& colours = look();
    constexpr std::size_t most = 6;
    QStringList lines;
    for (std::size_t i = 0; i < std::min(told_.size(), most); ++i) {
        const charts::Mark& mark = chart().marks[told_[i]];
        lines << shortDayText(mark.day) + QStringLiteral(": ") + text(mark.text);
    }
    if (told_.size() > most)
        lines << tr("and %1 more").arg(told_.size() - most);
    painter.setFont(fontOf(Weight::Regular, 0.92));
    const QFontMetrics metrics(painter.font());
    constexpr int padding = 8;
    const int room = std::min(340, width() - 2 * padding);
    const QRect bounds = metrics.boundingRect(QRect(0, 0, room - 2 * padding, height()),
                                              Qt::TextWordWrap, lines.join(QLatin1Char('\n')));
    QRectF card(0, 0, bounds.width() + 2 * padding, bounds.height() + 2 * padding);
    const QRectF& prices = picture_.panes().front().plot;
    const double x = picture_.xOf(static_cast<double>(chart().marks[told_.front()].bar));
    card.moveCenter({x, 0.0});
    card.moveBottom(prices.bottom() - 40.0); // above the marks
    card.moveLeft(std::clamp(card.left(), 4.0, std::max(4.0, width() - card.width() - 4.0)));
    card.moveTop(std::max(card.top(), 4.0));
    painter.setPen(QPen(colours.rule, 1.0));
    painter.setBrush(colours.ground);
    painter.drawRect(card);
    painter.setPen(colours.ink);
    painter.drawText(card.adjusted(padding, padding, -padding, -padding), Qt::TextWordWrap,
                     lines.join(QLatin1Char('\n')));
}

/// The figures of each pane's layers on the bar that is read, in their colours.
void ChartView::paintStrips(QPainter& painter, const ChartPicture& picture,
                            const Palette& colours) const
{
    painter.setFont(fontOf(Weight::Regular, 0.86));
    const QFontMetricsF metrics(painter.font());
    for (std::size_t i = 0; i < picture.panes().size(); ++i) {
        const QRectF& strip = picture.panes()[i].strip;
        if (strip.height() < metrics.height())
            continue;
        double x = strip.left();
        const double baseline = strip.top() + 2.0 + metrics.ascent();
        for (const charts::Layer& layer : chart().panes[i].layers) {
            QString told = text(layer.title);
            QColor colour = ChartPicture::colourOf(layer.setUp.colour, colours);
            if (layer.error) {
                told += QStringLiteral(": ") + text(layer.error->problem) + QStringLiteral("; ") +
                        text(layer.error->remedy);
                colour = colours.caution;
            } else if (barRead() < layer.values->size()) {
                const auto value = [&](const charts::Series& of) {
                    if (barRead() >= of->size())
                        return QString();
                    if (layer.setUp.isCompared && i == 0)
                        return signedText(picture.comparedChange(layer, barRead()), Unit::Percent,
                                          1);
                    const double figure = (*of)[barRead()];
                    const bool isSmall = std::fabs(figure) < 1.0 && layer.decimals == 2;
                    return numberText(figure, layer.unit, isSmall ? 4 : layer.decimals);
                };
                if (layer.setUp.form == charts::LayerForm::Trades)
                    told += tr(", until %1").arg(text(layer.setUp.to));
                else if (charts::isOfCondition(layer.setUp.form))
                    told += (*layer.values)[barRead()] == 1.0 ? tr(": yes") : tr(": no");
                else
                    told += QLatin1Char(' ') + value(layer.values);
                if (layer.setUp.form == charts::LayerForm::Band)
                    told += tr(" to ") + value(layer.to);
            }
            const double room = strip.right() - x;
            if (room < metrics.averageCharWidth() * 6.0)
                break;
            const QString shown = metrics.elidedText(told, Qt::ElideRight, room);
            painter.setPen(colour);
            painter.drawText(QPointF(x, baseline), shown);
            x += metrics.horizontalAdvance(shown) + metrics.averageCharWidth() * 2.0;
        }
    }
}

/// Lines through the bar and the price under the pointer, with both named at the edges.
void ChartView::paintPointer(QPainter& painter) const
{
    if (pointedBar_ < 0 || chart().size() == 0)
        return;
    const Palette& colours = look();
    painter.setPen(QPen(colours.softInk, 1.0, Qt::DotLine));
    const QRectF plots = picture_.plots();
    const double x = std::floor(picture_.xOf(pointedBar_)) + 0.5;
    for (const ChartPicture::PaneArea& pane : picture_.panes())
        painter.drawLine(QPointF(x, pane.plot.top()), QPointF(x, pane.plot.bottom()));
    const QFont font = fontOf(Weight::Medium, 0.86);
    painter.setFont(font);
    const QFontMetricsF metrics(font);
    const auto tag = [&](const QString& told, QPointF middle, bool isAtRight) {
        const double width = metrics.horizontalAdvance(told) + 8.0;
        QRectF box(isAtRight ? middle.x() : middle.x() - width / 2.0,
                   middle.y() - metrics.height() / 2.0 - 1.0, width, metrics.height() + 2.0);
        box.moveLeft(std::clamp(box.left(), 0.0, std::max(0.0, this->width() - width)));
        painter.fillRect(box, colours.ink);
        painter.setPen(colours.sheet);
        painter.drawText(box, Qt::AlignCenter, told);
    };
    const auto pane = pointer_ ? picture_.paneAt(pointer_->y()) : std::nullopt;
    if (pane) {
        const double y = std::floor(pointer_->y()) + 0.5;
        painter.drawLine(QPointF(plots.left(), y), QPointF(plots.right(), y));
        const double value = picture_.valueAt(*pane, pointer_->y());
        tag(picture_.valueText(*pane, value), {plots.right() + 1.0, y}, true);
        if (*pane == 0) { // how far the price there is from where the newest bar closed
            const double apart = value / chart().bars->close.back() - 1.0;
            const QString told =
                tr("%1 from the last close").arg(signedText(apart, Unit::Percent, 1));
            const double width = metrics.horizontalAdvance(told) + 8.0;
            tag(told, {plots.right() - width - 1.0, y}, true);
        }
    }
    tag(picture_.momentText(barRead()), {x, plots.bottom() + 3.0 + metrics.height() / 2.0}, false);
}

QString ChartView::figuresText() const
{
    return text(exports::toTabs(charts::figuresOf(chart())));
}

QPixmap ChartView::picture(double ratio) const
{
    QPixmap page(size() * ratio);
    page.setDevicePixelRatio(ratio);
    QPainter painter(&page);
    paintOn(painter, rect(), look());
    return page;
}

/// All of the chart but what follows the pointer, as it stands now, on an area.
void ChartView::paintOn(QPainter& painter, const QRectF& area, const Palette& colours) const
{
    ChartPicture picture = picture_;
    picture.layOut(area, viewport_);
    picture.paint(painter, colours);
    pen_->paintAll(picture, painter, colours, drawingFont());
    gauge_->paint(painter, picture, colours, drawingFont());
    paintStrips(painter, picture, colours);
}

/// A page with the chart under a line that says what it shows; in light colours, as paper is.
bool ChartView::paintPage(QPagedPaintDevice& page) const
{
    const Palette colours = paperPalette();
    QPainter painter;
    if (chart().size() == 0 || !painter.begin(&page))
        return false;
    constexpr double width = 1000.0; // so wide as on a screen, whatever the page's resolution
    const double scale = page.width() / width;
    painter.scale(scale, scale);
    const double height = page.height() / scale;
    painter.fillRect(QRectF(0.0, 0.0, width, height), colours.sheet);
    painter.setPen(colours.ink);
    painter.setFont(fontOf(Weight::SemiBold, 1.3));
    const double line = QFontMetricsF(painter.font()).height() * 1.6;
    painter.drawText(QRectF(8.0, 0.0, width - 16.0, line), Qt::AlignVCenter | Qt::AlignLeft,
                     tr("%1, %2").arg(text(chart().symbol), dayText(chart().bars->days.back())));
    painter.setFont(fontOf(Weight::Regular));
    painter.setPen(colours.softInk);
    painter.drawText(QRectF(8.0, 0.0, width - 16.0, line), Qt::AlignVCenter | Qt::AlignRight,
                     text(setUp_.name));
    paintOn(painter, QRectF(0.0, line, width, height - line), colours);
    return painter.end();
}

void ChartView::print()
{
    QPrinter printer(QPrinter::HighResolution);
    printer.setPageOrientation(QPageLayout::Landscape);
    printer.setDocName(text(chart().symbol));
    QPrintDialog dialog(&printer, this);
    if (dialog.exec() == QDialog::Accepted && !paintPage(printer))
        Q_EMIT failed(tr("The chart could not be printed. Look whether the printer is ready."));
}

std::function<QByteArray()> ChartView::pictureFor(const QString& file) const
{
    QByteArray bytes;
    QBuffer out(&bytes);
    out.open(QIODevice::WriteOnly);
    if (isPdf(file)) {
        QPdfWriter page(&out);
        page.setPageSize(QPageSize(QPageSize::A4));
        page.setPageOrientation(QPageLayout::Landscape);
        page.setTitle(accessibleName());
        const bool hasPage = paintPage(page);
        return [bytes, hasPage] { return hasPage ? bytes : QByteArray(); };
    }
    if (!isSvg(file))
        return [image = picture().toImage()] { // to pack it takes longest
            QByteArray packed;
            QBuffer to(&packed);
            to.open(QIODevice::WriteOnly);
            image.save(&to, "PNG");
            return packed;
        };
    QSvgGenerator generator;
    generator.setOutputDevice(&out);
    generator.setSize(size());
    generator.setViewBox(rect());
    generator.setTitle(accessibleName());
    QPainter painter(&generator);
    paintOn(painter, rect(), look());
    painter.end();
    return [bytes] { return bytes; };
}

} // namespace sieve::app
