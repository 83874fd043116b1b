#include "app/prove/rule_form.h"

#include "app/parts/expression_edit.h"
#include "app/parts/number_text.h"
#include "app/prove/screen_box.h"
#include "core/screens/limits.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDateEdit>
#include <QDoubleSpinBox>
#include <QSpinBox>
#include <algorithm>
#include <array>

namespace sieve::app {

using studies::PortfolioRule;
using studies::PortfolioStep;
using studies::Rebalancing;
using studies::Trading;

namespace {

std::string textOf(const QLineEdit* line)
{
    return utf8(line->text().trimmed());
}

} // namespace

RuleForm::RuleForm(QWidget* parent)
    : QuestionPanel(tr("A portfolio by rule"), parent), screen_(new ScreenBox(tr("A condition"))),
      condition_(new ExpressionEdit), rank_(new ExpressionEdit),
      smallest_(new QCheckBox(tr("The smallest first"))),
      hold_(countBox(tr("Hold"), 20, 1, studies::mostHeld, tr(" stocks"))),
      keep_(countBox(tr("Stays within"), 0, 0, studies::mostHeld, tr(" places"), tr("those held"))),
      weights_(new ExpressionEdit), when_(new ExpressionEdit),
      otherwise_(new ScreenBox(tr("cash"))), by_(new QComboBox),
      every_(countBox(tr("Every"), 1, 1, 1000)),
      reweigh_(new QCheckBox(tr("Those who stay are brought to their share"))),
      stop_(percentBox(tr("Stop"), 0.0, 100.0, tr("none"))),
      trailing_(percentBox(tr("Trailing stop"), 0.0, 100.0, tr("none"))),
      target_(percentBox(tr("Target"), 0.0, 10'000.0, tr("none"))),
      sessions_(countBox(tr("Time"), 0, 0, 5000, tr(" bars"), tr("none"))),
      onStock_(new ExpressionEdit), money_(new QDoubleSpinBox),
      cost_(percentBox(tr("Cost"), Trading().costShare, 100.0)), orderCost_(new QDoubleSpinBox),
      slippage_(percentBox(tr("Slippage"), Trading().slippage, 50.0)),
      volume_(percentBox(tr("Of the day's volume"), 0.0, 100.0, tr("any"))), filled_(new QComboBox),
      from_(dayBox(tr("From"))), to_(dayBox(tr("To")))
{
    prepareFields();
    addHeld();
    addExits();
    addTrading();
    for (QLineEdit* line : {condition_, rank_, weights_, when_, onStock_})
        connect(line, &QLineEdit::returnPressed, this, &RuleForm::asked);
}

void RuleForm::prepareFields()
{
    const auto prepare = [](ExpressionEdit* line, const QString& name, const QString& example) {
        line->setAccessibleName(name);
        line->setPlaceholderText(example);
    };
    prepare(condition_, tr("Condition"), tr("close > sma(close, 150)"));
    prepare(rank_, tr("Ranked by"), tr("as the screen ranks"));
    prepare(weights_, tr("Money by"), tr("equally"));
    prepare(when_, tr("While the market"), tr("always"));
    prepare(onStock_, tr("Sold when"), tr("never"));
    by_->setAccessibleName(tr("Chosen anew"));
    by_->addItems({tr("sessions"), tr("weeks"), tr("months")});
    by_->setCurrentIndex(2);
    otherwise_->setAccessibleName(tr("Else"));
    reweigh_->setChecked(true);
    for (QDoubleSpinBox* box : {money_, orderCost_}) {
        box->setButtonSymbols(QAbstractSpinBox::NoButtons);
        box->setGroupSeparatorShown(true);
    }
    money_->setAccessibleName(tr("Money at the start"));
    money_->setDecimals(0);
    money_->setRange(1.0, 1e12);
    money_->setValue(Trading().money);
    orderCost_->setAccessibleName(tr("Cost an order"));
    orderCost_->setRange(0.0, 1e6);
    filled_->setAccessibleName(tr("Filled"));
    filled_->addItems({tr("at the next open"), tr("at the next close")});
}

void RuleForm::addHeld()
{
    addHead(tr("What is held"));
    addField(tr("Screen"), screen_);
    addField(tr("Holds"), condition_, tr("A condition of the language; with a screen, one more"));
    addField(tr("Ranked by"), rank_);
    addWide(smallest_);
    addField(tr("Hold"), hold_);
    addField(tr("Stays within"), keep_, tr("Who is held stays while among the best so many"));
    addField(tr("Money by"), weights_,
             tr("A figure by which the money is shared, such as 1 / stdev(change(close), 60)"));
    addField(tr("While"), when_, tr("A condition on the line of the whole market"));
    addField(tr("Else"), otherwise_, tr("What is held while it does not hold"));
    addPair(tr("Anew every"), every_, by_);
    addWide(reweigh_);
}

void RuleForm::addExits()
{
    addHead(tr("When it is sold between"));
    addPair(tr("Stop, trailing"), stop_, trailing_,
            tr("Below the price paid; below the highest close since"));
    addPair(tr("Target, time"), target_, sessions_);
    addField(tr("Sold when"), onStock_, tr("A condition on the stock"));
}

void RuleForm::addTrading()
{
    addHead(tr("How it is traded"));
    addField(tr("Money"), money_);
    addPair(tr("Costs"), cost_, orderCost_, tr("Of the amount; and money for each order"));
    addPair(tr("Slip, volume"), slippage_, volume_,
            tr("Of the price, within the day's range; at most this share of the day's volume"));
    addField(tr("Filled"), filled_);
    addField(tr("From"), from_);
    addField(tr("To"), to_);
}

void RuleForm::offer(const library::Work& work)
{
    for (ScreenBox* box : {screen_, otherwise_})
        box->offer(work);
}

void RuleForm::offerDays(const market::Market& market)
{
    app::offerDays(from_, to_, market);
}

void RuleForm::focusCondition()
{
    condition_->setFocus();
}

void RuleForm::setExample()
{
    condition_->setText(QStringLiteral("close > sma(close, 150)"));
    rank_->setText(QStringLiteral("change(close, 126)"));
}

PortfolioStep RuleForm::step(const library::Work& work) const
{
    PortfolioStep step;
    if (const auto screen = screen_->screen(work))
        step.screen = *screen;
    if (const std::string condition = textOf(condition_); !condition.empty())
        for (const std::string& criterion : screens::criteriaOf(condition))
            step.screen.criteria.push_back({criterion});
    if (const std::string rank = textOf(rank_); !rank.empty())
        step.screen.rankBy = rank;
    step.isSmallestFirst = smallest_->isChecked();
    step.hold = hold_->value();
    step.keepWithin = keep_->value() == 0 ? 0 : std::max(keep_->value(), step.hold);
    step.weightBy = textOf(weights_);
    step.when = textOf(when_);
    return step;
}

PortfolioRule RuleForm::rule(const library::Work& work) const
{
    PortfolioRule rule;
    rule.steps.push_back(step(work));
    const bool isAlways = rule.steps.front().when.empty();
    if (const auto other = otherwise_->screen(work); other && !isAlways) {
        PortfolioStep second = rule.steps.front();
        second.when.clear();
        second.screen = *other;
        second.isSmallestFirst = false;
        rule.steps.push_back(second);
    }
    constexpr std::array kinds{Rebalancing::By::Sessions, Rebalancing::By::Weeks,
                               Rebalancing::By::Months};
    rule.rebalancing.by = kinds.at(static_cast<std::size_t>(by_->currentIndex()));
    rule.rebalancing.every = every_->value();
    rule.rebalancing.isReweighing = reweigh_->isChecked();
    rule.exits.stop = stop_->value() / 100.0;
    rule.exits.trailing = trailing_->value() / 100.0;
    rule.exits.target = target_->value() / 100.0;
    rule.exits.sessions = sessions_->value();
    rule.exits.onStock = textOf(onStock_);
    rule.trading.money = money_->value();
    rule.trading.costShare = cost_->value() / 100.0;
    rule.trading.costAnOrder = orderCost_->value();
    rule.trading.slippage = slippage_->value() / 100.0;
    rule.trading.ofVolume = volume_->value() / 100.0;
    rule.trading.filledAt =
        filled_->currentIndex() == 1 ? Trading::FilledAt::NextClose : Trading::FilledAt::NextOpen;
    rule.from = dayOf(from_->date());
    rule.to = dayOf(to_->date());
    return rule;
}

} // namespace sieve::app
