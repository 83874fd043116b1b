#include "core/dossier/dossier.h"

#include "core/dossier/json.h"
#include "core/valuation/fair_value.h"
#include "tests/core/dossier/asked.h"
#include "tests/core/made_market.h"

#include <algorithm>
#include <catch2/catch.hpp>
#include <cmath>
#include <fmt/format.h>

namespace sieve::dossier {

namespace {

using market::Period;
using test::Asked;
using test::day;
using test::row;
using test::table;
using test::words;

void file(market::InstrumentRecord& record, const char* item, Period period, Day end, double value,
          int daysAfter = 30)
{
    record.statements.push_back(
        {*market::statementItemNamed(item), period, end, end.plusDays(daysAfter), value});
}

/// The last day of the month so many after June 2018.
Day endOfMonth(int months)
{
    return day("2018-07-01").plusMonths(months).plusDays(-1);
}

/// Eight years at a price of 20: each fiscal year, which ends in June, earns a tenth more than the
/// one before, four equal quarters each; sales of 8 and cash of 2 a share likewise.
market::InstrumentRecord grower()
{
    market::InstrumentRecord record =
        test::recordOf("GROW", std::vector<double>(2000, 20.0), "Energy");
    record.instrument.industry = "Tidal power";
    double earned = 0.25;
    for (int year = 0; year < 13; ++year) {
        for (int quarter = 1; quarter <= 4; ++quarter) {
            const Day end = endOfMonth(12 * year + 3 * quarter);
            file(record, "eps", Period::Quarter, end, earned);
            file(record, "revenue", Period::Quarter, end, 8e6 * earned);
            file(record, "operating_cash_flow", Period::Quarter, end, 2e6 * earned);
            file(record, "capital_expenditure", Period::Quarter, end, 1e6 * earned);
            file(record, "equity", Period::Quarter, end, 5e6 + year);
        }
        const Day end = day("2019-06-30").plusMonths(12 * year);
        file(record, "eps", Period::Year, end, 4.0 * earned);
        file(record, "revenue", Period::Year, end, 32e6 * earned);
        earned *= 1.1;
    }
    record.shares.push_back({day("2018-01-01"), day("2018-01-01"), 1e6, 5e5, missing});
    return record;
}

} // namespace

TEST_CASE("Value: drivers times multiples, by hand", "[dossier]")
{
    Asked asked({grower()});
    const auto& days = asked.evaluator.market().bars(0).days;
    const Day when = days[1900];
    const Dossier made = asked.of("GROW", when, {"value"});
    // Earnings of four quarters as known on a day: a year's are known 30 days after each June.
    const auto earnedOn = [](Day on) {
        double sum = 0.0;
        int count = 0;
        for (int quarter = 51; quarter >= 0 && count < 4; --quarter)
            if (endOfMonth(3 * quarter + 3).plusDays(30) <= on) {
                sum += 0.25 * std::pow(1.1, quarter / 4);
                ++count;
            }
        return sum;
    };
    double usual = 0.0;
    for (std::size_t bar = 1900 - 1259; bar <= 1900; ++bar)
        usual += 20.0 / earnedOn(days[bar]) / 1260.0;
    const double last = earnedOn(when);
    const Table& values = table(made, "value.values");
    const Row& atUsual = row(values, "Earnings, four quarters, usual multiple");
    CHECK(atUsual.cells[0].value == Approx(last));
    CHECK(atUsual.cells[1].value == Approx(usual));
    CHECK(atUsual.cells[2].value == Approx(last * usual));
    CHECK(atUsual.cells[3].value == Approx(last * usual / 20.0 - 1.0));
    CHECK(row(values, "Earnings, next year by trend, today's multiple").cells[2].value ==
          Approx(22.0)); // a tenth more at the same multiple
    // All grow alike and are worth alike; nobody expects anything, no dividend is paid.
    CHECK(row(values, "Sales, four quarters, usual multiple").cells[2].value ==
          Approx(last * usual));
    CHECK(row(values, "Free cash flow, next year by trend, usual multiple").cells[2].value ==
          Approx(1.1 * last * usual));
    const Cell& unpaid = row(values, "Dividends, four quarters, usual multiple").cells[2];
    CHECK(isMissing(unpaid.value));
    CHECK(unpaid.note == "Dividends of the last four quarters: not known.");
    CHECK(row(values, "Earnings, next year expected, usual multiple").cells[2].note ==
          "Nobody is known to expect anything positive for the next year.");
    CHECK_THAT(words(made, "value"), Catch::StartsWith("4 values at usual multiples from "));
    for (const char* title : {"Fair value, least", "Fair value", "Fair value, most"})
        CHECK(row(values, title).cells[2].value == Approx(last * usual));
    // The growth in the price: ten years of it and 2 % after, at 9 %, give the multiple.
    const double growth = row(table(made, "value.assumed"), "Earnings").cells[0].value;
    const double q = (1.0 + growth) / 1.09;
    double worth = std::pow(q, 10) * 1.02 / 0.07;
    for (int year = 1; year <= 10; ++year)
        worth += std::pow(q, year);
    CHECK(worth == Approx(20.0 / last));
    Choices dearer;
    dearer.model = {10.0, 0.12, 0.02};
    CHECK(row(table(asked.of("GROW", when, {"value"}, dearer), "value.assumed"), "Earnings")
              .cells[0]
              .value > growth);
}

TEST_CASE("Value: a loss, a short life and nothing filed have none, and say why", "[dossier]")
{
    market::InstrumentRecord loser = grower();
    loser.instrument.symbol = "LOSS";
    for (market::StatementRow& filed : loser.statements)
        if (filed.item != *market::statementItemNamed("revenue"))
            filed.value = -filed.value;
    market::InstrumentRecord young = grower();
    young.instrument.symbol = "YNG";
    young.bars.truncate(300);
    Asked asked({loser, young, test::recordOf("BARE", {1, 2, 3})});
    const market::Market& market = asked.evaluator.market();
    const Day late = market.bars(market.find("LOSS").value()).days[1900];
    const char* title = "Earnings, four quarters, usual multiple";
    const Dossier losing = asked.of("LOSS", late, {"value"});
    CHECK(row(table(losing, "value.values"), title).cells[2].note ==
          "Earnings of the last four quarters: not positive.");
    CHECK(words(losing, "value") == "One value alone is known: too few to tell a fair value. ");
    const Dossier early =
        asked.of("YNG", market.bars(market.find("YNG").value()).days.back(), {"value"});
    CHECK(row(table(early, "value.values"), title).cells[2].note ==
          "The usual multiple: known on less than half of five years.");
    const Dossier bare = asked.of("BARE", day("2024-01-03"), {"value"});
    CHECK(row(table(bare, "value.values"), title).cells[2].note ==
          "Earnings of the last four quarters: not known.");
    CHECK(words(bare, "value") == "No value can be told: what it takes is not positive, not known, "
                                  "or not known long enough. ");
}

TEST_CASE("Results: fiscal years that end in June, growth, margins, per share", "[dossier]")
{
    Asked asked({grower()});
    const Day when = day("2026-02-10"); // the quarter to December is known
    const Dossier made = asked.of("GROW", when, {"results"});
    const Table& quarters = table(made, "quarters.income");
    REQUIRE(quarters.heads.size() == 12);
    CHECK(quarters.heads.front() == "2023-03-31");
    CHECK(quarters.heads.back() == "2025-12-31");
    const Row& eps = row(quarters, "Earnings per share, diluted");
    CHECK(eps.cells.back().value == Approx(0.25 * std::pow(1.1, 7)));
    const Row& growth = *(&eps + 1);
    CHECK(growth.isOfFormer);
    CHECK(growth.cells.back().value == Approx(0.1));
    CHECK(quarters.notes.front() == "Not filed: Cost of sales, Gross profit, Operating income, "
                                    "Interest expense, Net income, Dividends per share.");
    const Table& years = table(made, "years.income");
    CHECK(years.heads.back() == "2025-06-30");
    CHECK(years.heads.size() == 7); // those before were not filed
    CHECK(row(years, "Revenue").cells.back().value == Approx(8e6 * std::pow(1.1, 6)));
    // The balance at the end of a year is that of its last quarter.
    CHECK(row(table(made, "years.balance"), "Shareholders' equity").cells.back().value == 5e6 + 6);
    const Row& margin = row(table(made, "quarters.margins"), "Free cash flow margin");
    CHECK(margin.cells.back().value == Approx(0.125));
    CHECK(margin.cells.back().unit == Unit::Percent);
    Choices perShare;
    perShare.isPerShare = true;
    const Dossier byShare = asked.of("GROW", when, {"results"}, perShare);
    CHECK(row(table(byShare, "quarters.income"), "Revenue").cells.back().value ==
          Approx(8.0 * 0.25 * std::pow(1.1, 7)));
    CHECK(
        row(table(byShare, "quarters.income"), "Earnings per share, diluted").cells.back().value ==
        eps.cells.back().value);
}

TEST_CASE("Results: a restatement shows what was first said, on the footing of today", "[dossier]")
{
    market::InstrumentRecord record = test::recordOf("REST", std::vector<double>(400, 10.0));
    const Day end = day("2024-03-31");
    file(record, "eps", Period::Quarter, end, 0.40, 30);
    file(record, "revenue", Period::Quarter, end, 100.0, 30);
    file(record, "eps", Period::Quarter, end, 0.30, 90);
    file(record, "revenue", Period::Quarter, end, 100.0, 90); // said again, not restated
    record.actions.push_back({day("2024-09-02"), market::ActionKind::Split, 2.0});
    market::sortRows(record);
    Asked asked({record});
    const auto epsOn = [&](const char* when) {
        return row(table(asked.of("REST", day(when), {"results"}), "quarters.income"),
                   "Earnings per share, diluted")
            .cells.back();
    };
    CHECK(epsOn("2024-05-10").value == 0.40);
    CHECK(!epsOn("2024-05-10").restated);
    const Cell later = epsOn("2024-07-10");
    CHECK(later.value == 0.30);
    REQUIRE(later.restated);
    CHECK(later.restated->first == 0.40);
    CHECK(later.restated->firstOn == day("2024-04-30"));
    CHECK(later.restated->lastOn == day("2024-06-29"));
    const Cell split = epsOn("2024-10-10");
    CHECK(split.value == Approx(0.15));
    REQUIRE(split.restated);
    CHECK(split.restated->first == Approx(0.20));
    CHECK(
        !row(table(asked.of("REST", day("2024-07-10"), {"results"}), "quarters.income"), "Revenue")
             .cells.back()
             .restated);
}

TEST_CASE("Dossier: nothing is shown before it was known", "[dossier]")
{
    const auto records = test::eventfulRecords(420);
    Asked whole(test::marketOf(records));
    for (const char* iso : {"2024-03-15", "2024-11-08", "2025-04-25"}) {
        const Day when = day(iso);
        Asked cut(test::cutAfter(records, when));
        const market::Market& market = whole.evaluator.market();
        for (std::size_t stock = 0; stock < market.size(); stock += 3) {
            const std::string& symbol = market::symbolOn(market.instrument(stock), when);
            INFO(symbol << " on " << iso);
            CHECK(toJson(whole.of(symbol, when), market) ==
                  toJson(cut.of(symbol, when), cut.evaluator.market()));
        }
    }
}

TEST_CASE("Dossier: every expression in it checks and gives its value by itself", "[dossier]")
{
    const auto records = test::eventfulRecords(420);
    Asked asked(test::marketOf(records));
    const Day when = day("2025-05-12");
    std::size_t checkedCount = 0;
    for (const char* symbol : {"S105", "S104"}) { // the other one is in another currency
        const Dossier made = asked.of(symbol, when);
        CHECK(made.parts.size() == partKeys().size());
        CHECK((made.currency == made.marketCurrency) == (made.symbol == "S105"));
        for (const Part& part : made.parts)
            for (const Table& table : part.tables)
                for (const Row& row : table.rows)
                    for (const Cell& cell : row.cells) {
                        if (cell.expression.empty())
                            continue;
                        INFO(cell.expression);
                        engine::Plan plan;
                        const auto checked = check(cell.expression, asked.book.names(), plan);
                        REQUIRE(checked);
                        CHECK(checked->kind == cell.kind);
                        if (++checkedCount % 7 != 0)
                            continue; // each by a question of its own takes long
                        const double value =
                            (*asked.evaluator.column(plan, checked->node, when))[made.stock];
                        CHECK((value == cell.value || (isMissing(value) && isMissing(cell.value))));
                    }
    }
    CHECK(checkedCount > 300);
}

TEST_CASE("Dossier: an index, a newcomer, a day before the first bar, one part", "[dossier]")
{
    auto records = test::eventfulRecords();
    market::InstrumentRecord index = test::recordOf("IDX", {100, 101, 102}, "");
    index.instrument.kind = market::InstrumentKind::Index;
    records.push_back(index);
    records.push_back(test::recordOf("NEW", {5.0}));
    Asked asked(std::move(records));
    for (const char* symbol : {"IDX", "NEW", "S100"})
        for (const char* iso : {"2023-01-01", "2024-01-01", "2024-02-01"}) {
            const Dossier made = asked.of(symbol, day(iso));
            CHECK(made.parts.size() == partKeys().size());
            CHECK_FALSE(toJson(made, asked.evaluator.market()).empty());
        }
    CHECK(words(asked.of("IDX", day("2024-01-03")), "results") ==
          "No statement of this stock is known. ");
    CHECK(words(asked.of("IDX", day("2024-01-03")), "plan") == "An index is not bought. ");
    CHECK(words(asked.of("NEW", day("2024-01-01")), "owners") ==
          "Who holds the shares is not known. ");
    const Dossier one = asked.of("S100", day("2024-06-03"), {"owners"});
    REQUIRE(one.parts.size() == 1);
    CHECK(one.parts[0].key == "owners");
    CHECK_THROWS_AS(asked.of("S100", day("2024-06-03"), {"no such part"}), std::logic_error);
}

TEST_CASE("Dossier: a figure of one's own that does not check says so", "[dossier]")
{
    Asked asked(test::eventfulRecords());
    Choices choices;
    choices.figures = {"close", "cloze + 1", "close / open", "in_uptrend"};
    const Dossier made = asked.of("S103", day("2024-10-01"), {"figures"}, choices);
    const Table& own = table(made, "figures.Own expressions");
    REQUIRE(own.rows.size() == 2);
    CHECK_THAT(own.rows[0].cells[0].note, Catch::Contains("cloze"));
    CHECK(isMissing(own.rows[0].cells[0].value));
    CHECK(own.rows[1].cells[0].value > 0.0);
    CHECK(own.rows[1].cells.size() == 4);
    CHECK(table(made, "figures.Price and trade").rows[1].cells.size() ==
          1); // a yes or no has no place
}

TEST_CASE("Score: each side now, within its groups, and as it was known sessions ago", "[dossier]")
{
    Asked asked(test::eventfulRecords(420));
    const market::Market& market = asked.evaluator.market();
    const auto sessions = market.sessions();
    const auto valueOn = [&](const std::string& expression, std::size_t stock, Day when) {
        engine::Plan plan;
        const auto checked = check(expression, asked.book.names(), plan);
        REQUIRE(checked);
        return (*asked.evaluator.column(plan, checked->node, when))[stock];
    };
    const Dossier made = asked.of("S103", sessions[400], {"score"});
    const Table& sides = table(made, "score.sides");
    REQUIRE(sides.rows.size() == 6);
    const Row& momentum = row(sides, "Momentum");
    REQUIRE(momentum.cells.size() == 5);
    CHECK(momentum.cells[0].value == valueOn("strength_blend", made.stock, sessions[400]));
    CHECK(momentum.cells[1].value ==
          valueOn("percentile(strength_blend, within = sector)", made.stock, sessions[400]));
    CHECK(momentum.cells[3].value == valueOn("strength_blend", made.stock, sessions[400 - 63]));
    for (const std::size_t cell : {0U, 1U, 3U})
        CHECK_FALSE(isMissing(momentum.cells[cell].value));
    CHECK(isMissing(momentum.cells[4].value)); // 148 bars are too few for it
    const Dossier early = asked.of("S103", sessions[60], {"score"});
    CHECK(isMissing(row(table(early, "score.sides"), "Momentum").cells[3].value));
}

TEST_CASE("Score: one's own weights give a blend of their own", "[dossier]")
{
    Asked asked(test::eventfulRecords());
    const Day when = asked.evaluator.market().sessions()[300];
    Choices choices;
    choices.weights = {3.0, 0.0, 1.0, 0.0, 0.0};
    int known = 0;
    for (const std::string symbol : {"S101", "S103", "S104", "S108"}) {
        INFO(symbol);
        const Table sides = table(asked.of(symbol, when, {"score"}, choices), "score.sides");
        const auto value = [&](const char* title) { return row(sides, title).cells[0].value; };
        const double weights =
            (isMissing(value("Value")) ? 0.0 : 3.0) + (isMissing(value("Growth")) ? 0.0 : 1.0);
        const double sum = (isMissing(value("Value")) ? 0.0 : 3.0 * value("Value")) +
                           (isMissing(value("Growth")) ? 0.0 : value("Growth"));
        if (weights > 0.0)
            CHECK(value("Your blend") == Approx(sum / weights));
        else
            CHECK(isMissing(value("Your blend")));
        known += weights > 0.0 ? 1 : 0;
        CHECK(std::ranges::count(table(asked.of(symbol, when, {"score"}), "score.sides").rows,
                                 "Your blend", &Row::title) == 0);
    }
    CHECK(known > 0);
}

TEST_CASE("Plan: stops, shares for a chosen loss, what they must reach, by hand", "[dossier]")
{
    std::vector<double> closes(60, 100.0);
    closes.back() = 110.0;
    market::InstrumentRecord record = test::recordOf("PLAN", closes);
    for (std::size_t bar = 0; bar < closes.size(); ++bar) {
        record.bars.low[bar] = closes[bar] - 1.0;
        record.bars.volume[bar] = 500.0;
    }
    Asked asked({record});
    Choices choices;
    choices.plan = {50'000.0, 0.01};
    const Dossier made =
        asked.of("PLAN", asked.evaluator.market().sessions().back(), {"plan"}, choices);
    const Row& low = row(table(made, "plan.stops"), "Low of 10 bars");
    CHECK(low.cells[0].value == 99.0);
    CHECK(low.cells[1].value == Approx(-0.1));
    CHECK(low.cells[2].value == 45.0); // 500 to lose, 11 a share
    CHECK(low.cells[3].value == 22.0);
    CHECK(low.cells[4].value == 45.0 * 110.0);
    CHECK(low.cells[5].value == Approx(0.099));
    CHECK(low.cells[6].value == Approx(0.9)); // 50 shares a day
    CHECK(low.cells[7].value == 132.0);
    CHECK(low.cells[8].value == 143.0);
    CHECK(row(table(made, "plan.stops"), "Eight percent").cells[2].value == 56.0);
    // All that the account can pay for, where the stop is near; no stop above the price.
    choices.plan = {1'000.0, 1.0};
    const Dossier bold =
        asked.of("PLAN", asked.evaluator.market().sessions().back(), {"plan"}, choices);
    CHECK(row(table(bold, "plan.stops"), "Low of 10 bars").cells[2].value == 9.0);
    const Dossier below = asked.of("PLAN", asked.evaluator.market().sessions()[58], {"plan"});
    CHECK(std::ranges::count(table(below, "plan.stops").rows, "Average of 50", &Row::title) == 0);
}

TEST_CASE("Events: ten thousand items of news in a day stay a page", "[dossier]")
{
    auto records = test::eventfulRecords();
    for (int item = 0; item < 10'000; ++item)
        records[3].notices.news.push_back({Minute::of(day("2024-10-01"), item % 1000),
                                           fmt::format("m{}", item), "The quay is painted", "",
                                           ""});
    market::sortRows(records[3]);
    Asked asked(std::move(records));
    const Dossier made = asked.of("S103", day("2024-10-02"), {"events"});
    const Table& events = table(made, "events.all");
    CHECK(events.rows.size() == 80);
    REQUIRE(events.notes.size() == 1);
    CHECK_THAT(events.notes[0], Catch::EndsWith(" earlier ones are not shown."));
    CHECK(events.rows[0].title >= events.rows[79].title); // newest first
}

TEST_CASE("Peers: of the industry, those near in size that move alike, or those chosen",
          "[dossier]")
{
    std::vector<market::InstrumentRecord> records;
    for (int number = 0; number < 9; ++number) {
        std::vector<double> closes{50.0};
        for (int bar = 1; bar < 200; ++bar) // the first four move alike, the others against them
            closes.push_back(closes.back() *
                             (1.0 + (number < 4 ? 0.01 : -0.01) * ((bar * 7919 % 13) - 6) / 6.0));
        records.push_back(test::recordOf(fmt::format("P{}", number), closes));
        records.back().instrument.industry = number == 3 ? "Kelp farming" : "Ferries";
        records.back().shares.push_back({records.back().bars.days[0], records.back().bars.days[0],
                                         number == 1 ? 1e9 : 1e6, 1e6, missing});
    }
    Asked asked(std::move(records));
    const Day when = asked.evaluator.market().sessions().back();
    const Dossier made = asked.of("P0", when, {"peers"});
    const Table& peers = table(made, "peers.figures");
    REQUIRE(peers.rows.size() == 8); // itself, six, their median
    CHECK(peers.rows[0].title == "P0");
    CHECK(peers.rows[1].title == "P2"); // alike in both
    CHECK(peers.rows[1].cells[0].value == Approx(1.0));
    CHECK(peers.rows[2].title == "P1"); // alike, but a thousand times as large
    CHECK(std::ranges::count(peers.rows, "P3", &Row::title) == 0); // of another industry
    CHECK(peers.rows[7].title == "Median of the peers");
    CHECK(peers.rows[1].stock == asked.evaluator.market().find("P2"));
    Choices choices;
    choices.peers = {"P3", "P0", "NONE"};
    const Dossier chosen = asked.of("P0", when, {"peers"}, choices);
    CHECK(table(chosen, "peers.figures").rows.size() == 3);
    CHECK(words(chosen, "peers") == "The market does not have NONE. ");
}

} // namespace sieve::dossier
