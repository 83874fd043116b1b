#pragma once

#include "core/base/result.h"
#include "core/feed/messages.h"
#include "core/market/market.h"

#include <cstdint>
#include <vector>

namespace sieve::feed {

/// How a feed may be made worse than the data are, as real ones are: of ten thousand bars, so many.
struct Disturbances {
    int late = 0;      ///< are told one to three minutes late
    int corrected = 0; ///< are told wrong, and right two minutes later
    std::uint64_t seed = 1;
};

/// What a feed tells of a session, in the order in which it tells it: of each minute, by symbol,
/// the first price as a last price when it begins, and the bar when it is over. The same session
/// gives the same tape every time; its events are numbered from 1.
class SessionTape {
public:
    /// Errors: no instrument has minutes of that day.
    static Result<SessionTape> of(const market::MarketPtr& market, Day session,
                                  const Disturbances& disturbances = {});

    Day session() const { return session_; }
    Moment opens() const { return opens_; } ///< of the exchange that opens first, or the first bar
    Moment closes() const { return closes_; } ///< when its last bar is over, or later
    const market::Market& market() const { return *market_; }

    std::uint64_t size() const { return events_.size(); }
    /// When it is told. Requires: a number from 1 to size().
    Moment toldAt(std::uint64_t number) const;
    /// The newest event that is told by a moment; 0: none yet.
    std::uint64_t toldBy(Moment moment) const;
    /// Bar, Last or, at the end, End.
    Message message(std::uint64_t number) const;
    std::uint32_t instrumentOf(std::uint64_t number) const; ///< of End: noInstrument
    static constexpr std::uint32_t noInstrument = static_cast<std::uint32_t>(-1);

private:
    enum class What : std::uint8_t { Last, Bar, LateBar, WrongBar, Correction, End };
    struct Event {
        std::int64_t at = 0; ///< second
        std::uint32_t instrument = noInstrument;
        std::uint32_t bar = 0;
        What what = What::End;
    };

    explicit SessionTape(market::MarketPtr market, Day session);
    void addBars(std::uint32_t instrument, const Disturbances& disturbances);
    void end();

    market::MarketPtr market_;
    Day session_;
    Moment opens_ = Moment::fromSerial(0);
    Moment closes_ = Moment::fromSerial(0);
    std::vector<Event> events_;
};

} // namespace sieve::feed
