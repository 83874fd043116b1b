#include "core/base/day.h"

#include <algorithm>
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

Day Day::plusWeekdays(int count) const
{
    const int step = count < 0 ? -1 : 1;
    // Whole weeks at once, the rest one by one.
    Day at = plusDays(count / 5 * 7);
    for (int left = count % 5; left != 0;) {
        at = at.plusDays(step);
        if (!at.isWeekend())
            left -= step;
    }
    return at;
}

int Day::weekdaysTo(Day other) const
{
    const auto upTo = [](Day day) {
        constexpr int far = 7 * 200'000;          // from a Sunday before all days there are
        const int since = day.serial() + 4 + far; // 1970-01-01 was a Thursday: day -4 was a Sunday
        return since / 7 * 5 + std::min(since % 7, 5);
    };
    return upTo(other) - upTo(*this);
}

std::string Day::iso() const
{
    const auto [year, month, day] =
        std::tuple(int(date().year()), unsigned(date().month()), unsigned(date().day()));
    return fmt::format("{:04}-{:02}-{:02}", year, month, day);
}

} // namespace sieve
