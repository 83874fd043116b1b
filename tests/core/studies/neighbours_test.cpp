#include "core/studies/neighbours.h"

#include "core/screens/limits.h"
#include "core/screens/name_book.h"
#include "core/studies/cautions.h"
#include "core/studies/study_files.h"
#include "tests/core/made_market.h"

#include <catch2/catch.hpp>
#include <cmath>
#include <fmt/format.h>

namespace sieve::studies {

namespace {

NeighbourQuestion questionOf(const std::vector<std::string>& criteria)
{
    NeighbourQuestion question;
    for (const std::string& text : criteria)
        question.of.screen.criteria.push_back({text});
    question.of.horizons = {5};
    question.of.to = lastDay();
    question.of.picks = 0;
    question.of.resamples = 100;
    question.of.isEveryMatch = true;
    question.steps = 5;
    return question;
}

} // namespace

TEST_CASE("Neighbours: every cell is the answer of the screen with its limits moved",
          "[studies][twin]")
{
    engine::Evaluator evaluator(test::marketOf(test::eventfulRecords()));
    const Day day = evaluator.market().sessions().back();
    const screens::NameBook book;
    struct Asked {
        std::vector<std::string> criteria;
        MovedLimit across, down;
    };
    for (const Asked& asked :
         {Asked{{"close > sma(close, 20)", "rsi(close, 14) < 60", "close >= 12"}, {1, 0}, {2, 0}},
          Asked{{"20 <= rsi(close, 5) <= 70", "volume > 0"}, {0, 0}, {0, 1}},
          Asked{{"change(close, 5) > 1%", "5 < close"}, {0, 0}, {1, 0}}}) {
        INFO(asked.criteria[0]);
        NeighbourQuestion question = questionOf(asked.criteria);
        question.across = asked.across;
        question.down = asked.down;
        question.of.screen.universe = "volume > 0";
        const auto made = neighboursOf(question, book.names(), evaluator, day);
        if (!made)
            FAIL(sentence(made.error()));
        REQUIRE(made->cells.size() == 25);
        for (std::size_t row = 0; row < 5; ++row)
            for (std::size_t column = 0; column < 5; ++column) {
                FollowingQuestion moved = question.of;
                // Of one criterion with two limits the second is moved first: it stands behind.
                for (const auto& [limit, bounds, at] :
                     {std::tuple(asked.down, &made->question.down.bounds, row),
                      std::tuple(asked.across, &made->question.across.bounds, column)}) {
                    engine::Plan plan;
                    std::string& text = moved.screen.criteria[limit.criterion].text;
                    const auto limits = screens::limitsOf(text, book.names(), plan);
                    const auto& where = limits[limit.limit].where;
                    text = text.substr(0, where.offset) + fmt::format("{:.17g}", (*bounds)[at]) +
                           text.substr(where.offset + where.bytes);
                }
                INFO(moved.screen.criteria[asked.across.criterion].text);
                const auto told = followingOf(moved, book.names(), evaluator, day);
                REQUIRE(told);
                const auto& cell = made->at(row, column);
                CHECK(cell.cases == told->horizons[0].own.known);
                if (cell.cases > 0) {
                    CHECK(cell.mean == Approx(told->horizons[0].own.mean).epsilon(1e-9));
                    CHECK(cell.excess ==
                          Approx(told->horizons[0].excess).epsilon(1e-9).margin(1e-12));
                }
            }
        const auto own = followingOf(question.of, book.names(), evaluator, day);
        REQUIRE(own);
        CHECK(made->own().cases == own->horizons[0].own.known);
    }
}

TEST_CASE("Neighbours: a walk forward chooses by what was known before each year, by plain loops",
          "[studies][twin]")
{
    engine::Evaluator evaluator(test::marketOf(test::eventfulRecords(900)));
    const market::Market& market = evaluator.market();
    const Day day = market.sessions().back();
    const screens::NameBook book;
    NeighbourQuestion question = questionOf({"rsi(close, 14) < 60", "close >= 12"});
    question.across = {0, 0};
    question.down = {1, 0};
    question.of.screen.universe = "volume > 0";
    const auto made = neighboursOf(question, book.names(), evaluator, day);
    REQUIRE(made);
    REQUIRE(made->walk.size() >= 2);
    // Each cell's cases with their years, each asked as a study of its own.
    struct Case {
        int year;
        int endYear;
        double change;
        double others;
    };
    std::vector<std::vector<Case>> cells;
    for (const double down : made->question.down.bounds)
        for (const double across : made->question.across.bounds) {
            FollowingQuestion moved = question.of;
            moved.screen.criteria = {{fmt::format("rsi(close, 14) < {:.17g}", across)},
                                     {fmt::format("close >= {:.17g}", down)}};
            const auto told = followingOf(moved, book.names(), evaluator, day);
            REQUIRE(told);
            auto& cases = cells.emplace_back();
            for (std::size_t at = 0; at < told->cases.size(); ++at) {
                if (isMissing(told->horizons[0].changes[at]))
                    continue;
                const auto& each = told->cases[at];
                const auto days = market.bars(each.of.stock).days;
                const auto bar = std::ranges::lower_bound(days, each.day) - days.begin();
                const auto end =
                    std::min<std::ptrdiff_t>(bar + 5, static_cast<std::ptrdiff_t>(days.size()) - 1);
                cases.push_back(
                    {static_cast<int>(each.day.date().year()),
                     static_cast<int>(days[static_cast<std::size_t>(end)].date().year()),
                     told->horizons[0].changes[at], told->horizons[0].others[at]});
            }
        }
    const auto excess = [](const std::vector<Case>& cases, auto isIn) {
        std::size_t count = 0;
        double sum = 0.0;
        for (const Case& each : cases)
            if (isIn(each)) {
                ++count;
                sum += each.change - each.others;
            }
        return std::pair(count, sum / static_cast<double>(count));
    };
    const std::size_t width = made->question.across.bounds.size();
    for (const auto& step : made->walk) {
        INFO(step.year);
        const auto isBefore = [&](const Case& each) { return each.endYear < step.year; };
        const auto isIn = [&](const Case& each) { return each.year == step.year; };
        double best = -1e9;
        for (const auto& cell : cells)
            if (const auto [count, mean] = excess(cell, isBefore); count >= fewWalked)
                best = std::max(best, mean);
        const auto [before, mean] = excess(cells[step.down * width + step.across], isBefore);
        CHECK(mean == Approx(best).epsilon(1e-9));
        CHECK(before == step.before.cases);
        CHECK(step.before.excess == Approx(mean).epsilon(1e-9));
        const auto [after, made1] = excess(cells[step.down * width + step.across], isIn);
        CHECK(after == step.after.cases);
        if (after > 0)
            CHECK(step.after.excess == Approx(made1).epsilon(1e-9));
        const auto [own, made2] = excess(cells[made->ownDown * width + made->ownAcross], isIn);
        CHECK(own == step.own.cases);
        if (own > 0)
            CHECK(step.own.excess == Approx(made2).epsilon(1e-9));
    }
    // What came later changes no year's choice.
    const auto records = test::eventfulRecords(900);
    engine::Evaluator cut(test::cutAfter(records, test::day("2025-12-31")));
    NeighbourQuestion same = made->question;
    const auto earlier = neighboursOf(same, book.names(), cut, cut.market().sessions().back());
    REQUIRE(earlier);
    REQUIRE_FALSE(earlier->walk.empty());
    for (const auto& step : earlier->walk) {
        const auto later = std::ranges::find(made->walk, step.year, &Neighbours::WalkStep::year);
        REQUIRE(later != made->walk.end());
        CHECK(later->across == step.across);
        CHECK(later->down == step.down);
        CHECK(later->before.cases == step.before.cases);
    }
}

TEST_CASE("Neighbours: a plateau is steady and a ridge is not, and what cannot be moved is told",
          "[studies]")
{
    Neighbours told;
    told.question.across.bounds = {1, 2, 3};
    told.question.down.bounds = {1, 2, 3};
    told.ownAcross = told.ownDown = 1;
    told.cells.assign(9, {40, 0.03, 0.02});
    CHECK(told.steadiness() == Approx(1.0));
    for (std::size_t at = 0; at < 9; ++at)
        if (at != 4)
            told.cells[at].excess = -0.01;
    CHECK(told.steadiness() == Approx(-0.5));
    told.cells[4].excess = -0.02;
    CHECK(isMissing(told.steadiness()));
    // What was best before and did not stay so is told.
    told.cells.assign(9, {40, 0.03, 0.02});
    CHECK(cautionsOf(told).empty());
    told.walk.assign(3, {2020, 0, 0, {40, 0.05, 0.04}, {20, 0.02, 0.01}, {20, 0.02, 0.02}});
    CHECK(walkToldOf(told.walk).after == Approx(0.01));
    REQUIRE(cautionsOf(told).size() == 1);
    CHECK(cautionsOf(told).front().words.find("did not stay so") != std::string::npos);
    for (auto& step : told.walk)
        step.after.excess = 0.03;
    CHECK(cautionsOf(told).empty());
    CHECK(isMissing(walkToldOf({}).own));

    engine::Evaluator evaluator(test::marketOf(test::eventfulRecords()));
    const Day day = evaluator.market().sessions().back();
    const screens::NameBook book;
    const auto faultOf = [&](const NeighbourQuestion& question) {
        const auto made = neighboursOf(question, book.names(), evaluator, day);
        return made ? std::string("none") : made.error().problem;
    };
    NeighbourQuestion question = questionOf({"close > sma(close, 20)", "rsi(close, 14) < 60"});
    CHECK(movableLimits(question.of.screen, book.names()) == std::vector<MovedLimit>{{1, 0}});
    question.across = {1, 0};
    question.down = {0, 0};
    CHECK(faultOf(question).find("numbers are needed") != std::string::npos);
    question.down = {1, 0};
    CHECK(faultOf(question).find("numbers are needed") != std::string::npos);
    question = questionOf({"close > 5", "rsi(close, 14) < 60"});
    question.across = {0, 0};
    question.down = {1, 0};
    CHECK(faultOf(question) == "none");
    question.down.bounds = {5, 3};
    CHECK(faultOf(question) != "none");
    question.down.bounds.clear();
    question.steps = 1;
    CHECK(faultOf(question) != "none");
    question.steps = 5;
    question.of.screen.criteria.push_back({"close >"});
    CHECK(faultOf(question).find("in 'close >'") != std::string::npos);
    // Nothing ever holds beside the two: an empty field, no fault.
    question = questionOf({"close > 5", "rsi(close, 14) < 60", "close < 0"});
    question.across = {0, 0};
    question.down = {1, 0};
    const auto none = neighboursOf(question, book.names(), evaluator, day);
    REQUIRE(none);
    CHECK(none->own().cases == 0);
}

} // namespace sieve::studies
