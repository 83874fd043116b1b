#include "core/engine/evaluator.h"
#include "core/language/checker.h"
#include "tests/core/made_market.h"

#include <catch2/catch.hpp>

// Bars of other scales, worked by hand.

namespace sieve::engine {

namespace {

std::vector<double> historyOf(const market::MarketPtr& market, const char* text,
                              std::size_t stock = 0)
{
    Evaluator evaluator(market);
    Plan plan;
    const auto checked = language::check(text, {language::Vocabulary::builtIn()}, plan);
    if (!checked)
        FAIL(text << ": " << sentence(checked.error()));
    return evaluator.history(plan, checked->node, stock, market->sessions().back());
}

/// Shows what is missing as -1.
std::vector<double> shown(std::vector<double> values)
{
    for (double& each : values)
        if (isMissing(each))
            each = -1;
    return values;
}

} // namespace

TEST_CASE("Weekly: the week that runs counts as its last bar", "[engine]")
{
    // From Monday 2024-01-01: two whole weeks and a Monday.
    const auto market =
        test::marketOf({test::recordOf("AAAA", {5, 9, 7, 6, 8, 4, 3, 12, 11, 10, 20})});
    CHECK(historyOf(market, "weekly(close)") ==
          std::vector<double>{5, 9, 7, 6, 8, 4, 3, 12, 11, 10, 20});
    CHECK(shown(historyOf(market, "weekly(prior(close))")) ==
          std::vector<double>{-1, -1, -1, -1, -1, 8, 8, 8, 8, 8, 10});
    CHECK(historyOf(market, "weekly(highest(close, 1)) * 0 + weekly(open)") ==
          std::vector<double>{5, 5, 5, 5, 5, 4, 4, 4, 4, 4, 20});
    const auto highs = historyOf(market, "weekly(high)");
    CHECK(highs[1] == Approx(9 * 1.01));
    CHECK(highs[4] == Approx(9 * 1.01));
    CHECK(highs[9] == Approx(12 * 1.01));
    CHECK(historyOf(market, "weekly(volume)")[2] == 1000 + 2000 + 3000);
    CHECK(historyOf(market, "weekly(bars)")[10] == 3);
}

TEST_CASE("Monthly: a month begins on its first day", "[engine]")
{
    std::vector<double> closes;
    for (int bar = 0; bar < 45; ++bar) // 23 weekdays of January 2024, 21 of February, 1 of March
        closes.push_back(bar + 1);
    const auto market = test::marketOf({test::recordOf("AAAA", closes)});
    const auto means = historyOf(market, "monthly(sma(close, 2))");
    CHECK(isMissing(means[22]));
    CHECK(means[23] == Approx((23 + 24) / 2.0));
    CHECK(means[44] == Approx((44 + 45) / 2.0));
}

TEST_CASE("Minutes: bars of n minutes, told at the day's last, a day without has none", "[engine]")
{
    const market::Bars daily = test::barsOf({10, 11, 12});
    std::vector<Minute> minutes;
    std::vector<double> price;
    std::vector<double> volume;
    for (const int day : {0, 2}) // the day between told no minutes
        for (int minute = 0; minute < 12; ++minute) {
            minutes.push_back(Minute::of(daily.days[static_cast<std::size_t>(day)], 600 + minute));
            price.push_back(100.0 * day + minute);
            volume.push_back(1.0);
        }
    market::MarketParts parts;
    market::InstrumentView view;
    view.instrument.symbol = "AAAA";
    view.bars = daily.view();
    view.minuteBars = {minutes, price, price, price, price, volume};
    parts.instruments.push_back(view);
    parts.sessions = daily.days;
    const auto market = std::make_shared<const market::Market>(parts);
    CHECK(shown(historyOf(market, "minutes(5, close)")) == std::vector<double>{11, -1, 211});
    CHECK(shown(historyOf(market, "minutes(5, volume)")) == std::vector<double>{2, -1, 2});
    CHECK(shown(historyOf(market, "minutes(5, low)")) == std::vector<double>{10, -1, 210});
    CHECK(shown(historyOf(market, "minutes(5, high)")) == std::vector<double>{11, -1, 211});
    CHECK(shown(historyOf(market, "minutes(5, open)")) == std::vector<double>{10, -1, 210});
    // 3 bars a day: the last before the third day's are those of the first.
    CHECK(shown(historyOf(market, "minutes(5, prior(close, 3))")) ==
          std::vector<double>{-1, -1, 11});
}

TEST_CASE("Minutes: those before a split stand on the footing of the day asked for", "[engine]")
{
    const market::Bars daily = test::barsOf({40, 22, 24});
    std::vector<Minute> minutes;
    for (const Day day : daily.days)
        minutes.push_back(Minute::of(day, 600));
    const std::vector<double> price{40, 22, 24};
    const std::vector<double> volume{10, 30, 30};
    const market::Action split{daily.days[1], market::ActionKind::Split, 2.0};
    market::MarketParts parts;
    market::InstrumentView view;
    view.instrument.symbol = "AAAA";
    view.bars = daily.view();
    view.minuteBars = {minutes, price, price, price, price, volume};
    view.actions = {&split, 1};
    parts.instruments.push_back(view);
    parts.sessions = daily.days;
    const auto market = std::make_shared<const market::Market>(parts);
    CHECK(historyOf(market, "minutes(5, close)") == std::vector<double>{20, 22, 24});
    CHECK(historyOf(market, "minutes(5, volume)") == std::vector<double>{20, 30, 30});
}

TEST_CASE("Benchmark, index and composite: other lines on the stock's days", "[engine]")
{
    auto late = test::recordOf("BBBB", {1, 1});
    late.bars = test::barsOf({50, 60}, test::day("2024-01-03"));
    auto line = test::recordOf("LINE", {1, 2, 4, 8});
    line.instrument.kind = market::InstrumentKind::Index;
    const auto market =
        test::marketOf({test::recordOf("AAAA", {10, 11, 12.1, 12.1}), late, line}, "LINE");
    CHECK(historyOf(market, "benchmark(close)", 1) == std::vector<double>{4, 8});
    CHECK(historyOf(market, "index(\"AAAA\", prior(close))", 1) == std::vector<double>{11, 12.1});
    CHECK(shown(historyOf(market, "index(\"NONE\", close)", 1)) == std::vector<double>{-1, -1});
    const auto composite = historyOf(market, "composite(close)");
    CHECK(composite[1] == Approx(1000 * 1.1));
    CHECK(composite[3] == Approx(1000 * 1.1 * 1.1 * (1 + 0.2 / 2)));
    CHECK(historyOf(market, "weekly(benchmark(close))")[2] == 4);
}

TEST_CASE("Groups and lists as one line: from the first of them on, each while it counts",
          "[engine]")
{
    auto first = test::recordOf("AAAA", {10, 11, 12.1, 12.1, 24.2});
    auto second = test::recordOf("BBBB", {50, 50, 55, 55, 55});
    auto late = test::recordOf("CCCC", {1});
    late.bars = test::barsOf({8, 16, 32}, test::day("2024-01-03"));
    first.instrument.sector = "Energy";
    second.instrument.sector = "Shipping";
    late.instrument.sector = "Shipping";
    late.instrument.industry = "Ferries";
    const auto market = test::marketOf({first, second, late});
    const auto energy = historyOf(market, "group(\"Energy\", close)", 1);
    REQUIRE(energy.size() == 5);
    for (std::size_t bar = 0; bar < 5; ++bar)
        CHECK(energy[bar] == Approx(std::vector<double>{1000, 1100, 1210, 1210, 2420}[bar]));
    const auto shipping = historyOf(market, "group(\"Shipping\", close)");
    CHECK(shipping[2] == Approx(1000 * 1.1)); // the late one has no close before
    CHECK(shipping[3] == Approx(1000 * 1.1 * 1.5));
    CHECK(shown(historyOf(market, "group(\"Ferries\", close)")) ==
          std::vector<double>{-1, -1, 1000, 2000, 4000});
    CHECK(shown(historyOf(market, "group(\"Nowhere\", close)")) ==
          std::vector<double>{-1, -1, -1, -1, -1});
    CHECK(shown(historyOf(market, "group(\"Shipping\", close, weight = cap)")) ==
          std::vector<double>{1000, 1000, 1000, 1000, 1000}); // nobody has a share count

    // A list: each stock counts from the day on which it came to the day on which it left.
    auto members = std::make_shared<ListMembers>();
    members->stays = {{"AAAA", test::day("2024-01-02"), test::day("2024-01-04")},
                      {"BBBB", test::day("2024-01-03"), std::nullopt}};
    language::Names names{language::Vocabulary::builtIn()};
    names.list = [&](std::string_view name) {
        return name == "Quay" ? members : std::shared_ptr<ListMembers>();
    };
    Plan plan;
    const auto node = check("list(\"Quay\", close)", names, plan);
    REQUIRE(node);
    Evaluator evaluator(market);
    const auto line = evaluator.history(plan, node->node, 0, test::day("2024-01-05"));
    REQUIRE(line.size() == 5);
    CHECK(isMissing(line[0])); // nobody was on it
    CHECK(line[1] == 1000 * 1.1);
    CHECK(line[2] == Approx(1000 * 1.1 * (1 + 0.2 / 2))); // both
    CHECK(line[3] == line[2]);
    CHECK(line[4] == line[2]); // the first has left
    const auto none = check("list(\"Pier\", close)", names, plan);
    REQUIRE_FALSE(none);
    CHECK(none.error().problem == "no list 'Pier'");
}

TEST_CASE("Composite: its total return counts dividends, whoever pays them and whenever",
          "[engine]")
{
    auto records = test::eventfulRecords();
    for (std::size_t i = 0; i < records.size(); i += 3)
        for (const std::size_t bar : {40U, 100U, 101U, 200U})
            if (bar < records[i].bars.size())
                records[i].actions.push_back({records[i].bars.days[bar],
                                              market::ActionKind::Dividend,
                                              0.01 * static_cast<double>(i + 1)});
    for (market::InstrumentRecord& record : records)
        sortRows(record);
    const auto market = test::marketOf(std::move(records), "S100");
    std::size_t longest = 0;
    for (std::size_t i = 0; i < market->size(); ++i)
        longest = market->bars(i).size() > market->bars(longest).size() ? i : longest;
    for (const auto& [text, weight] : {std::pair("equal", market::Weight::Equal),
                                       std::pair("cap", market::Weight::Capitalization)}) {
        const std::string kind = std::string("weight = ") + text;
        const auto paid =
            historyOf(market, ("composite(total_return, " + kind + ")").c_str(), longest);
        const auto plain = historyOf(market, ("composite(close, " + kind + ")").c_str(), longest);
        const auto total = market::makeComposite(*market, market::allShares(*market), weight,
                                                 market::Return::Total);
        const auto days = market->bars(longest).days;
        for (std::size_t bar = 0; bar < days.size(); ++bar) {
            const auto place = std::ranges::lower_bound(total.days, days[bar]) - total.days.begin();
            CHECK(paid[bar] ==
                  Approx(total.levels[static_cast<std::size_t>(place)]).epsilon(1e-10));
            CHECK(paid[bar] >= plain[bar] * (1.0 - 1e-12));
        }
        CHECK((weight == market::Weight::Capitalization || paid.back() > 1.0001 * plain.back()));
    }
}

TEST_CASE("Other bars: what has no place on them is refused with a remedy", "[engine]")
{
    const auto problem = [](const char* text) {
        Plan plan;
        const auto checked = language::check(text, {language::Vocabulary::builtIn()}, plan);
        return checked ? std::string("taken") : checked.error().problem;
    };
    CHECK(problem("weekly(rank(close))") == "stocks are not compared inside weekly");
    CHECK(problem("benchmark(strength_63)") == "stocks are not compared inside benchmark");
    CHECK(problem("weekly(monthly(close))") ==
          "bars of one scale cannot be made from those of another");
    CHECK(problem("weekly(on_day(2024-01-01, close))") == "weekly knows no calendar days");
    CHECK(problem("benchmark(index(\"AAAA\", close))") == "this already is about another line");
    CHECK(problem("composite(close, weight = large)") == "this is no way to weigh");
    CHECK(problem("rank(weekly(close))") == "taken");
    CHECK(problem("in_base > 1") == "'in_base' is not available yet");
    CHECK(problem("tight(5, 2%)") == "'tight' is not available yet");
    CHECK(problem("last > 5") == "taken");
}

} // namespace sieve::engine
