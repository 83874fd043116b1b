#include "core/base/day.h"

#include <fmt/format.h>

namespace sieve {

std::optional<Day> Day::parse(std::string_view text)
{
    if (text.size() != 10 || text[4] != '-' || text[7] != '-')
        return std::nullopt;
    const auto digit = [text](std::size_t at) { return static_cast<unsigned>(text[at] - '0'); };
    for (const std::size_t at : {0U, 1U, 2U, 3U, 5U, 6U, 8U, 9U})
        if (digit(at) > 9U)
            return std::nullopt;
    const unsigned year = digit(0) * 1000U + digit(1) * 100U + digit(2) * 10U + digit(3);
    return of(std::chrono::year(static_cast<int>(year)) /
              std::chrono::month(digit(5) * 10U + digit(6)) /
              std::chrono::day(digit(8) * 10U + digit(9)));
}

Day Day::plusMonths(int months) const
{
    std::chrono::year_month_day moved = date() + std::chrono::months(months);
    if (!moved.ok())
        moved = moved.year() / moved.month() / std::chrono::last;
    return Day(std::chrono::sys_days(moved));
}

std::string Day::iso() const
{
    const auto [year, month, day] =
        std::tuple(int(date().year()), unsigned(date().month()), unsigned(date().day()));
    return fmt::format("{:04}-{:02}-{:02}", year, month, day);
}

} // namespace sieve
