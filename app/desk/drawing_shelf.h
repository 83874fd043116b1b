#pragma once

#include "core/drawings/drawing.h"
#include "core/market/market.h"

#include <QObject>

namespace sieve::app {

class ChartView;
class Desk;
class DrawingPen;
class DrawingsDialog;

/// Keeps what is drawn on a chart among the person's work, and puts onto the chart what is kept of
/// its stock.
class DrawingShelf : public QObject {
    Q_OBJECT
public:
    /// Owner: the chart's view, which is drawn on from now on.
    DrawingShelf(Desk& desk, ChartView& view);

    /// The chart shows this stock as of a day.
    void setStock(market::MarketPtr market, std::size_t instrument, Day day);

private:
    void refresh();
    void makeAlertAt(double price);
    void add(const drawings::Drawing& drawing);
    void move(const drawings::Drawing& drawing);
    void takeLooks(const drawings::Drawing& drawing);
    void remove(qint64 id);
    void paste(const drawings::Drawing& drawing);
    void open();
    QString titled(const QString& what, drawings::Tool tool) const;

    Desk& desk_;
    ChartView& view_;
    DrawingPen& pen_;
    DrawingsDialog* dialog_;
    market::MarketPtr market_; ///< null before a stock was shown
    std::size_t instrument_ = 0;
    Day day_ = Day::fromSerial(0);
};

} // namespace sieve::app
