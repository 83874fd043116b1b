#pragma once

#include "core/base/day.h"

#include <QWidget>
#include <cstddef>
#include <vector>

namespace sieve::app {

/// A small column a day: how many passed. A click goes to that day, the arrows do the same.
class DayLine : public QWidget {
    Q_OBJECT
public:
    explicit DayLine(QWidget* parent = nullptr);
    void show(std::vector<Day> days, std::vector<std::size_t> counts);

Q_SIGNALS:
    void dayWanted(sieve::Day day);

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    bool event(QEvent* event) override;
    QSize sizeHint() const override;

private:
    std::size_t dayAt(double x) const;
    QRectF field() const;

    std::vector<Day> days_;
    std::vector<std::size_t> counts_;
};

} // namespace sieve::app
