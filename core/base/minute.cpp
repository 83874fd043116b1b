#include "core/base/minute.h"

#include <fmt/format.h>

namespace sieve {

namespace {

/// Two digits at the front of `text`, which loses them; -1 when they are not there.
int takeTwoDigits(std::string_view& text)
{
    if (text.size() < 2 || text[0] < '0' || text[0] > '9' || text[1] < '0' || text[1] > '9')
        return -1;
    const int number = (text[0] - '0') * 10 + (text[1] - '0');
    text.remove_prefix(2);
    return number;
}

bool take(std::string_view& text, char mark)
{
    if (!text.starts_with(mark))
        return false;
    text.remove_prefix(1);
    return true;
}

/// "Z", "+01:00", "-0330" or "+01" as minutes ahead of universal time.
std::optional<int> zoneOf(std::string_view text)
{
    if (text == "Z" || text == "z")
        return 0;
    const bool isBehind = text.starts_with('-');
    if (!isBehind && !text.starts_with('+'))
        return std::nullopt;
    text.remove_prefix(1);
    const int hours = takeTwoDigits(text);
    int minutes = 0;
    if (!text.empty()) {
        take(text, ':');
        minutes = takeTwoDigits(text);
    }
    if (hours < 0 || hours > 14 || minutes < 0 || minutes > 59 || !text.empty())
        return std::nullopt;
    return (isBehind ? -1 : 1) * (hours * 60 + minutes);
}

} // namespace

std::optional<Minute> Minute::parse(std::string_view text)
{
    const std::optional<Day> day = Day::parse(text.substr(0, 10));
    constexpr int farthest = 1'400'000; // days from 1970: a minute is counted in 32 bits
    if (!day || day->serial() > farthest || text.size() < 16 ||
        (text[10] != 'T' && text[10] != ' '))
        return std::nullopt;
    text.remove_prefix(11);
    const int hour = takeTwoDigits(text);
    const bool hasColon = take(text, ':');
    const int minute = takeTwoDigits(text);
    if (hour < 0 || hour > 23 || !hasColon || minute < 0 || minute > 59)
        return std::nullopt;
    if (take(text, ':')) {
        const int second = takeTwoDigits(text);
        if (second < 0 || second > 60)
            return std::nullopt;
        if (take(text, '.'))
            while (!text.empty() && text.front() >= '0' && text.front() <= '9')
                text.remove_prefix(1);
    }
    const std::optional<int> ahead = zoneOf(text);
    if (!ahead)
        return std::nullopt;
    return of(*day, hour * 60 + minute - *ahead);
}

std::string Minute::iso() const
{
    return fmt::format("{}T{:02}:{:02}Z", day().iso(), minuteOfDay() / 60, minuteOfDay() % 60);
}

} // namespace sieve
