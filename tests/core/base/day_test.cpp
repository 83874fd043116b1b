#include "core/base/day.h"
#include "core/base/result.h"

#include <catch2/catch.hpp>

namespace sieve {

TEST_CASE("Day: reads ISO days and nothing else", "[base]")
{
    CHECK(Day::parse("2025-03-14")->iso() == "2025-03-14");
    CHECK(Day::parse("1970-01-01")->serial() == 0);
    CHECK(Day::parse("2024-02-29"));
    for (const char* bad : {"", "2023-02-29", "2025-3-14", "2025-13-01", "14.03.2025", "2025-03-1a",
                            "2025-03-14 ", "-025-03-14", "2025--3-14"}) {
        INFO(bad);
        CHECK_FALSE(Day::parse(bad));
    }
}

TEST_CASE("Day: months on keep within the month", "[base]")
{
    CHECK(Day::parse("2024-01-31")->plusMonths(1).iso() == "2024-02-29");
    CHECK(Day::parse("2024-03-31")->plusMonths(-1).iso() == "2024-02-29");
    CHECK(Day::parse("2024-11-30")->plusMonths(3).iso() == "2025-02-28");
    CHECK(Day::parse("2024-05-15")->plusMonths(-12).iso() == "2023-05-15");
    CHECK(*Day::parse("2024-03-01") - *Day::parse("2024-02-28") == 2);
    CHECK(Day::parse("2024-06-01")->isWeekend());
    CHECK_FALSE(Day::parse("2024-06-03")->isWeekend());
}

TEST_CASE("Located errors: become one readable sentence", "[base]")
{
    const LocatedError error{{2, 7, 3, 0, 0}, "no field 'clos'", "did you mean close?"};
    CHECK(sentence(error) == "Line 2, column 7: no field 'clos'. Did you mean close?");
    CHECK(sentence({{1, 1, 0, 0, 0}, "x", "write y"}) == "Line 1, column 1: x. Write y.");
}

} // namespace sieve
