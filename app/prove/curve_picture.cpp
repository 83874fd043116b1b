#include "app/prove/curve_picture.h"

#include "app/look/look.h"
#include "app/parts/number_text.h"
#include "core/base/missing.h"
#include "core/charts/ticks.h"
#include "core/charts/value_axis.h"

#include <QLocale>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

namespace sieve::app {

namespace {

constexpr double scaleWidth = 58.0;

QString tickName(const std::vector<Day>& sessions, const charts::SessionTick& tick)
{
    const QDate date = dateOf(sessions[tick.bar]);
    if (tick.names == charts::CalendarStep::Year)
        return QString::number(date.year());
    if (tick.names == charts::CalendarStep::Quarter || tick.names == charts::CalendarStep::Month)
        return QLocale::c().toString(date, QStringLiteral("MMM"));
    return QLocale::c().toString(date, QStringLiteral("d MMM"));
}

} // namespace

CurvePicture::CurvePicture(QWidget* parent) : QWidget(parent)
{
    setMouseTracking(true);
    setAccessibleName(tr("Worth day by day"));
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
}

QSize CurvePicture::sizeHint() const
{
    return {640, 260};
}

QSize CurvePicture::minimumSizeHint() const
{
    return {260, 160};
}

void CurvePicture::show(std::vector<Day> sessions, std::vector<Curve> curves,
                        std::vector<Stretch> stretches, std::optional<std::size_t> parted)
{
    parted_ = parted;
    sessions_ = std::move(sessions);
    curves_ = std::move(curves);
    stretches_ = std::move(stretches);
    pointed_.reset();
    falls_.clear();
    double highest = 0.0;
    if (!curves_.empty())
        for (const double worth : curves_.front().worths) {
            highest = isMissing(worth) ? highest : std::max(highest, worth);
            falls_.push_back(highest > 0.0 ? worth / highest - 1.0 : missing);
        }
    QStringList told;
    for (const Curve& curve : curves_)
        if (!curve.worths.empty())
            told << QStringLiteral("%1 %2").arg(
                curve.name, signedText(curve.worths.back() - 1.0, Unit::Percent, 1));
    setAccessibleDescription(told.join(QStringLiteral("; ")));
    update();
}

QColor CurvePicture::colourOf(Tint tint) const
{
    switch (tint) {
    case Tint::Own:
        return look().mark;
    case Tint::Benchmark:
        return look().softInk;
    case Tint::Other:
        break;
    }
    return look().caution;
}

QRectF CurvePicture::plotArea() const
{
    const double line = QFontMetricsF(fontOf(Weight::Regular, 0.92)).height();
    return QRectF(rect()).adjusted(12.0, 8.0 + line, -12.0 - scaleWidth, -8.0 - line);
}

double CurvePicture::xOf(const QRectF& area, std::size_t session) const
{
    const double last = std::max<double>(1.0, static_cast<double>(sessions_.size()) - 1.0);
    return area.left() + area.width() * static_cast<double>(session) / last;
}

void CurvePicture::paintTimes(QPainter& painter, const QRectF& area) const
{
    const auto ticks =
        charts::sessionTicks(sessions_, 0.0, static_cast<double>(sessions_.size() - 1));
    std::vector<std::pair<double, double>> taken; // by names, from left to right
    const auto nameTick = [&](const charts::SessionTick& tick) {
        const double x = xOf(area, tick.bar);
        const QString name = tickName(sessions_, tick);
        const double wide = painter.fontMetrics().horizontalAdvance(name);
        const double left = x - wide / 2.0 - 4.0;
        const double right = x + wide / 2.0 + 4.0;
        if (right > area.right() + scaleWidth || std::ranges::any_of(taken, [&](const auto& each) {
                return left < each.second && right > each.first;
            }))
            return;
        taken.emplace_back(left, right);
        painter.setPen(look().softInk);
        painter.drawText(
            QRectF(x - wide, area.bottom() + 2.0, 2.0 * wide, painter.fontMetrics().height()),
            Qt::AlignHCenter | Qt::AlignTop, name);
    };
    for (const charts::SessionTick& tick : ticks)
        painter.fillRect(QRectF(xOf(area, tick.bar) - 0.5, area.top(), 1.0, area.height()),
                         look().rule);
    for (const bool isYear : {true, false}) // years have the room first
        for (const charts::SessionTick& tick : ticks)
            if ((tick.names == charts::CalendarStep::Year) == isYear)
                nameTick(tick);
}

void CurvePicture::paintWorths(QPainter& painter, const QRectF& area) const
{
    double least = 1.0;
    double most = 1.0;
    for (const Curve& curve : curves_)
        for (const double worth : curve.worths)
            if (worth > 0.0) {
                least = std::min(least, worth);
                most = std::max(most, worth);
            }
    const charts::ValueAxis axis(charts::ValueScale::Logarithmic, least, most, false);
    const auto yOf = [&](double worth) {
        return area.bottom() - area.height() * axis.place(worth);
    };
    const int about = std::max(2, static_cast<int>(area.height() / 34.0));
    for (const auto& tick : axis.ticks(about)) {
        const double y = yOf(tick.value);
        painter.fillRect(QRectF(area.left(), y - 0.5, area.width(), 1.0),
                         std::fabs(tick.value - 1.0) < 1e-9 ? look().softInk : look().rule);
        painter.setPen(look().softInk);
        painter.drawText(QRectF(area.right() + 6.0, y - 9.0, scaleWidth, 18.0),
                         Qt::AlignLeft | Qt::AlignVCenter,
                         signedText(tick.value - 1.0, Unit::Percent, most / least < 1.05 ? 1 : 0));
    }
    painter.setRenderHint(QPainter::Antialiasing);
    // The first one stands above the others.
    for (auto curve = curves_.rbegin(); curve != curves_.rend(); ++curve) {
        QPainterPath path;
        bool isBegun = false;
        for (std::size_t at = 0; at < curve->worths.size(); ++at) {
            if (!(curve->worths[at] > 0.0)) {
                isBegun = false;
                continue;
            }
            const QPointF point(xOf(area, at), yOf(curve->worths[at]));
            isBegun ? path.lineTo(point) : path.moveTo(point);
            isBegun = true;
        }
        painter.setPen(QPen(colourOf(curve->tint), curve->tint == Tint::Own ? 1.8 : 1.2));
        painter.drawPath(path);
    }
    painter.setRenderHint(QPainter::Antialiasing, false);
}

void CurvePicture::paintFalls(QPainter& painter, const QRectF& area) const
{
    double deepest = -0.01;
    for (const double fall : falls_)
        if (!isMissing(fall))
            deepest = std::min(deepest, fall);
    const auto yOf = [&](double fall) { return area.top() + area.height() * fall / deepest; };
    QPolygonF shape;
    shape << area.topLeft();
    for (std::size_t at = 0; at < falls_.size(); ++at)
        shape << QPointF(xOf(area, at), yOf(isMissing(falls_[at]) ? 0.0 : falls_[at]));
    shape << QPointF(xOf(area, falls_.empty() ? 0 : falls_.size() - 1), area.top());
    painter.setPen(Qt::NoPen);
    painter.setBrush(look().wash(look().fall, 0.45));
    painter.drawPolygon(shape);
    painter.setBrush(Qt::NoBrush);
    painter.fillRect(QRectF(area.left(), area.top() - 0.5, area.width(), 1.0), look().softInk);
    painter.setPen(look().softInk);
    painter.drawText(QRectF(area.right() + 6.0, area.bottom() - 18.0, scaleWidth, 18.0),
                     Qt::AlignLeft | Qt::AlignBottom, numberText(deepest, Unit::Percent, 0));
}

void CurvePicture::paintReading(QPainter& painter) const
{
    const std::size_t at = pointed_.value_or(sessions_.size() - 1);
    const double line = painter.fontMetrics().height();
    double x = 12.0;
    const auto put = [&](const QString& words, const QColor& colour) {
        const double wide = painter.fontMetrics().horizontalAdvance(words);
        painter.setPen(colour);
        painter.drawText(QRectF(x, 4.0, wide + 2.0, line), Qt::AlignLeft | Qt::AlignVCenter, words);
        x += wide + 16.0;
    };
    put(shortDayText(sessions_[at]), look().softInk);
    for (const Curve& curve : curves_)
        if (at < curve.worths.size())
            put(QStringLiteral("%1 %2").arg(curve.name,
                                            signedText(curve.worths[at] - 1.0, Unit::Percent, 1)),
                colourOf(curve.tint));
    if (at < falls_.size())
        put(tr("below its high %1").arg(numberText(falls_[at], Unit::Percent, 1)), look().fall);
}

void CurvePicture::paintEvent(QPaintEvent*)
{
    QPainter painter(this);
    painter.fillRect(rect(), look().sheet);
    if (sessions_.size() < 2 || curves_.empty())
        return;
    painter.setFont(fontOf(Weight::Regular, 0.92));
    const QRectF area = plotArea();
    for (const Stretch& stretch : stretches_)
        painter.fillRect(
            QRectF(QPointF(xOf(area, stretch.from), area.top()),
                   QPointF(xOf(area, std::min(stretch.to, sessions_.size() - 1)), area.bottom())),
            look().wash(look().caution, 0.12));
    paintTimes(painter, area);
    const double falls = std::clamp(0.24 * area.height(), 24.0, 70.0);
    paintWorths(painter, area.adjusted(0.0, 2.0, 0.0, -falls - 6.0));
    paintFalls(painter, QRectF(area.left(), area.bottom() - falls, area.width(), falls));
    paintReading(painter);
    if (parted_) {
        painter.setPen(QPen(look().ink, 1.0, Qt::DashLine));
        const double x = xOf(area, *parted_);
        painter.drawLine(QPointF(x, area.top()), QPointF(x, area.bottom()));
    }
    if (pointed_)
        painter.fillRect(QRectF(xOf(area, *pointed_) - 0.5, area.top(), 1.0, area.height()),
                         look().ink);
}

void CurvePicture::mouseMoveEvent(QMouseEvent* event)
{
    if (sessions_.size() < 2)
        return;
    const QRectF area = plotArea();
    const double place = (event->position().x() - area.left()) / area.width();
    const double last = static_cast<double>(sessions_.size() - 1);
    pointed_ = static_cast<std::size_t>(std::lround(std::clamp(place, 0.0, 1.0) * last));
    update();
}

void CurvePicture::leaveEvent(QEvent*)
{
    pointed_.reset();
    update();
}

} // namespace sieve::app
