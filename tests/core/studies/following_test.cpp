#include "core/studies/following.h"
#include "core/studies/study_files.h"

#include "core/screens/name_book.h"
#include "tests/core/made_market.h"

#include <algorithm>
#include <catch2/catch.hpp>
#include <cmath>
#include <fmt/format.h>

namespace sieve::studies {

namespace {

using test::day;

FollowingQuestion questionOf(const std::string& condition, std::vector<int> horizons)
{
    FollowingQuestion question;
    question.screen.criteria.push_back({condition});
    question.horizons = std::move(horizons);
    question.to = lastDay();
    question.resamples = 200;
    question.picks = 99;
    return question;
}

Following told(const FollowingQuestion& question, engine::Evaluator& evaluator,
               std::optional<Day> when = std::nullopt)
{
    const screens::NameBook book;
    auto made = followingOf(question, book.names(), evaluator,
                            when.value_or(evaluator.market().sessions().back()));
    if (!made)
        FAIL(sentence(made.error()));
    return *std::move(made);
}

std::string faultOf(const FollowingQuestion& question)
{
    engine::Evaluator evaluator(test::marketOf({test::recordOf("A", {1, 2, 3})}));
    const screens::NameBook book;
    const auto made = followingOf(question, book.names(), evaluator, day("2024-01-03"));
    return made ? "none" : sentence(made.error());
}

/// The same numbers from plain loops over each stock's own history, written apart.
struct Twin {
    struct Case {
        std::size_t stock, bar;
        double change, others, lowest, highest;
    };
    std::vector<Case> cases;
    double mean = 0.0;

    Twin(engine::Evaluator& evaluator, const std::string& condition, const std::string& universe,
         int bars, Day from, Day to, Day asOf)
    {
        const market::Market& market = evaluator.market();
        const screens::NameBook book;
        engine::Plan plan;
        const auto holds = checkCondition(condition, book.names(), plan);
        const auto isIn = checkCondition(universe, book.names(), plan);
        REQUIRE(holds);
        REQUIRE(isIn);
        std::map<Day, std::pair<double, int>> all;
        for (const bool isCounting : {true, false})
            for (std::size_t stock = 0; stock < market.size(); ++stock) {
                if (market.isIndex(stock) || market.bars(stock).size() == 0)
                    continue;
                const engine::NodeId targets[] = {holds->node, isIn->node};
                std::vector<std::vector<double>> known(2);
                const auto days = market.bars(stock).days;
                std::vector<double> open(days.size()), high(open), low(open), close(open),
                    worth(open);
                const std::size_t count = static_cast<std::size_t>(
                    std::upper_bound(days.begin(), days.end(), asOf) - days.begin());
                if (count == 0)
                    continue;
                // Each as known on its own day: one question a bar.
                for (std::size_t bar = 0; bar < count; ++bar)
                    for (std::size_t i = 0; i < 2; ++i)
                        known[i].push_back((*evaluator.column(plan, targets[i], days[bar]))[stock]);
                const std::size_t footing = market.footing(stock, count - 1);
                market.adjusted(stock, market::BarField::Open, footing, 0, open);
                market.adjusted(stock, market::BarField::High, footing, 0, high);
                market.adjusted(stock, market::BarField::Low, footing, 0, low);
                market.adjusted(stock, market::BarField::Close, footing, 0, close);
                market.totalReturn(stock, footing, 0, worth);
                const auto gone = market.instrument(stock).delistedOn;
                const auto changeOf = [&](std::size_t bar) {
                    if (bar + 1 >= count)
                        return missing;
                    std::size_t end = bar + static_cast<std::size_t>(bars);
                    if (end >= count) {
                        if (!gone || *gone > asOf)
                            return missing;
                        end = count - 1;
                    }
                    const double bought = open[bar + 1] * worth[bar + 1] / close[bar + 1];
                    return worth[end] / bought - 1.0;
                };
                for (std::size_t bar = 0; bar < count; ++bar) {
                    if (days[bar] < from || days[bar] > to)
                        continue;
                    const double change = changeOf(bar);
                    if (isCounting) {
                        if (known[1][bar] == 1.0 && !std::isnan(change)) {
                            all[days[bar]].first += change;
                            ++all[days[bar]].second;
                        }
                        continue;
                    }
                    const bool isMatch = known[0][bar] == 1.0 && known[1][bar] == 1.0;
                    const bool wasMatch =
                        bar > 0 && known[0][bar - 1] == 1.0 && known[1][bar - 1] == 1.0;
                    if (!isMatch || wasMatch)
                        continue;
                    Case found{stock, bar, change, missing, missing, missing};
                    if (!std::isnan(change)) {
                        found.others = all[days[bar]].first / all[days[bar]].second;
                        const double bought = open[bar + 1] * worth[bar + 1] / close[bar + 1];
                        found.lowest = found.highest = 0.0;
                        for (std::size_t on = bar + 1;
                             on <= std::min(bar + static_cast<std::size_t>(bars), count - 1);
                             ++on) {
                            const double scale = worth[on] / close[on] / bought;
                            found.lowest = std::min(found.lowest, low[on] * scale - 1.0);
                            found.highest = std::max(found.highest, high[on] * scale - 1.0);
                        }
                    }
                    cases.push_back(found);
                }
            }
    }
};

void checkSame(double got, double wanted)
{
    if (std::isnan(wanted))
        CHECK(std::isnan(got));
    else
        CHECK(std::abs(got - wanted) <= 1e-9 * std::max(1.0, std::abs(wanted)));
}

} // namespace

TEST_CASE("Following: first matches, what follows them and what follows all, by hand", "[studies]")
{
    // Opens are the closes but for what barsOf() takes off; bought at the close they are plain.
    engine::Evaluator evaluator(test::marketOf({test::recordOf("A", {10, 20, 22, 11, 33, 33}),
                                                test::recordOf("B", {10, 10, 11, 12, 12, 6})}));
    FollowingQuestion question = questionOf("close > 15", {1, 2});
    question.boughtAt = BoughtAt::Close;
    const Following made = told(question, evaluator);
    REQUIRE(made.cases.size() == 2); // A on its second and its fifth bar
    CHECK(made.cases[0].of == Occurrence{0, 1});
    CHECK(made.cases[1].of == Occurrence{0, 4});
    CHECK(made.matches == 4);
    const FollowedHorizon& one = made.horizons[0];
    CHECK(one.changes[0] == Approx(0.10));
    CHECK(one.changes[1] == Approx(0.0).margin(1e-12));
    CHECK(one.others[0] == Approx((0.10 + 0.10) / 2.0));
    CHECK(one.others[1] == Approx((0.0 - 0.5) / 2.0));
    CHECK(one.own.mean == Approx(0.05));
    CHECK(one.excess == Approx(0.05 - (0.10 - 0.25) / 2.0));
    CHECK(one.repeated.known == 1); // A on its third bar; of its last one nothing is known
    CHECK(one.repeated.mean == Approx(-0.5));
    const FollowedHorizon& two = made.horizons[1];
    CHECK(two.changes[0] == Approx(-0.45));
    CHECK(isMissing(two.changes[1]));
    CHECK(two.own.known == 1);
    CHECK(made.daysWithCases == 2);
    CHECK(made.mostOnADay == 1);
    CHECK(made.stocks == 1);

    question.isEveryMatch = true;
    CHECK(told(question, evaluator).cases.size() == 4);
    question.isEveryMatch = false;
    question.from = evaluator.market().sessions()[2]; // the run began before
    CHECK(told(question, evaluator).cases.size() == 1);
    question.to = evaluator.market().sessions()[3];
    CHECK(told(question, evaluator).cases.empty());
}

TEST_CASE("Following: no match, everything matches, one match", "[studies]")
{
    engine::Evaluator evaluator(test::marketOf(test::eventfulRecords()));
    const Following none = told(questionOf("close < 0", {1, 20}), evaluator);
    CHECK(none.cases.empty());
    CHECK(none.horizons[0].own.known == 0);
    CHECK(isMissing(none.horizons[0].own.mean));
    CHECK(isMissing(none.horizons[0].chance));
    CHECK(isMissing(none.horizons[0].effective));
    FollowingQuestion every = questionOf("known(close)", {1});
    every.isEveryMatch = true;
    const Following all = told(every, evaluator);
    CHECK(all.cases.size() == all.matches);
    // The cases are all there is: neither better nor worse than others, and every pick does as
    // well.
    CHECK(all.horizons[0].excess == Approx(0.0).margin(1e-12));
    CHECK(all.horizons[0].own.mean == Approx(all.horizons[0].all.mean));
    CHECK(all.horizons[0].chance == Approx(1.0));
    FollowingQuestion oneDay = questionOf("close > 0", {5});
    oneDay.isEveryMatch = true;
    oneDay.from = oneDay.to = evaluator.market().sessions()[40];
    const Following rare = told(oneDay, evaluator);
    CHECK(rare.daysWithCases == 1);
    CHECK(rare.cases.size() > 5);
    CHECK(isMissing(rare.horizons[0].sure.mean.low)); // one day says nothing of others
}

TEST_CASE("Following: agrees with plain loops over the rows, with splits and delistings",
          "[studies][twin]")
{
    engine::Evaluator evaluator(test::marketOf(test::eventfulRecords()));
    const auto sessions = evaluator.market().sessions();
    struct Asked {
        const char* condition;
        const char* universe;
        int bars;
        std::size_t from, to, asOf;
    };
    for (const Asked& asked :
         {Asked{"close > sma(close, 20)", "known(close)", 5, 0, 319, 319},
          Asked{"rank(growth(close, prior(close, 10))) <= 3", "close > 12", 20, 40, 300, 310},
          Asked{"close > highest(prior(close), 30)", "volume > 0", 60, 100, 200, 250},
          Asked{"rsi(close, 5) < 40", "known(close)", 1, 10, 319, 319}}) {
        INFO(asked.condition);
        FollowingQuestion question = questionOf(asked.condition, {asked.bars});
        question.screen.universe = asked.universe;
        question.from = sessions[asked.from];
        question.to = sessions[asked.to];
        const Day asOf = sessions[asked.asOf];
        const Following made = told(question, evaluator, asOf);
        const Twin twin(evaluator, asked.condition, asked.universe, asked.bars, question.from,
                        std::min(question.to, asOf), asOf);
        REQUIRE(made.cases.size() == twin.cases.size());
        REQUIRE(made.cases.size() > 5);
        double sum = 0.0;
        std::size_t known = 0;
        for (std::size_t i = 0; i < twin.cases.size(); ++i) {
            CHECK(made.cases[i].of == Occurrence{twin.cases[i].stock, twin.cases[i].bar});
            checkSame(made.horizons[0].changes[i], twin.cases[i].change);
            checkSame(made.horizons[0].others[i], twin.cases[i].others);
            checkSame(made.horizons[0].lowest[i], twin.cases[i].lowest);
            checkSame(made.horizons[0].highest[i], twin.cases[i].highest);
            if (!std::isnan(twin.cases[i].change)) {
                sum += twin.cases[i].change;
                ++known;
            }
        }
        CHECK(made.horizons[0].own.known == known);
        checkSame(made.horizons[0].own.mean, sum / static_cast<double>(known));
    }
}

TEST_CASE("Following: what comes later changes nothing that was told", "[studies]")
{
    const auto records = test::eventfulRecords();
    engine::Evaluator whole(test::marketOf(records));
    const Day then = whole.market().sessions()[220];
    engine::Evaluator cut(test::cutAfter(records, then));
    const FollowingQuestion question = questionOf("close > sma(close, 20)", {1, 20});
    const Following a = told(question, whole, then);
    const Following b = told(question, cut, then);
    REQUIRE(a.cases.size() == b.cases.size());
    REQUIRE_FALSE(a.cases.empty());
    for (std::size_t i = 0; i < a.horizons.size(); ++i) {
        CHECK(a.horizons[i].own == b.horizons[i].own);
        CHECK(a.horizons[i].all == b.horizons[i].all);
        CHECK(a.horizons[i].chance == b.horizons[i].chance);
        CHECK(a.horizons[i].sure.mean == b.horizons[i].sure.mean);
    }
}

TEST_CASE("Following: the same question gives the same bits, another seed other intervals",
          "[studies]")
{
    engine::Evaluator evaluator(test::marketOf(test::eventfulRecords()));
    engine::Evaluator other(evaluator.marketPtr()); // which has kept nothing
    FollowingQuestion question = questionOf("close > sma(close, 20)", {5});
    const Following a = told(question, evaluator);
    for (const Following& b : {told(question, other), told(question, evaluator)}) {
        CHECK(a.horizons[0].sure.mean == b.horizons[0].sure.mean);
        CHECK(a.horizons[0].chance == b.horizons[0].chance);
        CHECK(a.horizons[0].all == b.horizons[0].all);
        CHECK(a.question == b.question);
    }
    question.seed = 2; // a question that differs in what no condition says is another one
    const Following c = told(question, evaluator);
    CHECK_FALSE(a.horizons[0].sure.mean == c.horizons[0].sure.mean);
    CHECK(a.horizons[0].own == c.horizons[0].own);
    CHECK(a.horizons[0].sure.mean.low <= a.horizons[0].own.mean);
    CHECK(a.horizons[0].sure.mean.high >= a.horizons[0].own.mean);
}

TEST_CASE("Following: conditions by chance have no edge", "[studies]")
{
    // Forty stocks whose days rise or fall by chance, and conditions that ask for digits of the
    // volume, which tell nothing: as many chances lie below a tenth as should.
    std::vector<market::InstrumentRecord> records;
    Chance chance(7);
    for (int i = 0; i < 40; ++i) {
        std::vector<double> closes{100.0};
        for (int at = 1; at < 150; ++at)
            closes.push_back(closes.back() *
                             (0.97 + 0.06 * static_cast<double>(chance.below(1001)) / 1000.0));
        records.push_back(test::recordOf(fmt::format("S{:02}", i), closes));
        for (double& volume : records.back().bars.volume)
            volume = static_cast<double>(1000 + chance.below(100'000));
    }
    engine::Evaluator evaluator(test::marketOf(records));
    std::vector<double> chances;
    for (int i = 0; i < 120; ++i) {
        // A band of volume, another one each time.
        FollowingQuestion question =
            questionOf(fmt::format("volume > {} and volume < {}", 800 * i, 800 * i + 6000), {5});
        question.seed = static_cast<std::uint64_t>(i + 1);
        question.picks = 199;
        const double found = told(question, evaluator).horizons[0].chance;
        if (!isMissing(found))
            chances.push_back(found);
    }
    REQUIRE(chances.size() > 100);
    // The greatest distance from a straight line (Kolmogorov and Smirnov); the bands overlap, so
    // that their chances go together: the bound is that of a fifth of them.
    std::ranges::sort(chances);
    double distance = 0.0;
    for (std::size_t i = 0; i < chances.size(); ++i)
        distance =
            std::max(distance, std::abs(chances[i] - static_cast<double>(i + 1) /
                                                         static_cast<double>(chances.size())));
    CHECK(distance < 1.63 / std::sqrt(static_cast<double>(chances.size()) / 5.0));
}

TEST_CASE("Following: groups by year, sector, fifths of a figure and states of days", "[studies]")
{
    engine::Evaluator evaluator(test::marketOf(test::eventfulRecords(420)));
    FollowingQuestion question = questionOf("close > sma(close, 10)", {5});
    question.strengths = {"volume"};
    const Following made = told(question, evaluator);
    const auto sumOf = [&](const CaseGroups& groups) {
        INFO(groups.by);
        std::vector<double> named;
        for (std::size_t at = 0; at < made.cases.size(); ++at)
            if (groups.of[at] < groups.names.size())
                named.push_back(made.horizons[0].changes[at]);
        const Spread wanted = spreadOf(named);
        std::size_t known = 0;
        double sum = 0.0;
        for (const GroupTold& each : groupsTold(made, groups, 0)) {
            known += each.own.known;
            if (each.own.known > 0)
                sum += each.own.mean * static_cast<double>(each.own.known);
        }
        CHECK(known == wanted.known);
        CHECK(known > 100);
        CHECK(sum == Approx(wanted.mean * static_cast<double>(known)));
    };
    const auto newest = newestCases(made, 10);
    REQUIRE(newest.size() == 10);
    for (std::size_t i = 1; i < newest.size(); ++i)
        CHECK(made.cases[newest[i]].day <= made.cases[newest[i - 1]].day);
    CHECK(newestCases(made, made.cases.size() + 5).size() == made.cases.size());
    CHECK(made.horizons[0].lowMedian == spreadOf(made.horizons[0].lowest).median);
    CHECK(made.horizons[0].ownHeap.weight() ==
          Approx(static_cast<double>(made.horizons[0].own.known)));
    const CaseGroups years = byYear(made);
    CHECK(years.names == std::vector<std::string>{"2024", "2025"});
    sumOf(years);
    const CaseGroups split = bySplit(made, day("2024-09-02"));
    CHECK(split.names.size() == 2);
    sumOf(split);
    for (std::size_t at = 0; at < made.cases.size(); ++at)
        CHECK(split.of[at] == (made.cases[at].day < day("2024-09-02") ? 0U : 1U));
    const CaseGroups fifths = byStrength(made, 0);
    CHECK(fifths.names.size() == 5);
    sumOf(fifths);
    for (std::size_t at = 0; at < made.cases.size(); ++at) {
        const Occurrence& of = made.cases[at].of;
        const auto& bars = evaluator.market().bars(of.stock);
        CHECK(made.strengths[0][at] ==
              bars.volume[of.bar] /
                  evaluator.market().priceFactor(of.stock, bars.days[of.bar],
                                                 evaluator.market().footing(of.stock, of.bar)));
    }
    const auto sessions = evaluator.market().sessions();
    std::vector<std::string> names;
    for (std::size_t i = 0; i < sessions.size(); ++i)
        names.emplace_back(i % 2 == 0 ? "even" : "odd");
    const CaseGroups states = byDays(made, "state", sessions, names);
    CHECK(states.names == std::vector<std::string>{"even", "odd"});
    sumOf(states);
    const CaseGroups sectors =
        byText(made, evaluator.market(), market::TextField::Sector, "sector");
    CHECK(sectors.names.size() >= 2);
    sumOf(sectors);
}

TEST_CASE("Following: questions with a fault are told, and files come back", "[studies]")
{
    CHECK(faultOf(questionOf("close >", {1})).find("in 'close >'") != std::string::npos);
    CHECK(faultOf(questionOf("close > 1", {})).find("no horizon") != std::string::npos);
    CHECK(faultOf(questionOf("close > 1", {5, 5})).find("not ascending") != std::string::npos);
    CHECK(faultOf(questionOf("close > 1", {0})).find("0 bars") != std::string::npos);
    CHECK(faultOf(questionOf("close > 1", {1, 9999})).find("9999 bars") != std::string::npos);
    FollowingQuestion strange = questionOf("close > 1", {1});
    strange.strengths = {"nosuch"};
    CHECK(faultOf(strange).find("nosuch") != std::string::npos);
    CHECK(faultOf(questionOf("close > 1", {1})) == "none");

    FollowingQuestion question = questionOf("close > \"x\"", {2, 9});
    question.screen.universe = "volume > 5";
    question.from = day("2020-02-03");
    question.to = day("2021-02-03");
    question.setAside = day("2020-09-01");
    question.boughtAt = BoughtAt::Close;
    question.dividends = Dividends::LeftOut;
    question.isEveryMatch = true;
    question.strengths = {"volume", "close"};
    question.seed = 42;
    const ScreenNamed none = [](std::string_view) { return std::nullopt; };
    const auto back = followingFromToml(toToml(question), none);
    REQUIRE(back);
    CHECK(*back == question);
    const auto faultIn = [&](const char* toml) {
        const auto read = followingFromToml(toml, none);
        return read ? std::string("none") : sentence(read.error());
    };
    CHECK(faultIn("criteria = [\"close > 1\"]\n") == "none");
    CHECK(faultIn("screen = \"Gone\"\n").find("no screen 'Gone'") != std::string::npos);
    CHECK(faultIn("").find("no screen and no criterion") != std::string::npos);
    CHECK(faultIn("criteria = [\"close > 1\"]\nhorizon = [3]\n").starts_with("Line 2"));
    CHECK(faultIn("criteria = [\"close > 1\"]\nhorizons = [\"a\"]\n").starts_with("Line 2"));
    CHECK(faultIn("criteria = [\"close > 1\"]\nfrom = \"soon\"\n").find("no day") !=
          std::string::npos);
    CHECK(faultIn("criteria = [\"close > 1\"]\nseed = -3\n").starts_with("Line 2"));
    CHECK(faultIn("criteria = [\"close > 1\"]\nbought = \"noon\"\n").find("noon") !=
          std::string::npos);
    CHECK(faultIn("criteria = [").starts_with("Line 1"));
}

TEST_CASE("Resampling: intervals by hand and for what cannot be told", "[studies]")
{
    std::vector<DaySum> days(100);
    for (std::size_t i = 0; i < days.size(); ++i)
        days[i] = {2.0, 0.02, 2.0, 0.01}; // every day the same: no doubt is left
    const Resampled sure = resampled(days, 10, 500, 3);
    CHECK(sure.mean.low == Approx(0.01));
    CHECK(sure.mean.high == Approx(0.01));
    CHECK(sure.shareUp.low == Approx(1.0));
    CHECK(sure.excess.low == Approx(0.005));
    CHECK(sure.deviationOfMean == Approx(0.0).margin(1e-12));
    CHECK(isMissing(resampled({}, 10, 500, 3).mean.low));
    // Days by chance: the deviation of the mean is that of the days by the root of their number.
    Chance chance(5);
    std::vector<DaySum> wild(2000);
    double squares = 0.0;
    for (DaySum& each : wild) {
        const double change = static_cast<double>(chance.below(2001)) / 1000.0 - 1.0;
        each = {1.0, change, change > 0.0 ? 1.0 : 0.0, 0.0};
        squares += change * change;
    }
    const Resampled told = resampled(wild, 1, 2000, 9);
    CHECK(told.deviationOfMean == Approx(std::sqrt(squares) / 2000.0).epsilon(0.06));
    // Weeks in which all days are one and the same are worth as many cases as there are weeks.
    for (std::size_t i = 0; i < wild.size(); ++i)
        wild[i] = wild[i - i % 20];
    const Resampled slow = resampled(wild, 40, 2000, 9);
    CHECK(slow.deviationOfMean > 3.5 * told.deviationOfMean);
    Chance again(5);
    const auto order = shuffled(1000, again);
    std::vector<std::uint32_t> sorted(order);
    std::ranges::sort(sorted);
    CHECK(sorted.front() == 0);
    CHECK(sorted.back() == 999);
    CHECK(std::unique(sorted.begin(), sorted.end()) == sorted.end());
    CHECK_FALSE(std::ranges::is_sorted(order));
}

TEST_CASE("Spread: of values, and of a histogram as near as its bins", "[studies]")
{
    const Spread told = spreadOf(std::vector<double>{0.3, missing, -0.1, 0.0, 0.2});
    CHECK(told.known == 4);
    CHECK(told.mean == Approx(0.1));
    CHECK(told.median == Approx(0.1));
    CHECK(told.least == -0.1);
    CHECK(told.most == 0.3);
    CHECK(told.shareUp == Approx(0.5));
    CHECK(told.deviation == Approx(std::sqrt((0.04 + 0.04 + 0.01 + 0.01) / 3.0)));
    Histogram histogram;
    Chance chance(3);
    std::vector<double> values;
    for (int i = 0; i < 5000; ++i) {
        values.push_back(static_cast<double>(chance.below(9000)) / 1000.0 - 1.0);
        histogram.add(values.back(), 1.0);
    }
    const Spread exact = spreadOf(values);
    const Spread binned = histogram.spread();
    CHECK(binned.mean == Approx(exact.mean));
    CHECK(binned.deviation == Approx(exact.deviation));
    CHECK(binned.shareUp == Approx(exact.shareUp));
    CHECK(binned.least == exact.least);
    CHECK(binned.most == exact.most);
    CHECK(binned.median == Approx(exact.median).margin(Histogram::width));
    CHECK(binned.lowerQuarter == Approx(exact.lowerQuarter).margin(Histogram::width));
    CHECK(isMissing(Histogram().spread().mean));
}

} // namespace sieve::studies
