#pragma once

#include "core/base/day.h"

#include <compare>
#include <cstdint>
#include <optional>
#include <string>
#include <string_view>

namespace sieve {

/// A minute of universal time (UTC). There is no null minute.
class Minute {
public:
    /// The minute that lies `serial` minutes after 1970-01-01 00:00 UTC.
    static constexpr Minute fromSerial(std::int32_t serial) { return Minute(serial); }
    static constexpr Minute of(Day day, int minuteOfDay)
    {
        return Minute(day.serial() * minutesADay + minuteOfDay);
    }
    /// Reads an ISO 8601 time with its zone, such as "2026-09-30T14:05Z", "2026-09-30 14:05:59Z" or
    /// "2026-09-30T15:05+01:00"; seconds are cut off. Empty when it is none, has no zone, or lies
    /// beyond the year 5800.
    static std::optional<Minute> parse(std::string_view text);

    constexpr std::int32_t serial() const { return serial_; }
    constexpr Day day() const ///< of universal time
    {
        const std::int32_t whole = serial_ / minutesADay;
        return Day::fromSerial(serial_ % minutesADay < 0 ? whole - 1 : whole);
    }
    constexpr int minuteOfDay() const { return serial_ - day().serial() * minutesADay; }
    constexpr Minute plusMinutes(int minutes) const { return Minute(serial_ + minutes); }
    std::string iso() const; ///< "2026-09-30T14:05Z"

    friend constexpr auto operator<=>(Minute, Minute) = default;

    static constexpr int minutesADay = 24 * 60;

private:
    explicit constexpr Minute(std::int32_t serial) : serial_(serial) {}
    std::int32_t serial_;
};

} // namespace sieve
