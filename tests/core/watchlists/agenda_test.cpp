#include "core/watchlists/agenda.h"

#include "tests/core/made_market.h"

#include <catch2/catch.hpp>
#include <libical/ical.h>
#include <memory>

namespace sieve::watchlists {

namespace {

using test::day;
using What = AgendaItem::What;

market::MarketPtr dueMarket()
{
    auto first = test::recordOf("AAAA", {1, 2, 3, 4, 5});
    first.calendar = {
        {day("2024-01-04"), market::CalendarKind::Report, market::CalendarTime::AfterClose},
        {day("2024-02-20"), market::CalendarKind::Dividend},
        {day("2024-03-01"), market::CalendarKind::LockUpEnd},
        {day("2024-09-02"), market::CalendarKind::Report}};
    return test::marketOf({first, test::recordOf("BBBB", {1, 2, 3, 4, 5})});
}

std::vector<Shared<Watchlist>> dueLists()
{
    Watchlist one{1, "Quay", {{"AAAA", day("2024-01-01")}, {"BBBB", day("2024-01-01")}}};
    one.entries[1].page.reviewOn = day("2024-02-20");
    one.entries[1].reason = "Base; \"tight\", with\na line";
    Watchlist two{2, "Pier", {{"AAAA", day("2024-01-01")}, {"ZZZZ", day("2024-01-01")}}};
    two.entries[1].page.reviewOn = day("2024-02-01");
    Watchlist archived{3, "Old", {{"AAAA", day("2024-01-01")}}};
    archived.head.isArchived = true;
    return {one, two, archived};
}

} // namespace

TEST_CASE("Agenda: what is due, each once, with all its lists", "[watchlists]")
{
    const auto market = dueMarket();
    const auto items =
        agendaOf(dueLists(), *market, day("2024-01-05"), day("2024-01-01"), day("2024-12-31"));
    REQUIRE(items.size() == 5); // the report of September is not announced yet
    CHECK(items[0] ==
          AgendaItem{day("2024-01-04"), What::Report, 0, "AAAA", "after close", {"Quay", "Pier"}});
    CHECK(items[1].symbol == "ZZZZ"); // its day of review stands, whatever the market has
    CHECK_FALSE(items[1].stock);
    CHECK(items[2].what == What::Dividend);
    CHECK(items[3].what == What::Review);
    CHECK(items[3].symbol == "BBBB");
    CHECK(items[4].what == What::LockUpEnd);
    CHECK(agendaOf(dueLists(), *market, day("2024-01-05"), day("2024-02-02"), day("2024-02-20"))
              .size() == 2);
    CHECK(agendaOf(dueLists(), *market, day("2023-12-29"), day("2024-01-01"), day("2024-12-31"))
              .empty()); // nobody was on a list yet
}

TEST_CASE("Agenda: as iCalendar it is read back as it was", "[watchlists]")
{
    const auto market = dueMarket();
    const auto items =
        agendaOf(dueLists(), *market, day("2024-01-05"), day("2024-01-01"), day("2024-12-31"));
    const auto events = eventsOf(items);
    const std::string text = exports::toICalendar("Mine, all", events, day("2024-01-05"));
    CHECK(text == exports::toICalendar("Mine, all", events, day("2024-01-05")));
    CHECK(text.find("\r\n") != std::string::npos);
    const std::unique_ptr<icalcomponent, decltype(&icalcomponent_free)> read(
        icalparser_parse_string(text.c_str()), &icalcomponent_free);
    REQUIRE(read);
    CHECK(icalcomponent_count_errors(read.get()) == 0);
    std::size_t at = 0;
    for (icalcomponent* event =
             icalcomponent_get_first_component(read.get(), ICAL_VEVENT_COMPONENT);
         event; event = icalcomponent_get_next_component(read.get(), ICAL_VEVENT_COMPONENT)) {
        REQUIRE(at < events.size());
        INFO(events[at].title);
        const icaltimetype start = icalcomponent_get_dtstart(event);
        CHECK(start.is_date == 1);
        CHECK(Day::of(std::chrono::year(start.year) / start.month / start.day) == events[at].on);
        CHECK(icalcomponent_get_summary(event) == events[at].title);
        CHECK(icalcomponent_get_uid(event) == events[at].id);
        CHECK(icalcomponent_get_description(event) == events[at].text);
        ++at;
    }
    CHECK(at == events.size());
    CHECK(events[3].text.find("with\na line") != std::string::npos);
}

} // namespace sieve::watchlists
