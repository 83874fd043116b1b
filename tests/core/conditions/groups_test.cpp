#include "core/conditions/groups.h"

#include "tests/core/made_market.h"

#include <catch2/catch.hpp>
#include <cmath>

namespace sieve::conditions {

namespace {

/// A share whose close moves by `before` a session, and by `after` from the given session on.
market::InstrumentRecord shareOf(const std::string& symbol, const std::string& sector,
                                 const std::string& industry, double before, double after,
                                 std::size_t turn)
{
    std::vector<double> closes{100.0};
    for (std::size_t i = 1; i < 120; ++i)
        closes.push_back(closes.back() * (1.0 + (i < turn ? before : after)));
    auto record = test::recordOf(symbol, closes, sector);
    record.instrument.industry = industry;
    return record;
}

Groups madeGroups()
{
    engine::Evaluator evaluator(
        test::marketOf({shareOf("AAAA", "Energy", "Tides", 0.01, -0.01, 100),
                        shareOf("BBBB", "Energy", "Peat", 0.02, 0.0, 100),
                        shareOf("CCCC", "Water", "Wells", 0.0, 0.02, 100),
                        shareOf("DDDD", "", "", 0.5, 0.5, 100)}));
    return readGroups(evaluator);
}

const RankedGroup& named(const Groups& groups, const std::vector<RankedGroup>& standings,
                         const std::string& name)
{
    return *std::ranges::find_if(standings, [&](const RankedGroup& standing) {
        return groups.all[standing.group].name == name;
    });
}

} // namespace

TEST_CASE("Groups: sectors with their industries, and nobody without a sector", "[conditions]")
{
    const Groups groups = madeGroups();
    REQUIRE(groups.all.size() == 5);
    CHECK(groups.all[0].name == "Energy");
    CHECK(groups.all[1].name == "Peat");
    CHECK(groups.all[1].sector == 0U);
    CHECK(groups.all[2].name == "Tides");
    CHECK(groups.all[3].name == "Water");
    CHECK_FALSE(groups.all[3].sector);
    CHECK(groups.all[0].members.front() == 2.0);
    CHECK(groups.all[0].members.back() == 2.0);
    CHECK(groups.all[0].line.levels[1] == Approx(1015.0));
    CHECK(isMissing(groups.all[0].above[10])); // too early to say
    CHECK(groups.all[0].above[80] == 1.0);
    CHECK(groups.all[3].above[80] == 0.0);
}

TEST_CASE("Groups: ranked by their change now, a week and a month ago", "[conditions]")
{
    const Groups groups = madeGroups();
    const auto sectors = rankGroups(groups, std::nullopt, changesOver(groups, 110, 5));
    REQUIRE(sectors.size() == 2);
    CHECK(groups.all[sectors[0].group].name == "Water"); // it leads since it turned
    CHECK(sectors[0].figure == Approx(std::pow(1.02, 5) - 1));
    CHECK(sectors[0].ranks[0] == 1U);
    CHECK(sectors[0].ranks[2] == 2U); // a month ago it did not
    CHECK(sectors[0].path.back() == 1.0);
    CHECK(sectors[0].path[rankPathSessions - 1 - 21] == 2.0);
    const auto industries = rankGroups(groups, 0U, changesOver(groups, 110, 5));
    REQUIRE(industries.size() == 2);
    CHECK(groups.all[industries[0].group].name == "Peat");
    CHECK(named(groups, industries, "Tides").ranks[0] == 2U);
}

TEST_CASE("Groups: ranks are told of today, a week, a month and a quarter ago", "[conditions]")
{
    CHECK(rankAges == std::array<std::size_t, 4>{0, 5, 21, 63});
    Groups groups;
    groups.sessions.assign(70, test::day("2024-01-01"));
    for (const char* name : {"Energy", "Water", "Salt"}) {
        Group& group = groups.all.emplace_back();
        group.name = name;
        group.members.assign(70, 1);
        group.above.assign(70, 0.0);
    }
    // Energy leads until 63 sessions ago, Water until 5 ago, Salt until yesterday; today Energy.
    GroupFigures figures{69, Unit::Plain, {}};
    figures.values.assign(3, std::vector<double>(70, 0.0));
    for (std::size_t day = 0; day < 70; ++day) {
        const std::size_t ago = 69 - day;
        const std::size_t leads = ago >= 63 ? 0 : ago >= 5 ? 1 : ago >= 1 ? 2 : 0;
        figures.values[leads][day] = 1.0;
    }
    const auto ranked = rankGroups(groups, std::nullopt, figures);
    using Ranks = std::array<std::optional<std::size_t>, 4>;
    CHECK(ranked[0].group == 0);
    CHECK(ranked[0].ranks == Ranks{1, 2, 2, 1});
    CHECK(ranked[1].ranks == Ranks{2, 1, 1, 2});
    CHECK(ranked[2].ranks == Ranks{2, 2, 2, 2});
}

TEST_CASE("Groups: medians of money are of one currency", "[conditions]")
{
    auto other = shareOf("BBBB", "Water", "Wells", 0.0, 0.0, 100);
    other.instrument.currency = "dn";
    const auto market = std::make_shared<const market::Market>(
        market::MarketDescription{
            "Isles", "1", "vl", "", {}, {{"dn", {{test::day("2023-12-30"), 0.25}}}}},
        std::vector{shareOf("AAAA", "Energy", "Tides", 0.0, 0.0, 100), other});
    engine::Evaluator evaluator(market);
    const language::Names names{language::Vocabulary::builtIn()};
    const Groups groups = readGroups(evaluator);
    const auto figures = mediansOf(evaluator, names, groups, "close", 5);
    REQUIRE(figures);
    for (std::size_t i = 0; i < groups.all.size(); ++i)
        CHECK(figures->values[i].back() == market->bars(groups.all[i].shares[0]).close[5] *
                                               (groups.all[i].shares[0] == 0 ? 1.0 : 0.25));
}

TEST_CASE("Groups: too early for a change there is no rank", "[conditions]")
{
    const Groups groups = madeGroups();
    for (const RankedGroup& standing :
         rankGroups(groups, std::nullopt, changesOver(groups, 3, 5))) {
        CHECK(isMissing(standing.figure));
        CHECK_FALSE(standing.ranks[0]);
        CHECK(standing.path.size() == 4);
    }
    engine::Evaluator bare(test::marketOf({test::recordOf("AAAA", {1, 2}, "")}));
    const Groups none = readGroups(bare);
    CHECK(rankGroups(none, std::nullopt, changesOver(none, 1, 1)).empty());
}

TEST_CASE("Groups: ranked by the median of any figure", "[conditions]")
{
    engine::Evaluator evaluator(
        test::marketOf({shareOf("AAAA", "Energy", "Tides", 0.01, -0.01, 100),
                        shareOf("BBBB", "Energy", "Peat", 0.02, 0.0, 100),
                        shareOf("CCCC", "Water", "Wells", 0.0, 0.02, 100)}));
    const language::Names names{language::Vocabulary::builtIn()};
    const Groups groups = readGroups(evaluator);
    const auto figures = mediansOf(evaluator, names, groups, "change(close, 5)", 110);
    REQUIRE(figures);
    const auto sectors = rankGroups(groups, std::nullopt, *figures);
    CHECK(groups.all[sectors[0].group].name == "Water");
    CHECK(sectors[1].figure == Approx((std::pow(0.99, 5) - 1) / 2.0)); // of two: their mean
    CHECK(sectors[0].ranks[2] == 2U);
    CHECK(figures->values[0].size() == rankPathSessions);
    const auto early = mediansOf(evaluator, names, groups, "change(close, 5)", 2);
    REQUIRE(early);
    CHECK(early->values[0].size() == 3); // of the sessions that there are
    const auto closes = mediansOf(evaluator, names, groups, "close", 2);
    REQUIRE(closes);
    CHECK(groups.all[1].name == "Peat");
    CHECK(closes->values[1][0] == Approx(100.0));
    CHECK(closes->values[1][2] == Approx(104.04)); // the session's own, nothing later
    CHECK_FALSE(mediansOf(evaluator, names, groups, "clos", 110));
    CHECK_FALSE(mediansOf(evaluator, names, groups, "close > 5", 110));
    CHECK(conditionOf(groups, 1) ==
          "kind == \"share\" and sector == \"Energy\" and industry == \"Peat\"");
}

TEST_CASE("Groups: a group's listed shares, the greatest figure first, those without one last",
          "[conditions]")
{
    auto gone = test::recordOf("DDDD", {10, 11});
    gone.instrument.delistedOn = test::day("2024-01-03");
    const auto market =
        test::marketOf({test::recordOf("AAAA", {1, 2, 3}), test::recordOf("BBBB", {1, 2, 3}),
                        test::recordOf("CCCC", {1, 2, 3}), gone});
    Group group;
    group.shares = {0, 1, 2, 3};
    const std::vector<double> figures{missing, 3.0, 7.0, 9.0};
    const Day last = market->sessions().back();
    CHECK(rankShares(group, *market, last, figures) == std::vector<std::size_t>{2, 1, 0});
    CHECK(rankShares(group, *market, last, {}) == std::vector<std::size_t>{0, 1, 2});
    CHECK(rankShares(group, *market, market->sessions().front(), figures) ==
          std::vector<std::size_t>{3, 2, 1, 0});
}

} // namespace sieve::conditions
