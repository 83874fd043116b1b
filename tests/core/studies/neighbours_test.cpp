#include "core/studies/neighbours.h"

#include "core/screens/limits.h"
#include "core/screens/name_book.h"
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
