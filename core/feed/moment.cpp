#include "core/feed/moment.h"

#include <fmt/format.h>

namespace sieve::feed {

namespace {

constexpr std::int64_t secondsAMinute = 60;

} // namespace

Minute Moment::minute() const
{
    const std::int64_t whole = serial_ / secondsAMinute;
    return Minute::fromSerial(
        static_cast<std::int32_t>(serial_ % secondsAMinute < 0 ? whole - 1 : whole));
}

std::optional<Moment> Moment::parse(std::string_view text)
{
    constexpr std::string_view form = "2026-09-30T14:05:30Z";
    const auto isDigit = [&](std::size_t at) { return text[at] >= '0' && text[at] <= '9'; };
    if (text.size() != form.size())
        return std::nullopt;
    for (std::size_t i = 0; i < form.size(); ++i)
        if (form[i] >= '0' && form[i] <= '9' ? !isDigit(i) : text[i] != form[i])
            return std::nullopt;
    const int second = (text[17] - '0') * 10 + (text[18] - '0');
    const auto minute = Minute::parse(std::string(text.substr(0, 16)) + "Z");
    if (!minute || second > 59)
        return std::nullopt;
    return of(*minute, second);
}

std::string Moment::iso() const
{
    const Minute whole = minute();
    const std::int64_t second = serial_ - secondsAMinute * whole.serial();
    return fmt::format("{}:{:02}Z", whole.iso().substr(0, 16), second);
}

} // namespace sieve::feed
