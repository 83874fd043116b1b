#pragma once

#include "core/base/day.h"
#include "core/base/result.h"
#include "core/feed/moment.h"

#include <cstddef>
#include <cstdint>
#include <string>
#include <string_view>
#include <variant>
#include <vector>

// What a feed and its clients say to each other: JSON objects, one a line (docs/feed-protocol.md).

namespace sieve::feed {

inline constexpr int protocolVersion = 1;
inline constexpr std::size_t longestLine = std::size_t{256} << 10U; ///< bytes, its end included
inline constexpr std::size_t mostWanted = 20'000;                   ///< symbols
inline constexpr int fastest = 600; ///< times as fast as the day was

// The feed says

/// What is replayed, before anything else and again after each jump.
struct Hello {
    int protocol = protocolVersion;
    std::string market;
    std::string run; ///< numbers of another run tell nothing of this one
    Day session = Day::fromSerial(0);
    Moment opens = Moment::fromSerial(0);
    Moment closes = Moment::fromSerial(0);
    Moment clock = Moment::fromSerial(0);
    int speed = 1;
    bool isPaused = false;
    std::uint64_t number = 0; ///< of the newest event; 0: none yet

    friend bool operator==(const Hello&, const Hello&) = default;
};

/// The trade of a minute that is over. One with the minute of an earlier one replaces it.
struct Bar {
    std::uint64_t number = 0;
    std::string symbol;
    Minute minute = Minute::fromSerial(0); ///< its begin
    double open = 0.0;
    double high = 0.0;
    double low = 0.0;
    double close = 0.0;
    double volume = 0.0;
    bool isCorrection = false; ///< in place of what was told of the minute before
    bool isLate = false;       ///< a later minute was told before

    friend bool operator==(const Bar&, const Bar&) = default;
};

/// The last price that was paid.
struct Last {
    std::uint64_t number = 0;
    std::string symbol;
    Moment at = Moment::fromSerial(0);
    double price = 0.0;

    friend bool operator==(const Last&, const Last&) = default;
};

/// The session is over; nothing follows in this run.
struct End {
    std::uint64_t number = 0;

    friend bool operator==(const End&, const End&) = default;
};

/// That the feed lives, at least once a second of a real clock.
struct Clock {
    Moment at = Moment::fromSerial(0);
    int speed = 1;
    bool isPaused = false;
    std::uint64_t number = 0; ///< of the newest event

    friend bool operator==(const Clock&, const Clock&) = default;
};

/// Events that this client was too slow for: they are not sent any more.
struct Missed {
    std::uint64_t from = 0;
    std::uint64_t to = 0; ///< the last one of them

    friend bool operator==(const Missed&, const Missed&) = default;
};

/// What a client said was not understood.
struct Refusal {
    std::string what;

    friend bool operator==(const Refusal&, const Refusal&) = default;
};

// A client says

/// To be told of these symbols only; empty: of all.
struct Want {
    std::vector<std::string> symbols;

    friend bool operator==(const Want&, const Want&) = default;
};

/// To go on after an event of a run, as after a cut.
struct Resume {
    std::string run;
    std::uint64_t after = 0;

    friend bool operator==(const Resume&, const Resume&) = default;
};

struct SetSpeed {
    int speed = 1; ///< 1 to fastest

    friend bool operator==(const SetSpeed&, const SetSpeed&) = default;
};
struct Pause {
    friend bool operator==(const Pause&, const Pause&) = default;
};
struct Go {
    friend bool operator==(const Go&, const Go&) = default;
};
struct Seek {
    Moment to = Moment::fromSerial(0);

    friend bool operator==(const Seek&, const Seek&) = default;
};

/// Of a type that this version does not know: to be left out, so that the protocol can grow.
struct Other {
    std::string type;

    friend bool operator==(const Other&, const Other&) = default;
};

using Message = std::variant<Hello, Bar, Last, End, Clock, Missed, Refusal, Want, Resume, SetSpeed,
                             Pause, Go, Seek, Other>;

/// One line, its end included. Requires: finite figures.
std::string lineOf(const Message& message);
/// Errors: what is wrong with a line (without its end): too long, no JSON object, without a type,
///         a part that is missing, of another kind, or out of bounds.
Result<Message> messageOf(std::string_view line);

} // namespace sieve::feed
