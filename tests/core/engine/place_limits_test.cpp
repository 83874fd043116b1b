#include "core/engine/place_limits.h"

#include "core/engine/across.h"
#include "core/engine/evaluator.h"
#include "core/language/checker.h"
#include "demo_market/dice.h"
#include "tests/core/made_market.h"

#include <bit>
#include <catch2/catch.hpp>
#include <numeric>

namespace sieve::engine {

namespace {

Node partOf(Op op)
{
    Node part;
    part.op = op;
    return part;
}

/// Figures of one day: of some nothing is known, some are equal; in some order.
std::vector<double> figuresOf(demo_market::Dice& dice, std::size_t count)
{
    const std::size_t different = dice.chance(0.3) ? 3 : 2 * count;
    std::vector<double> figures(count);
    for (double& figure : figures)
        figure = static_cast<double>(dice.below(different)) - 2.0;
    if (dice.chance(0.3))
        std::ranges::sort(figures);
    if (dice.chance(0.2))
        std::ranges::sort(figures, std::greater());
    const double unknown = dice.chance(0.5) ? 0.3 : 0.0;
    for (double& figure : figures)
        figure = dice.chance(unknown) ? missing : figure;
    return figures;
}

bool keeps(PlaceLimit place, double value, double limit)
{
    switch (place) {
    case PlaceLimit::PercentileAtLeast:
        return value >= limit;
    case PlaceLimit::PercentileAbove:
        return value > limit;
    case PlaceLimit::RankAtMost:
        return value <= limit;
    case PlaceLimit::RankBelow:
        break;
    }
    return value < limit;
}

} // namespace

TEST_CASE("Least placed: who keeps to a limit is who is not less than the least that does",
          "[engine]")
{
    demo_market::Dice dice(static_cast<std::uint64_t>(GENERATE(range(1, 121))));
    const std::size_t count = dice.chance(0.5) ? 1 + dice.below(12) : 200 + dice.below(2000);
    const std::vector<double> figures = figuresOf(dice, count);
    std::vector<double> ofGroups(count);
    for (double& group : ofGroups)
        group = static_cast<double>(dice.below(3));
    const StockGroups groups =
        dice.chance(0.5) ? StockGroups::all(count) : StockGroups::of(ofGroups, false);
    const auto place = static_cast<PlaceLimit>(dice.below(4));
    const bool isRank = place == PlaceLimit::RankAtMost || place == PlaceLimit::RankBelow;
    std::vector<double> places(count);
    across(partOf(isRank ? Op::Rank : Op::Percentile), figures, groups, places);
    for (int turn = 0; turn < 8; ++turn) {
        Node limit = partOf(Op::LeastPlaced);
        limit.place = place;
        // A place that somebody has, or any, or one that all or none keep to.
        const double known = places[dice.below(count)];
        limit.number = dice.chance(0.5) && !isMissing(known) ? known
                       : dice.chance(0.8)                    ? dice.between(0.0, 100.0)
                                                             : dice.between(-20.0, 3000.0);
        INFO("of " << count << ", limit " << limit.number << ", kind " << static_cast<int>(place));
        std::vector<double> least(count);
        across(limit, figures, groups, least);
        for (std::size_t i = 0; i < count; ++i) {
            REQUIRE(isMissing(least[i]) == isMissing(places[i]));
            if (!isMissing(places[i]))
                REQUIRE((figures[i] >= least[i]) == keeps(place, places[i], limit.number));
        }
    }
}

TEST_CASE("Place limits: a comparison with a number becomes one of the figure, others stay",
          "[engine]")
{
    language::Names names{language::Vocabulary::builtIn(), std::nullopt};
    Plan plan;
    names.universe = check("close > 5", names, plan)->node;
    const auto restated = [&](const char* text) {
        const auto checked = check(text, names, plan);
        if (!checked)
            FAIL(sentence(checked.error()));
        const NodeId target = checked->node;
        const TargetPlan rewritten = withPlaceLimits(plan, std::span(&target, 1));
        for (NodeId id = 0; id < rewritten.plan.size(); ++id)
            if (rewritten.plan[id].op == Op::LeastPlaced)
                return true;
        return false;
    };
    CHECK(restated("percentile(close) >= 65"));
    CHECK(restated("20 > rank(volume, within = sector)"));
    CHECK(restated("share_of(percentile(close) > 50) > 0.1"));
    CHECK(restated("sma(close, 5) > 3 and not rank(close) > 10"));
    CHECK_FALSE(restated("percentile(close) == 50"));
    CHECK_FALSE(restated("percentile(close) > rank(close)"));
    CHECK_FALSE(restated("percentile(close) + 1 > 50"));
    CHECK_FALSE(restated("zscore(close) > 1"));
    CHECK_FALSE(restated("percentile(close, within = universe) > 50")); // groups of each day
}

TEST_CASE("Place limits: many days at once give the bits of each alone", "[engine]")
{
    auto records = test::eventfulRecords(420);
    records[3].instrument.kind = market::InstrumentKind::Index; // it has no place among stocks
    const market::MarketPtr market = test::marketOf(std::move(records), "S100");
    const language::Names names{language::Vocabulary::builtIn(), std::nullopt};
    Plan plan;
    const char* const text = GENERATE(
        "percentile(change(close, 20)) >= 65", "percentile(close, within = sector) < 40",
        "rank(volume) <= 5", "8 >= rank(close / sma(close, 9), within = sector)",
        "percentile(ttm(eps)) > 100", "rank(close) > 3 or percentile(rsi(close, 5)) <= 25",
        "share_of(percentile(close) > 80) > 0.15", "sma(if(rank(close) < 9, 1, 0), 4) > 0.5");
    INFO(text);
    const auto checked = check(text, names, plan);
    REQUIRE(checked);
    const auto sessions = market->sessions();
    const std::vector<Day> days(sessions.begin() + 300, sessions.begin() + 340);
    Evaluator evaluator(market);
    const auto over = evaluator.columnsOver(plan, checked->node, days);
    bool isAnyYes = false;
    for (std::size_t day = 0; day < days.size(); day += 7) {
        Evaluator fresh(market);
        const ColumnPtr alone = fresh.column(plan, checked->node, days[day]);
        for (std::size_t stock = 0; stock < market->size(); ++stock) {
            const double a = (*alone)[stock];
            const double b = (*over[day])[stock];
            INFO("day " << day << ", stock " << stock << ": " << a << ", together " << b);
            REQUIRE(((isMissing(a) && isMissing(b)) || a == b));
            isAnyYes = isAnyYes || a == 1.0;
        }
    }
    CHECK(isAnyYes == (std::string_view(text) != "percentile(ttm(eps)) > 100"));
}

TEST_CASE("Medians: those found from a day nearby are those found from nothing", "[engine]")
{
    demo_market::Dice dice(static_cast<std::uint64_t>(GENERATE(range(1, 61))));
    const std::size_t count = 1 + dice.below(150);
    const std::vector<double> figures = figuresOf(dice, count);
    const StockGroups groups = StockGroups::all(count);
    const Node median = partOf(Op::Median);
    double want = missing;
    acrossGroups(median, figures, groups, {}, std::span(&want, 1));
    const double nears[] = {want, want + 1.0, want - 0.5, -1e9, 1e9, missing, figures[0]};
    for (const double near : nears) {
        INFO("near " << near << ", median " << want);
        double got = missing;
        acrossGroups(median, figures, groups, std::span(&near, 1), std::span(&got, 1));
        CHECK(((isMissing(want) && isMissing(got)) || got == want));
    }
}

} // namespace sieve::engine
