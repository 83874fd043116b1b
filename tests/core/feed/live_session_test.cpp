#include "core/feed/live_session.h"
#include "core/feed/subscriber.h"

#include "tests/core/made_market.h"

#include <algorithm>
#include <catch2/catch.hpp>
#include <random>

namespace sieve::feed {

namespace {

market::MarketPtr liveMarket()
{
    static const market::MarketPtr market =
        test::withMinutes(test::marketOf(test::eventfulRecords()));
    return market;
}

SessionTape liveTape(const Disturbances& disturbances = {})
{
    Day newest = Day::fromSerial(0);
    for (std::size_t i = 0; i < liveMarket()->size(); ++i)
        if (const auto& bars = liveMarket()->minuteBars(i); bars.size() > 0)
            newest = std::max(newest, bars.minutes.back().day());
    auto tape = SessionTape::of(liveMarket(), newest, disturbances);
    REQUIRE(tape);
    return *std::move(tape);
}

Hello helloOf(const SessionTape& tape, const std::string& run = "r-1")
{
    Hello hello = Replay(tape, "r").hello();
    hello.run = run;
    return hello;
}

/// The day's bar of an instrument, by a plain loop over its minutes up to one of them.
std::optional<market::Bar> barByHand(const SessionTape& tape, std::size_t instrument, Minute before)
{
    const auto& bars = tape.market().minuteBars(instrument);
    std::optional<market::Bar> made;
    for (std::size_t at = 0; at < bars.size(); ++at) {
        if (bars.minutes[at].day() != tape.session() || bars.minutes[at] >= before)
            continue;
        if (!made)
            made = market::Bar{tape.session(), bars.open[at], bars.high[at], bars.low[at], 0, 0};
        made->high = std::max(made->high, bars.high[at]);
        made->low = std::min(made->low, bars.low[at]);
        made->close = bars.close[at];
        made->volume += bars.volume[at];
    }
    return made;
}

bool isSame(const std::optional<market::Bar>& a, const std::optional<market::Bar>& b)
{
    return a.has_value() == b.has_value() &&
           (!a || (a->day == b->day && a->open == b->open && a->high == b->high &&
                   a->low == b->low && a->close == b->close && a->volume == b->volume));
}

void checkWhole(const LiveSession& live, const SessionTape& tape)
{
    std::size_t traded = 0;
    for (std::size_t i = 0; i < tape.market().size(); ++i) {
        const auto byHand = barByHand(tape, i, Minute::of(tape.session().plusDays(1), 0));
        traded += byHand ? 1U : 0U;
        CHECK(isSame(live.dayBar(i), byHand));
    }
    CHECK(traded > 3);
    CHECK(live.dayBars().size() == traded);
}

} // namespace

TEST_CASE("Live session: at its end the bars are the day's, however late or wrong they came",
          "[feed]")
{
    for (const Disturbances& disturbances :
         {Disturbances{}, Disturbances{3'000, 0, 1}, Disturbances{2'000, 4'000, 2}}) {
        const SessionTape tape = liveTape(disturbances);
        LiveSession live(liveMarket());
        CHECK(live.take(helloOf(tape)).meant == LiveSession::Meant::Begun);
        CHECK(live.toAsk() == Resume{"r-1", 0});
        CHECK_FALSE(live.toAsk());
        for (std::uint64_t number = 1; number <= tape.size(); ++number)
            CHECK(live.take(tape.message(number)).meant != LiveSession::Meant::Strange);
        CHECK(live.hasEnded());
        CHECK(live.newest() == tape.size());
        checkWhole(live, tape);
    }
}

TEST_CASE("Live session: the day so far, minute by minute, by plain loops", "[feed]")
{
    const SessionTape tape = liveTape();
    LiveSession live(liveMarket());
    live.take(helloOf(tape));
    for (std::uint64_t number = 1; number < tape.size(); ++number) {
        live.take(tape.message(number));
        if (tape.toldAt(number + 1) == tape.toldAt(number))
            continue;
        // Of this moment all is told: whole minutes, and the first price of those that begin.
        const Minute now = tape.toldAt(number).minute();
        for (std::size_t i = 0; i < tape.market().size(); ++i) {
            auto byHand = barByHand(tape, i, now);
            const auto& own = tape.market().minuteBars(i);
            const auto at = std::ranges::lower_bound(own.minutes, now) - own.minutes.begin();
            if (static_cast<std::size_t>(at) < own.size() &&
                own.minutes[static_cast<std::size_t>(at)] == now) {
                const double price = own.open[static_cast<std::size_t>(at)];
                if (!byHand)
                    byHand = market::Bar{tape.session(), price, price, price, price, 0.0};
                byHand->close = price;
                byHand->high = std::max(byHand->high, price);
                byHand->low = std::min(byHand->low, price);
            }
            CHECK(isSame(live.dayBar(i), byHand));
        }
    }
}

TEST_CASE("Live session: events in any order and twice come to the same", "[feed]")
{
    const SessionTape tape = liveTape({2'000, 2'000, 5});
    for (unsigned seed = 0; seed < 10; ++seed) {
        std::mt19937 random(seed);
        std::vector<std::uint64_t> numbers;
        for (std::uint64_t number = 1; number <= tape.size(); ++number) {
            numbers.push_back(number);
            if (random() % 3 == 0)
                numbers.push_back(number);
        }
        std::ranges::shuffle(numbers, random);
        LiveSession live(liveMarket());
        live.take(helloOf(tape));
        for (const std::uint64_t number : numbers)
            live.take(tape.message(number));
        checkWhole(live, tape);
    }
}

TEST_CASE("Live session: cut, late and too slow, nothing is lost that the feed told", "[feed]")
{
    const SessionTape tape = liveTape({500, 500, 7});
    for (unsigned seed = 0; seed < 10; ++seed) {
        std::mt19937 random(seed);
        Replay replay(tape, "t");
        replay.setSpeed(600);
        LiveSession live(liveMarket());
        auto client = std::make_unique<Subscriber>(replay);
        while (!live.hasEnded()) {
            replay.advance(static_cast<double>(random() % 200) / 1000.0);
            if (random() % 4 == 0) // a cut: what was under way is gone
                client = std::make_unique<Subscriber>(replay);
            const std::string lines = client->due(random() % 4'000);
            for (std::size_t begin = 0; begin < lines.size();) {
                const std::size_t end = lines.find('\n', begin);
                const auto message = messageOf(std::string_view(lines).substr(begin, end - begin));
                REQUIRE(message);
                live.take(*message);
                begin = end + 1;
            }
            if (const auto ask = live.toAsk())
                client->take(lineOf(*ask));
        }
        checkWhole(live, tape);
    }
    // What a slow client missed is asked for again.
    LiveSession live(liveMarket());
    live.take(helloOf(tape));
    live.toAsk();
    CHECK(live.take(Missed{40, 60}).meant == LiveSession::Meant::Lost);
    CHECK(live.take(Missed{20, 30}).meant == LiveSession::Meant::Lost);
    CHECK(live.toAsk() == Resume{"r-1", 19});
    // Cut before all of it came: the gap is not forgotten.
    for (std::uint64_t number = 1; number <= 25; ++number)
        live.take(tape.message(number));
    for (std::uint64_t number = 61; number <= tape.size(); ++number)
        live.take(tape.message(number));
    live.take(helloOf(tape));
    CHECK(live.toAsk() == Resume{"r-1", 25});
    for (std::uint64_t number = 26; number <= tape.size(); ++number)
        live.take(tape.message(number));
    live.take(helloOf(tape));
    CHECK(live.toAsk() == Resume{"r-1", tape.size()});
    checkWhole(live, tape);
}

TEST_CASE("Live session: a new run voids what was known, the same one does not", "[feed]")
{
    const SessionTape tape = liveTape();
    LiveSession live(liveMarket());
    CHECK(live.take(End{1}).meant == LiveSession::Meant::Strange); // before a hello
    live.take(helloOf(tape));
    for (std::uint64_t number = 1; number <= 12; ++number)
        live.take(tape.message(number));
    CHECK(live.take(helloOf(tape)).meant == LiveSession::Meant::Nothing);
    CHECK(live.toAsk() == Resume{"r-1", 12});
    CHECK_FALSE(live.dayBars().empty());
    CHECK(live.take(helloOf(tape, "r-2")).meant == LiveSession::Meant::Begun);
    CHECK(live.dayBars().empty());
    CHECK(live.toAsk() == Resume{"r-2", 0});
    Hello newer = helloOf(tape, "r-3");
    newer.protocol = 2;
    const auto strange = live.take(newer);
    CHECK(strange.meant == LiveSession::Meant::Strange);
    CHECK(strange.words.find("version 2") != std::string::npos);
    CHECK(live.hello().run == "r-2");
}

TEST_CASE("Live session: what cannot be is said and left out", "[feed]")
{
    const SessionTape tape = liveTape();
    LiveSession live(liveMarket());
    live.take(helloOf(tape));
    const Minute opens = tape.opens().minute();
    const std::string symbol = tape.market().instrument(tape.instrumentOf(1)).symbol;
    for (const Message& message :
         {Message(Bar{1, "NOSUCH", opens, 1, 1, 1, 1, 1}),
          Message(Bar{1, symbol, opens.plusMinutes(-24 * 60), 1, 1, 1, 1, 1}),
          Message(Bar{1, symbol, opens.plusMinutes(24 * 60), 1, 1, 1, 1, 1}),
          Message(Last{1, symbol, Moment::fromSerial(0), 5.0}), Message(Pause{}),
          Message(Refusal{"nonsense"})}) {
        const auto change = live.take(message);
        CHECK(change.meant == LiveSession::Meant::Strange);
        CHECK_FALSE(change.words.empty());
    }
    CHECK(live.dayBars().empty());
    CHECK(live.take(Other{"greeting"}).meant == LiveSession::Meant::Nothing);
    const Moment later = Moment::fromSerial(tape.opens().serial() + 90);
    live.take(Clock{later, 60, true, 3});
    CHECK(live.clock() == later);
    CHECK(live.hello().isPaused);
}

} // namespace sieve::feed
