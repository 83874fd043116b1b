#include "core/indicators/recursive_average.h"

#include "core/base/missing.h"
#include "core/indicators/relative_strength_index.h"
#include "core/indicators/true_range.h"
#include "demo_market/dice.h"

#include <catch2/catch.hpp>
#include <vector>

namespace sieve::indicators {

namespace {

std::vector<double> run(const Recursion& recursion, const std::vector<double>& values)
{
    std::vector<double> out(values.size());
    REQUIRE(runRecursion(values, recursion, Span::whole(), out));
    return out;
}

std::vector<double> rsiOf(const std::vector<double>& closes, int period)
{
    std::vector<double> rsi(closes.size());
    REQUIRE(relativeStrengthIndex(closes, period, Span::whole(), rsi));
    return rsi;
}

} // namespace

TEST_CASE("Recursion: skips what is missing at the start, bears it later", "[indicators]")
{
    const auto out = run(Recursion::exponential(2), {missing, 1, 3, missing, 6, 6});
    CHECK(isMissing(out[1]));
    CHECK(out[2] == Approx(2));
    CHECK(out[3] == Approx(2));
    CHECK(out[4] == Approx(2 + (6 - 2) * 2.0 / 3));
}

TEST_CASE("Recursion: a deep bar is the plain recursion from the first, but for rounding",
          "[indicators]")
{
    demo_market::Dice dice(8);
    const int period = GENERATE(1, 2, 9, 34, 150);
    for (const Recursion& recursion : {Recursion::exponential(period), Recursion::wilder(period),
                                       Recursion::wilderSum(period + 1)}) {
        std::vector<double> values;
        for (int i = 0; i < 6000; ++i)
            values.push_back(dice.between(40, 60));
        const auto out = run(recursion, values);
        double plain = 0.0;
        for (std::size_t bar = 0; bar < values.size(); ++bar) {
            const auto seed = static_cast<std::size_t>(recursion.seedCount);
            if (bar < seed)
                plain += values[bar];
            if (bar + 1 == seed)
                plain *= recursion.seedGain;
            if (bar >= seed)
                plain = recursion.decay * plain + recursion.gain * values[bar];
            if (bar + 1 >= seed)
                REQUIRE(out[bar] == Approx(plain).epsilon(1e-12));
        }
    }
}

TEST_CASE("Recursion: a window with a gap or without movement asks for more", "[indicators]")
{
    const Recursion wilder = Recursion::wilder(14);
    const std::size_t back = reachBack(wilder);
    std::vector<double> values(back + 1, 1.0);
    double out = 0;
    const Span deep{3000 - back, 3000};
    CHECK(runRecursion(values, wilder, deep, std::span(&out, 1)));
    CHECK(out == Approx(1.0));
    values[back - 20] = missing;
    CHECK_FALSE(runRecursion(values, wilder, deep, std::span(&out, 1)));
    values.assign(back + 1, 0.0); // what is old is all there is
    values[3] = 5.0;
    CHECK_FALSE(runRecursion(values, wilder, deep, std::span(&out, 1)));
}

TEST_CASE("Recursion: near the beginning a bar has the same bits, however many are asked for, and "
          "nothing later changes it",
          "[indicators]")
{
    demo_market::Dice dice(static_cast<std::uint64_t>(GENERATE(range(1, 13))));
    const int period = 2 + static_cast<int>(dice.below(60));
    const Recursion recursion =
        dice.chance(0.5) ? Recursion::exponential(period) : Recursion::wilder(period);
    const double gaps = GENERATE(0.0, 0.01, 0.2);
    std::vector<double> values;
    for (int i = 0; i < 400; ++i)
        values.push_back(dice.chance(gaps) || i < 5 ? missing : dice.between(-3, 50));
    const auto all = run(recursion, values);
    double plain = 0.0;
    int seen = 0;
    for (std::size_t bar = 0; bar < values.size(); ++bar) {
        INFO("bar " << bar << ", period " << period << ", gaps " << gaps);
        double alone = 0.0;
        const auto past = std::span<const double>(values).first(bar + 1);
        REQUIRE(runRecursion(past, recursion, {0, bar}, std::span(&alone, 1)));
        REQUIRE((alone == all[bar] || (isMissing(alone) && isMissing(all[bar]))));
        if (!isMissing(values[bar])) { // the definition, step by step
            ++seen;
            plain = seen <= recursion.seedCount
                        ? plain + values[bar]
                        : recursion.decay * plain + recursion.gain * values[bar];
            plain *= seen == recursion.seedCount ? recursion.seedGain : 1.0;
        }
        REQUIRE(isMissing(alone) == (seen < recursion.seedCount));
        if (!isMissing(alone))
            REQUIRE(alone == Approx(plain).epsilon(1e-12).margin(1e-12));
    }
}

TEST_CASE("RSI: agrees with a case worked by hand", "[indicators]")
{
    const auto rsi = rsiOf({10, 11, 10, 12}, 2); // changes +1, -1, +2
    CHECK(isMissing(rsi[1]));                    // two changes are needed
    CHECK(rsi[2] == Approx(50.0));               // gain 1/2, loss 1/2
    CHECK(rsi[3] == Approx(100.0 * 5 / 6));      // gain (1/2 + 2) / 2, loss (1/2 + 0) / 2
}

TEST_CASE("RSI: a price that never moved has none, one that stopped keeps its last", "[indicators]")
{
    CHECK(isMissing(rsiOf({5, 5, 5, 5}, 2).back())); // a halted stock must not look oversold
    std::vector<double> halted{10, 11, 10, 12};
    halted.resize(2000, 12.0);
    CHECK(rsiOf(halted, 2)[300] == Approx(100.0 * 5 / 6));
}

TEST_CASE("True range: the first bar has none", "[indicators]")
{
    std::vector<double> range(2);
    trueRange(std::vector<double>{11, 15}, std::vector<double>{9, 14}, std::vector<double>{10, 14},
              Span::whole(), range);
    CHECK(isMissing(range[0]));
    CHECK(range[1] == Approx(5)); // 15 - 10: the gap counts
}

} // namespace sieve::indicators
