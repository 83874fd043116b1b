#include "core/engine/evaluator.h"
#include "core/intake/take_in.h"
#include "core/language/checker.h"
#include "core/storage/market_file.h"
#include "tests/core/made_market.h"
#include "tests/own_folder.h"

#include <catch2/catch.hpp>

// A report after the close is known from the next session on.

namespace sieve::intake {

using test::day;
using test::OwnFolder;

namespace {

const std::string bars = "date,open,high,low,close,volume\n"
                         "2025-01-09,10,10,10,10,9\n2025-01-10,11,11,11,11,9\n"
                         "2025-01-13,13.2,13.2,13.2,13.2,9\n2025-01-14,13,13,13,13,9\n";
const std::string statementHead = "symbol,period_end,period,known_on,item,value\n";
const std::string reported = "KELP.C,2024-12-31,quarter,2025-01-10,revenue,7\n";

double valueOn(const OwnFolder& folder, const char* text, const char* on)
{
    engine::Evaluator evaluator(*storage::openMarket(folder.path()));
    engine::Plan plan;
    const auto checked =
        language::check(text, {language::Vocabulary::builtIn(), std::nullopt}, plan);
    if (!checked)
        FAIL(sentence(checked.error()));
    return (*evaluator.column(plan, checked->node, day(on)))[0];
}

void takenIn(const OwnFolder& source, const OwnFolder& market, bool isUpdate = false)
{
    const auto report = takeIn({source.path(), market.path(), {}, isUpdate});
    if (!report)
        FAIL(sentence(report.error()));
}

} // namespace

TEST_CASE("Report times: one after the close is known from the next session on", "[intake]")
{
    const OwnFolder source;
    const OwnFolder market;
    source.write("bars/daily/KELP.C.csv", bars);
    const std::string before = "KELP.C,2024-09-30,quarter,2024-11-08,revenue,6\n";
    source.write("statements.csv", statementHead + before + reported);
    const auto calendar = [&](const std::string& when) {
        source.write("calendar.csv",
                     "symbol,date,when,kind\nKELP.C,2025-01-10," + when + ",report\n");
        takenIn(source, market);
    };
    SECTION("after the close, on a Friday")
    {
        calendar("after close");
        CHECK(valueOn(market, "quarter(revenue)", "2025-01-10") == 6);
        CHECK(valueOn(market, "quarter(revenue)", "2025-01-13") == 7);
        CHECK(valueOn(market, "gap_on_report", "2025-01-14") == Approx(0.2)); // Monday's
        CHECK(valueOn(market, "change_on_report", "2025-01-13") == Approx(0.2));
        CHECK(valueOn(market, "next_report", "2025-01-10") == day("2025-01-10").serial());
    }
    SECTION("before the open, or at an hour that is not known")
    {
        calendar(GENERATE("before open", ""));
        CHECK(valueOn(market, "quarter(revenue)", "2025-01-10") == 7);
        CHECK(valueOn(market, "gap_on_report", "2025-01-14") == Approx(0.1)); // Friday's
    }
}

TEST_CASE("Report times: base and updates give the same in any parting", "[intake]")
{
    const std::string calendar = "symbol,date,when,kind\nKELP.C,2025-01-10,after close,report\n";
    // Filed on the morning after, too: the later figure counts of the two.
    const std::string later = "KELP.C,2024-12-31,quarter,2025-01-11,revenue,8\n";
    const OwnFolder whole;
    const OwnFolder atOnce;
    whole.write("dataset.toml", "name = \"Isles\"\n");
    whole.write("bars/daily/KELP.C.csv", bars);
    whole.write("statements.csv", statementHead + reported + later);
    whole.write("calendar.csv", calendar);
    takenIn(whole, atOnce);
    CHECK(valueOn(atOnce, "quarter(revenue)", "2025-01-13") == 8);
    const OwnFolder base;
    const OwnFolder update;
    const OwnFolder inParts;
    base.write("dataset.toml", "name = \"Isles\"\n");
    base.write("bars/daily/KELP.C.csv", bars);
    SECTION("the hour comes later")
    {
        base.write("statements.csv", statementHead + reported + later);
        update.write("calendar.csv", calendar);
    }
    SECTION("the figures come later")
    {
        base.write("calendar.csv", calendar);
        update.write("statements.csv", statementHead + reported + later);
    }
    SECTION("one of the figures comes later")
    {
        base.write("calendar.csv", calendar);
        base.write("statements.csv", statementHead + reported);
        update.write("statements.csv", statementHead + later);
    }
    takenIn(base, inParts);
    takenIn(update, inParts, true);
    CHECK(inParts.read("market.sieve") == atOnce.read("market.sieve"));
}

TEST_CASE("News: what is told after the close counts for the next session", "[market]")
{
    const market::Exchange exchange{
        "Carrow Exchange", "Atlantic/Cape_Verde", 9 * 60 + 30, 16 * 60, {{day("2025-01-13")}}};
    const auto known = [&](const char* on, int minute) {
        return market::dayOfKnowing(exchange, Minute::of(day(on), minute)).iso();
    };
    CHECK(known("2025-01-09", 16 * 60 + 59) == "2025-01-09"); // an hour behind universal time
    CHECK(known("2025-01-09", 17 * 60) == "2025-01-10");
    CHECK(known("2025-01-10", 20 * 60) == "2025-01-14"); // over a weekend and a holiday
    CHECK(known("2025-01-11", 20 * 60) == "2025-01-11"); // no session: nothing had closed
    CHECK(known("2025-01-10", 30) == "2025-01-10");      // half past eleven on the day before
}

} // namespace sieve::intake
