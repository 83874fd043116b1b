#pragma once

#include "core/library/work.h"
#include "core/studies/portfolio.h"

#include <QWidget>

class QCheckBox;
class QDoubleSpinBox;
class QGridLayout;
class QSpinBox;

namespace sieve::app {

class ExpressionEdit;
class ScreenBox;

/// One step of a rule as fields: what is held while a condition on the market holds.
class StepFields : public QWidget {
    Q_OBJECT
public:
    /// The first one cannot be taken away.
    explicit StepFields(bool isFirst, QWidget* parent = nullptr);

    void offer(const library::Work& work); ///< the screens
    studies::PortfolioStep step(const library::Work& work) const;
    /// False: the fields cannot show all of it; they may have changed.
    bool setStep(const library::Work& work, const studies::PortfolioStep& step);
    void setCondition(const QString& condition, const QString& rank);
    void focusCondition();

Q_SIGNALS:
    void asked();
    void removed();

private:
    void prepare(ExpressionEdit* line, const QString& name, const QString& example);
    void tellCash();

    QGridLayout* fields_;
    ScreenBox* screen_;
    ExpressionEdit* condition_;
    ExpressionEdit* universe_;
    ExpressionEdit* rank_;
    QCheckBox* smallest_;
    QSpinBox* hold_;
    QSpinBox* keep_;
    ExpressionEdit* weights_;
    QDoubleSpinBox* share_;
    ExpressionEdit* when_;
    QCheckBox* cash_;
};

} // namespace sieve::app
