#include "core/feed/live_session.h"

#include <algorithm>
#include <fmt/format.h>

namespace sieve::feed {

LiveSession::LiveSession(market::MarketPtr past) : past_(std::move(past)), known_(past_->size()) {}

LiveSession::Change LiveSession::take(const Message& message)
{
    if (const auto* hello = std::get_if<Hello>(&message))
        return begin(*hello);
    if (std::holds_alternative<Refusal>(message))
        return {Meant::Strange, 0, "the feed refused: " + std::get<Refusal>(message).what};
    if (std::holds_alternative<Other>(message))
        return {};
    if (!hasBegun())
        return {Meant::Strange, 0, "the feed told something before its hello"};
    if (const auto* bar = std::get_if<Bar>(&message))
        return takeBar(*bar);
    if (const auto* last = std::get_if<Last>(&message))
        return takeLast(*last);
    if (const auto* clock = std::get_if<Clock>(&message)) {
        clock_ = clock->at;
        hello_.speed = clock->speed;
        hello_.isPaused = clock->isPaused;
        return {};
    }
    if (const auto* missed = std::get_if<Missed>(&message)) {
        askAfter_ = std::min(askAfter_.value_or(missed->from - 1), missed->from - 1);
        return {Meant::Lost, 0,
                fmt::format("{} events came too fast", missed->to - missed->from + 1)};
    }
    if (const auto* end = std::get_if<End>(&message)) {
        note(end->number, hello_.closes);
        hasEnded_ = true;
        return {Meant::Ended};
    }
    return {Meant::Strange, 0, "the feed said what a client says"};
}

LiveSession::Change LiveSession::begin(const Hello& hello)
{
    if (hello.protocol != protocolVersion)
        return {Meant::Strange, 0,
                fmt::format("the feed speaks version {} of the protocol, this program {}",
                            hello.protocol, protocolVersion)};
    const bool isOther = hello.run != run_ || hello.session != day_;
    hello_ = hello;
    clock_ = hello.clock;
    if (isOther) {
        run_ = hello.run;
        day_ = hello.session;
        newest_ = 0;
        whole_ = 0;
        hasEnded_ = false;
        std::ranges::fill(known_, Known());
    }
    // Of the same run, as after a cut, what is known without a gap need not be told again.
    askAfter_ = whole_;
    return {isOther ? Meant::Begun : Meant::Nothing};
}

/// A feed's sessions lie between its hours; a minute of another day is a mistake.
bool LiveSession::isOfTheSession(Minute minute) const
{
    const Moment at = Moment::of(minute);
    return at >= hello_.opens && at < hello_.closes;
}

void LiveSession::note(std::uint64_t number, Moment at)
{
    newest_ = std::max(newest_, number);
    whole_ += number == whole_ + 1 ? 1U : 0U;
    clock_ = std::max(clock_, at);
}

LiveSession::Change LiveSession::takeBar(const Bar& bar)
{
    const auto at = past_->find(bar.symbol);
    if (!at)
        return {Meant::Strange, 0, fmt::format("no symbol {} is known", bar.symbol)};
    if (!isOfTheSession(bar.minute))
        return {
            Meant::Strange, *at,
            fmt::format("a bar of {} at {} is not of this session", bar.symbol, bar.minute.iso())};
    note(bar.number, Moment::of(bar.minute.plusMinutes(1)));
    auto& minutes = known_[*at].minutes;
    const MinuteBar told{bar.minute, bar.open,   bar.high,  bar.low,
                         bar.close,  bar.volume, bar.number};
    const auto place = std::ranges::lower_bound(minutes, bar.minute, {}, &MinuteBar::minute);
    if (place == minutes.end() || place->minute != bar.minute)
        minutes.insert(place, told);
    else if (place->number < bar.number)
        *place = told;
    else
        return {};
    return {Meant::Told, *at};
}

LiveSession::Change LiveSession::takeLast(const Last& last)
{
    const auto at = past_->find(last.symbol);
    if (!at)
        return {Meant::Strange, 0, fmt::format("no symbol {} is known", last.symbol)};
    if (!isOfTheSession(last.at.minute()))
        return {
            Meant::Strange, *at,
            fmt::format("a price of {} at {} is not of this session", last.symbol, last.at.iso())};
    note(last.number, last.at);
    LastPrice& known = known_[*at].last;
    if (known.number >= last.number)
        return {};
    known = {last.at, last.price, last.number};
    return {Meant::Told, *at};
}

std::optional<Resume> LiveSession::toAsk()
{
    if (!askAfter_)
        return std::nullopt;
    const Resume ask{run_, *askAfter_};
    askAfter_.reset();
    return ask;
}

std::optional<market::Bar> LiveSession::dayBar(std::size_t instrument) const
{
    const Known& known = known_.at(instrument);
    const bool hasLast = known.last.number > 0;
    if (known.minutes.empty()) {
        if (!hasLast)
            return std::nullopt;
        const double price = known.last.price;
        return market::Bar{day_, price, price, price, price, 0.0};
    }
    const MinuteBar& first = known.minutes.front();
    market::Bar bar{day_, first.open, first.high, first.low, known.minutes.back().close, 0.0};
    for (const MinuteBar& minute : known.minutes) {
        bar.high = std::max(bar.high, minute.high);
        bar.low = std::min(bar.low, minute.low);
        bar.volume += minute.volume;
    }
    // A price of a minute that is not over yet.
    if (hasLast && known.last.at >= Moment::of(known.minutes.back().minute.plusMinutes(1))) {
        bar.close = known.last.price;
        bar.high = std::max(bar.high, bar.close);
        bar.low = std::min(bar.low, bar.close);
    }
    return bar;
}

std::vector<market::LiveBar> LiveSession::dayBars() const
{
    std::vector<market::LiveBar> bars;
    for (std::size_t i = 0; i < known_.size(); ++i)
        if (const auto bar = dayBar(i))
            bars.push_back({i, *bar});
    return bars;
}

} // namespace sieve::feed
