#include "core/studies/cautions.h"

#include "core/screens/name_book.h"
#include "tests/core/made_market.h"

#include <algorithm>
#include <catch2/catch.hpp>

namespace sieve::studies {

namespace {

bool says(const std::vector<Caution>& cautions, const std::string& words)
{
    return std::ranges::any_of(
        cautions, [&](const Caution& each) { return each.words.find(words) != std::string::npos; });
}

/// Thirty cases on as many days of two years, of fifteen stocks, that all rose by 5 %.
Following strongEvidence()
{
    Following told;
    FollowedHorizon horizon;
    horizon.bars = 5;
    for (std::size_t at = 0; at < 40; ++at) {
        told.cases.push_back({{at % 15, at}, Day::fromSerial(18'000 + static_cast<int>(at) * 20)});
        horizon.changes.push_back(0.05);
        horizon.others.push_back(0.0);
    }
    horizon.own = spreadOf(horizon.changes);
    horizon.excess = 0.05;
    horizon.sure.excess = {0.03, 0.06};
    horizon.effective = 38.0;
    horizon.chance = 0.001;
    horizon.withoutGone = 0.05;
    told.horizons.push_back(horizon);
    return told;
}

} // namespace

TEST_CASE("Cautions: how many variants of an idea were tried", "[studies]")
{
    Following following;
    following.horizons.resize(1);
    following.horizons[0].chance = 0.05;
    CHECK(cautionsOfTries(following, 0, 1).empty());
    REQUIRE(cautionsOfTries(following, 0, 10).size() == 1);
    CHECK(cautionsOfTries(following, 0, 10)[0].words.find("probability of 40 %") !=
          std::string::npos); // 1 - 0.95^10
    following.horizons[0].chance = missing;
    CHECK(cautionsOfTries(following, 0, 10)[0].words ==
          "It is one of 10 variants of the idea that were tried.");
    Portfolio portfolio;
    portfolio.equity = {100.0, 101.0, 103.0, 102.0, 106.0};
    const std::vector<double> sharpes{0.4, 0.1, missing};
    CHECK(cautionsOfTries(portfolio, std::span(sharpes).first(1)).empty());
    CHECK(cautionsOfTries(portfolio, sharpes)[0].words.find("best of 3") != std::string::npos);
    portfolio.equity.clear();
    CHECK(cautionsOfTries(portfolio, sharpes)[0].words ==
          "It is one of 3 variants of the idea that were tried.");
}

TEST_CASE("Cautions: strong evidence of what followed has none, each weakness has its own",
          "[studies]")
{
    CHECK(cautionsOf(strongEvidence(), 0).empty());
    Following weak = strongEvidence();
    weak.horizons[0].sure.excess = {-0.01, 0.06};
    CHECK(says(cautionsOf(weak, 0), "between -1.0 % and +6.0 %"));
    weak = strongEvidence();
    weak.horizons[0].effective = 7.4;
    CHECK(says(cautionsOf(weak, 0), "40 cases are worth about 7 independent ones"));
    weak = strongEvidence();
    weak.horizons[0].chance = 0.31;
    CHECK(says(cautionsOf(weak, 0), "31 of 100 picks by chance"));
    weak = strongEvidence();
    for (std::size_t at = 0; at < 30; ++at)
        weak.cases[at].day = weak.cases[0].day;
    CHECK(says(cautionsOf(weak, 0), "75 % of the cases fell on one day, 2019-04-14"));
    weak = strongEvidence();
    for (FollowedCase& each : weak.cases)
        each.of.stock = each.of.bar < 10 ? 1 : each.of.stock;
    CHECK(says(cautionsOf(weak, 0), "of the cases are one stock"));
    weak = strongEvidence();
    weak.gone = 6;
    weak.horizons[0].withoutGone = 0.08;
    CHECK(says(cautionsOf(weak, 0), "6 cases are of stocks that were delisted since"));
    weak = strongEvidence();
    for (std::size_t at = 12; at < 40; ++at)
        weak.horizons[0].changes[at] = missing;
    weak.horizons[0].own = spreadOf(weak.horizons[0].changes);
    CHECK(says(cautionsOf(weak, 0), "12 cases are too few"));
    CHECK(says(cautionsOf(weak, 0), "Of 28 cases it is not known yet"));
    Following none;
    none.horizons.emplace_back();
    CHECK(says(cautionsOf(none, 0), "never matched"));
}

TEST_CASE("Cautions: standings and portfolios", "[studies]")
{
    engine::Evaluator evaluator(test::marketOf(test::eventfulRecords()));
    const market::Market& market = evaluator.market();
    const screens::NameBook book;
    StandingsQuestion question;
    screens::Screen few;
    few.criteria.push_back({"close > 0"});
    few.rankBy = "volume";
    screens::Screen wrong;
    wrong.criteria.push_back({"close >"});
    screens::Screen none;
    none.criteria.push_back({"close < 0"});
    question.screens = {few, wrong, none};
    question.best = 2;
    question.starts = startDays(market, market.sessions()[100], market.sessions()[150]);
    question.end = market.sessions()[150];
    const auto toEnd = standingsOf(question, book.names(), evaluator);
    REQUIRE(toEnd);
    CHECK(says(cautionsOf(*toEnd, 0), "All starts end on the same day"));
    CHECK(says(cautionsOf(*toEnd, 0), "On average 2.0 stocks"));
    CHECK(says(cautionsOf(*toEnd, 1), "in 'close >'"));
    CHECK(says(cautionsOf(*toEnd, 2), "No start had a stock"));
    question.held = 10;
    const auto held = standingsOf(question, book.names(), evaluator);
    REQUIRE(held);
    CHECK(separatePeriods(*held) == 5);
    CHECK(says(cautionsOf(*held, 0), "make 5 separate periods"));

    PortfolioRule rule;
    PortfolioStep step;
    step.screen = few;
    step.hold = 3;
    rule.steps.push_back(step);
    rule.trading.costShare = 0.05;
    rule.rebalancing.by = Rebalancing::By::Sessions;
    rule.to = market.sessions().back();
    const auto costly = runPortfolio(rule, book.names(), evaluator, rule.to);
    REQUIRE(costly);
    const auto told = cautionsOf(*costly, toldOf(*costly));
    CHECK(says(told, "years are a short time"));
    rule.steps[0].screen = none;
    const auto nothing = runPortfolio(rule, book.names(), evaluator, rule.to);
    REQUIRE(nothing);
    CHECK(says(cautionsOf(*nothing, toldOf(*nothing)), "Nothing was ever bought"));
}

TEST_CASE("Cautions: limits on a ridge", "[studies]")
{
    Neighbours told;
    told.question.across.bounds = told.question.down.bounds = {1, 2, 3};
    told.ownAcross = told.ownDown = 1;
    told.cells.assign(9, {40, 0.03, 0.02});
    CHECK(cautionsOf(told).empty());
    told.cells[4].excess = 0.08;
    CHECK(says(cautionsOf(told), "made 25 % of the difference"));
    told.cells.assign(9, {40, 0.03, -0.02});
    told.cells[4].excess = 0.08;
    CHECK(says(cautionsOf(told), "no better than all stocks"));
    told.cells[4].cases = 0;
    CHECK(says(cautionsOf(told), "never matched"));
}

} // namespace sieve::studies
