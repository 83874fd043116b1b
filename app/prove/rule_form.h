#pragma once

#include "app/prove/question_panel.h"
#include "core/library/work.h"
#include "core/studies/portfolio.h"

class QCheckBox;
class QComboBox;
class QDateEdit;

namespace sieve::app {

class ExpressionEdit;
class ScreenBox;

/// A rule by which a portfolio trades, as fields: what is held, when it is sold between, how it is
/// traded.
class RuleForm : public QuestionPanel {
    Q_OBJECT
public:
    explicit RuleForm(QWidget* parent = nullptr);

    void offer(const library::Work& work); ///< the screens
    void offerDays(const market::Market& market);
    studies::PortfolioRule rule(const library::Work& work) const;
    void focusCondition();
    void setExample(); ///< the strongest stocks of half a year

private:
    void prepareFields();
    void addHeld();
    void addExits();
    void addTrading();
    studies::PortfolioStep step(const library::Work& work) const;

    ScreenBox* screen_;
    ExpressionEdit* condition_;
    ExpressionEdit* rank_;
    QCheckBox* smallest_;
    QSpinBox* hold_;
    QSpinBox* keep_;
    ExpressionEdit* weights_;
    ExpressionEdit* when_;
    ScreenBox* otherwise_;
    QComboBox* by_;
    QSpinBox* every_;
    QCheckBox* reweigh_;
    QDoubleSpinBox* stop_;
    QDoubleSpinBox* trailing_;
    QDoubleSpinBox* target_;
    QSpinBox* sessions_;
    ExpressionEdit* onStock_;
    QDoubleSpinBox* money_;
    QDoubleSpinBox* cost_;
    QDoubleSpinBox* orderCost_;
    QDoubleSpinBox* slippage_;
    QDoubleSpinBox* volume_;
    QComboBox* filled_;
    QDateEdit* from_;
    QDateEdit* to_;
};

} // namespace sieve::app
