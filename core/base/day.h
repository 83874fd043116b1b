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
        return date.ok() ? std::optional(Day(date)) : std::nullopt;
    }
    /// Reads an ISO day, "2025-03-14" and nothing else; empty when it is not one.
    static std::optional<Day> parse(std::string_view text);
    /// The day that lies `serial` days after 1970-01-01.
    static constexpr Day fromSerial(std::int32_t serial)
    {
        return Day(std::chrono::sys_days(std::chrono::days(serial)));
    }

    constexpr std::int32_t serial() const
    {
        return static_cast<std::int32_t>(days_.time_since_epoch().count());
    }
    constexpr std::chrono::year_month_day date() const { return {days_}; }
    constexpr std::chrono::weekday weekday() const { return std::chrono::weekday(days_); }
    constexpr bool isWeekend() const { return weekday().iso_encoding() > 5; }
    constexpr Day plusDays(int days) const { return Day(days_ + std::chrono::days(days)); }
    /// The same day of the month so many months on, or that month's last day: 31 Jan + 1 = 28 Feb.
    Day plusMonths(int months) const;
    std::string iso() const; ///< "2025-03-14"

    friend constexpr auto operator<=>(Day, Day) = default;
    friend constexpr int operator-(Day later, Day earlier)
    {
        return later.serial() - earlier.serial();
    }

private:
    explicit constexpr Day(std::chrono::sys_days days) : days_(days) {}
    std::chrono::sys_days days_;
};

} // namespace sieve
