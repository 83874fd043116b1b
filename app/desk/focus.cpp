#include "app/desk/focus.h"

#include "app/desk/open_market.h"
#include "app/parts/number_text.h"

#include <algorithm>

namespace sieve::app {

Focus::Focus(OpenMarket& market, QObject* parent) : QObject(parent), market_(market)
{
    connect(&market_, &OpenMarket::opened, this, [this] {
        day_ = market_.data().sessions().back();
        if (selected_)
            selected_ = market_.data().find(symbol_);
    });
}

bool Focus::isLatest() const
{
    return !market_.isOpen() || day_ == market_.data().sessions().back();
}

void Focus::setDay(Day day)
{
    if (!market_.isOpen())
        return;
    const std::span<const Day> all = market_.data().sessions();
    const std::optional<Day> session = market_.data().sessionOnOrBefore(day);
    if (!session)
        return Q_EMIT told(
            tr("The market begins on %1; there is nothing before.").arg(shortDayText(all.front())));
    if (day > all.back())
        Q_EMIT told(tr("The newest session is %1; nothing after it is known.")
                        .arg(shortDayText(all.back())));
    if (*session == day_)
        return;
    day_ = *session;
    Q_EMIT dayChanged();
}

void Focus::stepSessions(int sessions)
{
    if (!market_.isOpen())
        return;
    const std::span<const Day> all = market_.data().sessions();
    const auto here = std::ranges::lower_bound(all, day_) - all.begin();
    const auto there =
        std::clamp<std::ptrdiff_t>(here + sessions, 0, static_cast<std::ptrdiff_t>(all.size()) - 1);
    setDay(all[static_cast<std::size_t>(there)]);
}

void Focus::goToLatest()
{
    if (market_.isOpen())
        setDay(market_.data().sessions().back());
}

void Focus::select(std::size_t instrument)
{
    if (selected_ == instrument)
        return;
    selected_ = instrument;
    symbol_ = market_.data().instrument(instrument).symbol;
    Q_EMIT selectionChanged();
}

void Focus::selectSymbol(const std::string& symbol)
{
    if (!market_.isOpen())
        return;
    if (const auto instrument = market_.data().find(symbol))
        select(*instrument);
}

} // namespace sieve::app
