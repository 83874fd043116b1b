#include "core/charts/comparable.h"

#include "core/charts/chart.h"
#include "tests/core/made_market.h"

#include <catch2/catch.hpp>
#include <set>

// What a chart can be compared with.

namespace sieve::charts {

TEST_CASE("Comparables: indexes, lists and groups before instruments, all of them checked",
          "[charts]")
{
    const auto market = test::marketOf(test::eventfulRecords(260), "S100");
    watchlists::Watchlist quay{1, "Quay", {}, {}};
    watchlists::Watchlist quoted{2, "The \"best\"", {}, {}};
    const std::vector<Shared<watchlists::Watchlist>> lists{quay, quoted};
    const auto all = comparables(*market, lists);
    REQUIRE(all.size() > 8);
    CHECK(all[0].expression == "benchmark(close)");
    const auto of = [&](std::string_view kind) {
        return std::ranges::count(all, kind, &Comparable::kind);
    };
    CHECK(of("your list") == 1); // a quotation mark cannot be said
    CHECK(of("sector") > 0);
    CHECK(of("industry") > 0);
    CHECK(of("stock") + of("index") == static_cast<std::ptrdiff_t>(market->size()));
    engine::Evaluator evaluator(market);
    language::Names names{language::Vocabulary::builtIn()};
    names.list = [](std::string_view) { return std::make_shared<engine::ListMembers>(); };
    for (const Comparable& each : all) {
        INFO(each.expression);
        engine::Plan plan;
        CHECK(check(each.expression, names, plan));
    }
    const auto quays = std::ranges::find(all, "Quay", &Comparable::title);
    REQUIRE(quays != all.end());
    CHECK(quays->expression == "list(\"Quay\", close)");
    CHECK(all.back().kind == "stock");
}

TEST_CASE("Comparables: laid over the prices from one start, each in another colour", "[charts]")
{
    SetUp setUp = standardSetUp();
    const std::size_t own = setUp.panes[0].layers.size();
    std::set<PalettePart> colours;
    for (const LayerSetUp& layer : setUp.panes[0].layers)
        colours.insert(layer.colour);
    const auto with = comparedWith(setUp, {"sector", "Energy", "group(\"Energy\", close)"});
    REQUIRE(with);
    CHECK(with->values == ValueScale::Percent);
    CHECK(with->name == "Candidate, changed");
    REQUIRE(with->panes[0].layers.size() == own + 1);
    const LayerSetUp& line = with->panes[0].layers.back();
    CHECK(line.isCompared);
    CHECK_FALSE(colours.contains(line.colour));
    setUp.panes[0].layers.resize(mostLayers, {"close"});
    CHECK_FALSE(comparedWith(setUp, {"sector", "Energy", "group(\"Energy\", close)"}));
}

} // namespace sieve::charts
