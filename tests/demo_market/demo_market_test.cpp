#include "core/conditions/trend_state.h"
#include "core/market/as_of.h"
#include "core/market/composite.h"
#include "demo_market/climate.h"
#include "demo_market/dataset.h"

#include <algorithm>
#include <catch2/catch.hpp>
#include <map>
#include <set>

namespace sieve::demo_market {

TEST_CASE("Demo market: has the size and the variety that the program shows", "[demo_market]")
{
    const DemoMarket market = makeMarket(20260930);
    CHECK(market.records.size() >= 150);
    std::set<std::string> symbols;
    std::set<std::string> names;
    std::set<std::string> sectors;
    int listed = 0;
    int delisted = 0;
    int split = 0;
    int paying = 0;
    for (const market::InstrumentRecord& record : market.records) {
        const market::Instrument& instrument = record.instrument;
        INFO(instrument.symbol);
        CHECK(symbols.insert(instrument.symbol).second);
        CHECK(names.insert(instrument.name).second);
        CHECK(instrument.symbol.size() == 6);
        REQUIRE(record.bars.size() > 20);
        if (instrument.kind == market::InstrumentKind::Share)
            sectors.insert(instrument.sector);
        listed += isMissing(instrument.offerPrice) ? 0 : 1;
        delisted += instrument.delistedOn ? 1 : 0;
        const auto has = [&record](market::ActionKind kind) {
            return std::ranges::count(record.actions, kind, &market::Action::kind) > 0 ? 1 : 0;
        };
        split += has(market::ActionKind::Split);
        paying += has(market::ActionKind::Dividend);
        if (instrument.delistedOn)
            CHECK(record.bars.days.back() < *instrument.delistedOn);
    }
    CHECK(sectors.size() == sectorCount);
    CHECK(listed >= 20);
    CHECK(delisted >= 5);
    CHECK(split >= 5);
    CHECK(paying >= 30);
    const Day first = market.records.back().bars.days.front();
    CHECK(*Day::parse("2026-09-30") - first > 5 * 365);
}

TEST_CASE("Demo market: another seed makes another market", "[demo_market]")
{
    CHECK(makeMarket(1, Extent::Small).records[0].bars.close !=
          makeMarket(2, Extent::Small).records[0].bars.close);
}

TEST_CASE("Demo market: no session on weekends and holidays", "[demo_market]")
{
    for (const Day day : sessionsBetween(*Day::parse("2024-01-01"), *Day::parse("2024-12-31"))) {
        CHECK_FALSE(day.isWeekend());
        CHECK(day.iso() != "2024-01-01");
        CHECK(day.iso() != "2024-12-25");
    }
}

} // namespace sieve::demo_market

namespace sieve::demo_market {

namespace {

struct Lines {
    market::Composite equal;
    market::Composite capitalization;

    static double between(const market::Composite& line, const char* from, const char* to)
    {
        const auto at = [&line](const char* day) {
            const auto place = std::ranges::lower_bound(line.days, *Day::parse(day));
            return line.levels.at(static_cast<std::size_t>(place - line.days.begin()));
        };
        return at(to) / at(from) - 1.0;
    }
};

const Lines& lines()
{
    static const Lines made = [] {
        DemoMarket market = makeMarket(20260930);
        const market::Market whole(market.description, std::move(market.records));
        return Lines{market::makeComposite(whole, market::Weight::Equal),
                     market::makeComposite(whole, market::Weight::Capitalization)};
    }();
    return made;
}

} // namespace

TEST_CASE("Demo market: lives through its phases", "[demo_market]")
{
    const market::Composite& equal = lines().equal;
    CHECK(Lines::between(equal, "2020-10-01", "2021-12-15") > 0.15);  // the first long rise
    CHECK(Lines::between(equal, "2022-01-20", "2022-03-04") < -0.15); // the crash
    CHECK(Lines::between(equal, "2022-03-07", "2022-04-08") > 0.08);  // the relief rally
    CHECK(Lines::between(equal, "2022-04-11", "2022-06-30") < -0.05); // and down again
    CHECK(Lines::between(equal, "2022-10-03", "2023-12-01") > 0.15);  // the second long rise
    CHECK(std::fabs(Lines::between(equal, "2023-12-01", "2024-11-01")) < 0.25); // the dull year
    CHECK(Lines::between(equal, "2025-10-01", "2026-09-01") > 0.10);            // the rotation
}

TEST_CASE("Demo market: the narrow rise is carried by the large", "[demo_market]")
{
    const double large = Lines::between(lines().capitalization, "2024-11-01", "2025-07-14");
    const double all = Lines::between(lines().equal, "2024-11-01", "2025-07-14");
    CHECK(large > 0.04);
    CHECK(large > all + 0.04);
}

TEST_CASE("Demo market: the crash turns every horizon down", "[demo_market]")
{
    const conditions::Line line{"all", "kind == \"share\"", market::marketOf(lines().equal)};
    engine::Evaluator evaluator(line.market); // the rules ask for the line's prices only
    const language::Names names{language::Vocabulary::builtIn()};
    for (const conditions::TrendRule& rule : conditions::standardBook().trends) {
        INFO(rule.rising);
        const auto reading = conditions::readTrend(evaluator, names, line, rule);
        CHECK(reading.history.at(*line.barBy(*Day::parse("2022-03-02"))) !=
              conditions::Trend::Rising);
    }
}

TEST_CASE("Demo market: bars are possible, prices move in their steps", "[demo_market]")
{
    for (const market::InstrumentRecord& record : makeMarket(7, Extent::Small).records) {
        const market::Bars& bars = record.bars;
        for (std::size_t bar = 0; bar < bars.size(); ++bar) {
            INFO(record.instrument.symbol << " " << bars.days[bar].iso());
            REQUIRE(bars.low[bar] > 0.0);
            REQUIRE(bars.low[bar] <= std::min(bars.open[bar], bars.close[bar]));
            REQUIRE(bars.high[bar] >= std::max(bars.open[bar], bars.close[bar]));
            REQUIRE(bars.volume[bar] >= 0.0);
            REQUIRE((bar == 0 || bars.days[bar] > bars.days[bar - 1]));
        }
    }
}

TEST_CASE("Demo market: statements are known after their period, and tell growth", "[demo_market]")
{
    std::size_t restated = 0;
    std::size_t growing = 0;
    std::size_t losing = 0;
    for (market::InstrumentRecord& record : makeMarket(20260930, Extent::Small).records) {
        const market::Statements statements(std::move(record.statements));
        std::map<std::pair<std::size_t, Day>, int> filings;
        for (const market::StatementRow& row : statements.rows()) {
            REQUIRE(row.knownOn > row.periodEnd);
            if (row.period == market::Period::Quarter)
                ++filings[{row.item, row.periodEnd}];
        }
        for (const auto& [period, count] : filings)
            restated += count > 1 ? 1 : 0;
        const auto ttm = [&](int back) {
            return statements.trailingTwelveMonths(*market::statementItemNamed("net_income"), back,
                                                   *Day::parse("2026-09-30"),
                                                   [](Day) { return 1.0; });
        };
        const auto now = ttm(0);
        const auto before = ttm(4);
        growing += now && before && now->value > before->value ? 1 : 0;
        losing += now && now->value < 0.0 ? 1 : 0;
    }
    CHECK(restated > 10);
    CHECK(growing > 30);
    CHECK(losing >= 5);
}

} // namespace sieve::demo_market
