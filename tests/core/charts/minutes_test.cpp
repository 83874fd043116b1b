#include "core/charts/chart.h"
#include "core/charts/figures.h"
#include "core/charts/ticks.h"
#include "core/charts/viewport.h"

#include "tests/core/made_market.h"
#include "tests/core/same_bits.h"

#include <catch2/catch.hpp>

// Charts of minutes: their bars, what layers show on them, where they lie among days.

namespace sieve::charts {

namespace {

SetUp minuteSetUp(int minutes, std::vector<LayerSetUp> layers = {})
{
    SetUp setUp;
    setUp.scale = BarScale::Minutes;
    setUp.minutes = minutes;
    setUp.panes[0].layers = std::move(layers);
    return setUp;
}

struct MinuteBench {
    market::MarketPtr market =
        test::withMinutes(test::marketOf(test::eventfulRecords(260), "S100"));
    engine::Evaluator evaluator{market};
    language::Names names{language::Vocabulary::builtIn()};
    std::size_t stock = *market->find("S102");
    Day last = market->sessions().back();

    Chart chart(const SetUp& setUp, Day day)
    {
        return makeChart(evaluator, names, setUp, stock, day);
    }
    std::vector<double> daily(const std::string& text, Day day)
    {
        engine::Plan plan;
        return evaluator.history(plan, check(text, names, plan)->node, stock, day);
    }
    std::size_t dailyBar(Day day) const
    {
        const auto days = market->bars(stock).days;
        return static_cast<std::size_t>(std::ranges::find(days, day) - days.begin());
    }
};

/// An exchange that opens at ten, with one session.
market::MarketPtr oneSession(const std::string& zone)
{
    static const std::vector<Day> days{test::day("2024-07-01"), test::day("2024-07-02")};
    static const std::vector<double> prices{10.0, 11.0};
    static std::vector<Minute> minutes;
    static std::vector<double> minutePrices;
    minutes.clear();
    minutePrices.clear();
    for (int minute = 0; minute < 60; minute += 5) { // 10:00 there is 08:00 in universal time
        minutes.push_back(Minute::of(days[1], 480 + minute));
        minutePrices.push_back(10.0 + minute / 60.0);
    }
    market::MarketParts parts;
    market::Exchange exchange{"Bay", zone, 600, 660, {}};
    parts.description.exchanges.push_back(exchange);
    market::InstrumentView view;
    view.instrument.symbol = "AAAA";
    view.instrument.exchange = "Bay";
    view.bars = {days, prices, prices, prices, prices, prices};
    view.minuteBars = {minutes,      minutePrices, minutePrices,
                       minutePrices, minutePrices, minutePrices};
    parts.instruments.push_back(view);
    parts.sessions = days;
    return std::make_shared<const market::Market>(parts);
}

} // namespace

TEST_CASE("Minutes on a chart: bars and layers are those of minutes(n, …) at the day's last",
          "[charts]")
{
    MinuteBench bench;
    const std::vector<std::string> own{"close", "sma(close, 4)", "highest(high, 9)",
                                       "ema(close, 5)", "close / prior(close, 3)"};
    std::vector<LayerSetUp> layers;
    for (const std::string& text : own)
        layers.push_back({text});
    for (const int n : {1, 3, 5, 390}) {
        const Chart chart = bench.chart(minuteSetUp(n, layers), bench.last);
        const std::size_t size = chart.size();
        REQUIRE(size > 20);
        const auto& days = chart.bars->days;
        REQUIRE(chart.clock.size() == chart.size());
        for (std::size_t i = 0; i < own.size(); ++i) {
            const auto& values = *chart.panes[0].layers[i].values;
            REQUIRE(values.size() == chart.size());
            const auto told =
                bench.daily("minutes(" + std::to_string(n) + ", " + own[i] + ")", bench.last);
            for (std::size_t bar = 0; bar < size; ++bar)
                if (bar + 1 == size || days[bar + 1] != days[bar])
                    CHECK(test::sameBits(values[bar], told[bench.dailyBar(days[bar])]));
        }
    }
}

TEST_CASE("Minutes on a chart: what is known at the close is that of the day before until then",
          "[charts]")
{
    MinuteBench bench;
    const Chart chart = bench.chart(
        minuteSetUp(2, {{"ttm(eps)"}, {"rank(close)"}, {"weekly(close)"}, {"benchmark(close)"}}),
        bench.last);
    const auto& days = chart.bars->days;
    const std::size_t size = chart.size();
    const char* const texts[] = {"ttm(eps)", "rank(close)", "weekly(close)", "benchmark(close)"};
    for (std::size_t i = 0; i < 4; ++i) {
        const auto told = bench.daily(texts[i], bench.last);
        const auto& values = *chart.panes[0].layers[i].values;
        for (std::size_t bar = 0; bar < size; ++bar) {
            const bool isLast = bar + 1 == size || days[bar + 1] != days[bar];
            const std::size_t day = bench.dailyBar(days[bar]);
            CHECK(test::sameBits(values[bar], isLast ? told[day] : told[day - 1]));
        }
    }
}

TEST_CASE("Minutes on a chart: a past day shows what it showed then", "[charts]")
{
    MinuteBench bench;
    const SetUp setUp = minuteSetUp(3, {{"ema(close, 9)"}, {"ttm(eps)"}});
    const auto sessions = bench.market->sessions();
    const Day then = sessions[sessions.size() - 60];
    const Chart now = bench.chart(setUp, bench.last);
    const Chart before = bench.chart(setUp, then);
    REQUIRE(before.size() > 0);
    REQUIRE(before.size() < now.size());
    CHECK(before.bars->days.back() <= then);
    const double footing = now.bars->close[0] / before.bars->close[0]; // a split between
    for (std::size_t bar = 0; bar < before.size(); ++bar) {
        CHECK(before.bars->days[bar] == now.bars->days[bar]);
        CHECK(before.bars->close[bar] * footing == Approx(now.bars->close[bar]));
    }
    CHECK(bench.chart(setUp, test::day("1990-01-01")).size() == 0);
    bench.stock = *bench.market->find("S103"); // every second one has no minutes
    const Chart none = bench.chart(setUp, bench.last);
    CHECK(none.size() == 0);
    CHECK(none.daily->size() > 0);
    CHECK(spokenSummary(none, 63) == "S103 has no minutes by this day");
}

TEST_CASE("Minutes on a chart: the clock of the exchange, and places in the session", "[charts]")
{
    engine::Evaluator evaluator(oneSession("Europe/Paris")); // two hours ahead in July
    const language::Names names{language::Vocabulary::builtIn()};
    const Chart chart = makeChart(evaluator, names, minuteSetUp(15), 0, test::day("2024-07-02"));
    CHECK(chart.clock == std::vector<int>{600, 615, 630, 645});
    CHECK(clockText(chart.clock[1]) == "10:15");
    CHECK(chart.bars->open[1] == Approx(10.25));
    CHECK(chart.bars->close[1] == Approx(10.0 + 25.0 / 60.0));
    CHECK(chart.places.sessionsEach() == 0.25);
    // The second of two days, in four equal parts from 0.5 to 1.5.
    CHECK(chart.places.onDays(-0.5) == 0.5);
    CHECK(chart.places.onDays(0.5) == Approx(0.75));
    CHECK(chart.places.onDays(3.5) == Approx(1.5));
    CHECK(chart.places.onScale(1.0) == Approx(1.5));  // the middle of the session
    CHECK(chart.places.onScale(0.0) == Approx(-2.5)); // a day with nothing: four bars wide
    CHECK(chart.places.onScale(2.0) == Approx(5.5));
    for (const double place : {-1.0, -0.25, 0.0, 1.4, 3.0, 6.0})
        CHECK(chart.places.onScale(chart.places.onDays(place)) == Approx(place).margin(1e-9));
    const exports::Sheet sheet = figuresOf(chart);
    CHECK(sheet.columns[1] == "time");
    CHECK(std::get<std::string>(sheet.rows[2][1]) == "10:30");
    // Without hours the bars share the session by their number, and the clock is universal.
    engine::Evaluator zoneless(oneSession("Nowhere/Known"));
    const Chart other = makeChart(zoneless, names, minuteSetUp(15), 0, test::day("2024-07-02"));
    CHECK(other.clock.front() == 480);
    CHECK(other.places.onDays(0.5) == Approx(0.75));
}

TEST_CASE("Minutes on a chart: marks of a close stand on the session's last bar", "[charts]")
{
    auto records = test::eventfulRecords(260);
    const market::MarketPtr plain = test::marketOf(records, "S100");
    const std::size_t stock = *plain->find("S102");
    const auto days = plain->bars(stock).days;
    std::size_t at = days.size() - 40;
    while (days[at].weekday().iso_encoding() != 3)
        ++at;
    records[stock].notices.ratings.push_back(
        {days[at], "Tern Research", market::RatingAction::Raises, 12.5});
    records[stock].actions.push_back({days[at], market::ActionKind::Dividend, 0.1});
    std::ranges::sort(records[stock].actions, {}, &market::Action::exDate);
    engine::Evaluator evaluator(test::withMinutes(test::marketOf(records, "S100")));
    const language::Names names{language::Vocabulary::builtIn()};
    SetUp setUp = minuteSetUp(1);
    setUp.marks = {MarkKind::Rating, MarkKind::Dividend};
    const Chart chart = makeChart(evaluator, names, setUp, stock, days.back());
    const auto& bars = chart.bars->days;
    REQUIRE(std::ranges::count(bars, days[at]) == 7);
    const auto first = static_cast<std::size_t>(std::ranges::find(bars, days[at]) - bars.begin());
    const auto markOf = [&](MarkKind kind) {
        return std::ranges::find_if(chart.marks, [&](const Mark& mark) {
            return mark.kind == kind && mark.day == days[at];
        });
    };
    REQUIRE(markOf(MarkKind::Rating) != chart.marks.end());
    CHECK(markOf(MarkKind::Rating)->bar == first + 6);
    CHECK(markOf(MarkKind::Dividend)->bar == first);
    for (const Mark& mark : chart.marks) // what was before the minutes begin is not among them
        CHECK(mark.day >= chart.bars->days.front());
}

TEST_CASE("Ticks: of minutes by days, hours and less, a day's first by its day", "[charts]")
{
    std::vector<Day> days;
    std::vector<int> clock;
    for (int day = 0; day < 3; ++day)
        for (int minute = 600; minute < 1080; minute += 5) {
            days.push_back(test::day("2024-07-01").plusDays(day));
            clock.push_back(minute);
        }
    const double session = 1.0 / 96.0;
    const auto ticks = sessionTicks(days, 0.0, 287.0, session, clock);
    std::vector<std::pair<std::size_t, CalendarStep>> told;
    for (const SessionTick& tick : ticks)
        told.emplace_back(tick.bar, tick.names);
    using enum CalendarStep;
    CHECK(told == std::vector<std::pair<std::size_t, CalendarStep>>{{24, TwoHours},
                                                                    {48, TwoHours},
                                                                    {72, TwoHours},
                                                                    {96, CalendarStep::Day},
                                                                    {120, TwoHours},
                                                                    {144, TwoHours},
                                                                    {168, TwoHours},
                                                                    {192, CalendarStep::Day},
                                                                    {216, TwoHours},
                                                                    {240, TwoHours},
                                                                    {264, TwoHours}});
    CHECK(sessionTicks(days, 0.0, 60.0, session, clock).size() == 10); // half hours
    CHECK(sessionTicks(days, 0.0, 20.0, session, clock).size() == 10); // ten minutes
    CHECK(stepFor(20.0, true) == Week);
    CHECK(stepFor(10.0, true) == CalendarStep::Day);
}

TEST_CASE("Viewport: the days in sight stay when minutes take the place of days", "[charts]")
{
    std::vector<Day> days;
    std::vector<Day> minutes;
    for (int day = 0; day < 40; ++day) {
        days.push_back(test::day("2024-07-01").plusDays(day));
        for (int bar = 0; bar < 10; ++bar)
            minutes.push_back(days.back());
    }
    Viewport view(days.size());
    view.zoom(0.25, 12.0);
    const Viewport moved = view.movedTo(days, minutes);
    CHECK(moved.from() == Approx(static_cast<double>(view.first()) * 10.0 - 0.5));
    CHECK(moved.to() == Approx(static_cast<double>(view.end()) * 10.0 - 0.5));
    const Viewport back = moved.movedTo(minutes, days);
    CHECK(back.first() == view.first());
    CHECK(back.end() == view.end());
}

} // namespace sieve::charts
