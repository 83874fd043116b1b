#include "core/watchlists/weighing.h"

#include "tests/core/made_market.h"

#include <catch2/catch.hpp>

namespace sieve::watchlists {

TEST_CASE("Weighing: reasons and peers come back from TOML, what is wrong is located",
          "[watchlists]")
{
    const Weighing weighing{{"say \"no\"", "back\\slash", "two\nlines"},
                            {{"KELP.C", test::day("2025-03-14"), {"TIDE.C", "QUAY.T"}}}};
    const auto again = weighingFromToml(toToml(weighing));
    REQUIRE(again);
    CHECK(*again == weighing);
    CHECK(weighingFromToml("")->reasons.empty());
    const auto without = weighingFromToml("reasons = []\n[[peers]]\nof = \"KELP.C\"\n");
    REQUIRE_FALSE(without);
    CHECK(without.error().where.line == 2);
    CHECK_FALSE(weighingFromToml("reasons = [1]"));
    CHECK_FALSE(weighingFromToml("later = true"));
    CHECK_FALSE(standardWeighing().reasons.empty());
}

TEST_CASE("Weighing: chosen peers follow the stock through a new symbol", "[watchlists]")
{
    auto records = std::vector{test::recordOf("NEWER", std::vector<double>(300, 5.0)),
                               test::recordOf("OTHER", std::vector<double>(300, 5.0))};
    records[0].instrument.formerSymbols = {{"OLDER", test::day("2024-06-03")}};
    const auto market = test::marketOf(records);
    const std::size_t stock = *market->find("NEWER");
    Weighing weighing;
    choosePeers(weighing, *market, stock, test::day("2024-02-01"), {"OTHER"});
    REQUIRE(weighing.peers.size() == 1);
    CHECK(weighing.peers[0].of == "OLDER");
    CHECK(peersOf(weighing, *market, stock) == &weighing.peers[0]);
    CHECK(peersOf(weighing, *market, *market->find("OTHER")) == nullptr);
    choosePeers(weighing, *market, stock, test::day("2024-12-02"), {"OTHER", "THIRD"});
    REQUIRE(weighing.peers.size() == 1);
    CHECK(weighing.peers[0].of == "NEWER");
    choosePeers(weighing, *market, stock, test::day("2024-12-03"), {});
    CHECK(weighing.peers.empty());
}

} // namespace sieve::watchlists
