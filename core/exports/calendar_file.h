#pragma once

#include "core/base/day.h"

#include <string>
#include <vector>

namespace sieve::exports {

/// Something on a whole day.
struct CalendarEvent {
    Day on = Day::fromSerial(0);
    std::string id; ///< the same each time that it is written, so that a calendar updates it
    std::string title;
    std::string text = {};
    std::string category = {};
};

/// Events as iCalendar (RFC 5545), for any calendar program. The same events give the same bytes:
/// `stamp` is the day on which they were known.
std::string toICalendar(const std::string& name, const std::vector<CalendarEvent>& events,
                        Day stamp);

} // namespace sieve::exports
