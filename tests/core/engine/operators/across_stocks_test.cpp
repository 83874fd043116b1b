#include "core/engine/across.h"

#include <catch2/catch.hpp>
#include <cmath>

// Every value across stocks, worked by hand.

namespace sieve::engine {

namespace {

/// Values across stocks of one group, or of groups by their number.
std::vector<double> valuesOf(Op op, const std::vector<double>& figures,
                             const std::vector<double>& groups = {})
{
    Node part;
    part.op = op;
    std::vector<double> out(figures.size(), -1.0);
    across(part, figures,
           groups.empty() ? StockGroups::all(figures.size()) : StockGroups::of(groups, false), out);
    return out;
}

/// The same with -1 in the place of what is missing.
std::vector<double> filled(std::vector<double> values)
{
    for (double& value : values)
        value = isMissing(value) ? -1.0 : value;
    return values;
}

const std::vector<double> five{10.0, 20.0, 20.0, 40.0, missing};

} // namespace

TEST_CASE("Across: places among the stocks of a day, equal ones sharing theirs", "[engine]")
{
    CHECK(filled(valuesOf(Op::Percentile, five)) ==
          std::vector<double>{12.5, 50.0, 50.0, 87.5, -1.0});
    CHECK(filled(valuesOf(Op::Rank, five)) == std::vector<double>{4.0, 2.0, 2.0, 1.0, -1.0});
    const auto zscores = valuesOf(Op::ZScore, five); // mean 22.5, squares 475 over 3
    CHECK(zscores[0] == Approx(-12.5 / std::sqrt(475.0 / 3.0)));
    CHECK(zscores[3] == Approx(17.5 / std::sqrt(475.0 / 3.0)));
    CHECK(isMissing(zscores[4]));
    CHECK(isMissing(valuesOf(Op::ZScore, {7.0, 7.0})[0])); // they do not differ
}

TEST_CASE("Across: one figure for all, given to those too who have none", "[engine]")
{
    CHECK(valuesOf(Op::Median, five) == std::vector<double>(5, 20.0));
    CHECK(valuesOf(Op::Median, {1.0, 4.0, 8.0, 100.0}) == std::vector<double>(4, 6.0));
    CHECK(valuesOf(Op::Mean, five) == std::vector<double>(5, 22.5));
    CHECK(valuesOf(Op::TotalOf, five) == std::vector<double>(5, 90.0));
    const std::vector<double> answers{1.0, 0.0, 0.0, missing, 0.0};
    CHECK(valuesOf(Op::ShareOf, answers) == std::vector<double>(5, 0.25));
    CHECK(valuesOf(Op::CountOf, answers) == std::vector<double>(5, 1.0));
}

TEST_CASE("Across: each group by itself, and the groups among each other", "[engine]")
{
    //                                 means: 15, 5, 30, and one without figures
    const std::vector<double> figures{10.0, 20.0, 5.0, 30.0, missing, missing, 50.0};
    const std::vector<double> groups{1.0, 1.0, 2.0, 3.0, 3.0, 4.0, missing};
    CHECK(filled(valuesOf(Op::Mean, figures, groups)) ==
          std::vector<double>{15.0, 15.0, 5.0, 30.0, 30.0, -1.0, -1.0});
    CHECK(filled(valuesOf(Op::Rank, figures, groups)) ==
          std::vector<double>{2.0, 1.0, 1.0, 1.0, -1.0, -1.0, -1.0});
    CHECK(filled(valuesOf(Op::GroupRank, figures, groups)) ==
          std::vector<double>{2.0, 2.0, 3.0, 1.0, 1.0, -1.0, -1.0});
}

TEST_CASE("Across: the least figure whose place keeps to a limit", "[engine]")
{
    const auto leastOf = [](PlaceLimit place, double limit) {
        Node part;
        part.op = Op::LeastPlaced;
        part.place = place;
        part.number = limit;
        std::vector<double> out(five.size());
        across(part, five, StockGroups::all(five.size()), out);
        return out[0];
    };
    CHECK(leastOf(PlaceLimit::PercentileAtLeast, 50.0) == 20.0);
    CHECK(leastOf(PlaceLimit::PercentileAbove, 50.0) == 40.0);
    CHECK(leastOf(PlaceLimit::RankAtMost, 2.0) == 20.0);
    CHECK(leastOf(PlaceLimit::RankBelow, 2.0) == 40.0);
    CHECK(leastOf(PlaceLimit::RankBelow, 1.0) == std::numeric_limits<double>::max());
}

} // namespace sieve::engine
