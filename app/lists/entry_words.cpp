#include "app/lists/entry_words.h"

#include "app/parts/number_text.h"

#include <QCoreApplication>
#include <QStringList>

namespace sieve::app {

namespace {

using watchlists::EntryTold;
using watchlists::PlanState;

QString words(const char* said)
{
    return QCoreApplication::translate("EntryWords", said);
}

/// Without the year where it is that of the as-of day.
QString dayInYearText(Day day, Day asOf)
{
    const QString whole = shortDayText(day);
    return day.date().year() == asOf.date().year() ? whole.left(whole.lastIndexOf(u' ')) : whole;
}

QString moneyText(double money)
{
    return numberText(money, Unit::Plain, 0);
}

QString callText(const watchlists::MarketCall& call)
{
    return call.rule.empty() ? words("the market says leave: no money may be at work since %1")
                                   .arg(shortDayText(*call.since))
                             : words("the market says leave: “%1” since %2")
                                   .arg(text(call.rule), shortDayText(*call.since));
}

/// How far the price stands from the entry, or from what comes next.
QString distanceText(const EntryTold& told)
{
    const watchlists::TradePlan& plan = *told.course.plan;
    const double price = told.result.price;
    const auto away = [price](double level) {
        return signedText(level / price - 1.0, Unit::Percent, 1);
    };
    switch (told.course.state()) {
    case PlanState::Waiting:
    case PlanState::Near:
        return words("The entry is %1 away.").arg(away(plan.entry));
    case PlanState::Triggered:
    case PlanState::RunTooFar:
        return isMissing(told.course.enteredAt)
                   ? words("It went to the target without the entry.")
                   : words("The entry was reached on %1 at %2; the close is %3 from there.")
                         .arg(shortDayText(*told.course.enteredOn),
                              numberText(told.course.enteredAt, Unit::Money, 2),
                              signedText(price / told.course.enteredAt - 1.0, Unit::Percent, 1));
    case PlanState::Held:
    case PlanState::TargetReached:
        return words("The stop is %1 away.").arg(away(plan.stop));
    default:
        return {};
    }
}

} // namespace

QString stateText(PlanState state, std::size_t target)
{
    switch (state) {
    case PlanState::None:
        return {};
    case PlanState::Waiting:
        return words("waiting");
    case PlanState::Near:
        return words("near");
    case PlanState::Triggered:
        return words("triggered");
    case PlanState::RunTooFar:
        return words("run too far");
    case PlanState::Broken:
        return words("broken");
    case PlanState::Held:
        return words("held");
    case PlanState::TargetReached:
        return words("target %1 reached").arg(target);
    case PlanState::StopReached:
        return words("stop reached");
    case PlanState::ExitSaysLeave:
        return words("time to leave");
    case PlanState::Sold:
        return words("sold");
    }
    return {};
}

QString stateText(const EntryTold& told, const std::optional<watchlists::MarketCall>& call,
                  Day asOf)
{
    if (told.course.changes.empty())
        return {};
    const watchlists::StateChange& now = told.course.changes.back();
    QString said = stateText(now.state, now.target);
    if (now.state != PlanState::None)
        said += words(", %1").arg(dayInYearText(now.on, asOf));
    if (told.position.isHeld() && call && call->saysLeave)
        said += words(" · market: leave");
    return said;
}

QString stateSentence(const EntryTold& told, const market::Market& market,
                      const std::optional<watchlists::MarketCall>& call)
{
    QStringList said;
    if (!told.result.stock)
        return words("This market does not have the stock.");
    if (told.result.isDelisted)
        said << words("It is no longer listed; this is its last price.");
    const PlanState state = told.course.state();
    if (state == PlanState::None) {
        said << words("There is no plan.");
    } else {
        const watchlists::StateChange& now = told.course.changes.back();
        QString what = stateText(now.state, now.target);
        what[0] = what[0].toUpper();
        said << words("%1 since %2.").arg(what, shortDayText(now.on));
    }
    if (told.course.plan)
        if (const QString distance = distanceText(told); !distance.isEmpty())
            said << distance;
    if (state == PlanState::ExitSaysLeave && told.course.plan)
        said << words("The plan's rule: %1.").arg(text(told.course.plan->exitRule));
    if (told.position.isHeld() && call && call->saysLeave)
        said << callText(*call) + QLatin1Char('.');
    for (const LocatedError& error : told.course.errors)
        said << words("A rule of the plan cannot be read: %1").arg(text(sentence(error)));
    if (market.isInOtherCurrency(*told.result.stock))
        said
            << words("Prices are in %1.").arg(text(market.instrument(*told.result.stock).currency));
    return said.join(QLatin1Char(' '));
}

Tone toneOf(PlanState state)
{
    switch (state) {
    case PlanState::Triggered:
    case PlanState::Near:
        return Tone::Mark;
    case PlanState::TargetReached:
        return Tone::Rise;
    case PlanState::StopReached:
    case PlanState::ExitSaysLeave:
        return Tone::Caution;
    case PlanState::Broken:
        return Tone::Fall;
    case PlanState::None:
    case PlanState::Waiting:
    case PlanState::RunTooFar:
    case PlanState::Sold:
        return Tone::Soft;
    case PlanState::Held:
        return Tone::Ink;
    }
    return Tone::Ink;
}

QString signText(watchlists::Sign sign)
{
    switch (sign) {
    case watchlists::Sign::None:
        return words("none");
    case watchlists::Sign::Circle:
        return words("circle");
    case watchlists::Sign::Square:
        return words("square");
    case watchlists::Sign::Triangle:
        return words("triangle");
    case watchlists::Sign::Diamond:
        return words("diamond");
    case watchlists::Sign::Cross:
        return words("cross");
    }
    return {};
}

QString holdingsText(const watchlists::Holdings& holdings, const watchlists::PlanTerms& terms,
                     const std::string& currency, double stance)
{
    if (holdings.stocks == 0)
        return {};
    QStringList said;
    const double ofAccount = holdings.worth / terms.account;
    said << words("%1 held: worth %2 %3, %4 of the account")
                .arg(holdings.stocks)
                .arg(text(currency), moneyText(holdings.worth),
                     numberText(ofAccount, Unit::Percent, 0));
    if (!isMissing(stance))
        said.last() +=
            words(", where the stance allows %1").arg(numberText(stance, Unit::Percent, 0));
    said << words("at the stops %1 would be lost, %2 of the account")
                .arg(moneyText(holdings.lossAtStops),
                     numberText(holdings.lossAtStops / terms.account, Unit::Percent, 1));
    if (holdings.withoutStop > 0)
        said << words("%1 without a stop").arg(holdings.withoutStop);
    if (holdings.withoutRate > 0)
        said << words("%1 left out: no exchange rate").arg(holdings.withoutRate);
    return said.join(QStringLiteral(" · "));
}

QString positionText(const watchlists::Position& position)
{
    if (!position.since)
        return {};
    if (!position.isHeld())
        return words("All sold by %1; gained %2, %3 of what was paid.")
            .arg(shortDayText(*position.closedOn), moneyText(position.realized),
                 signedText(position.realized / position.bought, Unit::Percent, 1));
    QString said =
        words("%1 shares held since %2 at %3; worth %4, %5.")
            .arg(numberText(position.shares, Unit::Plain, 0), shortDayText(*position.since),
                 numberText(position.cost / position.shares, Unit::Money, 2),
                 moneyText(position.worth), signedText(position.gain, Unit::Percent, 1));
    if (position.realized != 0.0)
        said += words(" Gained by sales: %1.").arg(moneyText(position.realized));
    return said;
}

} // namespace sieve::app
