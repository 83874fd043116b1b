#pragma once

#include "core/watchlists/trade_plan.h"

#include <QDialog>
#include <array>

class QCheckBox;
class QDoubleSpinBox;
class QLabel;

namespace sieve::app {

/// Entry, stop, targets and size of one plan; what they come to is told below. Each change is told
/// at once, so that the gauge on the chart moves with it.
class PlanDialog : public QDialog {
    Q_OBJECT
public:
    PlanDialog(const QString& symbol, const watchlists::TradePlan& plan,
               const watchlists::PlanTerms& terms, QWidget* parent);
    ~PlanDialog() override;

    const watchlists::TradePlan& plan() const { return plan_; }
    void setPlan(const watchlists::TradePlan& plan);
    QString told() const;

Q_SIGNALS:
    void planChanged(const sieve::watchlists::TradePlan& plan); ///< one without a fault
    void planRemoved();

private:
    void fillIn();
    void read();
    void tell();

    watchlists::TradePlan plan_;
    watchlists::PlanTerms terms_;
    QDoubleSpinBox* entry_;
    QDoubleSpinBox* stop_;
    std::array<QDoubleSpinBox*, watchlists::mostTargets> targets_;
    QDoubleSpinBox* shares_;
    QCheckBox* halfNow_;
    QLabel* told_;
};

} // namespace sieve::app
