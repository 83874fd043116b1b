#pragma once

#include "core/base/day.h"
#include "core/base/minute.h"

#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::market {

/// A row of holidays.csv: a weekday without session, or one that ends early.
struct Holiday {
    Day date;
    std::optional<int> closesAt = std::nullopt; ///< minute of the local day; empty: no session

    friend bool operator==(const Holiday&, const Holiday&) = default;
};

/// An exchange with its regular hours. Without hours, zone and holidays (a dataset need not tell
/// them) every weekday may be a session, and its hours are not known.
struct Exchange {
    std::string name;
    std::string zone;                           ///< of the IANA time zone database
    std::optional<int> opensAt = std::nullopt;  ///< minute of the local day
    std::optional<int> closesAt = std::nullopt; ///< minute of the local day
    std::vector<Holiday> holidays;              ///< by date

    friend bool operator==(const Exchange&, const Exchange&) = default;
};

/// Whether the exchange's calendar has a session on that day.
bool isSessionDay(const Exchange& exchange, Day day);
bool isHalfDay(const Exchange& exchange, Day day);

/// Whether this machine's time zone database has the zone.
bool isKnownZone(std::string_view zone);

struct SessionHours {
    Minute opens;
    Minute closes;
};

/// From when to when the exchange trades on a day, in universal time: summer time is in it.
/// Missing: empty when there is no session, or when hours or zone are not known.
std::optional<SessionHours> sessionHours(const Exchange& exchange, Day day);

/// The day of the exchange's own calendar and clock at a moment; of universal time when its zone is
/// not known.
Day localDay(const Exchange& exchange, Minute moment);

/// The day at whose close what happened at a moment was known first: its local day, or the next
/// session after one on which the exchange had closed by then.
Day dayOfKnowing(const Exchange& exchange, Minute moment);

} // namespace sieve::market
