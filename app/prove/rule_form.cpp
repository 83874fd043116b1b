#include "app/prove/rule_form.h"

#include "app/parts/expression_edit.h"
#include "app/parts/number_text.h"
#include "app/prove/step_fields.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDateEdit>
#include <QDoubleSpinBox>
#include <QPushButton>
#include <QSpinBox>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

namespace sieve::app {

using studies::Exits;
using studies::PortfolioRule;
using studies::Rebalancing;
using studies::Trading;

namespace {

std::string textOf(const QLineEdit* line)
{
    return utf8(line->text().trimmed());
}

} // namespace

RuleForm::RuleForm(QWidget* parent)
    : QuestionPanel(tr("A portfolio by rule"), parent), stepsLayout_(new QVBoxLayout),
      else_(new QPushButton(tr("What is held else…"))), by_(new QComboBox),
      every_(countBox(tr("Every"), 1, 1, 10'000)), anew_(new ExpressionEdit),
      reweigh_(new QCheckBox(tr("Stocks that stay are reweighed"))),
      stop_(percentBox(tr("Stop"), 0.0, 100.0, tr("none"))),
      trailing_(percentBox(tr("Trailing stop"), 0.0, 100.0, tr("none"))),
      target_(percentBox(tr("Target"), 0.0, 10'000.0, tr("none"))),
      sessions_(countBox(tr("Time"), 0, 0, 5000, tr(" bars"), tr("none"))),
      onStock_(new ExpressionEdit), onMarket_(new ExpressionEdit), money_(new QDoubleSpinBox),
      cost_(percentBox(tr("Cost"), Trading().costShare, 100.0)), orderCost_(new QDoubleSpinBox),
      slippage_(percentBox(tr("Slippage"), Trading().slippage, 50.0)),
      volume_(percentBox(tr("Of the day's volume"), 0.0, 100.0, tr("any"))), filled_(new QComboBox),
      limit_(percentBox(tr("Limit below the close"), 0.01, 100.0)),
      whole_(new QCheckBox(tr("Whole shares alone"))),
      dividends_(new QCheckBox(tr("Dividends count"))),
      delisted_(percentBox(tr("Delisted at"), Trading().delistedWorth, 100.0)),
      borrowing_(percentBox(tr("Borrowing a year"), Trading().borrowing, 100.0)),
      from_(dayBox(tr("From"))), to_(dayBox(tr("To"))), aside_(asideBox())
{
    prepareFields();
    addHeld();
    addRebalancing();
    addExits();
    addTrading();
    addIdea(tr("the screen's name"));
    for (QLineEdit* line : {anew_, onStock_, onMarket_})
        connect(line, &QLineEdit::returnPressed, this, &RuleForm::asked);
}

void RuleForm::prepareFields()
{
    const auto prepare = [](ExpressionEdit* line, const QString& name, const QString& example) {
        line->setAccessibleName(name);
        line->setPlaceholderText(example);
    };
    prepare(anew_, tr("Anew when"), tr("close > sma(close, 50)"));
    prepare(onStock_, tr("Sold when"), tr("never"));
    prepare(onMarket_, tr("All sold when"), tr("never"));
    by_->setAccessibleName(tr("Chosen anew"));
    by_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    by_->setMinimumContentsLength(8);
    by_->addItems({tr("sessions"), tr("weeks"), tr("months"), tr("on a condition")});
    const auto tellBy = [this] {
        const bool isCondition =
            by_->currentIndex() == static_cast<int>(Rebalancing::By::Condition);
        anew_->setEnabled(isCondition);
        every_->setEnabled(!isCondition);
    };
    connect(by_, &QComboBox::currentIndexChanged, this, tellBy);
    for (QDoubleSpinBox* box : {money_, orderCost_}) {
        box->setButtonSymbols(QAbstractSpinBox::NoButtons);
        box->setGroupSeparatorShown(true);
    }
    money_->setAccessibleName(tr("Money at the start"));
    money_->setDecimals(0);
    money_->setRange(1.0, 1e12);
    orderCost_->setAccessibleName(tr("Cost an order"));
    orderCost_->setRange(0.0, 1e6);
    filled_->setAccessibleName(tr("Filled"));
    filled_->addItems({tr("at the next open"), tr("at the next close"), tr("at a limit")});
    connect(filled_, &QComboBox::currentIndexChanged, this, [this](int kind) {
        limit_->setEnabled(kind == static_cast<int>(Trading::FilledAt::Limit));
    });
    limit_->setMinimum(0.0);
    setRebalancing({});
    tellBy();
    setTrading({});
    limit_->setEnabled(false);
}

void RuleForm::addHeld()
{
    addHead(tr("What is held"));
    auto* steps = new QWidget;
    steps->setLayout(stepsLayout_);
    stepsLayout_->setContentsMargins(0, 0, 0, 0);
    stepsLayout_->setSpacing(8);
    addWide(steps);
    addStep();
    else_->setToolTip(tr("What is held while no condition above holds; without it, cash"));
    connect(else_, &QPushButton::clicked, this, &RuleForm::addStep);
    addWide(else_);
}

StepFields* RuleForm::addStep()
{
    auto* step = new StepFields(steps_.empty());
    step->offer(work_);
    connect(step, &StepFields::asked, this, &RuleForm::asked);
    connect(step, &StepFields::removed, this, [this, step] { removeStep(step); });
    stepsLayout_->addWidget(step);
    steps_.push_back(step);
    else_->setEnabled(steps_.size() < studies::mostSteps);
    return step;
}

void RuleForm::removeStep(StepFields* step)
{
    std::erase(steps_, step);
    step->hide();
    step->deleteLater(); // it is on the way of its own click
    else_->setEnabled(true);
}

void RuleForm::addRebalancing()
{
    addHead(tr("When it is chosen anew"));
    addPair(tr("Anew every"), every_, by_);
    addField(tr("Anew when"), anew_, tr("A condition on the line of the whole market"));
    addWide(reweigh_);
}

void RuleForm::addExits()
{
    addHead(tr("When it is sold between"));
    addPair(tr("Stop, trailing"), stop_, trailing_,
            tr("Below the price paid; below the highest close since"));
    addPair(tr("Target, time"), target_, sessions_);
    addField(tr("Sold when"), onStock_, tr("A condition on the stock"));
    addField(tr("All sold when"), onMarket_,
             tr("A condition on the line of the whole market; nothing is bought meanwhile"));
}

void RuleForm::addTrading()
{
    addHead(tr("How it is traded"));
    addField(tr("Money"), money_);
    addPair(tr("Costs"), cost_, orderCost_, tr("Of the amount; and money for each order"));
    addPair(tr("Slip, volume"), slippage_, volume_,
            tr("Of the price, within the day's range; at most this share of the day's volume"));
    addField(tr("Filled"), filled_);
    addField(tr("Limit"), limit_,
             tr("A limit buys that far below the close of the decision, or not at all; it sells at "
                "the open"));
    addPair(tr("Delisted, loan"), delisted_, borrowing_,
            tr("What is paid for a delisted stock, of its last close; what borrowing costs a year, "
               "of what is sold short"));
    addWide(whole_);
    addWide(dividends_);
    addField(tr("From"), from_);
    addField(tr("To"), to_);
    addAside(aside_);
}

void RuleForm::offer(const library::Work& work)
{
    work_ = work;
    for (StepFields* step : steps_)
        step->offer(work);
}

void RuleForm::offerDays(const market::Market& market)
{
    app::offerDays(from_, to_, market);
    offerAside(aside_, market);
}

void RuleForm::focusCondition()
{
    steps_.front()->focusCondition();
}

void RuleForm::setExample()
{
    steps_.front()->setCondition(QStringLiteral("close > sma(close, 150)"),
                                 QStringLiteral("change(close, 126)"));
}

Rebalancing RuleForm::rebalancing() const
{
    Rebalancing told;
    told.by = static_cast<Rebalancing::By>(by_->currentIndex());
    const bool isCondition = told.by == Rebalancing::By::Condition;
    told.every = isCondition ? 1 : every_->value();
    told.condition = isCondition ? textOf(anew_) : std::string();
    told.isReweighing = reweigh_->isChecked();
    return told;
}

void RuleForm::setRebalancing(const Rebalancing& rebalancing)
{
    by_->setCurrentIndex(static_cast<int>(rebalancing.by));
    every_->setValue(rebalancing.every);
    anew_->setText(text(rebalancing.condition));
    reweigh_->setChecked(rebalancing.isReweighing);
}

Exits RuleForm::exits() const
{
    return {stop_->value() / 100.0, trailing_->value() / 100.0, target_->value() / 100.0,
            sessions_->value(),     textOf(onStock_),           textOf(onMarket_)};
}

void RuleForm::setExits(const Exits& exits)
{
    stop_->setValue(100.0 * exits.stop);
    trailing_->setValue(100.0 * exits.trailing);
    target_->setValue(100.0 * exits.target);
    sessions_->setValue(exits.sessions);
    onStock_->setText(text(exits.onStock));
    onMarket_->setText(text(exits.onMarket));
}

Trading RuleForm::trading() const
{
    Trading told;
    told.money = money_->value();
    told.filledAt = static_cast<Trading::FilledAt>(filled_->currentIndex());
    told.limit = told.filledAt == Trading::FilledAt::Limit ? limit_->value() / 100.0 : 0.0;
    told.costAnOrder = orderCost_->value();
    told.costShare = cost_->value() / 100.0;
    told.slippage = slippage_->value() / 100.0;
    told.ofVolume = volume_->value() / 100.0;
    told.isWhole = whole_->isChecked();
    told.hasDividends = dividends_->isChecked();
    told.borrowing = borrowing_->value() / 100.0;
    told.delistedWorth = delisted_->value() / 100.0;
    return told;
}

void RuleForm::setTrading(const Trading& trading)
{
    money_->setValue(trading.money);
    filled_->setCurrentIndex(static_cast<int>(trading.filledAt));
    limit_->setValue(100.0 * trading.limit);
    orderCost_->setValue(trading.costAnOrder);
    cost_->setValue(100.0 * trading.costShare);
    slippage_->setValue(100.0 * trading.slippage);
    volume_->setValue(100.0 * trading.ofVolume);
    whole_->setChecked(trading.isWhole);
    dividends_->setChecked(trading.hasDividends);
    borrowing_->setValue(100.0 * trading.borrowing);
    delisted_->setValue(100.0 * trading.delistedWorth);
}

PortfolioRule RuleForm::rule(const library::Work& work) const
{
    PortfolioRule rule;
    for (const StepFields* step : steps_)
        rule.steps.push_back(step->step(work));
    rule.rebalancing = rebalancing();
    rule.exits = exits();
    rule.trading = trading();
    rule.from = dayOf(from_->date());
    rule.to = dayOf(to_->date());
    rule.setAside = asideOf(aside_);
    return rule;
}

bool RuleForm::setRule(const library::Work& work, const PortfolioRule& rule)
{
    const auto canShow = [&](std::size_t at) {
        StepFields trial(at == 0);
        return trial.setStep(work, rule.steps[at]);
    };
    for (std::size_t at = 0; at < rule.steps.size(); ++at)
        if (!canShow(at))
            return false;
    while (steps_.size() > std::max<std::size_t>(1, rule.steps.size()))
        removeStep(steps_.back());
    while (steps_.size() < rule.steps.size())
        addStep();
    for (std::size_t at = 0; at < rule.steps.size(); ++at)
        steps_[at]->setStep(work, rule.steps[at]);
    setRebalancing(rule.rebalancing);
    setExits(rule.exits);
    setTrading(rule.trading);
    from_->setDate(std::max(dateOf(rule.from), from_->minimumDate()));
    to_->setDate(std::min(dateOf(rule.to), to_->maximumDate()));
    chooseAside(aside_, rule.setAside);
    return true;
}

} // namespace sieve::app
