#include "core/studies/deflation.h"

#include "core/base/missing.h"

#include <catch2/catch.hpp>
#include <cmath>
#include <random>
#include <vector>

namespace sieve::studies {

TEST_CASE("Deflation: the example that its authors work through", "[studies]")
{
    // Five years of 250 days, an annual ratio of 2.5, a hundred tries whose annual ratios have a
    // variance of a half, skewness -3 and kurtosis 10: they find 0.1132 and 90 %, and with 46 tries
    // 95 %.
    const double deviation = std::sqrt(0.5 / 250.0);
    CHECK(luckOfTheBest(100, deviation) == Approx(0.1132).margin(5e-5));
    const ReturnShape shape{1250, 2.5 / std::sqrt(250.0), -3.0, 10.0};
    CHECK(probabilityAbove(shape, luckOfTheBest(100, deviation)) == Approx(0.9004).margin(5e-4));
    CHECK(probabilityAbove(shape, luckOfTheBest(46, deviation)) == Approx(0.9505).margin(5e-4));
}

TEST_CASE("Deflation: the best of many tries of nothing is told to be luck", "[studies]")
{
    std::mt19937_64 random(5);
    std::normal_distribution<double> draw(0.0, 0.01);
    constexpr int tries = 60;
    std::vector<std::vector<double>> all(tries, std::vector<double>(1000));
    std::vector<double> sharpes;
    for (auto& returns : all) {
        for (double& each : returns)
            each = draw(random);
        sharpes.push_back(dailySharpe(returns));
    }
    const auto best = static_cast<std::size_t>(std::ranges::max_element(sharpes) - sharpes.begin());
    CHECK(probabilityAbove({1000, sharpes[best], 0.0, 3.0}, 0.0) > 0.95); // looked at alone
    const double deflated = deflatedSharpe(all[best], sharpes);
    CHECK(deflated > 0.1);
    CHECK(deflated < 0.9);
    for (double& each : all[0]) // one with merit stays one
        each += 0.003;
    sharpes[0] = dailySharpe(all[0]);
    CHECK(deflatedSharpe(all[0], sharpes) > 0.99);
}

TEST_CASE("Deflation: what cannot be said is missing", "[studies]")
{
    const std::vector<double> returns{0.01, -0.02, 0.03, 0.0};
    const std::vector<double> one{0.1};
    const std::vector<double> two{0.1, 0.2, missing};
    const std::vector<double> flat{0.01, 0.01, 0.01};
    CHECK(isMissing(luckOfTheBest(1, 0.1)));
    CHECK(isMissing(luckOfTheBest(5, missing)));
    CHECK(isMissing(deflatedSharpe(returns, one)));
    CHECK_FALSE(isMissing(deflatedSharpe(returns, two)));
    CHECK(isMissing(deflatedSharpe({}, two)));
    CHECK(isMissing(deflatedSharpe(flat, two)));
    CHECK(isMissing(dailySharpe(flat)));
    CHECK(isMissing(chanceAmong(3, missing)));
}

TEST_CASE("Deflation: a chance among tries, by hand", "[studies]")
{
    CHECK(chanceAmong(1, 0.05) == Approx(0.05));
    CHECK(chanceAmong(2, 0.5) == Approx(0.75));
    CHECK(chanceAmong(10, 0.01) == Approx(1.0 - std::pow(0.99, 10)));
    CHECK(chanceAmong(7, 1.0) == 1.0);
    CHECK(chanceAmong(7, 0.0) == 0.0);
}

} // namespace sieve::studies
