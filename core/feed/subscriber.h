#pragma once

#include "core/feed/replay.h"

#include <cstddef>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::feed {

/// One client of a replay: what it said, and what is to be sent to it. It knows nothing of sockets:
/// whoever owns one hands in the bytes that came, and takes those to send.
///
/// A client is told hello, and then every event that it wants from the newest one on, or after the
/// one with which it resumes. One that does not read is never sent more than its room: events that
/// are more than `mostBehind` behind are left out, and it is told which.
class Subscriber {
public:
    /// Events that a client may be behind.
    static constexpr std::uint64_t mostBehind = 200'000;

    explicit Subscriber(Replay& replay);

    /// Takes bytes as they came, in any pieces. What is understood takes effect at once; a line
    /// that is not is answered with a refusal.
    void take(std::string_view bytes);
    /// The next lines, as many as have room; whole ones only. At least one where there is any.
    std::string due(std::size_t room);
    /// A sign of life for the next `due`.
    void beat() { isBeatDue_ = true; }
    /// A client that says what is not understood again and again is to be sent away.
    bool isHostile() const { return refusals_ > mostRefusals; }

private:
    static constexpr int mostRefusals = 100;

    void understand(std::string_view line);
    void refuse(std::string what);
    void greet();
    void greetIfNew();
    bool isWanted(std::uint64_t number) const;

    Replay& replay_;
    std::string run_;                ///< of the last hello
    std::uint64_t next_ = 1;         ///< event
    std::vector<char> wanted_;       ///< an instrument; empty: all
    std::string begun_;              ///< a line whose end has not come
    bool isSkipping_ = false;        ///< to the end of a line that is too long
    std::vector<std::string> ready_; ///< lines that are no events
    bool isBeatDue_ = false;
    int refusals_ = 0;
};

} // namespace sieve::feed
