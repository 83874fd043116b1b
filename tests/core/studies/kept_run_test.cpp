#include "core/studies/keeping.h"

#include "tests/core/library/made_work.h"
#include "tests/core/studies/made_portfolio.h"

#include <algorithm>
#include <catch2/catch.hpp>

namespace sieve::studies {

namespace {

using test::day;

FollowingQuestion someFollowing()
{
    FollowingQuestion question;
    question.screen.name = "Up \"twice\"";
    question.screen.criteria = {{"change(close, 1) > 0"}, {"close > 1", false}};
    question.screen.universe = "close > 0.5";
    question.horizons = {1, 5};
    question.to = lastDay();
    question.resamples = 200;
    question.picks = 99;
    question.seed = 7;
    return question;
}

StandingsTerms someTerms()
{
    StandingsTerms terms;
    terms.newest = 20;
    terms.held = 3;
    terms.picks = 99;
    return terms;
}

std::vector<screens::Screen> someScreens()
{
    std::vector<screens::Screen> screens(2);
    screens[0].name = "Rising";
    screens[0].criteria = {{"change(close, 5) > 0"}};
    screens[1].name = "The two strongest";
    screens[1].criteria = {{"close > 0"}};
    screens[1].rankBy = "change(close, 5)";
    screens[1].keep = 2;
    return screens;
}

/// One answer of each kind.
std::vector<KeptRun> keptOfEach(engine::Evaluator& evaluator)
{
    const screens::NameBook book;
    const Day last = evaluator.market().sessions().back();
    const auto following = followingOf(someFollowing(), book.names(), evaluator, last);
    const auto standings = standingsOf(
        questionOf(someTerms(), someScreens(), evaluator.market(), last), book.names(), evaluator);
    REQUIRE(following);
    REQUIRE(standings);
    PortfolioRule rule = plainRule(3);
    rule.rebalancing.every = 5;
    std::vector<KeptRun> runs{keptOf(*following), keptOf(*standings, someTerms(), last),
                              keptOf(run(rule, evaluator), last)};
    for (KeptRun& each : runs) {
        each.askedOn = last;
        each.market = evaluator.market().description().name;
        each.data = "data";
        each.program = "1.0";
    }
    return runs;
}

const KeptFigure& figureOf(const KeptRun& run, const std::string& name)
{
    const auto found = std::ranges::find(run.figures, name, &KeptFigure::name);
    REQUIRE(found != run.figures.end());
    return *found;
}

} // namespace

TEST_CASE("Kept answers: each kind goes out as text and comes back", "[studies]")
{
    engine::Evaluator evaluator(test::marketOf(test::eventfulRecords()));
    std::vector<KeptRun> runs = keptOfEach(evaluator);
    runs.push_back(*test::keptRun(5, "Mine"));
    for (KeptRun& each : runs) {
        const auto back = keptRunFromToml(toToml(each));
        if (!back)
            FAIL(sentence(back.error()));
        KeptRun same = *back;
        same.id = each.id;
        CHECK(same == each);
        CHECK(toToml(same) == toToml(each));
    }
    CHECK(runs[0].name == "Up \"twice\"");
    CHECK(runs[1].name == "2 screens");
    CHECK(runs[2].name == "close > 0"); // what it asks, where it has no name
    PortfolioRule rule = plainRule();
    rule.steps[0].screen.criteria = {{"sector == \"" + std::string(40, 'x') + "éééééééééé\""}};
    CHECK(keptOf(run(rule, evaluator), test::day("2024-01-03")).name ==
          "sector == \"" + std::string(40, 'x') + "éééé…");
    CHECK(runs[2].curve.front().worth == 1.0);
    CHECK(runs[2].curve.size() <= mostKeptWorths);
}

TEST_CASE("Kept answers: asked again they are the same to the last bit, from any evaluator",
          "[studies]")
{
    engine::Evaluator first(test::marketOf(test::eventfulRecords()));
    engine::Evaluator second(test::marketOf(test::eventfulRecords()));
    const screens::NameBook book;
    for (const KeptRun& kept : keptOfEach(first)) {
        INFO(kindWords(kept.kind));
        const auto read = keptRunFromToml(toToml(kept)); // as a library holds it
        REQUIRE(read);
        auto again = askedAgain(*read, book.names(), second.marketPtr());
        if (!again)
            FAIL(sentence(again.error()));
        again->data = kept.data;
        again->program = kept.program;
        CHECK(again->answer == kept.answer);
        CHECK(again->figures == kept.figures);
        CHECK(again->cautions == kept.cautions);
        CHECK(again->question == kept.question);
        CHECK(whyOther(kept, *again).empty());
    }
}

TEST_CASE("Kept answers: what made an answer another one is told", "[studies]")
{
    engine::Evaluator evaluator(test::marketOf(test::eventfulRecords()));
    engine::Evaluator other(test::marketOf(test::eventfulRecords(330)));
    const screens::NameBook book;
    for (const KeptRun& kept : keptOfEach(evaluator)) {
        auto again = askedAgain(kept, book.names(), other.marketPtr());
        REQUIRE(again);
        again->program = kept.program;
        again->data = "other data";
        CHECK(again->answer != kept.answer);
        CHECK(whyOther(kept, *again) ==
              std::vector<std::string>{"The market's data have changed since."});
        again->data = kept.data;
        again->program = "2.0";
        CHECK(whyOther(kept, *again).front().find("version 1.0") != std::string::npos);
        again->program = kept.program;
        CHECK(whyOther(kept, *again).front().find("of yours") != std::string::npos);
        again->market = "Elsewhere";
        CHECK(whyOther(kept, *again).front().find("another market") != std::string::npos);
    }
}

TEST_CASE("Kept answers: the figures are those of the answer", "[studies]")
{
    engine::Evaluator evaluator(test::marketOf(test::eventfulRecords()));
    const screens::NameBook book;
    const Day last = evaluator.market().sessions().back();
    const auto runs = keptOfEach(evaluator);
    const auto following = followingOf(someFollowing(), book.names(), evaluator, last);
    CHECK(figureOf(runs[0], "after 5: mean").value == following->horizons[1].own.mean);
    CHECK(figureOf(runs[0], "after 1: cases").value ==
          static_cast<double>(following->horizons[0].own.known));
    PortfolioRule rule = plainRule(3);
    rule.rebalancing.every = 5;
    const auto made = run(rule, evaluator);
    CHECK(figureOf(runs[2], "worst fall").value == toldOf(made).measures.worstFall);
    CHECK(runs[2].curve.back().day == made.sessions.back());
    CHECK(runs[2].curve.back().worth == made.equity.back() / rule.trading.money);
    CHECK(runs[1].figures[0].value >= runs[1].figures[1].value); // the best first
}

TEST_CASE("Kept answers: beside each other, what differs and all figures", "[studies]")
{
    engine::Evaluator evaluator(test::marketOf(test::eventfulRecords()));
    const Day last = evaluator.market().sessions().back();
    PortfolioRule rule = plainRule(3);
    rule.steps.front().screen.name = "Largest";
    KeptRun first = keptOf(run(rule, evaluator), last);
    rule.steps.front().hold = 5;
    rule.exits.stop = 0.1;
    KeptRun second = keptOf(run(rule, evaluator), last);
    second.program = first.program = "1.0";
    const KeptRun* both[] = {&first, &second};
    const KeptComparison told = compared(both);
    REQUIRE(told.differs.size() == 2);
    CHECK(told.differs[0].name == "exits: stop");
    CHECK(told.differs[0].of == std::vector<std::string>{"0", "0.1"});
    CHECK(told.differs[1].name == "step 1: hold");
    CHECK(told.differs[1].of == std::vector<std::string>{"3", "5"});
    REQUIRE(told.figures.size() == first.figures.size());
    CHECK(told.figures[2].name == "worst fall");
    CHECK(told.figures[2].of == std::vector<double>{figureOf(first, "worst fall").value,
                                                    figureOf(second, "worst fall").value});

    // Of two kinds: no figure in common, and nothing breaks.
    const auto runs = keptOfEach(evaluator);
    const KeptRun* mixed[] = {&runs[0], &runs[1], &runs[2]};
    const KeptComparison all = compared(mixed);
    CHECK(all.differs.front().name == "question");
    CHECK(all.figures.size() ==
          runs[0].figures.size() + runs[1].figures.size() + runs[2].figures.size());
    CHECK(std::ranges::any_of(all.differs, [](const auto& line) {
        return line.name == "screen Rising: criteria 1: text";
    }));
    CHECK(compared({}).differs.empty());
}

TEST_CASE("Kept answers: curves of other days are joined, by hand", "[studies]")
{
    const auto runWith = [](std::vector<KeptWorth> curve) {
        KeptRun run;
        run.curve = std::move(curve);
        return run;
    };
    const KeptRun a = runWith({{test::day("2024-01-01"), 1.0}, {test::day("2024-01-05"), 1.4}});
    const KeptRun b = runWith({{test::day("2024-01-02"), 2.0}, {test::day("2024-01-10"), 3.0}});
    const KeptRun none = runWith({});
    const KeptRun* runs[] = {&a, &b, &none};
    const JoinedCurves joined = joinedCurves(runs);
    CHECK(joined.days == std::vector{test::day("2024-01-01"), test::day("2024-01-02"),
                                     test::day("2024-01-05"), test::day("2024-01-10")});
    REQUIRE(joined.worths.size() == 3);
    CHECK(joined.worths[0][1] == Approx(1.1)); // a quarter of the way
    CHECK(joined.worths[0][2] == 1.4);
    CHECK(isMissing(joined.worths[0][3]));
    CHECK(isMissing(joined.worths[1][0]));
    CHECK(joined.worths[1][1] == 2.0);
    CHECK(joined.worths[1][2] == Approx(2.375));
    CHECK(isMissing(joined.worths[2][0]));
    CHECK(joinedCurves({}).days.empty());
}

TEST_CASE("Kept answers: what cannot be read is refused with its place", "[studies]")
{
    const std::string good = toToml(*test::keptRun(5, "Mine"));
    CHECK(keptRunFromToml(good));
    for (const char* bad : {"kind = \"else\"", "day = \"x\"", "name = 3", "more = 1", "= 3"})
        CHECK_FALSE(keptRunFromToml(good.substr(good.find('\n')) + bad));
    CHECK_FALSE(keptRunFromToml(""));
    std::string uneven = good;
    uneven.replace(uneven.find("[1.0, "), 6, "[");
    CHECK_FALSE(keptRunFromToml(uneven));
    std::string words = good;
    words.replace(words.find("[1.0, "), 6, "[nan, ");
    CHECK_FALSE(keptRunFromToml(words));
    engine::Evaluator evaluator(test::marketOf(test::eventfulRecords()));
    const screens::NameBook book;
    for (const auto kind :
         {KeptRun::Kind::Followed, KeptRun::Kind::Standings, KeptRun::Kind::Portfolio}) {
        KeptRun broken = *test::keptRun(5, "Mine");
        broken.kind = kind;
        broken.question = "hold = ";
        CHECK_FALSE(askedAgain(broken, book.names(), evaluator.marketPtr()));
        const KeptRun* one[] = {&broken};
        CHECK(compared(one).differs.empty());
    }
}

} // namespace sieve::studies
