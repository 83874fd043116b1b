#pragma once

#include "core/charts/chart.h"

#include <QString>
#include <QWidget>
#include <memory>

class QLabel;

namespace sieve::app {

class ChartView;

/// A stock's chart under one line that reads the bar under the pointer, the newest one without.
class PriceChart : public QWidget {
    Q_OBJECT
public:
    explicit PriceChart(QWidget* parent = nullptr);
    void setChart(std::shared_ptr<const charts::Chart> chart);
    ChartView& view() { return *view_; }
    QString reading() const;           ///< the line of figures as it stands
    void setShownBars(int bars);       ///< of the next stock: the newest so many sessions
    void setCompact(bool isCompact);   ///< a short line of figures, as on a wall of many charts
    void setMarked(bool isMarked);     ///< it is that of the chosen stock
    void setNote(const QString& note); ///< a word at the end of a short line of figures

protected:
    void changeEvent(QEvent* event) override;

private:
    void read(int bar);
    void style();

    ChartView* view_;
    QLabel* reading_;
    QLabel* nothing_; ///< stands where the chart would, while there is none
    bool isCompact_ = false;
    bool isMarked_ = false;
    QString note_;
};

} // namespace sieve::app
