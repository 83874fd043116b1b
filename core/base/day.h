#pragma once

#include <chrono>
#include <compare>
#include <cstdint>
#include <optional>
#include <string>
#include <string_view>

namespace sieve {

/// A day of an exchange's calendar, without time or zone. There is no null day.
class Day {
public:
    static constexpr std::optional<Day> of(std::chrono::year_month_day date) ///< empty: 2023-02-29
    {
        return date.ok() ? std::optional(Day(std::chrono::sys_days(date))) : std::nullopt;
    }
    /// Reads an ISO day, "2025-03-14" and nothing else; empty when it is not one.
    static std::optional<Day> parse(std::string_view text);
    /// The day that lies `serial` days after 1970-01-01.
    static constexpr Day fromSerial(std::int32_t serial) { return Day(serial); }

    constexpr std::int32_t serial() const { return serial_; }
    constexpr std::chrono::year_month_day date() const { return {sysDays()}; }
    constexpr std::chrono::weekday weekday() const { return std::chrono::weekday(sysDays()); }
    constexpr bool isWeekend() const { return weekday().iso_encoding() > 5; }
    constexpr Day plusDays(int days) const { return Day(serial_ + days); }
    /// The same day of the month so many months on, or that month's last day: 31 Jan + 1 = 28 Feb.
    Day plusMonths(int months) const;
    std::string iso() const; ///< "2025-03-14"

    friend constexpr auto operator<=>(Day, Day) = default;
    friend constexpr int operator-(Day later, Day earlier)
    {
        return later.serial() - earlier.serial();
    }

    /// The weekday that lies so many after this day (before it: less than 0); 0 gives the day
    /// itself.
    Day plusWeekdays(int count) const;
    /// Weekdays after this day up to another one; less than 0 where that lies before.
    int weekdaysTo(Day other) const;

private:
    explicit constexpr Day(std::chrono::sys_days days)
        : serial_(static_cast<std::int32_t>(days.time_since_epoch().count()))
    {
    }
    explicit constexpr Day(std::int32_t serial) : serial_(serial) {}
    constexpr std::chrono::sys_days sysDays() const
    {
        return std::chrono::sys_days(std::chrono::days(serial_));
    }

    std::int32_t serial_; ///< four bytes, so that columns of days are mapped as they lie in a file
};

} // namespace sieve
