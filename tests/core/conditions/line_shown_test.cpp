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

TEST_CASE("Line: an index that was split goes on rising, and a past day shows its level of then",
          "[conditions]")
{
    std::vector<double> traded;
    for (int bar = 0; bar < 240; ++bar)
        traded.push_back((100.0 + bar) / (bar < 120 ? 1.0 : 2.0));
    auto index = test::recordOf("CRWX", traded);
    index.instrument.kind = market::InstrumentKind::Index;
    index.actions = {{index.bars.days[120], market::ActionKind::Split, 2.0}};
    const auto market =
        test::marketOf({test::recordOf("AAAA", std::vector<double>(240, 10.0)), index});
    engine::Evaluator evaluator(market);
    const auto lines = marketLines(*market);
    const auto line = std::ranges::find(lines, true, &Line::hasRange);
    REQUIRE(line != lines.end());
    for (std::size_t bar = 1; bar < 240; ++bar)
        REQUIRE(line->bars().close[bar] > line->bars().close[bar - 1]);
    CHECK(line->bars().close[119] == 219.0 / 2.0);
    const Day before = index.bars.days[119];
    CHECK(line->scaleOn(before) == 2.0);
    CHECK(line->scaleOn(index.bars.days[120]) == 1.0);
    LineReading read;
    read.line = *line;
    const LineShown then =
        lineShown(evaluator, {language::Vocabulary::builtIn()}, read, {}, before, Progress());
    CHECK(then.close(119) == 219.0); // as it traded
    CHECK(then.line.title == line->title);
    const LineShown now = lineShown(evaluator, {language::Vocabulary::builtIn()}, read, {},
                                    index.bars.days.back(), Progress());
    CHECK(now.close(119) == 219.0 / 2.0);
    CHECK(now.close(239) == traded.back());
}

} // namespace sieve::conditions
