#include "core/studies/standings.h"
#include "core/studies/study_files.h"

#include "core/market/as_of.h"
#include "core/screens/name_book.h"
#include "core/screens/run.h"
#include "tests/core/made_market.h"

#include <algorithm>
#include <catch2/catch.hpp>
#include <cmath>
#include <fmt/format.h>

namespace sieve::studies {

namespace {

screens::Screen screenOf(const std::string& name, const std::string& condition,
                         const std::string& rank = {}, int keep = 0)
{
    screens::Screen screen;
    screen.name = name;
    screen.criteria.push_back({condition});
    screen.rankBy = rank;
    screen.keep = keep;
    return screen;
}

Standings told(const StandingsQuestion& question, engine::Evaluator& evaluator)
{
    const screens::NameBook book;
    auto made = standingsOf(question, book.names(), evaluator);
    if (!made)
        FAIL(sentence(made.error()));
    return *std::move(made);
}

StandingsQuestion questionOf(std::vector<screens::Screen> screens, const market::Market& market,
                             std::size_t from, std::size_t to)
{
    StandingsQuestion question;
    question.screens = std::move(screens);
    question.starts = startDays(market, market.sessions()[from], market.sessions()[to]);
    question.end = market.sessions()[to];
    question.picks = 99;
    return question;
}

/// A stock's gain from plain loops over its bars.
double gainOf(const market::Market& market, std::size_t stock, Day start, Day end)
{
    const auto days = market.bars(stock).days;
    const auto last = market::lastBarBy(market, stock, end);
    const auto next =
        static_cast<std::size_t>(std::ranges::upper_bound(days, start) - days.begin());
    if (!last || next > *last)
        return missing;
    const std::size_t footing = market.footing(stock, *last);
    std::vector<double> worth(*last + 1), close(*last + 1), open(*last + 1);
    market.totalReturn(stock, footing, 0, worth);
    market.adjusted(stock, market::BarField::Close, footing, 0, close);
    market.adjusted(stock, market::BarField::Open, footing, 0, open);
    return worth[*last] / (open[next] * worth[next] / close[next]) - 1.0;
}

bool isSame(double a, double b)
{
    return std::isnan(a) ? std::isnan(b) : std::abs(a - b) <= 1e-9 * std::max(1.0, std::abs(b));
}

} // namespace

TEST_CASE("Standings: two stocks and two starts by hand", "[studies]")
{
    market::InstrumentRecord a = test::recordOf("A", {10, 10, 20, 20, 30});
    market::InstrumentRecord b = test::recordOf("B", {10, 10, 10, 5, 5});
    for (auto* record : {&a, &b}) // opens at the close of the day before
        for (std::size_t i = 0; i < 5; ++i)
            record->bars.open[i] = i == 0 ? record->bars.close[0] : record->bars.close[i - 1];
    engine::Evaluator evaluator(test::marketOf({a, b}));
    StandingsQuestion question =
        questionOf({screenOf("A alone", "close > 15"), screenOf("All", "close > 0"),
                    screenOf("None", "close < 0")},
                   evaluator.market(), 0, 4);
    const Standings made = told(question, evaluator);
    REQUIRE(made.startAt.size() == 4); // the last day cannot be bought after
    const Standing& one = made.of[0];
    CHECK(one.picks == std::vector<std::size_t>{0, 0, 1, 1});
    CHECK(isMissing(one.gains[0]));
    CHECK(one.gains[2] == Approx(0.5)); // bought at 20 on the fourth day, worth 30
    CHECK(one.gains[3] == Approx(0.5));
    CHECK(one.empty == 2);
    CHECK(one.all[2] == Approx((0.5 - 0.5) / 2.0)); // B from 10 to 5
    CHECK(one.shareAboveAll == Approx(1.0));
    const Standing& all = made.of[1];
    CHECK(all.gains[0] == Approx((2.0 - 0.5) / 2.0));
    CHECK(all.gain.mean == Approx((0.75 + 0.75 + 0.0 + 0.25) / 4.0));
    CHECK(all.shareAboveAll == Approx(0.0));
    CHECK(all.chance == Approx(1.0)); // every pick is as good
    CHECK(made.of[2].gain.known == 0);
    CHECK(made.of[2].empty == 4);
    CHECK(made.of[2].curve.empty());
    CHECK(isMissing(made.of[2].worstFall));

    question.held = 1;
    const Standings held = told(question, evaluator);
    CHECK(held.of[1].gains[1] == Approx((1.0 + 0.0) / 2.0));
    CHECK(held.of[1].gains[2] == Approx((0.0 - 0.5) / 2.0));
    question.screens[1].side = screens::ScreenSide::Short;
    const Standings sold = told(question, evaluator);
    CHECK(sold.of[1].gains[2] == Approx(0.25));
    CHECK(sold.of[1].all[2] == Approx(0.25));

    // One start to the end is a purse that is bought and held.
    StandingsQuestion once = questionOf({screenOf("All", "close > 0")}, evaluator.market(), 0, 4);
    once.starts.erase(once.starts.begin() + 1, once.starts.end());
    const Standings purse = told(once, evaluator);
    CHECK(purse.of[0].curve[0] == Approx(1.0));
    CHECK(purse.of[0].curve[2] == Approx(1.5));
    CHECK(purse.of[0].curve[3] == Approx(1.25));
    CHECK(purse.of[0].curve[4] == Approx(1.75));
    CHECK(purse.of[0].worstFall == Approx(1.25 / 1.5 - 1.0));
    once.screens[0].side = screens::ScreenSide::Short;
    const Standings shorted = told(once, evaluator);
    CHECK(shorted.of[0].curve[2] == Approx(0.5));
    CHECK(shorted.of[0].curve[4] == Approx(0.25));
}

TEST_CASE("Standings: agree with screens put day by day and plain loops", "[studies][twin]")
{
    engine::Evaluator evaluator(test::marketOf(test::eventfulRecords(), "IDX"));
    const market::Market& market = evaluator.market();
    const std::vector<screens::Screen> screens{
        screenOf("Above", "close > sma(close, 20)"),
        screenOf("Best four", "close > 8", "growth(close, prior(close, 10))", 4),
        screenOf("Ties", "close > 0", "floor(close / 10)", 5),
        screenOf("Some", "rank(volume) <= 6", "", 3)};
    for (const bool isHeld : {false, true}) {
        StandingsQuestion question = questionOf(screens, market, 60, 200);
        question.screens[0].universe = "volume > 0 and close > 5";
        if (isHeld)
            question.held = 10;
        const Standings made = told(question, evaluator);
        REQUIRE(made.question.starts.size() == (isHeld ? 131U : 140U));
        const screens::NameBook book;
        for (std::size_t at = 0; at < screens.size(); ++at)
            for (std::size_t start = 0; start < made.question.starts.size(); start += 7) {
                INFO(screens[at].name << " " << start << (isHeld ? " held" : ""));
                const Day day = made.question.starts[start];
                const Day end =
                    isHeld ? made.sessions[made.startAt[start] + 10] : made.sessions.back();
                const auto run = screens::run(question.screens[at], book.names(), evaluator, day);
                double sum = 0.0;
                std::size_t count = 0;
                for (const std::size_t stock : run.matches)
                    if (const double gain = gainOf(market, stock, day, end); !std::isnan(gain)) {
                        sum += gain;
                        ++count;
                    }
                CHECK(made.of[at].picks[start] == count);
                CHECK(isSame(made.of[at].gains[start],
                             count > 0 ? sum / static_cast<double>(count) : missing));
                double all = 0.0;
                double stocks = 0.0;
                for (const std::size_t stock : run.stocks)
                    if (const double gain = gainOf(market, stock, day, end); !std::isnan(gain)) {
                        all += gain;
                        stocks += 1.0;
                    }
                CHECK(isSame(made.of[at].all[start], all / stocks));
                const auto picks = picksOn(made.question, at, start, book.names(), evaluator);
                REQUIRE(picks);
                REQUIRE(picks->size() == count);
                double weights = 0.0;
                for (const StandingPick& pick : *picks) {
                    CHECK(isSame(pick.gain, gainOf(market, pick.stock, day, end)));
                    weights += pick.weight;
                }
                if (count > 0)
                    CHECK(weights == Approx(1.0));
            }
    }
}

TEST_CASE("Standings: money by a figure, the best so many, starts of the newest days", "[studies]")
{
    market::InstrumentRecord a = test::recordOf("A", {10, 10, 20});
    market::InstrumentRecord b = test::recordOf("B", {30, 30, 30});
    for (auto* record : {&a, &b})
        record->bars.open = record->bars.close;
    a.bars.open[2] = 10;
    engine::Evaluator evaluator(test::marketOf({a, b}));
    const market::Market& market = evaluator.market();
    StandingsQuestion question = questionOf({screenOf("All", "close > 0", "close")}, market, 1, 2);
    question.weights = "close";
    CHECK(told(question, evaluator).of[0].gains[0] == Approx(0.25 * 1.0));
    question.best = 1; // B
    CHECK(told(question, evaluator).of[0].gains[0] == Approx(0.0).margin(1e-12));
    question.best = 5;
    CHECK(told(question, evaluator).of[0].fewer == 1);
    question.weights = "close - 30"; // nothing is above 0: equally
    CHECK(told(question, evaluator).of[0].gains[0] == Approx(0.5));
    question.weights = "close >";
    const screens::NameBook book;
    CHECK_FALSE(standingsOf(question, book.names(), evaluator));
    question.weights = "close > 1";
    CHECK_FALSE(standingsOf(question, book.names(), evaluator));

    StandingsTerms terms;
    terms.newest = 1;
    const auto newest = studies::questionOf(terms, question.screens, market, market.sessions()[2]);
    CHECK(newest.starts == std::vector<Day>{market.sessions()[1], market.sessions()[2]});
    terms.isOneStart = true;
    CHECK(studies::questionOf(terms, question.screens, market, market.sessions()[2]).starts ==
          std::vector<Day>{market.sessions()[1]});
    terms.held = 3;
    terms.from = test::day("2020-01-02");
    terms.weights = "\"a\"";
    terms.screens = {"One", "Two"};
    terms.best = 7;
    terms.writtenOut = {screenOf("A \"b\"", "close > 1\n# two lines\nand close < 9", "close", 3),
                        screenOf("C", "close > 2")};
    const auto back = standingsFromToml(toToml(terms));
    REQUIRE(back);
    CHECK(*back == terms);
    CHECK_FALSE(standingsFromToml("held = 0\n"));
    CHECK_FALSE(standingsFromToml("hold = 3\n"));
    CHECK_FALSE(standingsFromToml("written_out = [\"name = 3\"]\n"));
    CHECK_FALSE(standingsFromToml("written_out = [\"=\"]\n"));
}

TEST_CASE("Standings: a screen with a fault leaves the others, and what cannot be asked is told",
          "[studies]")
{
    engine::Evaluator evaluator(test::marketOf(test::eventfulRecords()));
    const market::Market& market = evaluator.market();
    StandingsQuestion question = questionOf(
        {screenOf("Wrong", "close >"), screenOf("Right", "close > 5")}, market, 100, 120);
    const Standings made = told(question, evaluator);
    CHECK(made.faults[0]);
    CHECK_FALSE(made.faults[1]);
    CHECK(made.of[1].gain.known > 0);
    const screens::NameBook book;
    const auto faultOf = [&](const StandingsQuestion& asked) {
        const auto answer = standingsOf(asked, book.names(), evaluator);
        return answer ? std::string("none") : answer.error().problem;
    };
    StandingsQuestion wrong = question;
    wrong.screens.clear();
    CHECK(faultOf(wrong).find("0 screens") != std::string::npos);
    wrong = question;
    wrong.starts.clear();
    CHECK(faultOf(wrong).find("0 start days") != std::string::npos);
    wrong = question;
    wrong.held = 500;
    CHECK(faultOf(wrong).find("no start comes to its end") != std::string::npos);
    wrong = question;
    wrong.held = 0;
    CHECK(faultOf(wrong) != "none");
}

TEST_CASE("Standings: what comes later changes nothing, and the same question gives the same bits",
          "[studies]")
{
    const auto records = test::eventfulRecords();
    engine::Evaluator whole(test::marketOf(records));
    const Day then = whole.market().sessions()[220];
    engine::Evaluator cut(test::cutAfter(records, then));
    const std::vector<screens::Screen> screens{screenOf("Above", "close > sma(close, 20)"),
                                               screenOf("Best", "close > 0", "volume", 3)};
    StandingsQuestion question = questionOf(screens, whole.market(), 100, 220);
    const Standings a = told(question, whole);
    const Standings b = told(question, cut);
    engine::Evaluator other(whole.marketPtr()); // which has kept nothing
    const Standings c = told(question, other);
    CHECK(told(question, whole).of[1].curve == a.of[1].curve); // out of what was kept
    for (std::size_t at = 0; at < 2; ++at) {
        CHECK(a.of[at].gain == b.of[at].gain);
        CHECK(a.of[at].gain == c.of[at].gain);
        CHECK(a.of[at].curve == b.of[at].curve);
        CHECK(a.of[at].curve == c.of[at].curve);
        CHECK(a.of[at].chance == c.of[at].chance);
    }
    // Other ends of the same picks, and picks that differ in their number, order or starts alone.
    const auto agree = [&](const StandingsQuestion& asked) {
        engine::Evaluator anew(whole.marketPtr());
        const Standings kept = told(asked, whole);
        const Standings fresh = told(asked, anew);
        for (std::size_t at = 0; at < asked.screens.size(); ++at) {
            CHECK(kept.of[at].gains == fresh.of[at].gains);
            CHECK(kept.of[at].chance == fresh.of[at].chance);
        }
    };
    StandingsQuestion varied = question;
    varied.held = 10;
    agree(varied);
    varied.best = 2;
    agree(varied);
    varied.weights = "volume";
    agree(varied);
    varied.screens = {screens[1], screens[1], screens[0]};
    agree(varied);
    varied.screens = {screens[1], screens[0], screens[0]};
    agree(varied);
    varied.screens[0].universe = "close > 20";
    agree(varied);
    varied.starts.pop_back();
    agree(varied);
    const Health health = healthOf(a, screens::ScreenSide::Long);
    CHECK(health.gain[3] == Approx((a.of[0].gains[3] + a.of[1].gains[3]) / 2.0));
    CHECK(isMissing(healthOf(a, screens::ScreenSide::Short).gain[3]));
    std::vector<std::size_t> places;
    for (std::size_t start = 0; start < a.startAt.size(); ++start)
        places.push_back(start % 3); // the third is no name
    const auto by = gainsBy(a.of[0], places, 2);
    REQUIRE(by.size() == 2);
    CHECK(by[0].known + by[1].known < a.of[0].gain.known);
}

TEST_CASE("Standings: screens by chance have no edge", "[studies]")
{
    std::vector<market::InstrumentRecord> records;
    Chance chance(11);
    for (int i = 0; i < 60; ++i) {
        std::vector<double> closes{50.0};
        for (int at = 1; at < 60; ++at)
            closes.push_back(closes.back() *
                             (0.97 + 0.06 * static_cast<double>(chance.below(1001)) / 1000.0));
        records.push_back(test::recordOf(fmt::format("S{:02}", i), closes));
        const auto own = static_cast<double>(chance.below(100'000)); // stays with the stock
        for (double& volume : records.back().bars.volume)
            volume = 1000.0 * own + static_cast<double>(chance.below(1000));
    }
    engine::Evaluator evaluator(test::marketOf(records));
    // Screens that keep the same stocks for weeks and such that change every day alike.
    std::vector<screens::Screen> screens;
    for (int i = 0; i < 250; ++i) {
        const auto partOf = [](const std::string& figure) {
            return fmt::format("{0} - floor({0}) < 0.2", figure);
        };
        screens.push_back(
            screenOf(fmt::format("day {}", i), partOf(fmt::format("(volume / {})", 97 + i))));
        screens.push_back(
            screenOf(fmt::format("kept {}", i),
                     partOf(fmt::format("(floor(volume / 1000) / {})", 101 + 7 * i))));
    }
    StandingsQuestion question = questionOf(screens, evaluator.market(), 10, 59);
    question.held = 5;
    const Standings made = told(question, evaluator);
    for (const std::size_t kind : {0U, 1U}) {
        std::vector<double> chances;
        for (std::size_t at = kind; at < made.of.size(); at += 2) {
            if (made.faults[at])
                FAIL(sentence(*made.faults[at]));
            if (!isMissing(made.of[at].chance))
                chances.push_back(made.of[at].chance);
        }
        REQUIRE(chances.size() > 200);
        std::ranges::sort(chances);
        double distance = 0.0;
        for (std::size_t i = 0; i < chances.size(); ++i)
            distance =
                std::max(distance, std::abs(chances[i] - static_cast<double>(i + 1) /
                                                             static_cast<double>(chances.size())));
        // Kolmogorov and Smirnov at one in a thousand; kept screens share sixty stocks, so that
        // they are not independent of each other: as if a third of them were.
        const double independent = static_cast<double>(chances.size()) / (kind == 0 ? 1.0 : 3.0);
        CHECK(distance < 1.95 / std::sqrt(independent));
    }
}

} // namespace sieve::studies
