#pragma once

#include "app/desk/asker.h"
#include "core/charts/chart.h"
#include "core/studies/portfolio.h"

#include <QWidget>
#include <memory>

namespace sieve::app {

class Desk;
class PriceChart;

/// The chart of a trade, from some weeks before it to some after: where the rule bought and sold
/// its stock, and why. It is made when it can be seen.
class TradeChart : public QWidget {
    Q_OBJECT
public:
    explicit TradeChart(Desk& desk);
    void show(const std::shared_ptr<const studies::Portfolio>& portfolio, std::size_t trade);
    void clear();
    PriceChart& chart() { return *chart_; }

protected:
    void showEvent(QShowEvent* event) override;

private:
    void ask();

    Desk& desk_;
    Asker asker_;
    PriceChart* chart_;
    std::shared_ptr<const studies::Portfolio> portfolio_; ///< null: no trade is chosen
    std::size_t trade_ = 0;
    bool isAsked_ = false;
};

} // namespace sieve::app
