#include "core/conditions/line_shown.h"

#include "tests/core/made_market.h"

#include <algorithm>
#include <catch2/catch.hpp>

namespace sieve::conditions {

namespace {

const language::Names builtIn{language::Vocabulary::builtIn()};
const std::vector<std::string> panes{"share_of(close > sma(close, 20))", "smaa(close, 3)"};

LineShown shownOn(const market::MarketPtr& market, Day day)
{
    engine::Evaluator evaluator(market);
    const Reading reading = readMarket(evaluator, builtIn, standardBook());
    return lineShown(evaluator, builtIn, reading.lines.front(), panes, day, {});
}

} // namespace

TEST_CASE("Line shown: as of a day it is what its evening's market shows", "[conditions]")
{
    const auto records = test::eventfulRecords(900);
    const auto whole = test::marketOf(records, "S100");
    std::size_t diverging = 0;
    for (const std::size_t session : {30U, 300U, 620U}) {
        const Day day = whole->sessions()[session];
        INFO(day.iso());
        const LineShown then = shownOn(test::cutAfter(records, day, "S100"), day);
        const LineShown now = shownOn(whole, day);
        CHECK(now.bars == then.bars);
        CHECK(now.swings == then.swings);
        CHECK(now.marks == then.marks);
        REQUIRE(now.divergences.size() == then.divergences.size());
        for (std::size_t i = 0; i < now.divergences.size(); ++i) {
            const DivergenceFound& found = now.divergences[i].found;
            CHECK(now.divergences[i].pane == then.divergences[i].pane);
            CHECK(found.first == then.divergences[i].found.first);
            CHECK(found.second == then.divergences[i].found.second);
            CHECK(found.knownOn < now.bars);
        }
        CHECK(std::ranges::is_sorted(now.divergences, std::greater{},
                                     [](const auto& each) { return each.found.knownOn; }));
        diverging += now.divergences.size();
    }
    CHECK(diverging > 0);
}

TEST_CASE("Line shown: a mistake stays in its pane, and before the first bar there is nothing",
          "[conditions]")
{
    const auto market = test::marketOf(test::eventfulRecords(), "S100");
    const LineShown shown = shownOn(market, market->sessions().back());
    REQUIRE(shown.panes.size() == 2);
    CHECK_FALSE(shown.panes[0].error);
    CHECK(shown.panes[1].error);
    CHECK(shown.bars == shown.line.bars().size());
    CHECK(shown.close(shown.bars - 1) == shown.line.bars().close.back());
    const LineShown before = shownOn(market, market->sessions().front().plusDays(-1));
    CHECK(before.bars == 0);
    CHECK(before.swings.empty());
    CHECK(before.marks.empty());
    CHECK(before.divergences.empty());
    CHECK(before.panes.size() == 2);
}

} // namespace sieve::conditions
