#include "core/feed/subscriber.h"

#include <fmt/format.h>

namespace sieve::feed {

Subscriber::Subscriber(Replay& replay) : replay_(replay)
{
    greet();
}

/// Tells what is replayed; events go on from the newest one.
void Subscriber::greet()
{
    run_ = replay_.run();
    next_ = replay_.told() + 1;
    ready_.push_back(lineOf(replay_.hello()));
}

/// Somebody may have jumped to another time.
void Subscriber::greetIfNew()
{
    if (run_ != replay_.run())
        greet();
}

void Subscriber::take(std::string_view bytes)
{
    while (!bytes.empty()) {
        const std::size_t end = bytes.find('\n');
        const std::string_view part = bytes.substr(0, end);
        if (!isSkipping_ && begun_.size() + part.size() >= longestLine) {
            refuse(fmt::format("a line has more than {} bytes", longestLine - 1));
            isSkipping_ = true;
        }
        if (isSkipping_)
            begun_.clear();
        else
            begun_ += part;
        if (end == std::string_view::npos)
            return;
        if (!isSkipping_)
            understand(begun_);
        begun_.clear();
        isSkipping_ = false;
        bytes.remove_prefix(end + 1);
    }
}

void Subscriber::refuse(std::string what)
{
    // The first ones are answered; who goes on is not worth the room.
    if (++refusals_ <= mostRefusals)
        ready_.push_back(lineOf(Refusal{std::move(what)}));
}

void Subscriber::understand(std::string_view line)
{
    if (!line.empty() && line.back() == '\r')
        line.remove_suffix(1);
    if (line.empty())
        return;
    const auto read = messageOf(line);
    if (!read)
        return refuse(read.error().problem);
    if (const auto* want = std::get_if<Want>(&*read)) {
        wanted_.assign(want->symbols.empty() ? 0 : replay_.tape().market().size(), 0);
        for (const std::string& symbol : want->symbols)
            if (const auto at = replay_.tape().market().find(symbol))
                wanted_[*at] = 1;
            else
                refuse(fmt::format("no symbol {} is replayed", symbol.substr(0, 40)));
    } else if (const auto* resume = std::get_if<Resume>(&*read)) {
        greetIfNew();
        if (resume->run == run_ && resume->after <= replay_.told())
            next_ = resume->after + 1; // of another run the hello says enough
    } else if (const auto* speed = std::get_if<SetSpeed>(&*read)) {
        replay_.setSpeed(speed->speed);
    } else if (std::holds_alternative<Pause>(*read)) {
        replay_.setPaused(true);
    } else if (std::holds_alternative<Go>(*read)) {
        replay_.setPaused(false);
    } else if (const auto* seek = std::get_if<Seek>(&*read)) {
        replay_.seek(seek->to);
    } else {
        refuse("a feed is not told this");
    }
}

bool Subscriber::isWanted(std::uint64_t number) const
{
    const std::uint32_t instrument = replay_.tape().instrumentOf(number);
    return wanted_.empty() || instrument == SessionTape::noInstrument || wanted_[instrument] != 0;
}

std::string Subscriber::due(std::size_t room)
{
    greetIfNew();
    std::string lines;
    const auto add = [&](const std::string& line) {
        if (!lines.empty() && lines.size() + line.size() > room)
            return false;
        lines += line;
        return true;
    };
    std::size_t sent = 0;
    while (sent < ready_.size() && add(ready_[sent]))
        ++sent;
    ready_.erase(ready_.begin(), ready_.begin() + static_cast<std::ptrdiff_t>(sent));
    if (!ready_.empty())
        return lines;
    if (isBeatDue_ && add(lineOf(replay_.heartbeat())))
        isBeatDue_ = false;
    if (replay_.told() >= next_ + mostBehind) {
        const Missed missed{next_, replay_.told() - mostBehind};
        if (!add(lineOf(missed)))
            return lines;
        next_ = missed.to + 1;
    }
    for (; next_ <= replay_.told(); ++next_)
        if (isWanted(next_) && !add(lineOf(replay_.tape().message(next_))))
            break;
    return lines;
}

} // namespace sieve::feed
