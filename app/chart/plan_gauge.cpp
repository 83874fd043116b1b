#include "app/chart/plan_gauge.h"

#include "app/chart/chart_picture.h"
#include "app/look/palette.h"
#include "app/parts/number_text.h"

#include <QFontMetricsF>
#include <QPainter>
#include <algorithm>
#include <cmath>
#include <utility>

namespace sieve::app {

namespace {

using watchlists::PlanLevel;
using What = PlanLevel::What;

constexpr double barWide = 7.0; ///< of the gauge
/// From the left edge of the plot to the middle of the gauge: the newest bars stay free.
constexpr double fromEdge = 14.0;
constexpr double holdReach = 5.0; ///< how near a level is taken hold of
constexpr double wordsWide = 170.0;

/// A price as one would type it: four digits that count.
double roundedPrice(double price)
{
    const double step = std::pow(10.0, std::floor(std::log10(price)) - 3.0);
    return std::round(price / step) * step;
}

QString nameOf(const PlanLevel& level, std::size_t targets)
{
    if (level.what == What::Stop)
        return PlanGauge::tr("stop");
    if (level.what == What::Entry)
        return PlanGauge::tr("entry");
    return targets == 1 ? PlanGauge::tr("target")
                        : PlanGauge::tr("target %1").arg(level.target + 1);
}

/// The heights of names that keep clear of each other, from the lowest up.
std::vector<double> spread(std::vector<double> heights, double each)
{
    for (std::size_t i = 1; i < heights.size(); ++i)
        heights[i] = std::min(heights[i], heights[i - 1] - each);
    return heights;
}

} // namespace

bool PlanGauge::setPlan(std::optional<watchlists::TradePlan> plan,
                        const watchlists::PlanTerms& terms)
{
    const bool isOther = plan != plan_ || (plan && !(terms == terms_));
    plan_ = std::move(plan);
    terms_ = terms;
    held_.reset();
    before_.reset();
    return isOther;
}

std::vector<double> PlanGauge::prices() const
{
    if (!plan_)
        return {};
    std::vector<double> prices = plan_->targets;
    prices.insert(prices.end(), {plan_->stop, plan_->entry});
    return prices;
}

std::vector<PlanGauge::Level> PlanGauge::levels() const
{
    const watchlists::PlanSize size = watchlists::sizeOf(*plan_, terms_);
    std::vector<Level> all;
    const auto add = [&](const PlanLevel& level, double price, const QString& more) {
        all.push_back({level, price,
                       QStringLiteral("%1: %2 · %3")
                           .arg(nameOf(level, plan_->targets.size()),
                                numberText(price, Unit::Money, price < 1.0 ? 4 : 2), more)});
    };
    add({What::Stop}, plan_->stop, signedText(plan_->stop / plan_->entry - 1.0, Unit::Percent, 1));
    add({What::Entry}, plan_->entry, tr("%1 shares").arg(numberText(size.shares, Unit::Plain, 0)));
    for (std::size_t i = 0; i < plan_->targets.size(); ++i)
        add({What::Target, i}, plan_->targets[i],
            tr("%1 × the risk").arg(numberText(size.rewards[i], Unit::Plain, 1)));
    return all;
}

void PlanGauge::paint(QPainter& painter, const ChartPicture& picture, const Palette& colours,
                      const QFont& font) const
{
    if (!plan_ || !picture.hasBars())
        return;
    const QRectF& plot = picture.panes().front().plot;
    const double x = plot.left() + fromEdge;
    const std::vector<Level> all = levels();
    const auto yOf = [&](double price) {
        return std::clamp(picture.yOf(0, price), plot.top(), plot.bottom());
    };
    const double stop = yOf(plan_->stop);
    const double entry = yOf(plan_->entry);
    const double top = yOf(all.back().price);
    painter.save();
    painter.setClipRect(plot);
    painter.fillRect(QRectF(x - barWide / 2.0, entry, barWide, stop - entry),
                     colours.wash(colours.fall, 0.55));
    painter.fillRect(QRectF(x - barWide / 2.0, top, barWide, entry - top),
                     colours.wash(colours.rise, 0.55));
    const QFontMetricsF metrics(font);
    painter.setFont(font);
    std::vector<double> heights;
    for (const Level& level : all)
        heights.push_back(std::clamp(yOf(level.price) + metrics.height() / 2.0,
                                     plot.top() + metrics.height(), plot.bottom()));
    heights = spread(std::move(heights), metrics.height());
    for (std::size_t i = 0; i < all.size(); ++i) {
        const double y = yOf(all[i].price);
        const bool isIn = picture.yOf(0, all[i].price) == y;
        const double words = metrics.horizontalAdvance(all[i].words);
        const QRectF box(x + barWide + 2.0, heights[i] - metrics.height(), words + 6.0,
                         metrics.height());
        const QColor colour = all[i].level.what == What::Stop ? colours.fall : colours.ink;
        if (isIn) {
            painter.setPen(QPen(colours.wash(colour, 0.5), 1.0, Qt::DashLine));
            painter.drawLine(QPointF(x + barWide, y), QPointF(plot.right(), y));
        }
        painter.setPen(QPen(colour, held_ == all[i].level ? 3.0 : 1.4));
        painter.drawLine(QPointF(x - barWide, y), QPointF(x + barWide, y));
        painter.setOpacity(0.88);
        painter.fillRect(box, colours.sheet);
        painter.setOpacity(1.0);
        painter.setPen(colour);
        painter.drawText(QPointF(box.left() + 3.0, box.bottom() - metrics.descent()), all[i].words);
    }
    const auto& closes = picture.chart().bars->close;
    const double price = yOf(closes.back());
    QPolygonF pointer;
    pointer << QPointF(x - barWide / 2.0, price) << QPointF(x - barWide - 5.0, price - 5.0)
            << QPointF(x - barWide - 5.0, price + 5.0);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(Qt::NoPen);
    painter.setBrush(colours.mark);
    painter.drawPolygon(pointer);
    painter.restore();
}

std::optional<PlanLevel> PlanGauge::levelAt(const ChartPicture& picture, const QPointF& point) const
{
    if (!plan_ || !picture.hasBars())
        return std::nullopt;
    const QRectF& plot = picture.panes().front().plot;
    if (!plot.contains(point) || point.x() > plot.left() + fromEdge + wordsWide)
        return std::nullopt;
    std::optional<PlanLevel> nearest;
    double least = holdReach;
    for (const Level& level : levels())
        if (const double away = std::fabs(picture.yOf(0, level.price) - point.y()); away < least) {
            least = away;
            nearest = level.level;
        }
    return nearest;
}

bool PlanGauge::press(const ChartPicture& picture, const QPointF& point)
{
    held_ = levelAt(picture, point);
    before_ = plan_;
    return held_.has_value();
}

void PlanGauge::drag(const ChartPicture& picture, const QPointF& point)
{
    const QRectF& plot = picture.panes().front().plot;
    const double price = picture.valueAt(0, std::clamp(point.y(), plot.top(), plot.bottom()));
    if (price > 0.0)
        plan_ = watchlists::withLevel(*before_, *held_, roundedPrice(price));
}

std::optional<watchlists::TradePlan> PlanGauge::release()
{
    held_.reset();
    const auto before = std::exchange(before_, std::nullopt);
    return before == plan_ ? std::nullopt : plan_;
}

} // namespace sieve::app
