#include "app/parts/scatter_picture.h"

#include "app/look/look.h"
#include "app/parts/number_text.h"

#include <QApplication>
#include <QHelpEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QToolTip>
#include <algorithm>
#include <cmath>
#include <set>

namespace sieve::app {

namespace {

constexpr double reach = 12.0; ///< of the pointer, in pixels

/// One of six outlines, filled or open: twelve sectors are told apart.
void paintShape(QPainter& painter, std::size_t shape, QPointF at, double radius)
{
    const double r = radius;
    switch (shape % 6) {
    case 0:
        return painter.drawEllipse(at, r, r);
    case 1:
        return painter.drawRect(QRectF(at.x() - 0.88 * r, at.y() - 0.88 * r, 1.76 * r, 1.76 * r));
    case 2:
        return void(
            painter.drawPolygon(QPolygonF{at + QPointF(0, -1.2 * r), at + QPointF(1.1 * r, r * 0.8),
                                          at + QPointF(-1.1 * r, r * 0.8)}));
    case 3:
        return void(
            painter.drawPolygon(QPolygonF{at + QPointF(0, -1.25 * r), at + QPointF(1.25 * r, 0),
                                          at + QPointF(0, 1.25 * r), at + QPointF(-1.25 * r, 0)}));
    case 4:
        return void(
            painter.drawPolygon(QPolygonF{at + QPointF(0, 1.2 * r), at + QPointF(1.1 * r, -0.8 * r),
                                          at + QPointF(-1.1 * r, -0.8 * r)}));
    default:
        return painter.drawRect(QRectF(at.x() - 1.3 * r, at.y() - 0.6 * r, 2.6 * r, 1.2 * r));
    }
}

} // namespace

ScatterPicture::ScatterPicture(QWidget* parent) : QWidget(parent)
{
    setAccessibleName(tr("Scatter of the results"));
    setObjectName(QStringLiteral("sheet"));
    setMouseTracking(true);
}

void ScatterPicture::show(std::shared_ptr<const screens::Scatter> scatter, market::MarketPtr market)
{
    scatter_ = std::move(scatter);
    market_ = std::move(market);
    numberSectors();
    update();
}

void ScatterPicture::numberSectors()
{
    std::set<std::uint32_t> all;
    for (const screens::ScatterPoint& point : scatter_->points)
        all.insert(point.sector);
    sectors_.assign(all.begin(), all.end());
    std::ranges::sort(sectors_, {}, [this](std::uint32_t text) {
        return text == 0 ? std::string("~") : std::string(market_->texts().text(text));
    });
}

void ScatterPicture::setChosen(std::optional<std::size_t> stock)
{
    chosen_ = stock;
    update();
}

QRectF ScatterPicture::legend() const
{
    if (width() < 480 || sectors_.size() < 2)
        return {};
    const int line = fontMetrics().height();
    return {width() - 9.0 * line, 8.0, 9.0 * line, height() - 16.0};
}

QRectF ScatterPicture::field() const
{
    const int line = fontMetrics().height();
    const double right = legend().isNull() ? 10.0 : legend().width() + 6.0;
    return QRectF(rect()).adjusted(4.0 * line, 1.6 * line, -right, -2.6 * line);
}

double ScatterPicture::placeOf(std::size_t axis, double figure) const
{
    // A little air, so that what stands at the edge is whole.
    return 0.02 + 0.96 * std::clamp(scatter_->axes[axis].spread.placeOf(figure), 0.0, 1.0);
}

double ScatterPicture::figureAt(std::size_t axis, QPointF at) const
{
    const QRectF area = field();
    const double place = axis == 0 ? (at.x() - area.left()) / area.width()
                                   : (area.bottom() - at.y()) / area.height();
    return scatter_->axes[axis].spread.figureAt(std::clamp((place - 0.02) / 0.96, 0.0, 1.0));
}

QPointF ScatterPicture::pointOf(const screens::ScatterPoint& point) const
{
    const QRectF area = field();
    return {area.left() + area.width() * placeOf(0, point.across),
            area.bottom() - area.height() * placeOf(1, point.up)};
}

std::vector<double> ScatterPicture::ticksOf(const screens::Distribution& spread) const
{
    std::vector<double> ticks;
    if (spread.counts.empty() || !(spread.high > spread.low))
        return ticks;
    if (spread.isLogarithmic) {
        for (double power = std::pow(10.0, std::floor(std::log10(spread.low)));
             power <= spread.high; power *= 10.0)
            for (const double digit : {1.0, 3.0})
                if (digit * power >= spread.low && digit * power <= spread.high)
                    ticks.push_back(digit * power);
        return ticks;
    }
    const double step = screens::roundStep((spread.high - spread.low) / 4.0);
    for (double at = std::ceil(spread.low / step); at <= spread.high / step; at += 1.0)
        ticks.push_back(at * step);
    return ticks;
}

void ScatterPicture::paintAxes(QPainter& painter) const
{
    const QRectF area = field();
    const int line = fontMetrics().height();
    painter.setFont(fontOf(Weight::Regular, 0.88));
    for (std::size_t axis = 0; axis < 2; ++axis) {
        const screens::ScatterAxis& shown = scatter_->axes[axis];
        for (const double tick : ticksOf(shown.spread)) {
            const QString figure =
                numberText(tick, shown.column.unit,
                           shown.column.unit == Unit::Percent ? 0 : shown.column.decimals);
            const double place = placeOf(axis, tick);
            painter.setPen(look().wash(look().rule, 0.7));
            const double x = area.left() + area.width() * place;
            const double y = area.bottom() - area.height() * place;
            painter.drawLine(axis == 0 ? QLineF(x, area.top(), x, area.bottom())
                                       : QLineF(area.left(), y, area.right(), y));
            painter.setPen(look().softInk);
            painter.drawText(axis == 0 ? QRectF(x - 60, area.bottom() + 2, 120, line)
                                       : QRectF(0, y - line / 2.0, area.left() - 6, line),
                             int(axis == 0 ? Qt::AlignHCenter | Qt::AlignTop
                                           : Qt::AlignRight | Qt::AlignVCenter),
                             figure);
        }
    }
    painter.setPen(look().ink);
    painter.setFont(fontOf(Weight::Medium, 0.92));
    painter.drawText(QRectF(area.left(), height() - 1.3 * line, area.width(), 1.2 * line),
                     Qt::AlignHCenter | Qt::AlignVCenter, text(scatter_->axes[0].column.title));
    const QString upward = text(scatter_->axes[1].column.title);
    painter.drawText(QRectF(2, 0, area.width(), area.top()), Qt::AlignLeft | Qt::AlignVCenter,
                     upward);
}

void ScatterPicture::paintBounds(QPainter& painter) const
{
    const QRectF area = field();
    for (std::size_t axis = 0; axis < 2; ++axis)
        for (std::size_t i = 0; i < scatter_->axes[axis].bounds.size(); ++i) {
            const bool isInHand = dragged_ && dragged_->axis == axis && dragged_->bound == i;
            const double at = isInHand ? draggedTo_ : scatter_->axes[axis].bounds[i].at;
            const double place = placeOf(axis, at);
            painter.setPen(QPen(look().mark, isInHand ? 2.2 : 1.4, Qt::DashLine));
            const double x = area.left() + area.width() * place;
            const double y = area.bottom() - area.height() * place;
            painter.drawLine(axis == 0 ? QLineF(x, area.top(), x, area.bottom())
                                       : QLineF(area.left(), y, area.right(), y));
        }
}

void ScatterPicture::paintPoint(QPainter& painter, const screens::ScatterPoint& point) const
{
    const auto shape =
        static_cast<std::size_t>(std::ranges::find(sectors_, point.sector) - sectors_.begin());
    const bool isChosen = chosen_ && *chosen_ == point.stock;
    const QColor colour = point.passes ? look().mark : look().wash(look().softInk, 0.45);
    const double radius = 2.2 + 5.0 * point.size;
    painter.setPen(QPen(colour, point.passes ? 1.4 : 1.0));
    QColor inside = colour;
    inside.setAlphaF(shape >= 6 ? 0.0F : point.passes ? 0.45F : 0.16F);
    painter.setBrush(inside);
    paintShape(painter, shape, pointOf(point), radius);
    constexpr std::size_t mostNamed = 24; // so few that names do not hide the points
    if (!isChosen && scatter_->points.size() > mostNamed)
        return;
    painter.setPen(QPen(isChosen ? look().ink : look().softInk, 1.6));
    painter.setBrush(Qt::NoBrush);
    if (isChosen)
        painter.drawEllipse(pointOf(point), radius + 4.0, radius + 4.0);
    painter.setFont(fontOf(isChosen ? Weight::SemiBold : Weight::Regular, 0.92));
    const QString symbol = text(market_->instrument(point.stock).symbol);
    const QFontMetricsF metrics(painter.font());
    const double wide = metrics.horizontalAdvance(symbol) + 4.0;
    const double right = pointOf(point).x() + radius + 6.0;
    const bool isRoomOnRight = right + wide < field().right();
    const QRectF label(isRoomOnRight ? right : pointOf(point).x() - radius - 6.0 - wide,
                       pointOf(point).y() - metrics.height() / 2.0, wide, metrics.height());
    if (isChosen)
        painter.fillRect(label, look().sheet); // over what stands behind it
    painter.drawText(label, Qt::AlignCenter, symbol);
}

void ScatterPicture::paintLegend(QPainter& painter) const
{
    const QRectF area = legend();
    if (area.isNull())
        return;
    const double line = fontMetrics().height() * 1.25;
    painter.setFont(fontOf(Weight::Regular, 0.88));
    for (std::size_t i = 0; i < sectors_.size(); ++i) {
        const QPointF at(area.left() + 8, area.top() + line * (static_cast<double>(i) + 0.5));
        QColor inside = look().softInk;
        inside.setAlphaF(i >= 6 ? 0.0F : 0.4F);
        painter.setPen(QPen(look().softInk, 1.2));
        painter.setBrush(inside);
        paintShape(painter, i, at, 4.0);
        painter.drawText(QRectF(at.x() + 12, at.y() - line / 2, area.right() - at.x() - 12, line),
                         Qt::AlignLeft | Qt::AlignVCenter,
                         sectors_[i] == 0 ? tr("not known")
                                          : text(market_->texts().text(sectors_[i])));
    }
}

void ScatterPicture::paintEvent(QPaintEvent*)
{
    QPainter painter(this);
    painter.fillRect(rect(), look().sheet);
    painter.setRenderHint(QPainter::Antialiasing);
    if (scatter_->points.empty()) {
        painter.setPen(look().softInk);
        return painter.drawText(rect(), Qt::AlignCenter,
                                tr("No stock of the universe has both figures"));
    }
    paintAxes(painter);
    paintBounds(painter);
    const screens::ScatterPoint* onTop = nullptr;
    for (const screens::ScatterPoint& point : scatter_->points) {
        if (chosen_ && point.stock == *chosen_)
            onTop = &point;
        paintPoint(painter, point);
    }
    if (onTop)
        paintPoint(painter, *onTop);
    paintLegend(painter);
    if (!frame_.isNull()) {
        painter.setPen(QPen(look().ink, 1.0, Qt::DotLine));
        painter.setBrush(Qt::NoBrush);
        painter.drawRect(frame_);
    }
}

std::optional<ScatterPicture::Line> ScatterPicture::lineNear(QPointF at) const
{
    const QRectF area = field();
    for (std::size_t axis = 0; axis < 2; ++axis)
        for (std::size_t i = 0; i < scatter_->axes[axis].bounds.size(); ++i) {
            const double place = placeOf(axis, scatter_->axes[axis].bounds[i].at);
            const double distance = axis == 0 ? at.x() - area.left() - area.width() * place
                                              : at.y() - area.bottom() + area.height() * place;
            if (std::fabs(distance) <= 4.0 && area.contains(at))
                return Line{axis, i};
        }
    return std::nullopt;
}

const screens::ScatterPoint* ScatterPicture::pointNear(QPointF at) const
{
    const screens::ScatterPoint* nearest = nullptr;
    double least = reach;
    for (const screens::ScatterPoint& point : scatter_->points) {
        const QPointF apart = pointOf(point) - at;
        const double distance = std::hypot(apart.x(), apart.y());
        if (distance <= least) { // of equals the last, which is drawn on top
            least = distance;
            nearest = &point;
        }
    }
    return nearest;
}

void ScatterPicture::mousePressEvent(QMouseEvent* event)
{
    pressedAt_ = event->position();
    dragged_ = lineNear(pressedAt_);
    if (dragged_)
        draggedTo_ = scatter_->axes[dragged_->axis].bounds[dragged_->bound].at;
}

void ScatterPicture::mouseMoveEvent(QMouseEvent* event)
{
    const QPointF at = event->position();
    if (!(event->buttons() & Qt::LeftButton)) {
        const auto line = lineNear(at);
        setCursor(!line             ? Qt::ArrowCursor
                  : line->axis == 0 ? Qt::SizeHorCursor
                                    : Qt::SizeVerCursor);
        return;
    }
    if (dragged_) {
        const auto& spread = scatter_->axes[dragged_->axis].spread;
        const double figure = figureAt(dragged_->axis, at);
        const double step = spread.stepAt(figure, 0.012);
        if (!isMissing(step))
            draggedTo_ = std::round(figure / step) * step;
    } else if ((at - pressedAt_).manhattanLength() > QApplication::startDragDistance()) {
        frame_ = QRectF(pressedAt_, at).normalized();
    }
    update();
}

void ScatterPicture::mouseReleaseEvent(QMouseEvent* event)
{
    if (dragged_) {
        const auto& bound = scatter_->axes[dragged_->axis].bounds[dragged_->bound];
        if (draggedTo_ != bound.at)
            Q_EMIT boundWanted(bound.criterion, bound.limit, draggedTo_);
    } else if (!frame_.isNull()) {
        std::vector<std::size_t> inside;
        for (const screens::ScatterPoint& point : scatter_->points)
            if (point.passes && frame_.contains(pointOf(point)))
                inside.push_back(point.stock);
        if (!inside.empty())
            Q_EMIT surrounded(inside);
    } else if (const screens::ScatterPoint* point = pointNear(event->position())) {
        Q_EMIT chosen(point->stock);
    }
    dragged_.reset();
    frame_ = {};
    update();
}

bool ScatterPicture::event(QEvent* event)
{
    if (event->type() == QEvent::ToolTip) {
        const auto* help = static_cast<QHelpEvent*>(event);
        if (const screens::ScatterPoint* point = pointNear(help->pos())) {
            const market::Instrument& instrument = market_->instrument(point->stock);
            const auto& [across, up, size] = scatter_->axes;
            QToolTip::showText(
                help->globalPos(),
                tr("%1, %2\n%3: %4\n%5: %6")
                    .arg(text(instrument.symbol), text(instrument.name), text(across.column.title),
                         numberText(point->across, across.column.unit, across.column.decimals),
                         text(up.column.title),
                         numberText(point->up, up.column.unit, up.column.decimals)),
                this);
        } else {
            QToolTip::hideText();
        }
        return true;
    }
    return QWidget::event(event);
}

} // namespace sieve::app
