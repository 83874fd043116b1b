#include "app/prove/step_fields.h"

#include "app/look/tone.h"
#include "app/parts/expression_edit.h"
#include "app/parts/number_text.h"
#include "app/prove/question_panel.h"
#include "app/prove/screen_box.h"
#include "core/screens/limits.h"

#include <QCheckBox>
#include <QDoubleSpinBox>
#include <QGridLayout>
#include <QLabel>
#include <QPushButton>
#include <QSpinBox>
#include <algorithm>

namespace sieve::app {

using studies::PortfolioStep;

StepFields::StepFields(bool isFirst, QWidget* parent)
    : QWidget(parent), fields_(new QGridLayout(this)), screen_(new ScreenBox(tr("A condition"))),
      condition_(new ExpressionEdit), universe_(new ExpressionEdit), rank_(new ExpressionEdit),
      smallest_(new QCheckBox(tr("The smallest first"))),
      hold_(countBox(tr("Hold"), 20, 1, studies::mostHeld, tr(" stocks"))),
      keep_(countBox(tr("Stays within"), 0, 0, studies::mostHeld, tr(" places"), tr("those held"))),
      weights_(new ExpressionEdit), share_(percentBox(tr("Of the money"), 1.0, 100.0)),
      when_(new ExpressionEdit), cash_(new QCheckBox(tr("Nothing is held: cash")))
{
    shapeFields(*fields_);
    prepare(condition_, tr("Condition"), tr("close > sma(close, 150)"));
    prepare(universe_, tr("Among"), tr("every stock"));
    prepare(rank_, tr("Ranked by"), tr("as the screen ranks"));
    prepare(weights_, tr("Money by"), tr("equally"));
    prepare(when_, tr("While the market"), tr("always"));
    share_->setMinimum(0.01);
    const auto add = [this](const QString& label, QWidget* field, const QString& tip = {}) {
        addLabelled(*fields_, label, field, tip);
    };
    const auto addWide = [this](QWidget* widget) {
        fields_->addWidget(widget, fields_->rowCount(), 0, 1, 2);
    };
    if (!isFirst) {
        auto* head = new QLabel(tr("Else"));
        setTone(head, Tone::Soft);
        auto* remove = new QPushButton(tr("Take away"));
        remove->setToolTip(tr("This step of the rule"));
        connect(remove, &QPushButton::clicked, this, &StepFields::removed);
        fields_->addWidget(head, 0, 0);
        fields_->addWidget(remove, 0, 1, Qt::AlignRight);
        addWide(cash_);
        connect(cash_, &QCheckBox::toggled, this, &StepFields::tellCash);
    } else {
        cash_->setParent(this);
        cash_->hide();
    }
    add(tr("Screen"), screen_);
    add(tr("Holds"), condition_, tr("A condition of the language; with a screen, one more"));
    add(tr("Among"), universe_, tr("The stocks that are asked"));
    add(tr("Ranked by"), rank_);
    addWide(smallest_);
    add(tr("Hold"), hold_);
    add(tr("Stays within"), keep_, tr("Who is held stays while among the best so many"));
    add(tr("Money by"), weights_,
        tr("A figure by which the money is shared, such as 1 / stdev(change(close), 60)"));
    add(tr("Of the money"), share_, tr("The rest stays in cash"));
    add(tr("While"), when_, tr("A condition on the line of the whole market"));
    for (QLineEdit* line : {condition_, universe_, rank_, weights_, when_})
        connect(line, &QLineEdit::returnPressed, this, &StepFields::asked);
}

void StepFields::prepare(ExpressionEdit* line, const QString& name, const QString& example)
{
    line->setAccessibleName(name);
    line->setPlaceholderText(example);
}

/// Of cash nothing more is asked than when it is held.
void StepFields::tellCash()
{
    const auto setShown = [this](QWidget* field, bool isShown) {
        field->setVisible(isShown);
        int row = 0;
        int column = 0;
        int span = 0;
        fields_->getItemPosition(fields_->indexOf(field), &row, &column, &span, &span);
        if (column > 0) // beside its label
            fields_->itemAtPosition(row, 0)->widget()->setVisible(isShown);
    };
    for (QWidget* each : {static_cast<QWidget*>(screen_), static_cast<QWidget*>(condition_),
                          static_cast<QWidget*>(universe_), static_cast<QWidget*>(rank_),
                          static_cast<QWidget*>(smallest_), static_cast<QWidget*>(hold_),
                          static_cast<QWidget*>(keep_), static_cast<QWidget*>(weights_),
                          static_cast<QWidget*>(share_)})
        setShown(each, !cash_->isChecked());
}

void StepFields::offer(const library::Work& work)
{
    screen_->offer(work);
}

PortfolioStep StepFields::step(const library::Work& work) const
{
    const auto textOf = [](const QLineEdit* line) { return utf8(line->text().trimmed()); };
    PortfolioStep step;
    step.when = textOf(when_);
    step.isCash = cash_->isChecked();
    if (step.isCash)
        return step;
    if (const auto screen = screen_->screen(work))
        step.screen = *screen;
    if (const std::string condition = textOf(condition_); !condition.empty())
        for (const std::string& criterion : screens::criteriaOf(condition))
            step.screen.criteria.push_back({criterion});
    if (const std::string universe = textOf(universe_); !universe.empty())
        step.screen.universe = universe;
    if (const std::string rank = textOf(rank_); !rank.empty())
        step.screen.rankBy = rank;
    step.isSmallestFirst = smallest_->isChecked();
    step.hold = hold_->value();
    step.keepWithin = keep_->value() == 0 ? 0 : std::max(keep_->value(), step.hold);
    step.weightBy = textOf(weights_);
    step.share = share_->value() / 100.0;
    return step;
}

bool StepFields::setStep(const library::Work& work, const PortfolioStep& step)
{
    cash_->setChecked(step.isCash);
    when_->setText(text(step.when));
    if (step.isCash)
        return !cash_->isHidden(); // the first step has no field for it
    if (!showScreen(work, step.screen, *screen_, *condition_, universe_))
        return false;
    const auto named = screen_->screen(work);
    rank_->setText(named && named->rankBy == step.screen.rankBy ? QString()
                                                                : text(step.screen.rankBy));
    smallest_->setChecked(step.isSmallestFirst);
    hold_->setValue(step.hold);
    keep_->setValue(step.keepWithin);
    weights_->setText(text(step.weightBy));
    share_->setValue(100.0 * step.share);
    return true;
}

void StepFields::setCondition(const QString& condition, const QString& rank)
{
    condition_->setText(condition);
    rank_->setText(rank);
}

void StepFields::focusCondition()
{
    condition_->setFocus();
}

} // namespace sieve::app
