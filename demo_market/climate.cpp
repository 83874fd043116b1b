#include "demo_market/climate.h"

#include "core/base/require.h"
#include "demo_market/isles.h"

#include <algorithm>

namespace sieve::demo_market {

namespace {

struct Phase {
    std::string_view from;
    double drift; ///< of the market a session
    double noise;
    double small;              ///< drift of small companies beyond the market's
    std::string_view favoured; ///< three letters of sectors that lead, parted by spaces
    std::string_view shunned;
};

constexpr std::array phases{
    Phase{"2016-10-03", 0.0007, 0.0060, 0.0003, "Shi Foo", "Tec"},         // the market wakes
    Phase{"2018-01-15", 0.0000, 0.0065, -0.0001, "Wat Goo", "Ene"},        // it goes sideways
    Phase{"2018-09-03", -0.0016, 0.0090, -0.0004, "Foo Wat", "Mac"},       // a slow fall
    Phase{"2019-02-01", 0.0006, 0.0065, 0.0002, "Mac Fin", "Foo"},         // it heals
    Phase{"2020-02-20", -0.0035, 0.0140, -0.0008, "Hea Med", "Lei Shi"},   // a storm
    Phase{"2020-04-01", 0.0012, 0.0090, 0.0003, "Tec Med", ""},            // and its end
    Phase{"2020-10-01", 0.0008, 0.0060, 0.0002, "Tec Hea", "Ene"},         // the first long rise
    Phase{"2021-12-15", 0.0001, 0.0070, -0.0002, "Ene Mat", "Tec"},        // it tires
    Phase{"2022-01-20", -0.0110, 0.0140, -0.0010, "Foo Wat", "Fin"},       // the crash
    Phase{"2022-03-07", 0.0075, 0.0120, 0.0010, "Tec Goo", "Foo"},         // the relief rally
    Phase{"2022-04-11", -0.0048, 0.0110, -0.0005, "Ene Foo", "Goo"},       // and down again
    Phase{"2022-07-01", 0.0002, 0.0080, 0.0000, "Hea", "Fin"},             // a floor
    Phase{"2022-10-03", 0.0009, 0.0060, 0.0003, "Fin Mac Shi", ""},        // the second long rise
    Phase{"2023-12-01", 0.0000, 0.0035, 0.0000, "", ""},                   // the dull year
    Phase{"2024-11-01", 0.0009, 0.0050, -0.0016, "Tec", "Lei Goo"},        // the narrow rise
    Phase{"2025-07-15", -0.0022, 0.0090, -0.0004, "Wat Foo", "Tec"},       // it breaks
    Phase{"2025-10-01", 0.0009, 0.0060, 0.0004, "Ene Mat Shi", "Tec Med"}, // the rotation
    Phase{"2026-09-14", -0.0024, 0.0050, 0.0000, "", ""},                  // a pullback
    Phase{"2026-09-25", 0.0032, 0.0045, 0.0000, "Ene Mac", ""},            // and a turn
};

bool names(std::string_view list, std::string_view sector)
{
    return list.find(sector.substr(0, 3)) != std::string_view::npos;
}

const std::vector<std::string_view>& sectorNames()
{
    static const std::vector<std::string_view> found = [] {
        std::vector<std::string_view> each;
        for (const Industry& industry : industries())
            if (std::ranges::find(each, industry.sector) == each.end())
                each.push_back(industry.sector);
        return each;
    }();
    return found;
}

bool isHoliday(Day day)
{
    const auto date = day.date();
    const auto month = static_cast<unsigned>(date.month());
    const auto number = static_cast<unsigned>(date.day());
    const bool turnOfYear =
        (month == 1 && number == 1) || (month == 12 && number >= 25 && number <= 26);
    const bool foundersDay =
        month == 5 && number >= 15 && number <= 21 && day.weekday() == std::chrono::Monday;
    const bool sailDay = month == 8 && number <= 7 && day.weekday() == std::chrono::Friday;
    return turnOfYear || foundersDay || sailDay;
}

bool isFirst(Day day, unsigned month, std::chrono::weekday weekday)
{
    return static_cast<unsigned>(day.date().month()) == month &&
           static_cast<unsigned>(day.date().day()) <= 7 && day.weekday() == weekday;
}

} // namespace

bool isTarnDay(Day day)
{
    return isFirst(day, 9, std::chrono::Tuesday);
}

bool isShortDay(Day day)
{
    const auto date = day.date();
    const bool isYearsEnd =
        static_cast<unsigned>(date.month()) == 12 &&
        (static_cast<unsigned>(date.day()) == 24 || static_cast<unsigned>(date.day()) == 31);
    return (isYearsEnd && !day.isWeekend()) || isFirst(day.plusDays(1), 8, std::chrono::Friday);
}

std::size_t sectorNumber(std::string_view sector)
{
    const auto& all = sectorNames();
    require(all.size() == sectorCount, "sectorNumber: the number of sectors changed");
    return static_cast<std::size_t>(std::ranges::find(all, sector) - all.begin());
}

std::vector<Day> sessionsBetween(Day first, Day last)
{
    std::vector<Day> sessions;
    for (Day day = first; day <= last; day = day.plusDays(1))
        if (!day.isWeekend() && !isHoliday(day))
            sessions.push_back(day);
    return sessions;
}

std::vector<Weather> makeWeather(const std::vector<Day>& sessions, std::size_t lagSessions,
                                 Dice dice)
{
    std::vector<Weather> weather;
    for (std::size_t session = 0; session < sessions.size(); ++session) {
        const Day seen = sessions[session > lagSessions ? session - lagSessions : 0];
        const auto* phase = std::ranges::upper_bound(
            phases, seen, {}, [](const Phase& each) { return *Day::parse(each.from); });
        if (phase != phases.begin())
            --phase;
        Weather today;
        today.market = phase->drift + phase->noise * dice.bell();
        today.small = phase->small + 0.0015 * dice.bell();
        for (const std::string_view sector : sectorNames()) {
            const double lead = names(phase->favoured, sector)  ? 0.0009
                                : names(phase->shunned, sector) ? -0.0009
                                                                : 0.0;
            today.sectors.at(sectorNumber(sector)) = lead + 0.0035 * dice.bell();
        }
        weather.push_back(today);
    }
    return weather;
}

} // namespace sieve::demo_market
