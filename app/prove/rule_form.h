#pragma once

#include "app/prove/question_panel.h"
#include "core/library/work.h"
#include "core/studies/portfolio.h"

#include <optional>
#include <vector>

class QCheckBox;
class QComboBox;
class QDateEdit;
class QPushButton;
class QVBoxLayout;

namespace sieve::app {

class ExpressionEdit;
class StepFields;

/// A rule by which a portfolio trades, as fields: what is held, step by step, when it is chosen
/// anew and sold between, how it is traded.
class RuleForm : public QuestionPanel {
    Q_OBJECT
public:
    explicit RuleForm(QWidget* parent = nullptr);

    void offer(const library::Work& work); ///< the screens
    void offerDays(const market::Market& market);
    studies::PortfolioRule rule(const library::Work& work) const;
    /// Puts a rule into the fields. False: they cannot show all of it, and stay as they are.
    bool setRule(const library::Work& work, const studies::PortfolioRule& rule);
    void focusCondition();
    void setExample(); ///< the strongest stocks of half a year
    StepFields* addStep();

private:
    void prepareFields();
    void addHeld();
    void addRebalancing();
    void addExits();
    void addTrading();
    void removeStep(StepFields* step);
    void setRebalancing(const studies::Rebalancing& rebalancing);
    void setExits(const studies::Exits& exits);
    void setTrading(const studies::Trading& trading);
    studies::Rebalancing rebalancing() const;
    studies::Exits exits() const;
    studies::Trading trading() const;

    QVBoxLayout* stepsLayout_;
    std::vector<StepFields*> steps_; ///< at least one
    QPushButton* else_;
    QComboBox* by_;
    QSpinBox* every_;
    ExpressionEdit* anew_;
    QCheckBox* reweigh_;
    QDoubleSpinBox* stop_;
    QDoubleSpinBox* trailing_;
    QDoubleSpinBox* target_;
    QSpinBox* sessions_;
    ExpressionEdit* onStock_;
    ExpressionEdit* onMarket_;
    QDoubleSpinBox* money_;
    QDoubleSpinBox* cost_;
    QDoubleSpinBox* orderCost_;
    QDoubleSpinBox* slippage_;
    QDoubleSpinBox* volume_;
    QComboBox* filled_;
    QDoubleSpinBox* limit_;
    QCheckBox* whole_;
    QCheckBox* dividends_;
    QDoubleSpinBox* delisted_;
    QDoubleSpinBox* borrowing_;
    QDateEdit* from_;
    QDateEdit* to_;
    QDateEdit* aside_;
    library::Work work_; ///< whose screens are offered
};

} // namespace sieve::app
