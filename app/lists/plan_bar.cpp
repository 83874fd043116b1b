#include "app/lists/plan_bar.h"

#include "app/look/look.h"

#include <QPainter>
#include <QPainterPath>
#include <algorithm>

namespace sieve::app {

namespace {

/// What a bar spans: from the lower of stop and entry to the last target, to where the gain equals
/// what is risked where there is none, or to a stop that was moved above them.
struct Span {
    double least;
    double most;

    explicit Span(const watchlists::TradePlan& plan)
        : least(std::min(plan.stop, plan.entry)),
          most(std::max(plan.stop,
                        plan.targets.empty() ? 2.0 * plan.entry - plan.stop : plan.targets.back()))
    {
    }
};

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
    const Span span(bar.plan);
    return (price - span.least) / (span.most - span.least);
}

void paintPlanBar(QPainter& painter, const QRectF& area, const PlanBar& bar)
{
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    const QRectF rail(area.left() + 8.0, area.center().y() - 3.0, area.width() - 16.0, 6.0);
    const auto at = [&](double price) {
        return rail.left() + std::clamp(placeOn(bar, price), 0.0, 1.0) * rail.width();
    };
    const auto stroke = [&](double price, double over, const QColor& colour) {
        painter.fillRect(QRectF(at(price) - 1.0, rail.top() - over, 2.0, rail.height() + 2 * over),
                         colour);
    };
    const double entry = at(bar.plan.entry);
    painter.fillRect(QRectF(rail.left(), rail.top(), entry - rail.left(), rail.height()),
                     look().wash(look().fall, 0.45));
    painter.fillRect(QRectF(entry, rail.top(), rail.right() - entry, rail.height()),
                     look().wash(look().rise, 0.45));
    for (const double target : bar.plan.targets)
        stroke(target, 2.0, look().rise);
    stroke(bar.plan.entry, 3.0, look().mark);
    stroke(bar.plan.stop, 3.0, look().fall);
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
