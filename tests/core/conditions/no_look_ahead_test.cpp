#include "core/conditions/groups.h"
#include "core/conditions/market_book.h"
#include "core/conditions/mosaic.h"
#include "core/conditions/reading.h"
#include "tests/core/made_market.h"
#include "tests/core/same_bits.h"

#include <catch2/catch.hpp>

// What Market tells of a day is what it told on that evening: everything later cut off changes
// nothing, to the last bit.

namespace sieve::conditions {

using test::sameBits;

namespace {

/// The first figures of what is known now against all of what was known then.
template <class Values> void checkSameBegin(const Values& now, const Values& then)
{
    REQUIRE(now.size() >= then.size());
    for (std::size_t i = 0; i < then.size(); ++i) {
        INFO("session " << i);
        REQUIRE(sameBits(now[i], then[i]));
    }
}

template <class States> void checkSameStates(const States& now, const States& then)
{
    REQUIRE(now.size() >= then.size());
    for (std::size_t i = 0; i < then.size(); ++i) {
        INFO("session " << i);
        REQUIRE(now[i] == then[i]);
    }
}

void checkReadings(const Reading& now, const Reading& then, Day day)
{
    for (const LineReading& before : then.lines) {
        INFO(before.line.title);
        const auto line = std::ranges::find(now.lines, before.line.title,
                                            [](const auto& each) { return each.line.title; });
        REQUIRE(line != now.lines.end());
        const double scale = line->line.scaleOn(day);
        const auto levels = line->line.bars().close;
        const auto levelsThen = before.line.bars().close;
        REQUIRE(levels.size() >= levelsThen.size());
        for (std::size_t i = 0; i < levelsThen.size(); ++i)
            REQUIRE((scale == 1.0 ? sameBits(levels[i], levelsThen[i])
                                  : levels[i] * scale == Approx(levelsThen[i]).epsilon(1e-12)));
        for (std::size_t horizon = 0; horizon < 3; ++horizon)
            checkSameStates(line->trends.at(horizon).history, before.trends.at(horizon).history);
    }
    REQUIRE(now.rules.size() == then.rules.size());
    for (std::size_t rule = 0; rule < now.rules.size(); ++rule)
        checkSameStates(now.rules[rule].on, then.rules[rule].on);
    checkSameBegin(now.stance, then.stance);
}

void checkGroups(const Groups& now, const Groups& then)
{
    REQUIRE(now.all.size() == then.all.size());
    for (std::size_t group = 0; group < now.all.size(); ++group) {
        INFO(now.all[group].name);
        REQUIRE(now.all[group].name == then.all[group].name);
        checkSameBegin(now.all[group].line.levels, then.all[group].line.levels);
        checkSameBegin(now.all[group].members, then.all[group].members);
        checkSameBegin(now.all[group].above, then.all[group].above);
    }
    const std::size_t session = then.sessions.size() - 1;
    const auto ranked = [&](const Groups& groups) {
        return rankGroups(groups, std::nullopt, changesOver(groups, session, 21));
    };
    const auto ranksNow = ranked(now);
    const auto ranksThen = ranked(then);
    for (std::size_t i = 0; i < ranksThen.size(); ++i) {
        CHECK(ranksNow[i].group == ranksThen[i].group);
        CHECK(sameBits(ranksNow[i].figure, ranksThen[i].figure));
        CHECK(ranksNow[i].ranks == ranksThen[i].ranks);
    }
}

void checkMosaics(const Mosaic& now, const Mosaic& then)
{
    REQUIRE(now.columns.size() == then.columns.size());
    CHECK(now.unsized == then.unsized);
    for (std::size_t column = 0; column < now.columns.size(); ++column) {
        CHECK(now.columns[column].name == then.columns[column].name);
        CHECK(sameBits(now.columns[column].size, then.columns[column].size));
        CHECK(sameBits(now.columns[column].change, then.columns[column].change));
        CHECK(now.columns[column].parts.size() == then.columns[column].parts.size());
    }
}

} // namespace

TEST_CASE("Market: cutting the future changes nothing of what it tells", "[conditions]")
{
    auto records = test::eventfulRecords(420);
    records[1].instrument.kind = market::InstrumentKind::Index; // one that is split
    records[5].instrument.delistedOn = records[5].bars.days[300];
    const market::MarketPtr whole = test::marketOf(records, "S101");
    const language::Names names{language::Vocabulary::builtIn()};
    engine::Evaluator knows(whole);
    static const Reading now = readMarket(knows, names, standardBook());
    static const Groups groupsNow = readGroups(knows);
    const std::size_t session = GENERATE(120U, 260U, 335U, 371U, 418U);
    const Day day = whole->sessions()[session];
    const bool isLive = GENERATE(false, true);
    INFO(day.iso() << (isLive ? ", while it ran" : ", that evening"));
    engine::Evaluator knew(isLive ? test::liveOn(records, day, "S101")
                                  : test::cutAfter(records, day, "S101"));
    checkReadings(now, readMarket(knew, names, standardBook()), day);
    const Groups then = readGroups(knew);
    checkGroups(groupsNow, then);
    checkMosaics(marketMosaic(knows, groupsNow, std::nullopt, day, 21),
                 marketMosaic(knew, then, std::nullopt, day, 21));
}

} // namespace sieve::conditions
