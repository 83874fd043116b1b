#include "core/exports/calendar_file.h"

#include <libical/ical.h>
#include <memory>

namespace sieve::exports {

namespace {

struct Freed {
    void operator()(icalcomponent* component) const { icalcomponent_free(component); }
};
using Component = std::unique_ptr<icalcomponent, Freed>;

icaltimetype wholeDay(Day day)
{
    const auto date = day.date();
    icaltimetype time = icaltime_null_date();
    time.year = static_cast<int>(date.year());
    time.month = static_cast<int>(static_cast<unsigned>(date.month()));
    time.day = static_cast<int>(static_cast<unsigned>(date.day()));
    return time;
}

icaltimetype midnightUtc(Day day)
{
    icaltimetype time = wholeDay(day);
    time.is_date = 0;
    time.zone = icaltimezone_get_utc_timezone();
    return time;
}

} // namespace

std::string toICalendar(const std::string& name, const std::vector<CalendarEvent>& events,
                        Day stamp)
{
    const Component calendar(icalcomponent_new_vcalendar());
    const auto add = [](icalcomponent* to, icalproperty* property) {
        icalcomponent_add_property(to, property); // which owns it from now on
    };
    add(calendar.get(), icalproperty_new_version("2.0"));
    add(calendar.get(), icalproperty_new_prodid("-//Wise Sieve//Calendar//EN"));
    icalproperty* title = icalproperty_new_x(name.c_str());
    icalproperty_set_x_name(title, "X-WR-CALNAME");
    add(calendar.get(), title);
    for (const CalendarEvent& event : events) {
        icalcomponent* own = icalcomponent_new_vevent();
        add(own, icalproperty_new_uid(event.id.c_str()));
        add(own, icalproperty_new_dtstamp(midnightUtc(stamp)));
        add(own, icalproperty_new_dtstart(wholeDay(event.on)));
        add(own, icalproperty_new_dtend(wholeDay(event.on.plusDays(1))));
        add(own, icalproperty_new_summary(event.title.c_str()));
        if (!event.text.empty())
            add(own, icalproperty_new_description(event.text.c_str()));
        if (!event.category.empty())
            add(own, icalproperty_new_categories(event.category.c_str()));
        icalcomponent_add_component(calendar.get(), own);
    }
    const std::unique_ptr<char, decltype(&free)> text(
        icalcomponent_as_ical_string_r(calendar.get()), &free);
    return text.get();
}

} // namespace sieve::exports
