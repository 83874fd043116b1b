#include "core/watchlists/sitting.h"

#include <catch2/catch.hpp>

namespace sieve::watchlists {

TEST_CASE("Sitting: reasons are counted by decision, the later ones are gone through again",
          "[watchlists]")
{
    const Day day = Day::fromSerial(20'000);
    Tray tray({{"A", day, Mark::Dropped, "", "thin"},
               {"B", day, Mark::Kept, "", "strong"},
               {"C", day, Mark::Dropped, "", ""},
               {"D", day, Mark::Dropped, "", "thin"},
               {"E", day, Mark::Later, "", "thin"},
               {"F", day, Mark::Open, "", "strong"},
               {"G", day, Mark::Dropped, "", ""},
               {"H", day, Mark::Dropped, "", ""},
               {"I", day, Mark::Dropped, "", ""}});
    CHECK(reasonsOf(tray) == std::vector<ReasonCount>{{"thin", 0, 2, 1},
                                                      {"strong", 1, 0, 0}, // one is undecided
                                                      {"", 0, 4, 0}});
    CHECK(takeLaterAgain(tray) == 1);
    CHECK(tray.counts().open == 2);
    CHECK(tray.counts().later == 0);
    CHECK(tray.cards()[4].reason == "thin");
    CHECK(takeLaterAgain(tray) == 0);
    CHECK(reasonsOf(Tray()).empty());
}

} // namespace sieve::watchlists
