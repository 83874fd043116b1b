#include "core/market/exchange.h"

#include <algorithm>
#include <chrono>
#include <date/tz.h>
#include <stdexcept>

namespace sieve::market {

namespace {

const Holiday* holidayOn(const Exchange& exchange, Day day)
{
    const auto found = std::ranges::lower_bound(exchange.holidays, day, {}, &Holiday::date);
    return found == exchange.holidays.end() || found->date != day ? nullptr : &*found;
}

/// Null when this machine does not know it.
const date::time_zone* zoneNamed(std::string_view name)
{
    if (name.empty())
        return nullptr;
    try {
        return date::locate_zone(std::string(name));
    } catch (const std::runtime_error&) { // the library's way of saying that there is none
        return nullptr;
    }
}

Minute universal(const date::time_zone& zone, Day day, int minuteOfDay)
{
    const date::local_seconds local{
        std::chrono::seconds((day.serial() * 1440LL + minuteOfDay) * 60)};
    // An hour that the change to summer time skips or repeats is taken as the earlier one.
    const auto system = zone.to_sys(local, date::choose::earliest);
    return Minute::fromSerial(static_cast<std::int32_t>(
        std::chrono::floor<std::chrono::minutes>(system.time_since_epoch()).count()));
}

} // namespace

bool isSessionDay(const Exchange& exchange, Day day)
{
    if (day.isWeekend())
        return false;
    const Holiday* holiday = holidayOn(exchange, day);
    return !holiday || holiday->closesAt;
}

bool isHalfDay(const Exchange& exchange, Day day)
{
    const Holiday* holiday = holidayOn(exchange, day);
    return holiday && holiday->closesAt && !day.isWeekend();
}

bool isKnownZone(std::string_view zone)
{
    return zoneNamed(zone) != nullptr;
}

std::optional<SessionHours> sessionHours(const Exchange& exchange, Day day)
{
    const date::time_zone* zone = zoneNamed(exchange.zone);
    if (!zone || !exchange.opensAt || !exchange.closesAt || !isSessionDay(exchange, day))
        return std::nullopt;
    const Holiday* holiday = holidayOn(exchange, day);
    const int closesAt = holiday ? *holiday->closesAt : *exchange.closesAt;
    return SessionHours{universal(*zone, day, *exchange.opensAt), universal(*zone, day, closesAt)};
}

Day localDay(const Exchange& exchange, Minute moment)
{
    const date::time_zone* zone = zoneNamed(exchange.zone);
    if (!zone)
        return moment.day();
    const date::sys_seconds system{std::chrono::seconds(moment.serial() * 60LL)};
    const auto ahead = std::chrono::floor<std::chrono::minutes>(zone->get_info(system).offset);
    return moment.plusMinutes(static_cast<int>(ahead.count())).day();
}

Day dayOfKnowing(const Exchange& exchange, Minute moment)
{
    Day day = localDay(exchange, moment);
    const std::optional<SessionHours> hours = sessionHours(exchange, day);
    if (!hours || moment < hours->closes)
        return day;
    constexpr int longestRest = 30; // days
    for (int i = 1; i <= longestRest; ++i)
        if (isSessionDay(exchange, day.plusDays(i)))
            return day.plusDays(i);
    return day.plusDays(1);
}

} // namespace sieve::market
