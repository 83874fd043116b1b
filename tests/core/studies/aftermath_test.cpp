#include "core/studies/aftermath.h"

#include "core/market/as_of.h"
#include "core/screens/name_book.h"
#include "tests/core/made_market.h"

#include <algorithm>
#include <catch2/catch.hpp>
#include <fmt/format.h>
#include <map>

namespace sieve::studies {

namespace {

using test::day;

std::vector<Occurrence> found(std::string_view condition, engine::Evaluator& evaluator, Day when)
{
    const screens::NameBook book;
    const auto made = occurrencesOf(condition, book.names(), evaluator, when);
    REQUIRE(made);
    return *made;
}

/// A stock whose bars are told one by one.
market::MarketPtr marketOfBars(const std::vector<market::Bar>& bars)
{
    market::InstrumentRecord record = test::recordOf("ONE", std::vector<double>(bars.size(), 1.0));
    const std::vector<Day> days(record.bars.days.begin(), record.bars.days.end());
    market::Bars told;
    for (std::size_t i = 0; i < bars.size(); ++i) {
        market::Bar bar = bars[i];
        bar.day = days[i];
        told.add(bar);
    }
    record.bars = told;
    return test::marketOf({record});
}

market::Bar barOf(double open, double high, double low, double close)
{
    return {Day::fromSerial(0), open, high, low, close, 1000.0};
}

Aftermath onlyOne(const std::vector<market::Bar>& bars, const Terms& terms)
{
    const auto market = marketOfBars(bars);
    const Occurrence first[] = {{0, 0}};
    return aftermathOf(first, terms, *market, market->sessions().back()).at(0);
}

} // namespace

TEST_CASE("Occurrences: where a condition begins to hold, by hand", "[studies]")
{
    engine::Evaluator evaluator(test::marketOf(
        {test::recordOf("A", {1, 5, 6, 2, 7}), test::recordOf("B", {9, 9, 1, 1, 9})}));
    const Day last = evaluator.market().sessions().back();
    CHECK(found("close > 4", evaluator, last) ==
          std::vector<Occurrence>{{0, 1}, {0, 4}, {1, 0}, {1, 4}});
    CHECK(found("close > 4", evaluator, evaluator.market().sessions()[2]) ==
          std::vector<Occurrence>{{0, 1}, {1, 0}});
    CHECK(found("close > 100", evaluator, last).empty());
    CHECK(found("close > 4", evaluator, day("1990-01-01")).empty());
    const screens::NameBook book;
    const auto wrong = occurrencesOf("close >", book.names(), evaluator, last);
    REQUIRE_FALSE(wrong);
    CHECK_FALSE(occurrencesOf("close", book.names(), evaluator, last));
}

TEST_CASE("Aftermath: stop, target, gap, time and what is still open, by hand", "[studies]")
{
    Terms terms;
    terms.spans = {1, 2, 3};
    terms.stop = 0.10;
    terms.target = 0.20;
    terms.within = 3;
    const market::Bar seen = barOf(99, 99, 99, 99); // the bar at whose close it was known
    SECTION("target")
    {
        const Aftermath one =
            onlyOne({seen, barOf(100, 105, 95, 102), barOf(104, 125, 103, 110), seen}, terms);
        CHECK(one.bought == 100.0);
        CHECK(one.end == End::Reached);
        CHECK(one.bars == 2);
        CHECK(one.result == Approx(0.20));
        CHECK(one.worst == Approx(-0.05));
        CHECK(one.changes[0] == Approx(0.02));
        CHECK(one.changes[1] == Approx(0.10));
        CHECK(one.changes[2] == Approx(-0.01));
    }
    SECTION("on one bar the stop goes first, on the bar of the purchase too")
    {
        const Aftermath one = onlyOne({seen, barOf(100, 130, 85, 110)}, terms);
        CHECK(one.end == End::Stopped);
        CHECK(one.result == Approx(-0.10));
        CHECK(one.worst == Approx(-0.10));
        CHECK(one.bars == 1);
    }
    SECTION("a gap below the stop is sold at the open")
    {
        const Aftermath one =
            onlyOne({seen, barOf(100, 101, 99, 100), barOf(80, 130, 70, 90)}, terms);
        CHECK(one.end == End::Stopped);
        CHECK(one.result == Approx(-0.20));
        CHECK(one.worst == Approx(-0.20));
    }
    SECTION("a gap above the target is sold at the open")
    {
        const Aftermath one =
            onlyOne({seen, barOf(100, 101, 99, 100), barOf(130, 131, 50, 90)}, terms);
        CHECK(one.end == End::Reached);
        CHECK(one.result == Approx(0.30));
        CHECK(one.worst == Approx(-0.01));
    }
    SECTION("time")
    {
        const market::Bar calm = barOf(100, 104, 97, 101);
        const Aftermath one = onlyOne({seen, calm, calm, calm, barOf(1, 1, 1, 1)}, terms);
        CHECK(one.end == End::Neither);
        CHECK(one.bars == 3);
        CHECK(one.result == Approx(0.01));
        CHECK(one.worst == Approx(-0.03));
    }
    SECTION("open, and not yet bought")
    {
        const Aftermath one = onlyOne({seen, barOf(100, 104, 97, 103)}, terms);
        CHECK(one.end == End::Open);
        CHECK(one.result == Approx(0.03));
        CHECK(isMissing(one.changes[1]));
        const Aftermath unbought = onlyOne({seen}, terms);
        CHECK(unbought.end == End::Open);
        CHECK(isMissing(unbought.bought));
        CHECK(isMissing(unbought.worst));
        CHECK(unbought.bars == 0);
    }
}

TEST_CASE("Aftermath: a delisted stock ends with its last price", "[studies]")
{
    market::InstrumentRecord record = test::recordOf("GONE", {10, 10, 10, 5});
    record.instrument.delistedOn = record.bars.days.back().plusDays(1);
    const auto market = test::marketOf({record, test::recordOf("LIVE", {1, 1, 1, 1, 1, 1})});
    Terms terms;
    terms.stop = 0.9;
    const Occurrence first[] = {{0, 1}};
    const Aftermath one = aftermathOf(first, terms, *market, market->sessions().back()).at(0);
    CHECK(one.end == End::Neither);
    CHECK(one.changes[2] == Approx(5.0 / one.bought - 1.0));
    CHECK(one.result == one.changes[2]);
    // On its last day nobody knew that it would go.
    const Aftermath then = aftermathOf(first, terms, *market, record.bars.days.back()).at(0);
    CHECK(then.end == End::Open);
    CHECK(isMissing(then.changes[2]));
}

TEST_CASE("Aftermath: held against a search by brute force on an eventful market", "[studies]")
{
    engine::Evaluator evaluator(test::marketOf(test::eventfulRecords(420)));
    const market::Market& market = evaluator.market();
    const Day when = day("2025-05-20");
    const screens::NameBook book;
    for (const char* condition : {"close > sma(close, 20)", "percentile(change(close, 10)) > 80",
                                  "close > 12 and volume > 0", "quarter(eps) > quarter(eps, 1)"}) {
        INFO(condition);
        // Day by day over all stocks: the bars of each on which it held.
        engine::Plan plan;
        const auto node = checkCondition(condition, book.names(), plan)->node;
        std::map<std::size_t, std::map<std::size_t, bool>> held;
        for (const Day each : market.sessions()) {
            if (each > when)
                break;
            const auto column = evaluator.column(plan, node, each);
            for (std::size_t stock = 0; stock < market.size(); ++stock)
                if (const auto bar = market::barOn(market, stock, each))
                    if (market.isListed(stock, each) && !market.isIndex(stock))
                        held[stock][*bar] = (*column)[stock] == 1.0;
        }
        std::vector<Occurrence> expected;
        for (const auto& [stock, bars] : held)
            for (const auto& [bar, isHeld] : bars)
                if (isHeld && (bar == 0 || !bars.contains(bar - 1) || !bars.at(bar - 1)))
                    expected.push_back({stock, bar});
        const std::vector<Occurrence> all = found(condition, evaluator, when);
        CHECK(all == expected);

        const Terms terms;
        const auto cases = aftermathOf(all, terms, market, when);
        for (std::size_t i = 0; i < cases.size(); i += 3) {
            const Aftermath& one = cases[i];
            const market::Bars bars =
                market::AsOf(evaluator.marketPtr(), when).adjustedBars(one.of.stock);
            if (bars.size() == 0 || one.of.bar + 1 >= bars.size())
                continue;
            const double bought = bars.open[one.of.bar + 1];
            CHECK(one.bought == Approx(bought));
            double lowest = bought;
            End end = End::Open;
            double sold = bars.close.back();
            for (std::size_t bar = one.of.bar + 1; bar < bars.size() && end == End::Open; ++bar) {
                const bool isFirst = bar == one.of.bar + 1;
                const int count = static_cast<int>(bar - one.of.bar);
                const double low = 0.92 * bought;
                const double high = 1.20 * bought;
                if (!isFirst && (bars.open[bar] <= low || bars.open[bar] >= high)) {
                    end = bars.open[bar] <= low ? End::Stopped : End::Reached;
                    sold = bars.open[bar];
                    lowest = std::min(lowest, sold);
                    continue;
                }
                if (bars.low[bar] <= low) {
                    end = End::Stopped;
                    sold = low;
                    lowest = std::min(lowest, low);
                    continue;
                }
                lowest = std::min(lowest, bars.low[bar]);
                if (bars.high[bar] >= high) {
                    end = End::Reached;
                    sold = high;
                } else if (count == 60) {
                    end = End::Neither;
                    sold = bars.close[bar];
                }
            }
            if (end == End::Open && market.instrument(one.of.stock).delistedOn &&
                *market.instrument(one.of.stock).delistedOn <= when)
                end = End::Neither;
            CHECK(one.end == end);
            CHECK(one.result == Approx(sold / bought - 1.0).margin(1e-12));
            CHECK(one.worst == Approx(lowest / bought - 1.0).margin(1e-12));
        }
        // By another stop and time: the same as if asked anew.
        Terms other;
        other.stop = 0.03;
        other.target = 0.05;
        other.within = 10;
        const auto again = withOtherExits(cases, other, market, when);
        const auto anew = aftermathOf(all, other, market, when);
        REQUIRE(again.size() == anew.size());
        for (std::size_t i = 0; i < again.size(); ++i) {
            CHECK(again[i].end == anew[i].end);
            CHECK(again[i].bars == anew[i].bars);
            CHECK(again[i].isIndependent == anew[i].isIndependent);
            CHECK((again[i].result == anew[i].result ||
                   (isMissing(again[i].result) && isMissing(anew[i].result))));
            CHECK((again[i].others[2] == anew[i].others[2] || isMissing(anew[i].others[2])));
        }
        // Beside each: the mean of all stocks that traded on its day.
        for (std::size_t i = 0; i < cases.size(); i += 17) {
            double sum = 0.0;
            int count = 0;
            for (std::size_t stock = 0; stock < market.size(); ++stock) {
                const market::Bars bars =
                    market::AsOf(evaluator.marketPtr(), when).adjustedBars(stock);
                const auto at = std::ranges::find(bars.days, cases[i].day) - bars.days.begin();
                const auto bar = static_cast<std::size_t>(at);
                if (market.isIndex(stock) || bar + 20 >= bars.size())
                    continue;
                sum += bars.close[bar + 20] / bars.open[bar + 1] - 1.0;
                ++count;
            }
            if (count > 0 && !isMissing(cases[i].others[1]) &&
                cases[i].day < day("2024-06-01")) // none is delisted yet
                CHECK(cases[i].others[1] == Approx(sum / count));
        }
    }
}

TEST_CASE("Aftermath: nothing of the future, and sums that count", "[studies]")
{
    const auto records = test::eventfulRecords(420);
    const Day when = day("2025-01-15");
    engine::Evaluator whole(test::marketOf(records));
    engine::Evaluator cut(test::cutAfter(records, when));
    const auto casesOf = [&](engine::Evaluator& evaluator) {
        return aftermathOf(found("close > sma(close, 20)", evaluator, when), {}, evaluator.market(),
                           when);
    };
    // Stocks stand elsewhere where one had another symbol: they are known by it.
    std::map<std::pair<std::string, Day>, Aftermath> then;
    for (const Aftermath& each : casesOf(cut))
        then[{cut.market().instrument(each.of.stock).symbol, each.day}] = each;
    const auto now = casesOf(whole);
    CHECK(now.size() == then.size());
    for (const Aftermath& each : now) {
        const std::string& symbol =
            market::symbolOn(whole.market().instrument(each.of.stock), when);
        INFO(symbol << " " << each.day.iso());
        REQUIRE(then.contains({symbol, each.day}));
        const Aftermath& other = then.at({symbol, each.day});
        CHECK(each.end == other.end);
        CHECK((each.result == Approx(other.result) ||
               (isMissing(each.result) && isMissing(other.result))));
    }
    const Summary sum = summaryOf(now, {});
    CHECK(sum.cases == now.size());
    CHECK(sum.reached + sum.stopped + sum.neither + sum.open == sum.cases);
    CHECK(sum.independent < sum.cases);
    CHECK(sum.periods <= sum.independent);
    CHECK(sum.periods >= 3);
    CHECK(sum.worst <= sum.medianWorst);
    std::size_t ofStocks = 0;
    for (std::size_t stock = 0; stock < whole.market().size(); ++stock)
        ofStocks += summaryOf(now, {}, stock).cases;
    CHECK(ofStocks == sum.cases);
    CHECK(summaryOf({}, {}).cases == 0);
    Terms none;
    none.within = 0;
    CHECK_THROWS_AS(aftermathOf({}, none, whole.market(), when), std::logic_error);
}

} // namespace sieve::studies
