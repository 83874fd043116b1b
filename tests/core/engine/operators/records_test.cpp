#include "core/engine/evaluator.h"
#include "core/language/checker.h"
#include "tests/core/made_market.h"
#include "tests/core/same_bits.h"

#include <catch2/catch.hpp>

// Records of several columns a bar, of which each function reads one.

namespace sieve::engine {

namespace {

using test::sameBits;

/// High and low of twelve bars: inside, outside, and what is neither.
market::InstrumentRecord stock()
{
    auto record = test::recordOf("AAAA", std::vector<double>(12, 10.0));
    record.bars.high = {12, 11, 13, 13, 13, missing, 12, 10, 10, 11, 10.5, 10.5};
    record.bars.low = {8, 9, 7, 7, 8, 8, 9, 10, 10, 9, 9, 9};
    return record;
}

const std::vector<double> inside{missing, 1, 0, 0, 1, missing, missing, 0, 0, 0, 1, 0};
const std::vector<double> outside{missing, 0, 1, 0, 0, missing, missing, 0, 0, 0, 0, 0};

std::vector<double> historyOf(Evaluator& evaluator, const char* text)
{
    Plan plan;
    const language::Names names{language::Vocabulary::builtIn(), std::nullopt};
    const auto checked = check(text, names, plan);
    REQUIRE(checked);
    return evaluator.history(plan, checked->node, 0, test::day("2024-12-31"));
}

} // namespace

TEST_CASE("Records: inside and outside days, each column by itself and both at once", "[engine]")
{
    const auto market = test::marketOf({stock()});
    Evaluator evaluator(market);
    const std::vector<double> insideDays = historyOf(evaluator, "inside_day");
    const std::vector<double> outsideDays = historyOf(evaluator, "outside_day");
    const std::vector<double> both =
        historyOf(evaluator, "if(inside_day, 1, 0) + if(outside_day, 2, 0)");
    REQUIRE(insideDays.size() == inside.size());
    for (std::size_t bar = 0; bar < inside.size(); ++bar) {
        INFO("bar " << bar);
        CHECK(sameBits(insideDays[bar], inside[bar]));
        CHECK(sameBits(outsideDays[bar], outside[bar]));
        CHECK(sameBits(both[bar], inside[bar] + 2.0 * outside[bar]));
    }
}

TEST_CASE("Records: one day of all, a bar back and a run of days read the same column", "[engine]")
{
    const auto market = test::marketOf({stock()});
    Evaluator evaluator(market);
    Plan plan;
    const language::Names names{language::Vocabulary::builtIn(), std::nullopt};
    const NodeId today = check("outside_day", names, plan)->node;
    const NodeId before = check("prior(outside_day, 2)", names, plan)->node;
    const auto days = market->bars(0).days;
    for (std::size_t bar = 0; bar < days.size(); ++bar) {
        INFO("bar " << bar);
        CHECK(sameBits((*evaluator.column(plan, today, days[bar]))[0], outside[bar]));
        CHECK(sameBits((*evaluator.column(plan, before, days[bar]))[0],
                       bar < 2 ? missing : outside[bar - 2]));
    }
    const auto columns = evaluator.columnsOver(plan, today, days.subspan(3, 5));
    for (std::size_t i = 0; i < columns.size(); ++i)
        CHECK(sameBits((*columns[i])[0], outside[3 + i]));
}

} // namespace sieve::engine
