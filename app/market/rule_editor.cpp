#include "app/market/rule_editor.h"

#include "app/desk/desk.h"
#include "app/desk/open_market.h"
#include "app/desk/workbench.h"
#include "app/look/look.h"
#include "app/look/tone.h"
#include "app/parts/expression_edit.h"
#include "app/parts/number_text.h"
#include "core/conditions/on_off.h"

#include <QCheckBox>
#include <QDoubleSpinBox>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>

namespace sieve::app {

RuleEditor::RuleEditor(Desk& desk, QWidget* parent)
    : QWidget(parent), desk_(desk), asker_(this), head_(new QLabel), form_(new QFormLayout),
      title_(new QLineEdit), conditions_{}, names_{}, share_(new QDoubleSpinBox),
      standsAside_(new QCheckBox(tr("stand aside while it is on: no money at work"))),
      effect_(new QLabel)
{
    setObjectName(QStringLiteral("sheet"));
    setAttribute(Qt::WA_StyledBackground);
    head_->setFont(fontOf(Weight::SemiBold));
    title_->setAccessibleName(tr("Title of the rule"));
    title_->setPlaceholderText(tr("what it means, in a few words"));
    form_->addRow(tr("Title"), title_);
    for (std::size_t i = 0; i < conditions_.size(); ++i) {
        names_[i] = new QLabel;
        conditions_[i] = new ExpressionEdit;
        conditions_[i]->setProperty("quiet", false);
        form_->addRow(names_[i], conditions_[i]);
        connect(conditions_[i], &QLineEdit::textChanged, this, &RuleEditor::draft);
        connect(conditions_[i], &QLineEdit::returnPressed, this, &RuleEditor::keep);
    }
    connect(&asker_, &Asker::failed, &desk_, &Desk::noticed);
    share_->setRange(0.0, 100.0);
    share_->setDecimals(0);
    share_->setButtonSymbols(QAbstractSpinBox::NoButtons);
    share_->setSuffix(tr(" % of the money"));
    share_->setAccessibleName(tr("Share of the money that may be at work"));
    form_->addRow(tr("Allows"), share_);
    form_->addRow(QString(), standsAside_);
    form_->setContentsMargins(12, 0, 12, 0);
    form_->setVerticalSpacing(4);
    effect_->setWordWrap(true);
    effect_->setContentsMargins(12, 0, 12, 0);
    effect_->setAccessibleName(tr("What the rule makes of the history"));
    auto* keepButton = new QPushButton(tr("Keep the rule"));
    auto* back = new QPushButton(tr("Put back"));
    auto* buttons = new QHBoxLayout;
    buttons->setContentsMargins(12, 0, 12, 8);
    buttons->addWidget(keepButton);
    buttons->addWidget(back);
    buttons->addStretch();
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(1, 6, 1, 1);
    layout->setSpacing(4);
    head_->setContentsMargins(12, 0, 12, 0);
    layout->addWidget(head_);
    layout->addLayout(form_);
    layout->addWidget(effect_, 1);
    layout->addLayout(buttons);
    connect(title_, &QLineEdit::returnPressed, this, &RuleEditor::keep);
    connect(keepButton, &QPushButton::clicked, this, &RuleEditor::keep);
    connect(back, &QPushButton::clicked, this, &RuleEditor::close);
    connect(standsAside_, &QCheckBox::toggled, share_, &QWidget::setDisabled);
    open(true);
}

void RuleEditor::open(bool isTrend)
{
    isTrend_ = isTrend;
    const QStringList names =
        isTrend ? QStringList{tr("Rising when"), tr("until"), tr("Falling when"), tr("until")}
                : QStringList{tr("On when"), tr("off when"), {}, {}};
    for (std::size_t i = 0; i < conditions_.size(); ++i) {
        const QString name = names[static_cast<int>(i)];
        names_[i]->setText(name);
        form_->setRowVisible(conditions_[i], !name.isEmpty());
        conditions_[i]->setAccessibleName(name);
        conditions_[i]->setPlaceholderText(i % 2 == 1 ? tr("that no longer holds") : QString());
    }
    for (QWidget* field : std::initializer_list<QWidget*>{title_, share_, standsAside_})
        form_->setRowVisible(field, !isTrend);
}

void RuleEditor::editTrend(std::shared_ptr<const conditions::Reading> reading, std::size_t line,
                           std::size_t horizon)
{
    reading_ = std::move(reading);
    line_ = line;
    horizon_ = horizon;
    open(true);
    head_->setText(tr("The %1 horizon, for every line")
                       .arg(text(conditions::horizonName(conditions::horizons[horizon]))));
    const conditions::TrendRule& rule = reading_->book.trends[horizon];
    const std::string* typed[] = {&rule.rising, &rule.risingEnds, &rule.falling, &rule.fallingEnds};
    for (std::size_t i = 0; i < conditions_.size(); ++i) {
        conditions_[i]->setText(text(*typed[i]));
        conditions_[i]->setCursorPosition(0);
    }
    conditions_[0]->setFocus();
    draft();
}

void RuleEditor::editTiming(std::shared_ptr<const conditions::Reading> reading, std::size_t rule)
{
    reading_ = std::move(reading);
    rule_ = rule;
    open(false);
    const bool isNew = rule >= reading_->book.rules.size();
    const conditions::TimingRule shown =
        isNew ? conditions::TimingRule{"", "close > sma(close, 50)", "", 25.0, false}
              : reading_->book.rules[rule];
    head_->setText(isNew ? tr("A new rule, put to %1").arg(text(reading_->market().title))
                         : tr("A rule, put to %1").arg(text(reading_->market().title)));
    title_->setText(text(shown.title));
    conditions_[0]->setText(text(shown.enter));
    conditions_[1]->setText(text(shown.leave));
    share_->setValue(shown.share);
    standsAside_->setChecked(shown.standsAside);
    share_->setDisabled(shown.standsAside);
    (isNew ? title_ : conditions_[0])->setFocus();
    draft();
}

conditions::TrendRule RuleEditor::trendTyped() const
{
    const auto typed = [this](std::size_t i) { return utf8(conditions_[i]->text().trimmed()); };
    return {typed(0), typed(1), typed(2), typed(3)};
}

conditions::TimingRule RuleEditor::timingTyped() const
{
    return {utf8(title_->text().trimmed()), utf8(conditions_[0]->text().trimmed()),
            utf8(conditions_[1]->text().trimmed()), share_->value(), standsAside_->isChecked()};
}

void RuleEditor::draft()
{
    if (reading_)
        isTrend_ ? draftTrend() : draftTiming();
}

void RuleEditor::draftTrend()
{
    using Answer = std::shared_ptr<const conditions::TrendReading>;
    asker_.ask(
        [evaluator = desk_.market().evaluator(), names = desk_.work().nameBook(),
         reading = reading_, line = line_,
         rule = trendTyped()](const Progress& progress) -> Answer {
            return std::make_shared<const conditions::TrendReading>(conditions::readTrend(
                *evaluator, names->names(), reading->lines[line].line, rule, progress));
        },
        [this](const Answer& answer) {
            constexpr std::array keys{"rising", "rising_ends", "falling", "falling_ends"};
            const auto place = std::ranges::find(keys, answer->errorIn) - keys.begin();
            QString effect = text(conditions::remarkOn(*answer));
            if (!answer->error && effect.isEmpty() && !answer->history.empty()) {
                const conditions::TrendSummary summary = conditions::summaryOf(answer->history);
                effect = tr("Rising on %1 of the sessions, falling on %2; %3 changes of state.")
                             .arg(numberText(summary.rising, Unit::Percent, 0),
                                  numberText(summary.falling, Unit::Percent, 0))
                             .arg(summary.changes);
            }
            showAnswer(effect, answer->error, static_cast<int>(place));
            Q_EMIT drafted(horizon_, answer->error ? nullptr : answer);
        });
}

void RuleEditor::draftTiming()
{
    using Answer = std::shared_ptr<const conditions::RuleHistory>;
    asker_.ask(
        [evaluator = desk_.market().evaluator(), names = desk_.work().nameBook(),
         reading = reading_, rule = timingTyped()](const Progress& progress) -> Answer {
            return std::make_shared<const conditions::RuleHistory>(conditions::ruleHistories(
                *evaluator, names->names(), reading->market(), std::span(&rule, 1), progress)[0]);
        },
        [this](const Answer& answer) {
            const conditions::OnOffSummary summary = conditions::summaryOf(answer->on);
            QString effect;
            if (summary.known == 0)
                effect = tr("Nothing can be said by this rule on any session.");
            else if (summary.on == 0)
                effect = tr("By this rule it would never have been on.");
            else if (summary.on == summary.known)
                effect = tr("By this rule it would always have been on.");
            else
                effect = tr("On for %1 of %2 sessions; it came on %3 times.")
                             .arg(summary.on)
                             .arg(summary.known)
                             .arg(summary.turns);
            showAnswer(effect, answer->error, answer->isErrorInLeave ? 1 : 0);
        });
}

void RuleEditor::showAnswer(const QString& effect, const std::optional<LocatedError>& error,
                            int place)
{
    for (int i = 0; i < static_cast<int>(conditions_.size()); ++i)
        conditions_.at(static_cast<std::size_t>(i))
            ->setFault(error && i == place ? error : std::nullopt);
    effect_->setText(error ? text(sentence(*error)) : effect);
    setTone(effect_, error ? Tone::Caution : Tone::Soft);
}

void RuleEditor::keep()
{
    if (isTrend_) {
        const conditions::TrendRule rule = trendTyped();
        if (rule.rising.empty() || rule.falling.empty())
            return conditions_[rule.rising.empty() ? 0 : 2]->setFocus();
        desk_.work().edit(tr("Change the %1 rule")
                              .arg(text(conditions::horizonName(conditions::horizons[horizon_]))),
                          [&](Work& work) { work.marketBook.edit().trends[horizon_] = rule; });
    } else {
        conditions::TimingRule rule = timingTyped();
        if (rule.title.empty())
            rule.title = rule.enter;
        if (rule.enter.empty())
            return title_->setFocus();
        desk_.work().edit(tr("Change the rule “%1”").arg(text(rule.title)), [&](Work& work) {
            auto& rules = work.marketBook.edit().rules;
            if (rule_ < rules.size())
                rules[rule_] = rule;
            else
                rules.push_back(rule);
        });
    }
    close();
}

void RuleEditor::close()
{
    asker_.stop();
    Q_EMIT drafted(horizon_, nullptr);
    Q_EMIT done();
}

void RuleEditor::keyPressEvent(QKeyEvent* event)
{
    if (event->key() == Qt::Key_Escape)
        return close();
    QWidget::keyPressEvent(event);
}

} // namespace sieve::app
