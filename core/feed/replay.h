#pragma once

#include "core/feed/session_tape.h"

#include <string>

namespace sieve::feed {

/// A session that is told again, as fast as wanted. Its clock goes on only by advance(): whoever
/// owns it says how much real time went by, so that a test needs no time at all.
class Replay {
public:
    /// Begins before the session opens. `name` tells its runs from those of others.
    Replay(SessionTape tape, std::string name);

    /// Lets real time go by.
    void advance(double seconds);
    void setSpeed(int speed); ///< brought to 1 to fastest
    void setPaused(bool isPaused) { isPaused_ = isPaused; }
    /// Begins a new run at a moment of the session, or the nearest one; all that is told by then
    /// can be asked for.
    void seek(Moment moment);

    const SessionTape& tape() const { return tape_; }
    const std::string& run() const { return run_; }
    Moment clock() const;
    std::uint64_t told() const { return told_; } ///< number of the newest event; 0: none
    bool isOver() const { return told_ == tape_.size(); }
    int speed() const { return speed_; }
    bool isPaused() const { return isPaused_; }

    Hello hello() const;
    Clock heartbeat() const;

private:
    void beginRun();

    SessionTape tape_;
    std::string name_;
    std::string run_;
    int runs_ = 0;
    double clock_ = 0.0; ///< second
    int speed_ = 1;
    bool isPaused_ = false;
    std::uint64_t told_ = 0;
};

} // namespace sieve::feed
