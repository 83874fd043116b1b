#include "core/engine/stretches.h"

#include "core/market/as_of.h"
#include "tests/core/made_market.h"

#include <catch2/catch.hpp>

namespace sieve::engine {

TEST_CASE("Stretches: each day has the newest bar by then, on one footing a stretch", "[engine]")
{
    const market::MarketPtr market = test::marketOf(test::eventfulRecords(700));
    const auto sessions = market->sessions();
    const auto step = GENERATE(std::size_t{1}, std::size_t{3}, std::size_t{290});
    std::vector<Day> days; // all of them, some of them, few far apart
    for (std::size_t i = 0; i < sessions.size(); i += step)
        days.push_back(sessions[i]);
    const std::vector<Day> cuts{sessions[350]};
    Stretches stretches(*market, days, cuts);
    for (std::size_t stock = 0; stock < market->size(); ++stock) {
        std::vector<std::optional<std::size_t>> found(days.size());
        for (const Stretch& stretch : stretches.of(stock)) {
            const auto bars = stretches.bars(stretch);
            REQUIRE(bars.size() == stretch.endDay - stretch.firstDay);
            CHECK(bars.front() == stretch.firstBar);
            CHECK(bars.back() + 1U == stretch.endBar);
            const Day first = market->bars(stock).days[stretch.firstBar];
            const Day last = market->bars(stock).days[stretch.endBar - 1];
            CHECK((last < cuts[0] || first >= cuts[0])); // another's split divides it too
            for (std::size_t i = 0; i < bars.size(); ++i) {
                found[stretch.firstDay + i] = bars[i];
                REQUIRE(market->footing(stock, bars[i]) == stretch.footing);
            }
        }
        for (std::size_t day = 0; day < days.size(); ++day)
            REQUIRE(found[day] == market::barOn(*market, stock, days[day]));
    }
}

} // namespace sieve::engine
