#pragma once

#include "app/desk/asker.h"
#include "app/desk/plan_dialog.h"
#include "app/desk/workbench.h"
#include "core/market/market.h"
#include "core/watchlists/trade_plan.h"

#include <QObject>
#include <QPointer>
#include <optional>

namespace sieve::app {

class ChartView;
class Desk;

/// The plan of the stock that a chart shows, on the chart and in a dialog: read from the person's
/// work, and each change kept there.
class PlanShelf : public QObject {
    Q_OBJECT
public:
    /// Whose plan it is: that of the card in hand and of the entry on the list that takes what is
    /// kept, where a stock that has neither is taken in hand; or of the entry on a list alone.
    enum class Of { Hand, List };

    PlanShelf(Desk& desk, ChartView& view, Of of);

    /// `list`: the one that takes what is kept, or the one that is shown.
    void setStock(market::MarketPtr market, std::size_t stock, Day day,
                  std::optional<std::int64_t> list);
    /// What the rules of the stock's plan come to on the day; empty: it has none, or it is not
    /// known.
    void setLevels(const std::optional<watchlists::TradePlan>& levels);
    void setTerms(const watchlists::PlanTerms& terms);
    /// Asks for entry, stop, targets and size.
    void open(QWidget* window);

private:
    std::optional<watchlists::TradePlan> plan() const; ///< in the prices of the day that is shown
    watchlists::PlanTerms termsHere() const;
    void refresh();
    void take(const watchlists::TradePlan& plan);
    void askRules(const watchlists::TradePlan& plan);
    std::optional<LocatedError> check(const QString& text, PlanDialog::Rule rule) const;
    void keep(const std::optional<watchlists::TradePlan>& plan, Workbench::Step step);
    watchlists::TradePlan proposed() const;

    Desk& desk_;
    ChartView& view_;
    Of of_;
    Asker asker_; ///< what rules come to
    market::MarketPtr market_;
    std::size_t stock_ = 0;
    Day day_ = Day::fromSerial(0);
    std::optional<std::int64_t> list_;
    std::optional<watchlists::TradePlan> levels_;
    watchlists::PlanTerms terms_; ///< in the market's currency
    QPointer<PlanDialog> dialog_;
};

} // namespace sieve::app
