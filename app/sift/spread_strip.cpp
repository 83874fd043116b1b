#include "app/sift/spread_strip.h"

#include "app/look/look.h"
#include "app/parts/number_text.h"

#include <QHelpEvent>
#include <QLocale>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QToolTip>
#include <QWheelEvent>
#include <algorithm>
#include <cmath>

namespace sieve::app {

namespace {

constexpr double edge = 5.0; ///< on both sides, so that a grip at the end can be taken

} // namespace

SpreadStrip::SpreadStrip(QWidget* parent) : QWidget(parent)
{
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    setMouseTracking(true);
}

QSize SpreadStrip::sizeHint() const
{
    return {180, fontMetrics().height() + 8};
}

void SpreadStrip::show(screens::Distribution spread, std::vector<Grip> grips, Unit unit)
{
    const bool isSame = spread == spread_ && grips == grips_ && unit == unit_;
    spread_ = std::move(spread);
    if (!dragged_) // the one in hand stays under the pointer
        grips_ = std::move(grips);
    unit_ = unit;
    setVisible(!spread_.counts.empty());
    if (!isSame)
        update();
}

void SpreadStrip::setChosen(double figure)
{
    const bool isSame = figure == chosen_ || (isMissing(figure) && isMissing(chosen_));
    chosen_ = figure;
    if (!isSame)
        update();
}

QRectF SpreadStrip::field() const
{
    return QRectF(rect()).adjusted(edge, 2, -edge, -3);
}

double SpreadStrip::xOf(double figure) const
{
    const QRectF area = field();
    return area.left() + area.width() * std::clamp(spread_.placeOf(figure), 0.0, 1.0);
}

double SpreadStrip::figureAt(double x) const
{
    const QRectF area = field();
    return spread_.figureAt(std::clamp((x - area.left()) / area.width(), 0.0, 1.0));
}

bool SpreadStrip::isKept(double figure) const
{
    return std::ranges::all_of(grips_, [figure](const Grip& grip) {
        return grip.wantsMore ? figure >= grip.bound : figure <= grip.bound;
    });
}

std::optional<std::size_t> SpreadStrip::gripNear(double x, double reach) const
{
    std::optional<std::size_t> nearest;
    for (std::size_t i = 0; i < grips_.size(); ++i) {
        const double distance = std::fabs(xOf(grips_[i].bound) - x);
        if (!grips_[i].isMovable || distance > reach)
            continue;
        if (!nearest || distance < std::fabs(xOf(grips_[*nearest].bound) - x))
            nearest = i;
    }
    return nearest;
}

void SpreadStrip::paintEvent(QPaintEvent*)
{
    if (spread_.counts.empty())
        return;
    QPainter painter(this);
    const QRectF area = field();
    const auto most = static_cast<double>(*std::ranges::max_element(spread_.counts));
    const double width = area.width() / static_cast<double>(spread_.counts.size());
    const QColor kept = look().wash(look().mark, 0.62);
    const QColor out = look().wash(look().softInk, 0.30);
    for (std::size_t bar = 0; bar < spread_.counts.size(); ++bar) {
        if (spread_.counts[bar] == 0)
            continue;
        const double at = static_cast<double>(bar) + 0.5;
        const double middle = spread_.figureAt(at / static_cast<double>(spread_.counts.size()));
        const double height = std::max( // roots: few must be seen beside many
            1.5, area.height() * std::sqrt(static_cast<double>(spread_.counts[bar]) / most));
        painter.fillRect(QRectF(area.left() + (at - 0.5) * width, area.bottom() - height,
                                std::max(1.0, width - 1.0), height),
                         isKept(middle) ? kept : out);
    }
    painter.setPen(look().rule);
    painter.drawLine(QPointF(area.left(), area.bottom() + 0.5),
                     QPointF(area.right(), area.bottom() + 0.5));
    painter.setRenderHint(QPainter::Antialiasing);
    for (const Grip& grip : grips_) {
        const double x = xOf(grip.bound);
        const QColor colour = grip.isMovable ? look().mark : look().softInk;
        painter.setPen(QPen(colour, 1.6));
        painter.drawLine(QPointF(x, 0.0), QPointF(x, area.bottom() + 2.0));
        if (!grip.isMovable)
            continue;
        painter.setPen(Qt::NoPen);
        painter.setBrush(colour);
        const double beak = grip.wantsMore ? 5.0 : -5.0; // points to what is kept
        painter.drawPolygon(QPolygonF{{x, 0.0}, {x + beak, 4.0}, {x, 8.0}});
    }
    if (!isMissing(chosen_)) {
        const double x = xOf(chosen_);
        painter.setPen(Qt::NoPen);
        painter.setBrush(look().ink);
        painter.drawPolygon(
            QPolygonF{{x - 3.5, height() * 1.0}, {x, height() - 5.5}, {x + 3.5, height() * 1.0}});
    }
}

void SpreadStrip::moveTo(std::size_t grip, double bound)
{
    if (isMissing(bound) || bound == grips_[grip].bound)
        return;
    grips_[grip].bound = bound;
    update();
    Q_EMIT gripMoved(grip, bound);
}

void SpreadStrip::mousePressEvent(QMouseEvent* event)
{
    if (event->button() == Qt::LeftButton)
        dragged_ = gripNear(event->position().x(), 9.0);
    if (!dragged_)
        event->ignore();
}

void SpreadStrip::mouseMoveEvent(QMouseEvent* event)
{
    const double x = event->position().x();
    if (!dragged_) {
        setCursor(gripNear(x, 9.0) ? Qt::SizeHorCursor : Qt::ArrowCursor);
        return;
    }
    const double figure = figureAt(x);
    const double step = spread_.stepAt(figure, 0.012);
    if (!isMissing(step))
        moveTo(*dragged_, std::round(figure / step) * step);
    QToolTip::showText(event->globalPosition().toPoint(),
                       numberText(grips_[*dragged_].bound, unit_, 2), this);
}

void SpreadStrip::mouseReleaseEvent(QMouseEvent*)
{
    if (dragged_) {
        dragged_.reset();
        Q_EMIT gripLeft();
    }
}

void SpreadStrip::mouseDoubleClickEvent(QMouseEvent* event)
{
    if (const auto grip = gripNear(event->position().x(), width()))
        Q_EMIT percentWanted(*grip);
}

void SpreadStrip::wheelEvent(QWheelEvent* event)
{
    const auto grip = gripNear(event->position().x(), 24.0);
    if (!grip || event->angleDelta().y() == 0)
        return event->ignore(); // elsewhere the wheel scrolls the stack
    const double bound = grips_[*grip].bound;
    const double step = spread_.stepAt(bound, 0.02);
    const double sign = event->angleDelta().y() > 0 ? 1.0 : -1.0;
    if (!isMissing(step)) {
        moveTo(*grip, (std::round(bound / step) + sign) * step);
        Q_EMIT gripLeft();
    }
    event->accept();
}

QString SpreadStrip::textAt(double x) const
{
    const QRectF area = field();
    const double place = std::clamp((x - area.left()) / area.width(), 0.0, 0.9999);
    const auto bars = static_cast<double>(spread_.counts.size());
    const auto bar = static_cast<std::size_t>(place * bars);
    const auto figure = [&](double at) {
        return numberText(spread_.figureAt(at / bars), unit_, 2);
    };
    QString told = tr("%1 to %2: %3 of the stocks that arrive here")
                       .arg(figure(static_cast<double>(bar)), figure(static_cast<double>(bar) + 1))
                       .arg(spread_.counts[bar]);
    if (spread_.below + spread_.above > 0)
        told += u'\n' + tr("%1 lie below the left end, %2 above the right end")
                            .arg(spread_.below)
                            .arg(spread_.above);
    if (!isMissing(chosen_))
        told += u'\n' + tr("the chosen stock: %1").arg(numberText(chosen_, unit_, 2));
    if (std::ranges::any_of(grips_, &Grip::isMovable))
        told += u'\n' + tr("Drag a limit or turn the wheel over it; double click: a percentile");
    return told;
}

bool SpreadStrip::event(QEvent* event)
{
    if (event->type() == QEvent::ToolTip && !spread_.counts.empty()) {
        const auto* help = static_cast<QHelpEvent*>(event);
        QToolTip::showText(help->globalPos(), textAt(help->pos().x()), this);
        return true;
    }
    return QWidget::event(event);
}

} // namespace sieve::app
