#pragma once

#include "core/base/kind.h"
#include "core/market/bars.h"

#include <QString>
#include <QWidget>
#include <memory>
#include <vector>

class QLabel;
class QCPFinancial;
class QCPBars;
class QCPGraph;
class QCPAxisRect;

namespace sieve::app {

class TimePlot;

/// What a price chart shows: bars on one footing and lines over them.
struct PriceChartData {
    struct Line {
        QString title;
        std::vector<double> values; ///< a bar each
    };
    QString title;
    market::Bars bars;
    std::vector<Line> lines;
};

/// Candles with averages above, volume below, and one line that reads the bar under the pointer.
/// Rises are hollow, falls filled.
class PriceChart : public QWidget {
    Q_OBJECT
public:
    explicit PriceChart(QWidget* parent = nullptr);
    void setData(std::shared_ptr<const PriceChartData> data);
    TimePlot& plot() { return *plot_; }
    QString reading() const;         ///< the line of figures as it stands
    void setShownBars(int bars);     ///< of the next data: the newest so many
    void setCompact(bool isCompact); ///< a short line of figures, as on a wall of many charts
    void setMarked(bool isMarked);   ///< it is that of the chosen stock

private:
    void read(int bar);
    void style();
    QColor lineColour(std::size_t line) const;

    TimePlot* plot_;
    QLabel* reading_;
    QLabel* nothing_; ///< stands where the chart would, while there is none
    QCPAxisRect* prices_;
    QCPAxisRect* volumes_;
    QCPFinancial* candles_;
    QCPBars* volumeBars_;
    std::vector<QCPGraph*> lines_;
    std::shared_ptr<const PriceChartData> data_ = std::make_shared<const PriceChartData>();
    int shownBars_ = 190;
    bool isCompact_ = false;
    bool isMarked_ = false;
};

} // namespace sieve::app
