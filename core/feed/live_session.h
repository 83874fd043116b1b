#pragma once

#include "core/feed/messages.h"
#include "core/market/market.h"

#include <optional>
#include <string>
#include <vector>

namespace sieve::feed {

/// A minute of an instrument as it was told, the newest word on it.
struct MinuteBar {
    Minute minute = Minute::fromSerial(0);
    double open = 0.0;
    double high = 0.0;
    double low = 0.0;
    double close = 0.0;
    double volume = 0.0;
    std::uint64_t number = 0; ///< of the event that told it

    friend bool operator==(const MinuteBar&, const MinuteBar&) = default;
};

/// The newest price that was paid.
struct LastPrice {
    Moment at = Moment::fromSerial(0);
    double price = missing;
    std::uint64_t number = 0;

    friend bool operator==(const LastPrice&, const LastPrice&) = default;
};

/// What is known of a session by what a feed told so far. It is the same in whatever order, and
/// however often, the events came: of two words on one minute the one with the higher number
/// counts.
class LiveSession {
public:
    /// `past`: whose instruments the feed tells of, as known the evening before.
    explicit LiveSession(market::MarketPtr past);

    /// What a message meant.
    enum class Meant {
        Nothing, ///< it was known, or says nothing of the session
        Begun,   ///< another run: all that was known of the session is void
        Told,    ///< of `instrument`
        Lost,    ///< events that will not come unless they are asked for: see toAsk()
        Ended,
        Strange, ///< what cannot be: `words` says why; it is left out
    };
    struct Change {
        Meant meant = Meant::Nothing;
        std::size_t instrument = 0;
        std::string words = {};
    };
    Change take(const Message& message);

    /// What the feed must be asked for, once: after a hello all of the run that is not known yet,
    /// after lost events those.
    std::optional<Resume> toAsk();

    bool hasBegun() const { return !run_.empty(); }
    bool hasEnded() const { return hasEnded_; }
    Day day() const { return day_; } ///< requires hasBegun(), as the next ones
    const Hello& hello() const { return hello_; }
    Moment clock() const { return clock_; } ///< the newest that the feed told
    std::uint64_t newest() const { return newest_; }

    /// Ascending; a minute without trade, or not told yet, is not there.
    std::span<const MinuteBar> minutes(std::size_t instrument) const
    {
        return known_[instrument].minutes;
    }
    const LastPrice& last(std::size_t instrument) const { return known_[instrument].last; }
    /// The day's bar so far; nothing before the first price. At the end of the session it is the
    /// day's bar.
    std::optional<market::Bar> dayBar(std::size_t instrument) const;
    /// All of them: what a market with a session that runs is made of.
    std::vector<market::LiveBar> dayBars() const;

private:
    struct Known {
        std::vector<MinuteBar> minutes;
        LastPrice last;
    };

    Change begin(const Hello& hello);
    Change takeBar(const Bar& bar);
    Change takeLast(const Last& last);
    void note(std::uint64_t number, Moment at);
    bool isOfTheSession(Minute minute) const;

    market::MarketPtr past_;
    std::vector<Known> known_; ///< an instrument
    Hello hello_;
    std::string run_;
    Day day_ = Day::fromSerial(0);
    Moment clock_ = Moment::fromSerial(0);
    std::uint64_t newest_ = 0;
    std::uint64_t whole_ = 0; ///< up to it no event is missing
    bool hasEnded_ = false;
    std::optional<std::uint64_t> askAfter_;
};

} // namespace sieve::feed
