#include "core/feed/subscriber.h"

#include "tests/core/made_market.h"

#include <catch2/catch.hpp>
#include <map>
#include <random>
#include <set>

namespace sieve::feed {

namespace {

market::MarketPtr minutesMarket()
{
    static const market::MarketPtr market =
        test::withMinutes(test::marketOf(test::eventfulRecords()));
    return market;
}

/// The newest session of which some instrument has minutes.
Day sessionWithMinutes(const market::Market& market)
{
    Day newest = Day::fromSerial(0);
    for (std::size_t i = 0; i < market.size(); ++i)
        if (const auto& bars = market.minuteBars(i); bars.size() > 0)
            newest = std::max(newest, bars.minutes.back().day());
    return newest;
}

SessionTape tapeOf(const Disturbances& disturbances = {})
{
    auto tape =
        SessionTape::of(minutesMarket(), sessionWithMinutes(*minutesMarket()), disturbances);
    if (!tape)
        FAIL(sentence(tape.error()));
    return *std::move(tape);
}

std::vector<Message> messagesIn(const std::string& lines)
{
    std::vector<Message> all;
    std::size_t begin = 0;
    for (std::size_t end = lines.find('\n'); end != std::string::npos;
         end = lines.find('\n', begin)) {
        const auto read = messageOf(std::string_view(lines).substr(begin, end - begin));
        REQUIRE(read);
        all.push_back(*read);
        begin = end + 1;
    }
    REQUIRE(begin == lines.size()); // whole lines only
    return all;
}

std::vector<Message> heard(Subscriber& client, std::size_t room = 1U << 20U)
{
    std::string all;
    for (std::string some = client.due(room); !some.empty(); some = client.due(room))
        all += some;
    return messagesIn(all);
}

std::vector<std::uint64_t> numbersOf(const std::vector<Message>& messages)
{
    std::vector<std::uint64_t> numbers;
    for (const Message& each : messages) {
        if (const auto* bar = std::get_if<Bar>(&each))
            numbers.push_back(bar->number);
        if (const auto* last = std::get_if<Last>(&each))
            numbers.push_back(last->number);
        if (const auto* end = std::get_if<End>(&each))
            numbers.push_back(end->number);
    }
    return numbers;
}

template <class Kind> std::size_t countOf(const std::vector<Message>& messages)
{
    return static_cast<std::size_t>(std::ranges::count_if(
        messages, [](const Message& each) { return std::holds_alternative<Kind>(each); }));
}

} // namespace

TEST_CASE("Feed: a tape tells every minute of the session once, in the order of time", "[feed]")
{
    const SessionTape tape = tapeOf();
    const market::Market& market = tape.market();
    std::map<std::pair<std::string, Minute>, Bar> told;
    Moment before = Moment::fromSerial(0);
    std::size_t prices = 0;
    for (std::uint64_t number = 1; number <= tape.size(); ++number) {
        CHECK(tape.toldAt(number) >= before);
        before = tape.toldAt(number);
        const Message message = tape.message(number);
        if (const auto* bar = std::get_if<Bar>(&message)) {
            CHECK(bar->number == number);
            CHECK(tape.toldAt(number) == Moment::of(bar->minute.plusMinutes(1))); // once it is over
            CHECK(told.emplace(std::pair(bar->symbol, bar->minute), *bar).second);
        }
        prices += std::holds_alternative<Last>(message) ? 1U : 0U;
    }
    CHECK(std::holds_alternative<End>(tape.message(tape.size())));
    std::size_t bars = 0;
    for (std::size_t i = 0; i < market.size(); ++i) {
        const auto& own = market.minuteBars(i);
        for (std::size_t at = 0; at < own.size(); ++at) {
            if (own.minutes[at].day() != tape.session())
                continue;
            ++bars;
            const Bar& bar = told.at({market.instrument(i).symbol, own.minutes[at]});
            CHECK(bar.open == own.open[at]);
            CHECK(bar.high == own.high[at]);
            CHECK(bar.low == own.low[at]);
            CHECK(bar.close == own.close[at]);
            CHECK(bar.volume == own.volume[at]);
        }
    }
    CHECK(bars > 20);
    CHECK(told.size() == bars);
    CHECK(prices == bars);
    CHECK(tape.size() == 2 * bars + 1);
    CHECK(tape.toldBy(tape.closes()) == tape.size());
    CHECK(tape.toldBy(Moment::fromSerial(tape.opens().serial() - 1)) == 0);
    CHECK_FALSE(SessionTape::of(minutesMarket(), tape.session().plusDays(3000)));
}

TEST_CASE("Feed: bars that are late or corrected come out right in the end, the same every time",
          "[feed]")
{
    const Disturbances disturbances{2'000, 3'000, 4};
    const SessionTape tape = tapeOf(disturbances);
    const SessionTape again = tapeOf(disturbances);
    const SessionTape clean = tapeOf();
    REQUIRE(tape.size() == again.size());
    const auto inTheEnd = [](const SessionTape& of) {
        std::map<std::pair<std::string, Minute>, std::vector<double>> bars;
        for (std::uint64_t number = 1; number <= of.size(); ++number) {
            const Message message = of.message(number);
            if (const auto* bar = std::get_if<Bar>(&message))
                bars[{bar->symbol, bar->minute}] = {bar->open, bar->high, bar->low, bar->close,
                                                    bar->volume};
        }
        return bars;
    };
    CHECK(inTheEnd(tape) == inTheEnd(clean));
    std::size_t late = 0;
    std::size_t corrected = 0;
    for (std::uint64_t number = 1; number <= tape.size(); ++number) {
        CHECK(tape.message(number) == again.message(number));
        const Message message = tape.message(number);
        if (const auto* bar = std::get_if<Bar>(&message)) {
            late += bar->isLate ? 1U : 0U;
            corrected += bar->isCorrection ? 1U : 0U;
            if (bar->isLate)
                CHECK(tape.toldAt(number) > Moment::of(bar->minute.plusMinutes(1)));
        }
    }
    CHECK(late > 0);
    CHECK(corrected > 0);
    CHECK(tape.size() == clean.size() + corrected);
}

TEST_CASE("Feed: the clock goes on as fast as told, pauses, jumps and ends", "[feed]")
{
    Replay replay(tapeOf(), "t");
    const Moment first = replay.clock();
    CHECK(replay.told() == 0);
    CHECK(replay.run() == "t-1");
    replay.advance(1.0);
    CHECK(replay.clock().serial() == first.serial() + 1);
    replay.setSpeed(60);
    replay.advance(0.5);
    CHECK(replay.clock().serial() == first.serial() + 31);
    replay.setPaused(true);
    replay.advance(1000.0);
    CHECK(replay.clock().serial() == first.serial() + 31);
    replay.setPaused(false);
    replay.advance(-5.0); // a clock that goes back takes nothing away
    replay.advance(std::numeric_limits<double>::quiet_NaN());
    CHECK(replay.clock().serial() == first.serial() + 31);
    replay.setSpeed(100'000);
    CHECK(replay.speed() == fastest);
    replay.advance(3600.0); // a machine that slept
    CHECK(replay.isOver());
    CHECK(replay.clock() == replay.tape().closes());
    replay.seek(Moment::fromSerial(0));
    CHECK(replay.run() == "t-2");
    CHECK(replay.told() == 0);
    replay.seek(Moment::fromSerial(replay.tape().toldAt(20).serial()));
    CHECK(replay.told() >= 20);
    CHECK(replay.run() == "t-3");
}

TEST_CASE("Feed: a client hears all, however it reads and however time goes by", "[feed]")
{
    const SessionTape tape = tapeOf({500, 500, 3});
    std::vector<std::uint64_t> all;
    for (std::uint64_t number = 1; number <= tape.size(); ++number)
        all.push_back(number);
    for (unsigned seed = 0; seed < 20; ++seed) {
        std::mt19937 random(seed);
        Replay replay(tapeOf({500, 500, 3}), "t");
        Subscriber client(replay);
        std::string lines;
        while (!replay.isOver()) {
            replay.setSpeed(1 + static_cast<int>(random() % 600));
            replay.advance(static_cast<double>(random() % 1000) / 100.0);
            lines += client.due(random() % 2 == 0 ? 1 : random() % 5'000);
        }
        for (std::string some = client.due(1); !some.empty(); some = client.due(700))
            lines += some;
        const std::vector<Message> messages = messagesIn(lines);
        CHECK(std::get<Hello>(messages.front()).run == "t-1");
        CHECK(numbersOf(messages) == all);
        CHECK(std::holds_alternative<End>(messages.back()));
    }
}

TEST_CASE("Feed: what a client says takes effect, in any pieces", "[feed]")
{
    Replay replay(tapeOf(), "t");
    Subscriber client(replay);
    Subscriber other(replay);
    heard(client);
    const std::string said = lineOf(SetSpeed{30}) + "\r\n" + lineOf(Pause{});
    for (const char each : said)
        client.take(std::string_view(&each, 1));
    CHECK(replay.speed() == 30);
    CHECK(replay.isPaused());
    client.take(lineOf(Go{}));
    CHECK_FALSE(replay.isPaused());

    // Of some symbols alone.
    const market::Market& market = replay.tape().market();
    const std::string symbol = market.instrument(replay.tape().instrumentOf(1)).symbol;
    client.take(lineOf(Want{{symbol, "NOSUCH"}}));
    replay.seek(replay.tape().closes());
    client.take(lineOf(Resume{replay.run(), 0}));
    const auto messages = heard(client);
    CHECK(countOf<Refusal>(messages) == 1); // NOSUCH
    CHECK(countOf<Hello>(messages) == 1);
    std::set<std::string> symbols;
    for (const Message& each : messages)
        if (const auto* bar = std::get_if<Bar>(&each))
            symbols.insert(bar->symbol);
    CHECK(symbols == std::set{symbol});

    client.take(lineOf(Seek{replay.tape().opens()}));
    CHECK(replay.clock() == replay.tape().opens());
    // Everybody is told that there is another run.
    const auto told = heard(other);
    REQUIRE(countOf<Hello>(told) == 2);
    CHECK(std::get<Hello>(told.back()).run == replay.run());
}

TEST_CASE("Feed: after a cut a client goes on where it was, and learns of another run", "[feed]")
{
    Replay replay(tapeOf(), "t");
    replay.setSpeed(600);
    Subscriber first(replay);
    replay.advance(0.3);
    std::vector<Message> before = heard(first);
    const std::uint64_t newest = numbersOf(before).back();
    replay.advance(0.3); // while nobody listens
    Subscriber second(replay);
    second.take(lineOf(Resume{replay.run(), newest}));
    replay.advance(1000.0);
    const auto after = heard(second);
    auto numbers = numbersOf(before);
    const auto rest = numbersOf(after);
    numbers.insert(numbers.end(), rest.begin(), rest.end());
    std::vector<std::uint64_t> all;
    for (std::uint64_t number = 1; number <= replay.tape().size(); ++number)
        all.push_back(number);
    CHECK(numbers == all);

    Subscriber stranger(replay);
    stranger.take(lineOf(Resume{"another", 3}));
    stranger.take(lineOf(Resume{replay.run(), replay.tape().size() + 5})); // not told yet
    CHECK(numbersOf(heard(stranger)).empty());
}

TEST_CASE("Feed: a hostile client is answered, then sent away, and costs no room", "[feed]")
{
    Replay replay(tapeOf(), "t");
    Subscriber client(replay);
    heard(client);
    const std::string huge(10'000'000, 'x');
    client.take(huge);
    client.take(huge);
    client.take("\n" + lineOf(SetSpeed{9}));
    CHECK(replay.speed() == 9); // what comes after it is heard
    CHECK(countOf<Refusal>(heard(client)) == 1);
    for (int i = 0; i < 1'000; ++i)
        client.take("nonsense\n");
    CHECK(client.isHostile());
    CHECK(countOf<Refusal>(heard(client)) < 110);
    Subscriber wrong(replay);
    heard(wrong);
    wrong.take(lineOf(Bar{1, "VRRA", replay.clock().minute(), 1, 1, 1, 1, 1}));
    CHECK(countOf<Refusal>(heard(wrong)) == 1);
    CHECK_FALSE(wrong.isHostile());
    for (int i = 0; i < 100'000; ++i)
        wrong.beat(); // nobody reads
    CHECK(heard(wrong).size() == 1);
}

} // namespace sieve::feed
