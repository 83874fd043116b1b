#include "core/engine/day_table.h"

#include "core/base/missing.h"

#include <catch2/catch.hpp>

namespace sieve::engine {

namespace {

double valueOf(std::size_t instrument, std::size_t day)
{
    return static_cast<double>(1000 * instrument + day);
}

} // namespace

TEST_CASE("Day table: along instruments and along days the same values, across every seam",
          "[engine]")
{
    constexpr std::size_t instruments = 37;
    const std::size_t days = GENERATE(1U, 2U, 63U, 64U, 65U, 130U);
    INFO(days << " days");
    DayTable along(instruments, days);
    CHECK(along.days() == days);
    CHECK(isMissing(along.at(0, 0)));
    CHECK(isMissing(along.at(instruments - 1, days - 1)));
    DayTable across = DayTable::unset(instruments, days);
    for (std::size_t instrument = 0; instrument < instruments; ++instrument) {
        std::vector<double> own;
        for (std::size_t day = 0; day < days; ++day)
            own.push_back(valueOf(instrument, day));
        const std::size_t half = days / 2; // two pieces, wherever the seam of a block lies
        along.setInstrument(instrument, 0, std::span(own).first(half));
        along.setInstrument(instrument, half, std::span(own).subspan(half));
    }
    for (std::size_t first = 0; first < days; first += 8) { // all of one block
        std::vector<std::vector<double>> columns(std::min<std::size_t>(8, days - first),
                                                 std::vector<double>(instruments));
        along.copyDays(first, columns);
        across.setDays(first, columns);
        std::vector<double> column(instruments);
        along.copyDay(first, column);
        CHECK(column == columns[0]);
    }
    for (std::size_t instrument = 0; instrument < instruments; ++instrument) {
        std::vector<double> own(days);
        across.copyInstrument(instrument, 0, own);
        for (std::size_t day = 0; day < days; ++day) {
            REQUIRE(own[day] == valueOf(instrument, day));
            REQUIRE(across.at(instrument, day) == valueOf(instrument, day));
        }
    }
    std::vector<double> last(days - days / 3);
    across.copyInstrument(5, days / 3, last);
    CHECK(last.front() == valueOf(5, days / 3));
    CHECK(last.back() == valueOf(5, days - 1));
}

TEST_CASE("Day table: made anew in its memory it remembers nothing", "[engine]")
{
    DayTable table(4, 200);
    for (std::size_t day = 0; day < 200; ++day)
        table.setDay(day, std::vector<double>{1.0, 2.0, 3.0, 4.0});
    for (const std::size_t days : {100U, 1U, 300U}) {
        table.reset(6, days);
        CHECK(table.days() == days);
        for (std::size_t instrument = 0; instrument < 6; ++instrument)
            for (std::size_t day = 0; day < days; ++day)
                REQUIRE(isMissing(table.at(instrument, day)));
        table.set(5, days - 1, 7.0);
        CHECK(table.at(5, days - 1) == 7.0);
    }
}

} // namespace sieve::engine
