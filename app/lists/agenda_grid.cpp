#include "app/lists/agenda_grid.h"

#include "app/look/look.h"
#include "app/parts/number_text.h"

#include <QKeyEvent>
#include <QLocale>
#include <QMouseEvent>
#include <QPainter>
#include <algorithm>

namespace sieve::app {

namespace {

constexpr int daysOfWeek = 7;
constexpr double headHeight = 22.0;

Day mondayOf(Day day)
{
    return day.plusDays(1 - static_cast<int>(day.weekday().iso_encoding()));
}

Day firstOfMonth(Day day)
{
    return day.plusDays(1 - static_cast<int>(static_cast<unsigned>(day.date().day())));
}

/// As there is room for in a cell.
QString briefly(watchlists::AgendaItem::What what)
{
    switch (what) {
    case watchlists::AgendaItem::What::Dividend:
        return AgendaGrid::tr("div.");
    case watchlists::AgendaItem::What::LockUpEnd:
        return AgendaGrid::tr("lock-up");
    default:
        return agendaWhatText(what);
    }
}

} // namespace

QString agendaWhatText(watchlists::AgendaItem::What what)
{
    switch (what) {
    case watchlists::AgendaItem::What::Report:
        return AgendaGrid::tr("report");
    case watchlists::AgendaItem::What::Dividend:
        return AgendaGrid::tr("dividend");
    case watchlists::AgendaItem::What::LockUpEnd:
        return AgendaGrid::tr("lock-up ends");
    case watchlists::AgendaItem::What::Review:
        return AgendaGrid::tr("review");
    }
    return {};
}

AgendaGrid::AgendaGrid()
{
    setFocusPolicy(Qt::StrongFocus);
    setMinimumSize(360, 240);
    setAccessibleName(tr("Calendar"));
}

void AgendaGrid::setItems(std::vector<watchlists::AgendaItem> items)
{
    items_ = std::move(items);
    update();
}

void AgendaGrid::setDay(Day day)
{
    day_ = day;
    update();
}

void AgendaGrid::setWeek(bool isWeek)
{
    isWeek_ = isWeek;
    update();
}

Day AgendaGrid::first() const
{
    return mondayOf(isWeek_ ? day_ : firstOfMonth(day_));
}

Day AgendaGrid::last() const
{
    return first().plusDays(daysOfWeek * rows() - 1);
}

int AgendaGrid::rows() const
{
    if (isWeek_)
        return 1;
    const Day end = firstOfMonth(day_).plusMonths(1).plusDays(-1);
    return (mondayOf(end) - mondayOf(firstOfMonth(day_))) / daysOfWeek + 1;
}

QRectF AgendaGrid::cellOf(Day day) const
{
    const int at = day - first();
    const double wide = width() / static_cast<double>(daysOfWeek);
    const double high = (height() - headHeight) / rows();
    return {at % daysOfWeek * wide, headHeight + at / daysOfWeek * high, wide, high};
}

void AgendaGrid::paintEvent(QPaintEvent*)
{
    QPainter painter(this);
    painter.fillRect(rect(), look().sheet);
    painter.setFont(fontOf(Weight::Medium, 0.9));
    painter.setPen(look().softInk);
    for (int day = 0; day < daysOfWeek; ++day)
        painter.drawText(QRectF(day * width() / static_cast<double>(daysOfWeek) + 6.0, 0.0,
                                width() / static_cast<double>(daysOfWeek), headHeight),
                         Qt::AlignVCenter | Qt::AlignLeft,
                         QLocale().standaloneDayName(day + 1, QLocale::ShortFormat));
    for (Day day = first(); day <= last(); day = day.plusDays(1))
        paintDay(painter, day);
}

/// Its number, and what is due: symbols by kind, as many as there is room for.
void AgendaGrid::paintDay(QPainter& painter, Day day) const
{
    const QRectF cell = cellOf(day);
    const bool isOther = !isWeek_ && day.date().month() != day_.date().month();
    if (day == day_)
        painter.fillRect(cell, look().wash(look().mark, 0.14));
    else if (day.isWeekend())
        painter.fillRect(cell, look().wash(look().rule, 0.25));
    painter.setPen(look().rule);
    painter.drawRect(cell);
    painter.setFont(fontOf(day == today_ ? Weight::SemiBold : Weight::Regular, 0.9));
    painter.setPen(isOther ? look().softInk : day == today_ ? look().mark : look().ink);
    const QRectF inside = cell.adjusted(6.0, 3.0, -4.0, -3.0);
    painter.drawText(inside, Qt::AlignTop | Qt::AlignLeft,
                     QString::number(static_cast<unsigned>(day.date().day())));
    painter.setFont(fontOf(Weight::Regular, 0.85));
    const QFontMetricsF metrics(painter.font());
    const auto begin = std::ranges::lower_bound(items_, day, {}, &watchlists::AgendaItem::on);
    const auto end = std::ranges::upper_bound(items_, day, {}, &watchlists::AgendaItem::on);
    const auto room = static_cast<std::ptrdiff_t>((inside.height() - 16.0) / metrics.lineSpacing());
    double y = inside.top() + 16.0;
    for (auto item = begin; item != end; ++item) {
        const bool isLast = item - begin + 1 >= room && end - item > 1;
        const QString words =
            isLast ? tr("%1 more").arg(end - item)
                   : QStringLiteral("%1 %2").arg(text(item->symbol), briefly(item->what));
        painter.setPen(isOther                                              ? look().softInk
                       : item->what == watchlists::AgendaItem::What::Review ? look().caution
                                                                            : look().ink);
        painter.drawText(QRectF(inside.left(), y, inside.width(), metrics.lineSpacing()),
                         Qt::AlignLeft | Qt::AlignVCenter,
                         metrics.elidedText(words, Qt::ElideRight, inside.width()));
        y += metrics.lineSpacing();
        if (isLast)
            break;
    }
}

void AgendaGrid::choose(Day day)
{
    const Day former = first();
    day_ = day;
    update();
    if (first() != former)
        Q_EMIT spanChanged();
    Q_EMIT dayChosen();
}

void AgendaGrid::mousePressEvent(QMouseEvent* event)
{
    setFocus();
    for (Day day = first(); day <= last(); day = day.plusDays(1))
        if (cellOf(day).contains(event->position()))
            return choose(day);
}

void AgendaGrid::keyPressEvent(QKeyEvent* event)
{
    switch (event->key()) {
    case Qt::Key_Left:
        return choose(day_.plusDays(-1));
    case Qt::Key_Right:
        return choose(day_.plusDays(1));
    case Qt::Key_Up:
        return choose(day_.plusDays(-daysOfWeek));
    case Qt::Key_Down:
        return choose(day_.plusDays(daysOfWeek));
    case Qt::Key_Home:
        return choose(today_);
    default:
        QWidget::keyPressEvent(event); // a place's key
    }
}

} // namespace sieve::app
