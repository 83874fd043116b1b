#include "app/lists/plan_bar.h"

#include "app/look/look.h"

#include <QPainter>
#include <QPainterPath>
#include <algorithm>

namespace sieve::app {

namespace {

/// What the bar goes up to: the last target, or where the gain equals what is risked.
double topOf(const watchlists::TradePlan& plan)
{
    return plan.targets.empty() ? 2.0 * plan.entry - plan.stop : plan.targets.back();
}

/// A mark under the price; at an end it points outwards.
void paintPrice(QPainter& painter, const QRectF& rail, double place)
{
    const double x = rail.left() + std::clamp(place, 0.0, 1.0) * rail.width();
    const double y = rail.center().y();
    constexpr double half = 4.0;
    QPolygonF shape;
    if (place < 0.0)
        shape = {{x - half, y}, {x + half, y - half}, {x + half, y + half}};
    else if (place > 1.0)
        shape = {{x + half, y}, {x - half, y - half}, {x - half, y + half}};
    else
        shape = {{x, y - half - 1.0}, {x + half, y}, {x, y + half + 1.0}, {x - half, y}};
    painter.setPen(QPen(look().sheet, 1.0));
    painter.setBrush(look().ink);
    painter.drawPolygon(shape);
}

} // namespace

double placeOn(const PlanBar& bar, double price)
{
    const double top = topOf(bar.plan);
    return (price - bar.plan.stop) / (top - bar.plan.stop);
}

void paintPlanBar(QPainter& painter, const QRectF& area, const PlanBar& bar)
{
    if (!(topOf(bar.plan) > bar.plan.stop))
        return; // a rule has moved the stop over the target
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    const QRectF rail(area.left() + 8.0, area.center().y() - 3.0, area.width() - 16.0, 6.0);
    const auto at = [&](double price) {
        return rail.left() + std::clamp(placeOn(bar, price), 0.0, 1.0) * rail.width();
    };
    const double entry = at(bar.plan.entry);
    painter.fillRect(QRectF(rail.left(), rail.top(), entry - rail.left(), rail.height()),
                     look().wash(look().fall, 0.45));
    painter.fillRect(QRectF(entry, rail.top(), rail.right() - entry, rail.height()),
                     look().wash(look().rise, 0.45));
    painter.fillRect(QRectF(entry - 1.0, rail.top() - 3.0, 2.0, rail.height() + 6.0), look().mark);
    for (const double target : bar.plan.targets)
        painter.fillRect(QRectF(at(target) - 1.0, rail.top() - 2.0, 2.0, rail.height() + 4.0),
                         look().rise);
    painter.fillRect(QRectF(rail.left() - 1.0, rail.top() - 2.0, 2.0, rail.height() + 4.0),
                     look().fall);
    if (!isMissing(bar.price))
        paintPrice(painter, rail, placeOn(bar, bar.price));
    painter.restore();
}

void paintSign(QPainter& painter, const QRectF& area, watchlists::Sign sign)
{
    if (sign == watchlists::Sign::None)
        return;
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    const QPointF centre = area.center();
    constexpr double half = 5.0;
    const auto corner = [&](double x, double y) { return centre + QPointF(x * half, y * half); };
    painter.setPen(QPen(look().mark, 1.6));
    painter.setBrush(look().wash(look().mark, 0.5));
    switch (sign) {
    case watchlists::Sign::Circle:
        painter.drawEllipse(centre, half, half);
        break;
    case watchlists::Sign::Square:
        painter.drawRect(QRectF(corner(-0.9, -0.9), corner(0.9, 0.9)));
        break;
    case watchlists::Sign::Triangle:
        painter.drawPolygon(QPolygonF{corner(0, -1), corner(1, 0.9), corner(-1, 0.9)});
        break;
    case watchlists::Sign::Diamond:
        painter.drawPolygon(
            QPolygonF{corner(0, -1.1), corner(1.1, 0), corner(0, 1.1), corner(-1.1, 0)});
        break;
    case watchlists::Sign::Cross:
        painter.drawLine(corner(-0.9, -0.9), corner(0.9, 0.9));
        painter.drawLine(corner(-0.9, 0.9), corner(0.9, -0.9));
        break;
    case watchlists::Sign::None:
        break;
    }
    painter.restore();
}

} // namespace sieve::app
