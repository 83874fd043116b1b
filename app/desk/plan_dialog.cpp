#include "app/desk/plan_dialog.h"

#include "app/look/tone.h"
#include "app/parts/expression_edit.h"
#include "app/parts/number_text.h"

#include <QAbstractButton>
#include <QCheckBox>
#include <QDialogButtonBox>
#include <QDoubleSpinBox>
#include <QFormLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>
#include <cmath>

namespace sieve::app {

using watchlists::TradePlan;

namespace {

constexpr double highest = 1e9;

/// A step of a hundredth of the entry or less, as a round figure.
double stepOf(double entry)
{
    return std::pow(10.0, std::floor(std::log10(entry / 100.0)));
}

int decimalsFor(double entry)
{
    return entry < 1.0 ? 4 : 2;
}

} // namespace

PlanDialog::PlanDialog(const QString& symbol, const TradePlan& plan,
                       const watchlists::PlanTerms& terms, Check check, QWidget* parent)
    : QDialog(parent), plan_(plan), terms_(terms), check_(std::move(check)),
      entry_(new QDoubleSpinBox), stop_(new QDoubleSpinBox), targets_{},
      shares_(new QDoubleSpinBox),
      halfNow_(new QCheckBox(tr("One &half now, the other later"))), rules_{new ExpressionEdit,
                                                                            new ExpressionEdit,
                                                                            new ExpressionEdit},
      told_(new QLabel)
{
    setWindowTitle(tr("Plan the purchase of %1").arg(symbol));
    auto* form = new QFormLayout;
    const auto add = [&](QDoubleSpinBox* box, const QString& title, const QString& none) {
        box->setButtonSymbols(QAbstractSpinBox::NoButtons); // the keys step it
        box->setRange(0.0, highest);
        box->setDecimals(decimalsFor(plan.entry));
        box->setSingleStep(stepOf(plan.entry));
        box->setKeyboardTracking(false); // a price is told once it is written
        box->setSpecialValueText(none);
        form->addRow(title, box);
        box->setAccessibleName(QString(title).remove(u'&'));
        connect(box, &QDoubleSpinBox::valueChanged, this, &PlanDialog::read);
    };
    add(entry_, tr("&Entry"), tr("none"));
    add(stop_, tr("&Stop"), tr("none"));
    for (std::size_t i = 0; i < targets_.size(); ++i)
        add(targets_[i] = new QDoubleSpinBox, tr("Target &%1").arg(i + 1), tr("none"));
    add(shares_, tr("S&hares"), tr("as many as the terms allow"));
    shares_->setDecimals(0);
    shares_->setSingleStep(10.0);
    form->addRow(QString(), halfNow_);
    connect(halfNow_, &QCheckBox::toggled, this, &PlanDialog::read);
    addRules(form);
    told_->setWordWrap(true);
    told_->setMinimumHeight(QFontMetrics(told_->font()).height() * 4);
    told_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close);
    auto* remove = buttons->addButton(tr("&No plan"), QDialogButtonBox::ResetRole);
    connect(remove, &QPushButton::clicked, this, [this] {
        Q_EMIT planRemoved();
        accept();
    });
    for (QAbstractButton* button : buttons->buttons()) // Return ends a line, not the plan
        qobject_cast<QPushButton*>(button)->setAutoDefault(false);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    auto* hint = new QLabel(tr("The levels can be dragged at the left of the chart, too. Account "
                               "and loss: “Terms” in Weigh, Ctrl+T in Lists."));
    hint->setWordWrap(true);
    setTone(hint, Tone::Soft);
    auto* layout = new QVBoxLayout(this);
    layout->addLayout(form);
    layout->addWidget(told_);
    layout->addWidget(hint);
    layout->addWidget(buttons);
    resize(460, sizeHint().height());
    fillIn();
}

PlanDialog::~PlanDialog()
{
    for (QDoubleSpinBox* box : findChildren<QDoubleSpinBox*>()) // they lose the focus with it
        box->disconnect(this);
    for (ExpressionEdit* line : rules_)
        line->disconnect(this);
}

/// Prices that move with the days, and the reason to leave.
void PlanDialog::addRules(QFormLayout* form)
{
    const std::array titles{tr("E&ntry by rule"), tr("S&top by rule"), tr("&Leave when")};
    const std::array hints{tr("a price or a condition, such as drawing(\"pivot\")"),
                           tr("a price, such as lowest(low, 10)"),
                           tr("a condition, such as close < sma(close, 50)")};
    for (std::size_t i = 0; i < rules_.size(); ++i) {
        ExpressionEdit* line = rules_[i];
        line->setProperty("quiet", false);
        line->setAccessibleName(QString(titles[i]).remove(u'&'));
        line->setPlaceholderText(hints[i]);
        form->addRow(titles[i], line);
        connect(line, &QLineEdit::textEdited, this, [this, line, rule = static_cast<Rule>(i)] {
            const QString typed = line->text().trimmed();
            line->setFault(typed.isEmpty() ? std::nullopt : check_(typed, rule));
        });
        connect(line, &QLineEdit::editingFinished, this, &PlanDialog::read);
    }
}

void PlanDialog::setRuleFault(const QString& fault)
{
    ruleFault_ = fault;
    tell();
}

void PlanDialog::setPlan(const TradePlan& plan)
{
    if (plan == plan_)
        return;
    plan_ = plan;
    fillIn();
}

void PlanDialog::fillIn()
{
    const auto put = [](QDoubleSpinBox* box, double value) {
        const QSignalBlocker blocker(box);
        box->setValue(isMissing(value) ? 0.0 : value);
    };
    put(entry_, plan_.entry);
    put(stop_, plan_.stop);
    for (std::size_t i = 0; i < targets_.size(); ++i)
        put(targets_[i], i < plan_.targets.size() ? plan_.targets[i] : missing);
    put(shares_, plan_.shares);
    const QSignalBlocker blocker(halfNow_);
    halfNow_->setChecked(plan_.isHalfNow);
    const std::array rules{&plan_.entryRule, &plan_.stopRule, &plan_.exitRule};
    for (std::size_t i = 0; i < rules.size(); ++i)
        if (!rules_[i]->hasFocus())
            rules_[i]->setText(text(*rules[i]));
    tell();
}

void PlanDialog::read()
{
    // A price that was not touched stays as exact as it was, whatever the line shows of it.
    const auto of = [](const QDoubleSpinBox* box, double former) {
        const double least = 0.51 * std::pow(10.0, -box->decimals());
        return std::fabs(box->value() - former) < least ? former
               : box->value() > 0.0                     ? box->value()
                                                        : missing;
    };
    TradePlan plan = plan_;
    plan.entry = of(entry_, plan_.entry);
    plan.stop = of(stop_, plan_.stop);
    plan.shares = of(shares_, plan_.shares);
    plan.isHalfNow = halfNow_->isChecked();
    plan.targets.clear();
    const std::array rules{&plan.entryRule, &plan.stopRule, &plan.exitRule};
    for (std::size_t i = 0; i < rules.size(); ++i) { // one with a fault counts once it is mended
        const QString typed = rules_[i]->text().trimmed();
        if (typed.isEmpty() || !check_(typed, static_cast<Rule>(i)))
            *rules[i] = utf8(typed);
    }
    for (std::size_t i = 0; i < targets_.size(); ++i)
        if (const double target =
                of(targets_[i], i < plan_.targets.size() ? plan_.targets[i] : missing);
            !isMissing(target))
            plan.targets.push_back(target);
    const bool isOther = !(plan == plan_);
    plan_ = std::move(plan);
    tell();
    if (isOther && watchlists::faultOf(plan_).empty())
        Q_EMIT planChanged(plan_);
}

QString PlanDialog::told() const
{
    return told_->text();
}

void PlanDialog::tell()
{
    std::string fault = watchlists::faultOf(plan_);
    if (fault.empty())
        fault = utf8(ruleFault_);
    setTone(told_, fault.empty() ? Tone::Ink : Tone::Caution);
    if (!fault.empty())
        return told_->setText(text(fault));
    const watchlists::PlanSize size = watchlists::sizeOf(plan_, terms_);
    QStringList told{
        tr("%1 shares, worth %2.")
            .arg(numberText(size.shares, Unit::Plain, 0), numberText(size.worth, Unit::Plain, 0))};
    if (plan_.isHalfNow)
        told[0] += tr(" %1 of them now.").arg(numberText(size.half, Unit::Plain, 0));
    told << tr("Lost at the stop: %1, %2 of the account.")
                .arg(numberText(size.lost, Unit::Plain, 0),
                     numberText(size.ofAccount, Unit::Percent, 2));
    QStringList rewards;
    for (const double reward : size.rewards)
        rewards << tr("%1 times").arg(numberText(reward, Unit::Plain, 1));
    if (!rewards.isEmpty())
        told << tr("Reward to risk: %1.").arg(rewards.join(QStringLiteral(", ")));
    told_->setText(told.join(QLatin1Char('\n')));
}

} // namespace sieve::app
