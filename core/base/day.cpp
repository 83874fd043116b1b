#include "core/base/day.h"

#include <charconv>
#include <fmt/format.h>

namespace sieve {

std::optional<Day> Day::parse(std::string_view text)
{
    if (text.size() != 10 || text[4] != '-' || text[7] != '-')
        return std::nullopt;
    const auto number = [text](std::size_t at, std::size_t length) {
        int value = 0;
        const char* end = text.data() + at + length;
        const auto [stop, fault] = std::from_chars(text.data() + at, end, value);
        return fault == std::errc() && stop == end && text[at] != '-' ? value : -1;
    };
    const int year = number(0, 4);
    const int month = number(5, 2);
    const int day = number(8, 2);
    if (year < 0 || month < 0 || day < 0)
        return std::nullopt;
    return of(std::chrono::year(year) / month / day);
}

Day Day::plusMonths(int months) const
{
    std::chrono::year_month_day moved = date() + std::chrono::months(months);
    if (!moved.ok())
        moved = moved.year() / moved.month() / std::chrono::last;
    return Day(moved);
}

std::string Day::iso() const
{
    const auto [year, month, day] =
        std::tuple(int(date().year()), unsigned(date().month()), unsigned(date().day()));
    return fmt::format("{:04}-{:02}-{:02}", year, month, day);
}

} // namespace sieve
