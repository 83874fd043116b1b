#include "app/sift/day_line.h"

#include "app/look/look.h"
#include "app/parts/number_text.h"

#include <QHelpEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QToolTip>
#include <algorithm>

namespace sieve::app {

DayLine::DayLine(QWidget* parent) : QWidget(parent)
{
    setAccessibleName(tr("How many passed on each day of the year before"));
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
}

QSize DayLine::sizeHint() const
{
    return {300, 4 * fontMetrics().height()};
}

void DayLine::show(std::vector<Day> days, std::vector<std::size_t> counts)
{
    days_ = std::move(days);
    counts_ = std::move(counts);
    update();
}

QRectF DayLine::field() const
{
    const int figures = fontMetrics().horizontalAdvance(QStringLiteral("10,000"));
    return QRectF(rect()).adjusted(8, 4, -figures - 8, -fontMetrics().height() - 2);
}

std::size_t DayLine::dayAt(double x) const
{
    const QRectF area = field();
    const double place = std::clamp((x - area.left()) / area.width(), 0.0, 0.9999);
    return static_cast<std::size_t>(place * static_cast<double>(days_.size()));
}

void DayLine::paintEvent(QPaintEvent*)
{
    if (days_.empty())
        return;
    QPainter painter(this);
    const QRectF area = field();
    const std::size_t most = std::max<std::size_t>(1, *std::ranges::max_element(counts_));
    const double aDay = area.width() / static_cast<double>(days_.size());
    for (std::size_t i = 0; i < days_.size(); ++i) {
        const double height =
            area.height() * static_cast<double>(counts_[i]) / static_cast<double>(most);
        painter.fillRect(QRectF(area.left() + static_cast<double>(i) * aDay, area.bottom() - height,
                                std::max(1.0, aDay - 0.4), height),
                         i + 1 == days_.size() ? look().mark : look().wash(look().mark, 0.5));
    }
    painter.setPen(look().rule);
    painter.drawLine(area.bottomLeft(), area.bottomRight());
    painter.setFont(fontOf(Weight::Regular, 0.88));
    painter.setPen(look().softInk);
    const QRectF below(area.left(), area.bottom() + 1, area.width(), height() - area.bottom() - 1);
    painter.drawText(below, Qt::AlignLeft | Qt::AlignTop, shortDayText(days_.front()));
    painter.drawText(below, Qt::AlignRight | Qt::AlignTop, shortDayText(days_.back()));
    const QRectF beside(area.right() + 4, area.top(), width() - area.right(), area.height());
    painter.drawText(beside, Qt::AlignLeft | Qt::AlignTop, QString::number(most));
    painter.drawText(beside, Qt::AlignLeft | Qt::AlignBottom, QStringLiteral("0"));
}

void DayLine::mousePressEvent(QMouseEvent* event)
{
    if (!days_.empty() && event->button() == Qt::LeftButton)
        Q_EMIT dayWanted(days_[dayAt(event->position().x())]);
}

bool DayLine::event(QEvent* event)
{
    if (event->type() == QEvent::ToolTip && !days_.empty()) {
        const auto* help = static_cast<QHelpEvent*>(event);
        const std::size_t day = dayAt(help->pos().x());
        QToolTip::showText(help->globalPos(),
                           tr("%1: %2 passed. A click goes back to that day.")
                               .arg(dayText(days_[day]))
                               .arg(counts_[day]),
                           this);
        return true;
    }
    return QWidget::event(event);
}

} // namespace sieve::app
