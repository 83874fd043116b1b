#include "core/feed/session_tape.h"

#include "core/market/exchange.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <tuple>

namespace sieve::feed {

namespace {

/// A number that a bar has for its own, so that the same ones are disturbed every time
/// (Vigna 2015, splitmix64).
std::uint64_t mixed(std::uint64_t seed, std::uint32_t instrument, std::int32_t minute)
{
    std::uint64_t value = seed * 0x9E3779B97F4A7C15ULL + (std::uint64_t{instrument} << 32U) +
                          static_cast<std::uint32_t>(minute);
    value = (value ^ (value >> 30U)) * 0xBF58476D1CE4E5B9ULL;
    value = (value ^ (value >> 27U)) * 0x94D049BB133111EBULL;
    return value ^ (value >> 31U);
}

} // namespace

SessionTape::SessionTape(market::MarketPtr market, Day session)
    : market_(std::move(market)), session_(session)
{
}

Result<SessionTape> SessionTape::of(const market::MarketPtr& market, Day session,
                                    const Disturbances& disturbances)
{
    SessionTape tape(market, session);
    for (std::size_t i = 0; i < market->size(); ++i)
        tape.addBars(static_cast<std::uint32_t>(i), disturbances);
    if (tape.events_.empty())
        return LocatedError{{},
                            fmt::format("the market has no minutes of {}", session.iso()),
                            "choose a session of which it has some"};
    tape.end();
    return tape;
}

void SessionTape::addBars(std::uint32_t instrument, const Disturbances& disturbances)
{
    const market::MinuteBarsView& bars = market_->minuteBars(instrument);
    const market::Exchange* exchange = market_->exchange(market_->instrument(instrument).exchange);
    // No zone is further than fourteen hours from universal time.
    const Minute earliest = Minute::of(session_, 0).plusMinutes(-14 * 60);
    const auto first = std::ranges::lower_bound(bars.minutes, earliest) - bars.minutes.begin();
    for (auto bar = static_cast<std::size_t>(first); bar < bars.size(); ++bar) {
        const Minute minute = bars.minutes[bar];
        const Day day = exchange ? market::localDay(*exchange, minute) : minute.day();
        if (day > session_)
            break;
        if (day < session_)
            continue;
        const auto add = [&](What what, int minutesLater) {
            events_.push_back({Moment::of(minute.plusMinutes(minutesLater)).serial(), instrument,
                               static_cast<std::uint32_t>(bar), what});
        };
        add(What::Last, 0);
        const std::uint64_t own = mixed(disturbances.seed, instrument, minute.serial());
        const int place = static_cast<int>(own % 10'000);
        if (place < disturbances.late) {
            add(What::LateBar, 2 + static_cast<int>(own / 10'000 % 3));
        } else if (place < disturbances.late + disturbances.corrected) {
            add(What::WrongBar, 1);
            add(What::Correction, 3);
        } else {
            add(What::Bar, 1);
        }
    }
}

/// Puts all in order, and the session's hours around it.
void SessionTape::end()
{
    // At one moment the bars that are over come before the prices of those that begin; within both
    // the order is that of the instruments.
    const auto orderOf = [](const Event& event) {
        return std::tuple(event.at, event.what == What::Last, event.instrument, event.bar);
    };
    std::ranges::stable_sort(events_, {}, orderOf);
    opens_ = Moment::fromSerial(events_.front().at);
    closes_ = Moment::fromSerial(events_.back().at);
    for (const market::Exchange& exchange : market_->description().exchanges)
        if (const auto hours = market::sessionHours(exchange, session_)) {
            opens_ = std::min(opens_, Moment::of(hours->opens));
            closes_ = std::max(closes_, Moment::of(hours->closes));
        }
    events_.push_back({closes_.serial(), noInstrument, 0, What::End});
}

Moment SessionTape::toldAt(std::uint64_t number) const
{
    return Moment::fromSerial(events_.at(number - 1).at);
}

std::uint64_t SessionTape::toldBy(Moment moment) const
{
    return static_cast<std::uint64_t>(
        std::ranges::upper_bound(events_, moment.serial(), {}, &Event::at) - events_.begin());
}

std::uint32_t SessionTape::instrumentOf(std::uint64_t number) const
{
    return events_.at(number - 1).instrument;
}

Message SessionTape::message(std::uint64_t number) const
{
    const Event& event = events_.at(number - 1);
    if (event.what == What::End)
        return End{number};
    const market::MinuteBarsView& bars = market_->minuteBars(event.instrument);
    const std::string& symbol = market_->instrument(event.instrument).symbol;
    const std::size_t at = event.bar;
    if (event.what == What::Last)
        return Last{number, symbol, Moment::fromSerial(event.at), bars.open[at]};
    Bar bar{number,        symbol,       bars.minutes[at], bars.open[at],
            bars.high[at], bars.low[at], bars.close[at],   bars.volume[at]};
    bar.isCorrection = event.what == What::Correction;
    bar.isLate = event.what == What::LateBar;
    if (event.what == What::WrongBar) { // a part of its trade alone
        bar.close = bar.open;
        bar.volume = std::floor(bar.volume / 2.0);
    }
    return bar;
}

} // namespace sieve::feed
