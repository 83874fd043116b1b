#pragma once

#include "app/desk/workbench.h"
#include "core/market/market.h"
#include "core/watchlists/trade_plan.h"

#include <QObject>
#include <QPointer>
#include <optional>

namespace sieve::app {

class ChartView;
class Desk;
class PlanDialog;

/// The plan of the stock that Weigh shows, on its chart and in a dialog: read from the person's
/// work, and each change kept there. It stands with the card in hand and with the entry on the list
/// that takes what is kept; a stock that has neither is taken in hand.
class PlanShelf : public QObject {
    Q_OBJECT
public:
    PlanShelf(Desk& desk, ChartView& view);

    /// `list`: the one that takes what is kept.
    void setStock(market::MarketPtr market, std::size_t stock, Day day,
                  std::optional<std::int64_t> list);
    void setTerms(const watchlists::PlanTerms& terms);
    /// Asks for entry, stop, targets and size.
    void open(QWidget* window);

private:
    std::optional<watchlists::TradePlan> plan() const; ///< in the prices of the day that is shown
    void refresh();
    void keep(const std::optional<watchlists::TradePlan>& plan, Workbench::Step step);
    watchlists::TradePlan proposed() const;

    Desk& desk_;
    ChartView& view_;
    market::MarketPtr market_;
    std::size_t stock_ = 0;
    Day day_ = Day::fromSerial(0);
    std::optional<std::int64_t> list_;
    watchlists::PlanTerms terms_;
    QPointer<PlanDialog> dialog_;
};

} // namespace sieve::app
