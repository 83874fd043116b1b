#pragma once

#include "core/watchlists/trade_plan.h"

#include <QDialog>
#include <array>
#include <functional>
#include <optional>

class QCheckBox;
class QDoubleSpinBox;
class QFormLayout;
class QLabel;

namespace sieve::app {

class ExpressionEdit;

/// Entry, stop, targets, size and rules of one plan; what they come to is told below. Each change
/// is told at once, so that the gauge on the chart moves with it.
class PlanDialog : public QDialog {
    Q_OBJECT
public:
    /// Which rule of a plan a text is to be.
    enum class Rule { Entry, Stop, Exit };
    /// Why a text cannot be such a rule; empty: it can.
    using Check = std::function<std::optional<LocatedError>(const QString& text, Rule rule)>;

    PlanDialog(const QString& symbol, const watchlists::TradePlan& plan,
               const watchlists::PlanTerms& terms, Check check, QWidget* parent);
    ~PlanDialog() override;

    const watchlists::TradePlan& plan() const { return plan_; }
    void setPlan(const watchlists::TradePlan& plan);
    /// What a rule came to that makes no plan; empty: all is well.
    void setRuleFault(const QString& fault);
    QString told() const;

Q_SIGNALS:
    void planChanged(const sieve::watchlists::TradePlan& plan); ///< one without a fault
    void planRemoved();

private:
    void addRules(QFormLayout* form);
    void fillIn();
    void read();
    void tell();

    watchlists::TradePlan plan_;
    watchlists::PlanTerms terms_;
    Check check_;
    QString ruleFault_;
    QDoubleSpinBox* entry_;
    QDoubleSpinBox* stop_;
    std::array<QDoubleSpinBox*, watchlists::mostTargets> targets_;
    QDoubleSpinBox* shares_;
    QCheckBox* halfNow_;
    std::array<ExpressionEdit*, 3> rules_; ///< in the order of Rule
    QLabel* told_;
};

} // namespace sieve::app
