#include "core/feed/replay.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace sieve::feed {

Replay::Replay(SessionTape tape, std::string name) : tape_(std::move(tape)), name_(std::move(name))
{
    // A second before the first price is paid: nothing is told yet.
    clock_ = static_cast<double>(tape_.opens().serial() - 1);
    beginRun();
}

void Replay::beginRun()
{
    run_ = fmt::format("{}-{}", name_, ++runs_);
    told_ = tape_.toldBy(clock());
}

void Replay::advance(double seconds)
{
    if (isPaused_ || !(seconds > 0.0))
        return;
    // A machine that slept for an hour does not lose one: what it slept is told at once.
    const auto end = static_cast<double>(tape_.closes().serial());
    clock_ = std::min(end, clock_ + seconds * speed_);
    told_ = tape_.toldBy(clock());
}

void Replay::setSpeed(int speed)
{
    speed_ = std::clamp(speed, 1, fastest);
}

void Replay::seek(Moment moment)
{
    const Moment first = Moment::fromSerial(tape_.opens().serial() - 1);
    clock_ = static_cast<double>(std::clamp(moment, first, tape_.closes()).serial());
    beginRun();
}

Moment Replay::clock() const
{
    return Moment::fromSerial(static_cast<std::int64_t>(std::floor(clock_)));
}

Hello Replay::hello() const
{
    return {protocolVersion,
            tape_.market().description().name,
            run_,
            tape_.session(),
            tape_.opens(),
            tape_.closes(),
            clock(),
            speed_,
            isPaused_,
            told_};
}

Clock Replay::heartbeat() const
{
    return {clock(), speed_, isPaused_, told_};
}

} // namespace sieve::feed
