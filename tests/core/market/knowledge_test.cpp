#include "core/market/as_of.h"
#include "core/market/sessions.h"
#include "tests/core/made_market.h"

#include <catch2/catch.hpp>

// What was known on a day: estimates, owners, counts, symbols, memberships, total return,
// exchanges.

namespace sieve::market {

using test::day;

namespace {

MarketPtr marketOf(InstrumentRecord record)
{
    std::vector<InstrumentRecord> records;
    records.push_back(std::move(record));
    return test::marketOf(std::move(records));
}

EstimateRow estimate(const char* end, const char* known, double mean)
{
    return {EstimateMeasure::EarningsPerShare,
            Period::Quarter,
            day(end),
            day(known),
            mean,
            mean,
            mean,
            3};
}

} // namespace

TEST_CASE("Estimates: ahead counts from the first period that is not reported", "[market]")
{
    InstrumentRecord record = test::recordOf("AAAA", {1, 2, 3});
    record.estimates = {
        estimate("2024-06-30", "2024-02-01", 0.4), estimate("2024-03-31", "2024-02-01", 0.3),
        estimate("2024-06-30", "2024-05-20", 0.5), estimate("2024-09-30", "2024-05-20", 0.6)};
    record.statements.push_back(
        {*statementItemNamed("eps"), Period::Quarter, day("2024-03-31"), day("2024-05-10"), 0.33});
    const MarketPtr market = marketOf(std::move(record));
    const auto mean = [&](int ahead, const char* on) {
        const auto row = estimateOn(*market, 0, EstimateMeasure::EarningsPerShare, Period::Quarter,
                                    ahead, day(on));
        return row ? row->mean : missing;
    };
    CHECK(isMissing(mean(0, "2024-01-31")));
    CHECK(mean(0, "2024-05-09") == 0.3);
    CHECK(mean(1, "2024-05-09") == 0.4);
    CHECK(isMissing(mean(2, "2024-05-09")));
    CHECK(mean(0, "2024-05-10") == 0.4); // March is reported
    CHECK(mean(0, "2024-05-20") == 0.5); // and June is revised
    CHECK(mean(1, "2024-05-20") == 0.6);
    CHECK_FALSE(
        estimateOn(*market, 0, EstimateMeasure::Revenue, Period::Quarter, 0, day("2024-06-01")));
    CHECK_FALSE(estimateOn(*market, 0, EstimateMeasure::EarningsPerShare, Period::Year, 0,
                           day("2024-06-01")));
    CHECK_THROWS_AS((void)estimateOn(*market, 0, EstimateMeasure::EarningsPerShare, Period::Quarter,
                                     -1, day("2024-06-01")),
                    std::logic_error);
}

TEST_CASE("Owners: the newest report known, as last told, and those before it", "[market]")
{
    InstrumentRecord record = test::recordOf("AAAA", {1, 2, 3});
    const auto add = [&](const char* asOf, const char* known, double share) {
        record.owners.push_back({OwnerKind::Funds, day(asOf), day(known), 3, share});
    };
    add("2024-03-31", "2024-05-01", 0.10);
    add("2024-06-30", "2024-08-01", 0.14);
    add("2024-03-31", "2024-06-15", 0.11); // corrected
    const MarketPtr market = marketOf(std::move(record));
    const auto share = [&](int back, const char* on) {
        const auto row = ownersOn(*market, 0, OwnerKind::Funds, back, day(on));
        return row ? row->share : missing;
    };
    CHECK(isMissing(share(0, "2024-04-30")));
    CHECK(share(0, "2024-05-01") == 0.10);
    CHECK(share(0, "2024-06-15") == 0.11);
    CHECK(share(0, "2024-08-01") == 0.14);
    CHECK(share(1, "2024-08-01") == 0.11);
    CHECK(isMissing(share(2, "2024-08-01")));
    CHECK_FALSE(ownersOn(*market, 0, OwnerKind::Public, 0, day("2024-08-01")));
}

TEST_CASE("Shares: a count that becomes known later does not show before", "[market]")
{
    InstrumentRecord record = test::recordOf("AAAA", {1, 2, 3});
    record.shares = {{day("2024-01-01"), day("2024-01-05"), 100, missing, missing},
                     {day("2024-02-01"), day("2024-03-20"), 200, missing, missing},
                     {day("2024-03-01"), day("2024-03-05"), 300, missing, missing}};
    const MarketPtr market = marketOf(std::move(record));
    const auto count = [&](const char* on) {
        const auto row = sharesOn(*market, 0, day(on));
        return row ? row->outstanding : missing;
    };
    CHECK(isMissing(count("2024-01-04")));
    CHECK(count("2024-01-05") == 100);
    CHECK(count("2024-03-01") == 100);
    CHECK(count("2024-03-05") == 300);
    CHECK(count("2024-04-01") == 300); // the newest date, not what came last
}

TEST_CASE("Total return: agrees with a holder who buys more with every dividend", "[market]")
{
    InstrumentRecord record = test::recordOf("AAAA", {10, 11, 12, 6, 6.5, 7, 7.5});
    const auto days = record.bars.days;
    record.actions = {{days[1], ActionKind::Dividend, 0.5},
                      {days[3], ActionKind::Split, 2.0},
                      {days[4], ActionKind::SpinOff, 1.0},
                      {days[6].plusDays(30), ActionKind::Dividend, 9.0}}; // not yet
    const MarketPtr market = marketOf(record);
    double shares = 1.0;
    std::vector<double> worth;
    for (std::size_t bar = 0; bar < days.size(); ++bar) {
        for (const Action& action : record.actions)
            if (action.exDate == days[bar])
                shares *= action.kind == ActionKind::Split
                              ? action.value
                              : 1.0 + action.value / record.bars.close[bar];
        worth.push_back(shares * record.bars.close[bar]);
    }
    std::vector<double> total(days.size());
    market->totalReturn(0, 1, 0, total); // in prices after the split: half of one old share
    for (std::size_t bar = 0; bar < days.size(); ++bar) {
        INFO(bar);
        CHECK(total[bar] == Approx(worth[bar] / 2.0));
    }
    for (std::size_t from = 0; from < days.size(); ++from) {
        std::vector<double> tail(days.size() - from);
        market->totalReturn(0, 1, from, tail);
        CHECK(std::ranges::equal(tail, std::span(total).subspan(from)));
    }
}

TEST_CASE("Total return: cutting the future changes nothing before", "[market]")
{
    InstrumentRecord record = test::recordOf("AAAA", {10, 11, 12, 13, 14, 15});
    for (const std::size_t bar : {1U, 3U, 5U})
        record.actions.push_back({record.bars.days[bar], ActionKind::Dividend, 0.4});
    const MarketPtr whole = marketOf(record);
    std::vector<double> all(6);
    whole->totalReturn(0, 0, 0, all);
    for (std::size_t bars = 1; bars < 6; ++bars) {
        InstrumentRecord cut = record;
        cut.bars.truncate(bars);
        std::erase_if(cut.actions,
                      [&](const Action& action) { return action.exDate > cut.bars.days.back(); });
        const MarketPtr market = marketOf(std::move(cut));
        std::vector<double> part(bars);
        market->totalReturn(0, 0, 0, part);
        CHECK(std::ranges::equal(part, std::span(all).first(bars)));
    }
}

TEST_CASE("Instrument: symbols and memberships of a day", "[market]")
{
    Instrument instrument;
    instrument.symbol = "CCCC";
    instrument.formerSymbols = {{"AAAA", day("2019-01-01")}, {"BBBB", day("2021-01-01")}};
    CHECK(symbolOn(instrument, day("2018-12-31")) == "AAAA");
    CHECK(symbolOn(instrument, day("2019-01-01")) == "BBBB");
    CHECK(symbolOn(instrument, day("2021-01-01")) == "CCCC");
    instrument.memberships = {{"X", day("2019-01-01"), day("2020-01-01")},
                              {"X", day("2022-01-01")}};
    CHECK(isMember(instrument, "X", day("2019-12-31")));
    CHECK_FALSE(isMember(instrument, "X", day("2020-01-01")));
    CHECK(isMember(instrument, "X", day("2030-01-01")));
    CHECK_FALSE(isMember(instrument, "Y", day("2030-01-01")));
}

TEST_CASE("Exchange: summer time moves the session, an unknown zone has no hours", "[market]")
{
    const Exchange exchange{"Made", "Europe/Lisbon", 9 * 60, 17 * 60, {}};
    CHECK(sessionHours(exchange, day("2024-03-29"))->opens.iso() == "2024-03-29T09:00Z");
    CHECK(sessionHours(exchange, day("2024-04-01"))->opens.iso() == "2024-04-01T08:00Z");
    CHECK(sessionHours(exchange, day("2024-10-28"))->closes.iso() == "2024-10-28T17:00Z");
    Exchange nowhere = exchange;
    nowhere.zone = "Vellan/Carrow";
    CHECK_FALSE(isKnownZone(nowhere.zone));
    CHECK_FALSE(sessionHours(nowhere, day("2024-04-01")));
    CHECK(isSessionDay(nowhere, day("2024-04-01")));
    CHECK(localDay(nowhere, *Minute::parse("2024-04-01T23:59Z")) == day("2024-04-01"));
    Exchange without{"Bare", "", std::nullopt, std::nullopt, {}};
    CHECK_FALSE(sessionHours(without, day("2024-04-01")));
}

TEST_CASE("Sessions: every day that anything traded on, whoever came first", "[market]")
{
    SessionDays sessions;
    CHECK(sessions.ascending().empty());
    const std::vector<Day> late{day("2024-03-04"), day("2024-03-06")};
    const std::vector<Day> early{day("2024-02-28"), day("2024-03-04"), day("2024-03-08")};
    sessions.add(late);
    sessions.add({});
    sessions.add(early);
    CHECK(sessions.ascending() == std::vector<Day>{day("2024-02-28"), day("2024-03-04"),
                                                   day("2024-03-06"), day("2024-03-08")});
}

TEST_CASE("Words: what files call things comes back", "[market]")
{
    for (const char* word : {"split", "dividend", "spin-off"})
        CHECK(actionKindName(*actionKindNamed(word)) == word);
    for (const char* word : {"eps", "revenue", "dividends_per_share"})
        CHECK(estimateMeasureName(*estimateMeasureNamed(word)) == word);
    for (const char* word :
         {"insiders", "domestic_institutions", "foreign_institutions", "funds", "public"})
        CHECK(ownerKindName(*ownerKindNamed(word)) == word);
    for (const char* word : {"report", "dividend", "lock-up end"})
        CHECK(calendarKindName(*calendarKindNamed(word)) == word);
    for (const char* word : {"", "before open", "during session", "after close"})
        CHECK(calendarTimeName(*calendarTimeNamed(word)) == word);
    for (const char* word : {"starts", "raises", "keeps", "lowers", "ends"})
        CHECK(ratingActionName(*ratingActionNamed(word)) == word);
    for (const char* word : {"quarter", "year"})
        CHECK(periodName(*periodNamed(word)) == word);
    CHECK_FALSE(actionKindNamed("party"));
}

TEST_CASE("Notices: texts come back, damage gives fewer of them", "[market]")
{
    const Notices notices{{{day("2024-01-05"), "Harbour Research", RatingAction::Raises, 7.5}},
                          {{*Minute::parse("2024-01-05T08:15Z"), "w:1", "Kelp", "More", "n/1"},
                           {*Minute::parse("2024-01-06T08:15Z"), "w:2", "Kelp", "", ""}}};
    const std::string bytes = packed(notices);
    const Notices back = unpackedNotices(std::as_bytes(std::span(bytes)));
    CHECK(back.ratings == notices.ratings);
    CHECK(back.news == notices.news);
    CHECK(packed({}).empty());
    CHECK(unpackedNotices({}).isEmpty());
    for (std::size_t cut = 0; cut < bytes.size(); ++cut) {
        const Notices part = unpackedNotices(std::as_bytes(std::span(bytes)).first(cut));
        CHECK(part.news.size() < 2);
    }
}

TEST_CASE("Exchange: the local day follows the zone's offset of that moment", "[market]")
{
    Exchange isles;
    isles.zone = "Europe/London";
    const Exchange unknown;
    const auto dayOf = [&](const char* iso, int hour, int minute) {
        return localDay(isles, Minute::of(test::day(iso), 60 * hour + minute)).iso();
    };
    CHECK(dayOf("2024-01-15", 23, 30) == "2024-01-15"); // in winter as universal time
    CHECK(dayOf("2024-07-15", 22, 59) == "2024-07-15"); // in summer an hour ahead
    CHECK(dayOf("2024-07-15", 23, 0) == "2024-07-16");
    CHECK(localDay(unknown, Minute::of(test::day("2024-07-15"), 1439)).iso() == "2024-07-15");
}

} // namespace sieve::market
