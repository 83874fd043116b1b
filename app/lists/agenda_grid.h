#pragma once

#include "core/watchlists/agenda.h"

#include <QWidget>
#include <vector>

namespace sieve::app {

/// A month or a week of days, Monday first, each with what is due on it. A click or the arrows
/// choose a day.
class AgendaGrid : public QWidget {
    Q_OBJECT
public:
    AgendaGrid();

    void setItems(std::vector<watchlists::AgendaItem> items);
    void setDay(Day day); ///< the chosen one, whose month or week is shown
    void setWeek(bool isWeek);
    void setToday(Day day) { today_ = day; } ///< the as-of day
    Day day() const { return day_; }
    Day first() const; ///< of the days that are shown
    Day last() const;

Q_SIGNALS:
    void dayChosen();
    void spanChanged(); ///< other days are shown

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    int rows() const;
    QRectF cellOf(Day day) const;
    void choose(Day day);
    void paintDay(QPainter& painter, Day day) const;

    std::vector<watchlists::AgendaItem> items_;
    Day day_ = Day::fromSerial(0);
    Day today_ = Day::fromSerial(0);
    bool isWeek_ = false;
};

QString agendaWhatText(watchlists::AgendaItem::What what);

} // namespace sieve::app
