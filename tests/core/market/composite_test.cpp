#include "core/market/composite.h"

#include "core/base/missing.h"
#include "core/market/as_of.h"
#include "tests/core/made_market.h"

#include <catch2/catch.hpp>
#include <cmath>

namespace sieve::market {

TEST_CASE("Composite: equal weight, worked by hand", "[market]")
{
    auto split = test::recordOf("BBBB", {20, 22, 11}); // the split of the third day does not show
    split.actions.push_back({split.bars.days[2], ActionKind::Split, 2.0});
    auto late = test::recordOf("CCCC", {1});
    late.bars = test::barsOf({5, 10}, test::day("2024-01-02")); // joins after its first session
    auto fund = test::recordOf("FUND", {1, 100, 1000});
    fund.instrument.kind = InstrumentKind::Fund; // no share
    const auto market = test::marketOf({test::recordOf("AAAA", {10, 11, 11}), split, late, fund});
    const Composite line = makeComposite(*market, Weight::Equal);
    REQUIRE(line.levels.size() == 3);
    CHECK(line.levels[0] == 1000);
    CHECK(line.levels[1] == Approx(1000 * (1 + (0.1 + 0.1) / 2)));
    CHECK(line.levels[2] == Approx(1100 * (1 + (0.0 + 0.0 + 1.0) / 3)));
}

TEST_CASE("Composite: by capitalization, the larger weighs more and the uncounted is out",
          "[market]")
{
    auto large = test::recordOf("AAAA", {10, 11});
    large.shares.push_back(
        {test::day("2023-01-01"), test::day("2023-01-01"), 300, missing, missing});
    auto small = test::recordOf("BBBB", {10, 10});
    small.shares.push_back(
        {test::day("2023-01-01"), test::day("2023-01-01"), 100, missing, missing});
    const auto market = test::marketOf({large, small, test::recordOf("CCCC", {1, 9})});
    const Composite line = makeComposite(*market, Weight::Capitalization);
    CHECK(line.levels[1] == Approx(1000 * (1 + 0.1 * 3000 / 4000)));
}

TEST_CASE("Composite: one that did not trade stands still, one delisted leaves", "[market]")
{
    auto halted = test::recordOf("BBBB", {10, 10, 20});
    halted.bars.days[2] = test::day("2024-01-04");
    halted.bars.truncate(3);
    const auto market = test::marketOf({test::recordOf("AAAA", {10, 11, 11, 11}), halted});
    const Composite line = makeComposite(*market, Weight::Equal);
    CHECK(line.levels[1] == Approx(1050));
    CHECK(line.levels[2] == Approx(1050)); // it did not trade on the third
    CHECK(line.levels[3] == Approx(1575));
}

TEST_CASE("Composite: total return counts what was handed out", "[market]")
{
    auto paying = test::recordOf("AAAA", {100, 99, 50, 51});
    const auto& days = paying.bars.days;
    paying.actions = {{days[1], ActionKind::Dividend, 2.0},
                      {days[2], ActionKind::Split, 2.0},
                      {days[3], ActionKind::SpinOff, 0.5}};
    const auto market = test::marketOf({paying});
    const auto members = allShares(*market);
    const Composite price = makeComposite(*market, members, Weight::Equal);
    CHECK(price.levels[3] == Approx(1000 * 0.99 * (100.0 / 99.0) * 1.02));
    const Composite total = makeComposite(*market, members, Weight::Equal, Return::Total);
    CHECK(total.levels[1] == Approx(1010)); // 99 and 2 for 100
    CHECK(total.levels[2] == Approx(1010 * 100.0 / 99.0));
    CHECK(total.levels[3] == Approx(1010 * 100.0 / 99.0 * 51.5 / 50.0));
}

TEST_CASE("Composite: of a sector, and of members that come and go", "[market]")
{
    const auto market = test::marketOf({test::recordOf("AAAA", {10, 11, 11}, "Energy"),
                                        test::recordOf("BBBB", {10, 10, 15}, "Water"),
                                        test::recordOf("CCCC", {10, 12, 12}, "Energy")});
    const auto energy = sharesWith(*market, TextField::Sector, *market->texts().find("Energy"));
    CHECK(energy.size() == 2);
    CHECK(makeComposite(*market, energy, Weight::Equal).levels[1] == Approx(1150));
    const auto days = market->sessions();
    const std::vector<Member> list{{0, days[0], days[2]}, {1, days[2]}}; // one gives way to another
    const Composite line = makeComposite(*market, list, Weight::Equal);
    CHECK(line.levels[1] == Approx(1100));
    CHECK(line.levels[2] == Approx(1650));
    const Composite nobody = makeComposite(*market, std::vector<Member>(), Weight::Equal);
    CHECK(nobody.levels == std::vector<double>{1000, 1000, 1000});
}

TEST_CASE("Composite: a long halt is left out until it ends", "[market]")
{
    CHECK(idleSessions == 20); // a month: the figures below are worked for it
    const std::vector<double> flat(idleSessions + 6, 10.0);
    auto halted = test::recordOf("BBBB", flat);
    const Day last = halted.bars.days.back();
    halted.bars.truncate(2);
    halted.bars.add({last, 20, 20, 20, 20, 1});
    std::vector<double> rising;
    for (std::size_t i = 0; i < flat.size(); ++i)
        rising.push_back(10.0 * std::pow(1.1, static_cast<double>(i)));
    const auto market = test::marketOf({test::recordOf("AAAA", rising), halted});
    const Composite line = makeComposite(*market, Weight::Equal);
    const auto changeOn = [&](std::size_t session) {
        return line.levels[session] / line.levels[session - 1] - 1.0;
    };
    CHECK(changeOn(2) == Approx(0.05)); // it stands still beside the one that rises
    CHECK(changeOn(1 + idleSessions) == Approx(0.05));
    CHECK(changeOn(2 + idleSessions) == Approx(0.1));
    CHECK(changeOn(flat.size() - 1) == Approx((0.1 + 1.0) / 2)); // and doubles when it is back
}

TEST_CASE("Composite: agrees with the plain sum over every stock and session", "[market]")
{
    const auto weight = GENERATE(Weight::Equal, Weight::Capitalization);
    const auto market = test::marketOf(test::eventfulRecords());
    const Composite line = makeComposite(*market, weight);
    const auto sessions = market->sessions();
    const auto closeOn = [&](std::size_t stock, std::size_t bar, std::size_t footing) {
        return market->bars(stock).close[bar] *
               market->priceFactor(stock, market->bars(stock).days[bar], footing);
    };
    double level = 1000.0;
    for (std::size_t session = 1; session < sessions.size(); ++session) {
        double changes = 0;
        double weights = 0;
        for (std::size_t stock = 0; stock < market->size(); ++stock) {
            // Who comes back after long is counted with the change since it was away.
            const auto before = lastBarBy(*market, stock, sessions[session - 1]);
            const auto now = barOn(*market, stock, sessions[session]);
            if (!before || !now || market->instrument(stock).kind != InstrumentKind::Share)
                continue;
            const auto shares = sharesOn(*market, stock, market->bars(stock).days[*before]);
            const double rate = market->rate(stock, market->bars(stock).days[*before]);
            const double size =
                weight == Weight::Equal ? 1.0
                : shares && !isMissing(rate)
                    ? rate * shares->outstanding *
                          closeOn(stock, *before, market->footing(stock, *before)) /
                          market->priceFactor(stock, shares->date, market->footing(stock, *before))
                    : 0.0;
            const std::size_t footing = market->footing(stock, *now);
            weights += size;
            changes +=
                size * (closeOn(stock, *now, footing) / closeOn(stock, *before, footing) - 1.0);
        }
        level *= weights > 0 ? 1.0 + changes / weights : 1.0;
        REQUIRE(line.levels[session] == Approx(level).epsilon(1e-10));
    }
}

TEST_CASE("Composite: what comes later changes no level", "[market]")
{
    const auto records = test::eventfulRecords();
    const Composite whole = makeComposite(*test::marketOf(records), Weight::Capitalization);
    for (const std::size_t last : {100U, 201U, 202U, 203U, 204U, 280U}) {
        const Composite then =
            makeComposite(*test::cutAfter(records, whole.days[last]), Weight::Capitalization);
        for (std::size_t i = 0; i < then.levels.size(); ++i)
            REQUIRE(then.levels[i] == whole.levels[i]);
    }
}

TEST_CASE("Composite: what its total return is more than its price was handed out, on each day",
          "[market]")
{
    Composite line;
    line.days = {test::day("2024-01-02"), test::day("2024-01-03"), test::day("2024-01-04"),
                 test::day("2024-01-05")};
    line.levels = {100, 95, 95, 90};
    Composite total = line;
    total.levels = {100, 100, 100, 100};
    const auto market = marketOf(line, total);
    const auto actions = market->actions(0);
    REQUIRE(actions.size() == 2); // none on the day on which both moved alike
    CHECK(actions[0].exDate == line.days[1]);
    CHECK(actions[0].value == Approx(5.0));
    CHECK(actions[1].exDate == line.days[3]);
    CHECK(actions[1].value == Approx(5.0));
}

} // namespace sieve::market
