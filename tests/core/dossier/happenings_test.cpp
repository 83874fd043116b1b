#include "core/dossier/happenings.h"

#include "core/dossier/json.h"
#include "core/dossier/printed.h"
#include "tests/core/dossier/asked.h"

#include <catch2/catch.hpp>

namespace sieve::dossier {

namespace {

using test::Asked;
using test::day;
using test::row;
using test::table;
using test::words;

Subject subjectOf(Asked& asked, const language::Names& names, const char* symbol, Day when)
{
    return {asked.evaluator, names, asked.evaluator.market().find(symbol, when).value(), when};
}

constexpr std::size_t fallAt = 100;

/// A hundred bars at 100, then 90; two of its industry fall by 4 %, two of its sector stay, and one
/// of another sector rises by 1 %. The calm days go up and down by a hundredth.
std::vector<market::InstrumentRecord> fall()
{
    std::vector<market::InstrumentRecord> records;
    const double last[] = {0.90, 0.96, 0.96, 1.0, 1.0, 1.01};
    for (int number = 0; number < 6; ++number) {
        std::vector<double> closes;
        for (int bar = 0; bar < 100; ++bar)
            closes.push_back(bar % 2 == 0 ? 100.0 : 101.0);
        closes.insert(closes.end(), 6, 101.0 * last[number]);
        records.push_back(
            test::recordOf(fmt::format("F{}", number), closes, number < 5 ? "Food" : "Energy"));
        records.back().instrument.industry = number < 3 ? "Kelp" : "Else";
        records.back().bars.volume.assign(closes.size(), 100.0);
        records.back().bars.volume[fallAt] = 700.0;
    }
    const Day when = records[0].bars.days[fallAt];
    const auto said = [&](int daysBefore, const char* title) {
        records[0].notices.news.push_back(
            {Minute::of(when.plusDays(-daysBefore), 600), title, title, "", ""});
    };
    said(30, "Long ago");
    said(2, "The ferry is late");
    said(-1, "The ferry came"); // the day after
    market::sortRows(records[0]);
    return records;
}

} // namespace

TEST_CASE("Why it moved: beside industry, sector and all, against the usual, by hand", "[dossier]")
{
    Asked asked(fall());
    const language::Names names = asked.book.names();
    const Day when = asked.evaluator.market().sessions()[fallAt];
    const Dossier made = whyItMoved(subjectOf(asked, names, "F0", when.plusDays(3)), when);
    const Table& sizes = table(made, "move.sizes");
    CHECK(row(sizes, "The stock").cells[0].value == Approx(-0.10));
    CHECK(row(sizes, "Its industry").cells[0].value == Approx(-0.04));
    CHECK(row(sizes, "Its sector").cells[0].value == Approx(-0.04));
    CHECK(row(sizes, "All stocks").cells[0].value == Approx(-0.02));          // between -4 % and 0
    CHECK(std::ranges::count(sizes.rows, "The benchmark", &Row::title) == 0); // there is none
    // A usual move is about one percent; volume is seven times the mean of twenty bars before.
    CHECK(row(table(made, "move.usual"), "Change").cells[0].value == Approx(10.05).epsilon(0.01));
    CHECK(row(table(made, "move.usual"), "Volume").cells[0].value == Approx(7.0));
    CHECK(words(made, "move") == "Of -10.0 %, -2.0 % went with all stocks, -2.0 % more with its "
                                 "industry, and -6.0 % were its own. ");
    const Table& said = table(made, "move.said");
    REQUIRE(said.rows.size() == 2);
    CHECK_THAT(said.rows[0].cells[2].text, Catch::Contains("The ferry came"));
    CHECK_THAT(said.rows[1].cells[2].text, Catch::Contains("The ferry is late"));
}

TEST_CASE("Why it moved: nothing that was said later is known", "[dossier]")
{
    Asked asked(fall());
    const language::Names names = asked.book.names();
    const Day when = asked.evaluator.market().sessions()[fallAt];
    const Dossier made = whyItMoved(subjectOf(asked, names, "F0", when), when);
    CHECK(table(made, "move.said").rows.size() == 1);
    const Dossier quiet = whyItMoved(subjectOf(asked, names, "F1", when), when);
    CHECK_THAT(words(quiet, "move"), Catch::Contains("Nothing was said within 5 days"));
    const Dossier idle = whyItMoved(subjectOf(asked, names, "F1", when), when.plusDays(-400));
    CHECK(words(idle, "move") == "It did not trade on this day. ");
    CHECK(idle.part("move")->tables.empty());
}

TEST_CASE("Why it moved: on every bar of an eventful market, and the same once the future is cut",
          "[dossier]")
{
    const auto records = test::eventfulRecords();
    Asked asked(test::marketOf(records));
    const language::Names names = asked.book.names();
    const auto sessions = asked.evaluator.market().sessions();
    const Day when = sessions[200];
    Asked cut(test::cutAfter(records, when));
    const language::Names cutNames = cut.book.names();
    for (std::size_t stock = 0; stock < cut.evaluator.market().size(); ++stock) {
        const std::string symbol = cut.evaluator.market().instrument(stock).symbol;
        const auto same = asked.evaluator.market().find(symbol, when);
        REQUIRE(same);
        for (const std::size_t back : {0UL, 1UL, 7UL, 150UL}) {
            INFO(symbol << ", " << back);
            const Day on = sessions[200 - back];
            const Subject whole{asked.evaluator, names, *same, when};
            const Subject part{cut.evaluator, cutNames, stock, when};
            CHECK(toJson(whyItMoved(whole, on), asked.evaluator.market()) ==
                  toJson(whyItMoved(part, on), cut.evaluator.market()));
        }
    }
}

TEST_CASE("Digest: what came since a stock was seen, and who has nothing new", "[dossier]")
{
    Asked asked(fall());
    const language::Names names = asked.book.names();
    const Day when = asked.evaluator.market().sessions()[fallAt];
    const Subject subject = subjectOf(asked, names, "F0", when.plusDays(5));
    const FollowedStock followed[] = {{0, when.plusDays(-10)}, {1, when.plusDays(-10)}};
    const Dossier made = digestOf(subject, followed);
    REQUIRE(made.part("digest")->tables.size() == 1);
    const Table& news = made.part("digest")->tables[0];
    CHECK(news.rows.size() == 2); // the one of long ago was seen
    CHECK(news.rows[0].stock == 0U);
    CHECK_THAT(news.title, Catch::StartsWith("F0, "));
    CHECK(words(made, "digest") == "Nothing new about F1. ");
    const FollowedStock seen[] = {{0, when.plusDays(5)}};
    CHECK(words(digestOf(subject, seen), "digest") == "Nothing new about F0. ");
    CHECK(words(digestOf(subject, {}), "digest") == "You follow no stock. ");
}

TEST_CASE("Verdict: rules answer themselves with their figure, the person's answers have a date",
          "[dossier]")
{
    Asked asked(fall());
    const Day when = asked.evaluator.market().sessions()[fallAt];
    Choices choices;
    choices.checklist = watchlists::Checklist{"Mine",
                                              {{"Falls hard?", "change(close, 1) < -5%"},
                                               {"Dear?", "close > 200 and volume > 10"},
                                               {"Known?", "price_to_earnings < 10"},
                                               {"Wrong", "close >"},
                                               {"Liked?"},
                                               {"Asked?"}}};
    asked.verdicts = {watchlists::Verdict{
        1, "F0", when.plusDays(-3), "Mine", {{"Liked?", true, true}, {"Dear?", true}}, "Wait"}};
    const Dossier made = asked.of("F0", when, {"verdict"}, choices);
    const Table& questions = table(made, "verdict.questions");
    CHECK(questions.form == Form::Checklist);
    CHECK(row(questions, "Falls hard?").cells[0].value == 1.0);
    CHECK(row(questions, "Falls hard?").cells[1].value == Approx(-0.10));
    CHECK(row(questions, "Falls hard?").cells[1].unit == Unit::Percent);
    CHECK(row(questions, "Dear?").cells[0].value == 0.0);
    CHECK(row(questions, "Dear?").cells[1].value == Approx(90.9)); // of its first limit
    CHECK(isMissing(row(questions, "Known?").cells[0].value));
    CHECK_FALSE(row(questions, "Wrong").cells[0].note.empty());
    CHECK(row(questions, "Liked?").cells[0].value == 1.0);
    CHECK(row(questions, "Liked?").cells[1].text == "you, " + when.plusDays(-3).iso());
    CHECK(isMissing(row(questions, "Asked?").cells[0].value));
    CHECK(words(made, "verdict") == "2 of 6 answered by yes, 3 open. Judged on " +
                                        when.plusDays(-3).iso() + ": 2 of 2. “Wait” ");
    const auto said = saidIn(made);
    REQUIRE(said.size() == 6);
    CHECK(said[0] == watchlists::Said{"Falls hard?", true, false});
    CHECK(said[4] == watchlists::Said{"Liked?", true, true});
    CHECK(said[5] == watchlists::Said{"Asked?", std::nullopt, true});
    // Before it was said, and without a checklist.
    const Dossier before = asked.of("F0", when.plusDays(-4), {"verdict"}, choices);
    CHECK(isMissing(row(table(before, "verdict.questions"), "Liked?").cells[0].value));
    CHECK(words(asked.of("F0", when, {"verdict"}), "verdict") == "No checklist is chosen. ");
}

TEST_CASE("Plan: one's own from the stop up, what the price may reach, a measured move by hand",
          "[dossier]")
{
    // From 50 up to 80, back to 70: the rise of 30 once more from 70 is 100.
    std::vector<double> closes;
    for (int bar = 0; bar <= 30; ++bar)
        closes.push_back(50.0 + bar);
    for (int bar = 1; bar <= 10; ++bar)
        closes.push_back(80.0 - bar);
    for (int bar = 1; bar <= 8; ++bar)
        closes.push_back(70.0 + bar);
    std::vector<double> first{60.0, 57.0, 54.0, 51.0}; // so that 50 is a low that a fall led to
    closes.insert(closes.begin(), first.begin(), first.end());
    market::InstrumentRecord record = test::recordOf("PLAN", closes);
    record.bars.high = record.bars.low = record.bars.open = closes;
    record.bars.volume.assign(closes.size(), 1000.0);
    Asked asked({record});
    const Day when = asked.evaluator.market().sessions().back();
    Choices choices;
    choices.plan = {100'000.0, 0.01};
    choices.planned = watchlists::TradePlan{when, 78.0, 73.0, {88.0, 98.0}};
    choices.planned->isHalfNow = true;
    const Dossier made = asked.of("PLAN", when, {"plan"}, choices);
    const Table& own = table(made, "plan.own");
    CHECK(own.rows[0].title == "Target 2");
    CHECK(own.rows[0].cells[2].value == 4.0);
    CHECK(own.rows[1].cells[1].value == Approx(10.0 / 78.0));
    CHECK(own.rows[3].title == "Stop");
    CHECK(own.rows[3].cells[2].value == -1.0);
    CHECK(row(own, "Days to get out").cells[0].value == Approx(2.0)); // 200 shares, 100 a day
    CHECK(words(made, "plan") == "200 shares, 100 of them now, worth 15600; 1000 are lost at the "
                                 "stop, 1.00 % of the account. ");
    const Table& goals = table(made, "plan.goals");
    CHECK(row(goals, "Measured move").cells[0].value == Approx(100.0));
    CHECK(row(goals, "Measured move").cells[1].value == Approx(100.0 / 78.0 - 1.0));
    CHECK(std::ranges::count(goals.rows, "Fair value", &Row::title) == 0); // nothing is filed
    // On the printed page stands what is planned, not what could be.
    const Dossier brief = printedOf(made);
    REQUIRE(brief.part("plan")->tables.size() == 1);
    CHECK(brief.part("plan")->tables[0].key == "plan.own");
    const Dossier unplanned = printedOf(asked.of("PLAN", when));
    CHECK(unplanned.part("plan")->tables[0].key == "plan.stops");
    CHECK(unplanned.part("events") == nullptr);
}

} // namespace sieve::dossier
