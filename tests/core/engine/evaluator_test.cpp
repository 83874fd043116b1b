#include "core/engine/evaluator.h"

#include "core/language/checker.h"
#include "demo_market/dice.h"
#include "tests/core/made_market.h"
#include "tests/core/same_bits.h"

#include <catch2/catch.hpp>
#include <map>
#include <mutex>
#include <tbb/global_control.h>

namespace sieve::engine {

using test::sameBits;

namespace {

/// Expressions made from the grammar at random: all mean something, all are cheap.
class Grammar {
public:
    explicit Grammar(std::uint64_t seed) : dice_(seed) {}

    std::string condition(int depth)
    {
        switch (depth <= 0 ? 0 : dice_.below(9)) {
        case 0:
        case 1:
            return figure(depth - 1) + (dice_.chance(0.5) ? " > " : " <= ") + figure(depth - 1);
        case 2:
            return "(" + condition(depth - 1) + " and " + condition(depth - 1) + ")";
        case 3:
            return "(" + condition(depth - 1) + " or " + condition(depth - 1) + ")";
        case 4:
            return "not " + condition(depth - 2);
        case 5:
            return one({"crosses_above", "crosses_below"}) + "(" + figure(depth - 1) + ", " +
                   figure(depth - 1) + ")";
        case 6:
            return "known(" + figure(depth - 1) + ")";
        case 7:
            return one({"any", "all"}) + "(" + condition(depth - 2) + ", 4)";
        default:
            return one({"sector == \"Energy\"", "contains(name, \"1\")", "new_high_52_weeks",
                        "kind in (\"share\", \"fund\")", "day >= 2024-09-02", "in_uptrend",
                        "in_index(\"S100\")", "news_within(30)", "optionable",
                        "news_within(90, \"quay\")", "inside_day", "outside_day"});
        }
    }

    std::string figure(int depth)
    {
        if (depth <= 0)
            return one({"close",
                        "high",
                        "low",
                        "volume",
                        "ttm(eps)",
                        "quarter(revenue, 1)",
                        "traded_value",
                        "1.5",
                        "total_return",
                        "shares_outstanding",
                        "bars",
                        "listed_days",
                        "market_cap",
                        "as_traded(close)",
                        "converted(market_cap)",
                        "estimate(eps)",
                        "estimate_quarter(eps, 1)",
                        "revision(eps, 60)",
                        "surprise(eps)",
                        "held(insiders)",
                        "holders(insiders, 1)",
                        "(next_report - day)",
                        "dividends_paid(200)",
                        "target(120)",
                        "stability(eps, 2)",
                        "free_float_shares",
                        "short_interest",
                        "quarter(eps)"});
        const std::string n = std::to_string(3 + dice_.below(24));
        switch (dice_.below(12)) {
        case 0:
            return "(" + figure(depth - 1) + one({" / ", " - ", " * ", " + "}) + figure(depth - 1) +
                   ")";
        case 1:
            return across(depth);
        case 2:
            return one({"count", "streak", "since"}, condition(depth - 1), n);
        case 3:
            return "if(" + condition(depth - 1) + ", " + figure(depth - 1) + ", " +
                   figure(depth - 1) + ")";
        case 4:
            return one({"atr(9)", "adx(5)", "stochastic_d", "mfi(7)", "cci(9)", "up_down_volume(6)",
                        "obv", "parabolic_stop", "atr_trail(7)", "beta(20)", "cmf(9)",
                        "relative_volume(8)", "accumulation", "year_to_date(close)",
                        "vwap_since(bars == 60)", "running_total(change(close, 3))"});
        case 5:
            return otherBars(depth);
        case 6:
            return "value_when(" + condition(depth - 1) + ", " + figure(depth - 1) + ")";
        case 7:
            return one({"on_bar(40, ", "on_day(2024-08-31, ", "at_year_end("}) + figure(depth - 1) +
                   ")";
        case 8:
            return one({"correlation(", "slope_on("}) + figure(depth - 1) + ", " +
                   figure(depth - 1) + ", " + n + ")";
        case 9:
            return "or_else(" + figure(depth - 1) + ", " + figure(depth - 1) + ")";
        default:
            return one({"sma", "ema", "wilder", "highest", "lowest", "sum", "prior", "change",
                        "rsi", "stdev", "wma", "slope", "mean_deviation", "zscore_over",
                        "wilder_sum", "range_place"}) +
                   "(" + figure(depth - 1) + ", " + n + ")";
        }
    }

private:
    std::string one(std::initializer_list<const char*> choices)
    {
        return *(choices.begin() + dice_.below(choices.size()));
    }
    std::string one(std::initializer_list<const char*> names, const std::string& condition,
                    const std::string& n)
    {
        const std::string name = one(names);
        return name + "(" + condition + (name == "count" ? ", " + n : "") + ")";
    }
    /// Stocks are not compared on other bars, nor other bars made of other bars.
    std::string across(int depth)
    {
        if (isElsewhere_)
            return figure(depth - 1);
        const std::string group = one({"", ", within = sector", ", within = exchange",
                                       ", within = industry", ", within = universe"});
        const std::string stocks = one({"", "", ", stocks = traded"});
        if (dice_.chance(0.2))
            return "group_rank(" + figure(depth - 1) + ", of = sector)";
        if (dice_.chance(0.2))
            return one({"share_of(", "count_of("}) + condition(depth - 1) + group + stocks + ")";
        if (dice_.chance(0.5))
            return one({"median(", "mean(", "total_of("}) + figure(depth - 1) + group + stocks +
                   ")";
        return one({"percentile(", "rank(", "zscore("}) + figure(depth - 1) + group + ")";
    }
    std::string otherBars(int depth)
    {
        if (isElsewhere_)
            return figure(depth - 1);
        isElsewhere_ = true;
        // What names calendar days has no weeks, and a benchmark no sectors.
        std::string inner = figure(depth - 1);
        isElsewhere_ = false;
        const bool namesDays =
            inner.find("on_day") != std::string::npos || inner.find("year") != std::string::npos;
        const bool isOfOther = inner.find("beta") != std::string::npos;
        if (isOfOther && namesDays)
            return inner;
        if (isOfOther)
            return one({"weekly(", "monthly("}) + inner + ")";
        return (namesDays ? one({"benchmark(", "index(\"S101\", ", "composite("})
                          : one({"weekly(", "monthly(", "minutes(2, ",
                                 "minutes(3, x = ", "benchmark(", "index(\"S105\", ", "composite(",
                                 "composite(weight = cap, x = ", "group(\"Energy\", ",
                                 "group(weight = cap, name = \"S\", x = "})) +
               inner + ")";
    }

    demo_market::Dice dice_;
    bool isElsewhere_ = false;
};

/// Every bar of a stock's history is what all stocks' columns held on its day, from the last split
/// on: before it a history stands on another footing than a column did.
void checkEveryBar(const market::Market& market, std::size_t stock, std::span<const Day> days,
                   std::span<const ColumnPtr> columns, std::span<const double> history)
{
    const auto splits = market.splits(stock);
    const std::span<const Day> own = market.bars(stock).days;
    for (std::size_t bar = 0; bar < history.size(); ++bar) {
        const Day day = own[bar];
        if (!market.isListed(stock, day) || (!splits.empty() && day < splits.back().exDate))
            continue;
        const auto at =
            static_cast<std::size_t>(std::ranges::lower_bound(days, day) - days.begin());
        INFO("day " << day.iso() << " stock " << stock);
        REQUIRE(sameBits((*columns[at])[stock], history[bar]));
    }
}

} // namespace

TEST_CASE("Evaluator: four ways to ask give the same bits, and the future changes nothing",
          "[engine]")
{
    const auto seed = GENERATE(range(1, 201));
    Grammar grammar(static_cast<std::uint64_t>(seed));
    const std::string text = grammar.condition(4);
    INFO(text);
    static const auto records = test::eventfulRecords(420); // so that averages lie deep in some
    static const market::MarketPtr market = test::withMinutes(test::marketOf(records, "S100"));
    Plan plan;
    language::Names names{language::Vocabulary::builtIn(), std::nullopt};
    // A universe that stays the same, or one that every day changes.
    names.universe =
        language::check(seed % 2 == 0 ? "sector != \"Water\"" : "close > sma(close, 9)",
                        {language::Vocabulary::builtIn()}, plan)
            ->node;
    const auto checked = check(text, names, plan);
    if (!checked)
        FAIL(sentence(checked.error()));

    const std::span<const Day> sessions = market->sessions();
    const std::vector<Day> days(sessions.begin(), sessions.end());
    Evaluator evaluator(market);
    const auto over = evaluator.columnsOver(plan, checked->node, days);
    for (const std::size_t i : {335U, 338U, 371U, 418U}) {
        Evaluator fresh(market);
        const ColumnPtr one = fresh.column(plan, checked->node, days[i]);
        struct Past {
            market::MarketPtr thatEvening = nullptr;
            market::MarketPtr whileItRan = nullptr;
        };
        static std::map<Day, Past> pasts; // the same for all expressions
        Past& past = pasts[days[i]];
        if (!past.thatEvening)
            past = {test::withMinutes(test::cutAfter(records, days[i], "S100")),
                    test::liveOn(records, days[i], "S100")};
        Evaluator knowsLess(past.thatEvening);
        const ColumnPtr then = knowsLess.column(plan, checked->node, days[i]);
        Evaluator follows(past.whileItRan);
        const ColumnPtr live = follows.column(plan, checked->node, days[i]);
        for (std::size_t stock = 0; stock < market->size(); ++stock) {
            INFO("day " << days[i].iso() << " stock " << stock);
            REQUIRE(sameBits((*one)[stock], (*over[i])[stock]));
            REQUIRE(sameBits((*one)[stock], (*then)[stock]));
            REQUIRE(sameBits((*one)[stock], (*live)[stock]));
            if (market::barOn(*market, stock, days[i])) {
                const auto history = fresh.history(plan, checked->node, stock, days[i]);
                REQUIRE(sameBits((*one)[stock], history.back()));
            }
        }
    }
    for (std::size_t stock = 0; stock < market->size(); ++stock)
        checkEveryBar(*market, stock, days, over,
                      evaluator.history(plan, checked->node, stock, days.back()));
}

TEST_CASE("Evaluator: a history stands on the footing of its last bar, also on a split's first day",
          "[engine]")
{
    auto record = test::recordOf("AAAA", {20, 22, 12});
    record.actions.push_back(
        {record.bars.days[2], market::ActionKind::Split, 2.0}); // on the last bar
    const auto market = test::marketOf({record});
    Evaluator evaluator(market);
    Plan plan;
    const language::Names names{language::Vocabulary::builtIn(), std::nullopt};
    const NodeId close = check("close", names, plan)->node;
    CHECK(evaluator.history(plan, close, 0, record.bars.days[2]) ==
          std::vector<double>{10, 11, 12});
    CHECK(evaluator.history(plan, close, 0, record.bars.days[1]) == std::vector<double>{20, 22});
}

TEST_CASE("Evaluator: sparing closed bars changes no bit of a screen", "[engine]")
{
    // Some stocks are too small for years, some at times, some never.
    static const auto records = test::eventfulRecords(2400);
    const market::MarketPtr market = test::marketOf(records, "S100");
    const std::vector<std::string> criteria{
        GENERATE("close >= 30", "volume >= 1200000", "close < 12", "kind == \"fund\"",
                 "bars > 1500"),
        "ema(close, 34) < close",
        "percentile(change(close, 20)) > 40",
        "rsi(close, 14) < 65",
        "(ttm(eps) > prior(ttm(eps), 60) or close > sma(close, 100))", // for months yes or no
        "close <= 2 * median(close, within = sector)"};
    const language::Names names{language::Vocabulary::builtIn(), std::nullopt};
    Plan plan;
    std::string all;
    std::vector<NodeId> alone;
    for (const std::string& text : criteria) {
        all += (all.empty() ? "" : " and ") + text;
        alone.push_back(check(text, names, plan)->node);
    }
    const NodeId targets[] = {language::check("close", names, plan)->node,
                              check(all, names, plan)->node};
    Evaluator evaluator(market);
    std::mutex mutex;
    std::size_t passing = 0;
    std::size_t passingAlone = 0;
    std::vector<std::vector<double>> screens(market->size());
    evaluator.sweep(plan, targets, market->sessions(), [&](const SweepValues& swept) {
        const std::scoped_lock lock(mutex);
        for (std::size_t day = 0; day < swept.bars.size(); ++day) {
            screens[swept.instrument].push_back(swept.value(1, day));
            passing += swept.value(1, day) == 1.0 ? 1U : 0U;
            REQUIRE(!isMissing(swept.value(0, day)));
        }
    });
    std::vector<std::size_t> place(market->size(), 0);
    evaluator.sweep(plan, alone, market->sessions(), [&](const SweepValues& swept) {
        const std::scoped_lock lock(mutex);
        for (std::size_t day = 0; day < swept.bars.size(); ++day) {
            double expected = 1.0;
            for (std::size_t i = 0; i < alone.size(); ++i) {
                const double answer = swept.value(i, day);
                if (answer == 0.0 || (isMissing(answer) && expected == 1.0))
                    expected = answer;
            }
            passingAlone += expected == 1.0 ? 1U : 0U;
            const std::size_t at = place[swept.instrument]++;
            REQUIRE(sameBits(screens[swept.instrument].at(at), expected));
        }
    });
    CHECK(passing == passingAlone);
}

TEST_CASE("Evaluator: many screens at once, and figures where they hold, are those asked alone",
          "[engine]")
{
    static const auto records = test::eventfulRecords(1200);
    const market::MarketPtr market = test::marketOf(records, "S100");
    const std::size_t days = GENERATE(1U, 7U, 40U, 250U, 1100U);
    const std::vector<std::string> criteria{
        "close >= 30",
        "volume >= 900000",
        "kind == \"share\"",
        "close > sma(close, 50)",
        "percentile(change(close, 20)) > 40",
        "ttm(eps) > 0", // missing for many
        "weekly(close > sma(close, 6))",
        "rsi(close, 14) < 65",
        "since(close > prior(close) * 1.03) <= 30", // reads on until it finds one
        "slope(close, 40) > 0",
        "monthly(close) > prior(close, 10)"};
    const language::Names names{language::Vocabulary::builtIn(), std::nullopt};
    Plan plan;
    std::vector<NodeId> targets;
    std::vector<std::size_t> onlyWhere;
    const auto add = [&](const std::string& text, std::size_t where) {
        const auto checked = check(text, names, plan);
        REQUIRE(checked);
        targets.push_back(checked->node);
        onlyWhere.push_back(where);
    };
    for (std::size_t i = 0; i < 12; ++i) { // screens that share criteria, in any order
        std::string text;
        for (std::size_t part = 0; part < 2 + i % 4; ++part)
            text += (part == 0 ? "" : " and ") +
                    criteria[(i * 5 + part * (1 + i % 3)) % criteria.size()];
        const std::size_t where = targets.size();
        add(text, everywhere);
        add(i % 2 == 0 ? "percentile(close)" : "change(close, 60) + weekly(volume)", where);
    }
    add("close / sma(close, 20)", everywhere);
    add("not (close > 10)", everywhere);
    add("ema(close, 12)", targets.size() - 1); // where a condition holds that is no screen
    const std::vector<Day> asked(market->sessions().end() - static_cast<std::ptrdiff_t>(days),
                                 market->sessions().end());
    using Table = std::vector<std::map<std::pair<std::size_t, std::size_t>, double>>;
    const auto sweep = [&](std::span<const NodeId> nodes, std::span<const std::size_t> where) {
        Table table(nodes.size());
        std::mutex mutex;
        Evaluator(market).sweep(
            plan, nodes, asked,
            [&](const SweepValues& swept) {
                const std::scoped_lock lock(mutex);
                for (std::size_t i = 0; i < nodes.size(); ++i)
                    for (std::size_t day = 0; day < swept.bars.size(); ++day)
                        table[i][{swept.instrument, swept.firstDay + day}] = swept.value(i, day);
            },
            {}, where);
        return table;
    };
    const Table together = sweep(targets, onlyWhere);
    std::size_t compared = 0;
    for (std::size_t i = 0; i < targets.size(); ++i) {
        const Table alone = sweep(std::span(&targets[i], 1), {});
        REQUIRE(alone[0].size() == together[i].size());
        for (const auto& [place, value] : alone[0]) {
            if (onlyWhere[i] != everywhere && together[onlyWhere[i]].at(place) != 1.0)
                continue;
            ++compared;
            if (!sameBits(value, together[i].at(place)))
                FAIL("target " << i << " stock " << place.first << " day " << place.second);
        }
    }
    CHECK(compared > 13 * asked.size());
}

TEST_CASE("Evaluator: the number of threads changes no bit", "[engine]")
{
    const market::MarketPtr market = test::marketOf(test::eventfulRecords());
    const language::Names names{language::Vocabulary::builtIn(), std::nullopt};
    Plan plan;
    const NodeId node =
        language::check("percentile(ema(close, 9) / sma(close, 30), within = sector)", names, plan)
            ->node;
    const Day last = market->sessions().back();
    ColumnPtr single;
    {
        const tbb::global_control one(tbb::global_control::max_allowed_parallelism, 1);
        single = Evaluator(market).column(plan, node, last);
    }
    const ColumnPtr parallel = Evaluator(market).column(plan, node, last);
    for (std::size_t i = 0; i < single->size(); ++i)
        CHECK(sameBits((*single)[i], (*parallel)[i]));
}

TEST_CASE("Evaluator: a split does not show, and is not known before its day", "[engine]")
{
    market::InstrumentRecord record = test::recordOf("AAAA", {40, 42, 44, 22, 23});
    record.actions.push_back({record.bars.days[3], market::ActionKind::Split, 2.0});
    record.shares.push_back({record.bars.days[0], record.bars.days[0], 1000.0, 500.0, missing});
    record.statements.push_back({*market::statementItemNamed("eps"), market::Period::Quarter,
                                 test::day("2023-12-31"), test::day("2024-01-02"), 4.0});
    const market::MarketPtr market = test::marketOf({record});
    Evaluator evaluator(market);
    const language::Names names{language::Vocabulary::builtIn(), std::nullopt};
    Plan plan;
    const auto at = [&](const char* text, std::size_t bar) {
        const NodeId node = check(text, names, plan)->node;
        return (*evaluator.column(plan, node, market->bars(0).days[bar]))[0];
    };
    CHECK(at("prior(close)", 2) == 42);
    CHECK(at("prior(close)", 3) == 22);
    CHECK(at("change(close)", 3) == 0);
    CHECK(at("prior(volume)", 3) == 6000);
    CHECK(at("shares_outstanding", 2) == 1000);
    CHECK(at("shares_outstanding", 3) == 2000);
    CHECK(at("market_cap", 2) == at("market_cap", 3));
    CHECK(at("quarter(eps)", 2) == 4);
    CHECK(at("quarter(eps)", 3) == 2);
    const auto history = evaluator.history(plan, language::check("close", names, plan)->node, 0,
                                           market->sessions().back());
    CHECK(history == std::vector<double>{20, 21, 22, 22, 23});
}

TEST_CASE("Evaluator: a delisted or not yet listed stock has no value", "[engine]")
{
    market::InstrumentRecord gone = test::recordOf("GONE", {10, 11, 12});
    gone.instrument.delistedOn = test::day("2024-01-04");
    market::InstrumentRecord late = test::recordOf("LATE", {7});
    late.bars = test::barsOf({7, 8}, test::day("2024-01-04"));
    const market::MarketPtr market = test::marketOf({gone, late});
    Evaluator evaluator(market);
    const language::Names names{language::Vocabulary::builtIn(), std::nullopt};
    Plan plan;
    const NodeId known = language::check("known(close)", names, plan)->node;
    const NodeId rank = language::check("count_of(close > 0)", names, plan)->node;
    const auto at = [&](NodeId node, const char* on) {
        return *evaluator.column(plan, node, test::day(on));
    };
    CHECK(at(known, "2024-01-03")[0] == 1);
    CHECK(isMissing(at(known, "2024-01-03")[1]));
    CHECK(isMissing(at(known, "2024-01-04")[0]));
    CHECK(at(rank, "2024-01-03")[0] == 1);
    CHECK(at(rank, "2024-01-05")[1] == 1);
}

TEST_CASE("Evaluator: a stock that has not traded for long has left until it trades again",
          "[engine]")
{
    std::vector<double> closes;
    for (int i = 0; i < 80; ++i)
        closes.push_back(10.0 + i);
    const auto days = test::recordOf("AAAA", closes).bars.days;
    // Bars 0 to 9 and 40 to 44: it is left out from the 21st session without trade on.
    market::InstrumentRecord away = test::recordOf("AWAY", closes);
    market::Bars traded;
    for (std::size_t bar = 0; bar < 45; ++bar)
        if (bar < 10 || bar >= 40)
            traded.add(away.bars.at(bar));
    away.bars = traded;
    const std::vector<market::InstrumentRecord> records{away, test::recordOf("WELL", closes)};
    const market::MarketPtr market = test::marketOf(records);
    const auto isIn = [](std::size_t session) {
        return session < 30 || (session >= 40 && session < 65);
    };
    Plan plan;
    const language::Names names{language::Vocabulary::builtIn(), std::nullopt};
    const NodeId close = check("close", names, plan)->node;
    const NodeId count = check("count_of(close > 0)", names, plan)->node;
    const NodeId rank = check("rank(close)", names, plan)->node;
    const NodeId five = check("5", names, plan)->node;
    Evaluator evaluator(market);
    const auto over = evaluator.columnsOver(plan, close, days);
    for (std::size_t session = 0; session < 80; ++session) {
        INFO(session);
        const Day day = days[session];
        CHECK(market->isListed(0, day) == isIn(session));
        for (const market::MarketPtr& each :
             {market, test::cutAfter(records, day), test::liveOn(records, day)}) {
            Evaluator fresh(each);
            CHECK(isMissing((*fresh.column(plan, close, day))[0]) != isIn(session));
            CHECK(isMissing((*fresh.column(plan, five, day))[0]) != isIn(session));
            CHECK((*fresh.column(plan, count, day))[1] == (isIn(session) ? 2.0 : 1.0));
            CHECK(isMissing((*fresh.column(plan, rank, day))[0]) != isIn(session));
        }
        CHECK(sameBits((*over[session])[0], (*evaluator.column(plan, close, day))[0]));
        const bool hasBar = market::barOn(*market, 0, day).has_value();
        CHECK(hasBar == isIn(session));
    }
    CHECK((*evaluator.column(plan, close, days[29]))[0] == 19.0); // its newest bar, 20 sessions old
}

TEST_CASE("Evaluator: a small cache changes no answer", "[engine]")
{
    const market::MarketPtr market = test::marketOf(test::eventfulRecords());
    const language::Names names{language::Vocabulary::builtIn(), std::nullopt};
    Plan plan;
    const NodeId node =
        language::check("sma(percentile(change(close, 5)), 3) > 50 and close > sma(close, 20)",
                        names, plan)
            ->node;
    Evaluator large(market);
    Evaluator tiny(market, 100);
    const Day last = market->sessions().back();
    const ColumnPtr a = large.column(plan, node, last);
    const ColumnPtr b = tiny.column(plan, node, last);
    const ColumnPtr again = large.column(plan, node, last);
    for (std::size_t i = 0; i < a->size(); ++i) {
        CHECK(sameBits((*a)[i], (*b)[i]));
        CHECK(sameBits((*a)[i], (*again)[i]));
    }
}

TEST_CASE("Evaluator: stops when told", "[engine]")
{
    const market::MarketPtr market = test::marketOf(test::eventfulRecords());
    std::stop_source source;
    source.request_stop();
    Evaluator evaluator(market);
    Plan plan;
    const language::Names names{language::Vocabulary::builtIn(), std::nullopt};
    const NodeId node = language::check("sma(close, 20)", names, plan)->node;
    CHECK_THROWS_AS(evaluator.columnsOver(plan, node, market->sessions(),
                                          Progress(source.get_token(), nullptr)),
                    Stopped);
}

TEST_CASE("Evaluator: long histories across stocks are asked in parts without a seam", "[engine]")
{
    const auto market = test::marketOf(test::eventfulRecords(2300), "S100");
    const auto days = market->sessions();
    REQUIRE(days.size() > 2 * 1024);
    Plan plan;
    const auto checked =
        language::check("percentile(change(close, 20)) - median(ema(close, 34), within = "
                        "sector) / close",
                        {language::Vocabulary::builtIn()}, plan);
    REQUIRE(checked);
    std::mutex mutex;
    std::vector<double> told;
    const Progress progress({}, [&](double fraction, std::string_view) {
        const std::scoped_lock lock(mutex);
        told.push_back(fraction);
    });
    Evaluator evaluator(market);
    const auto over = evaluator.columnsOver(plan, checked->node, days, progress);
    for (const std::size_t day : {0U, 1U, 1022U, 1023U, 1024U, 1025U, 2047U, 2048U, 2299U}) {
        INFO("day " << day);
        Evaluator fresh(market);
        const ColumnPtr alone = fresh.column(plan, checked->node, days[day]);
        for (std::size_t stock = 0; stock < market->size(); ++stock)
            CHECK(sameBits((*over[day])[stock], (*alone)[stock]));
    }
    for (const double fraction : told)
        CHECK((fraction > 0.0 && fraction <= 1.0));
}

TEST_CASE("Evaluator: a stock that needs its whole history is handed out once like the others",
          "[engine]")
{
    // Its closes stood still for longer than the average remembers: only the first bars tell more.
    std::vector<double> still;
    for (int bar = 0; bar < 400; ++bar)
        still.push_back(bar < 150 ? 10.0 + bar % 7 : 12.0);
    std::vector<market::InstrumentRecord> records;
    demo_market::Dice dice(5);
    for (int stock = 0; stock < 40; ++stock) {
        std::vector<double> closes{20.0};
        while (closes.size() < 400)
            closes.push_back(closes.back() * (1.0 + 0.02 * dice.bell()));
        records.push_back(test::recordOf("S" + std::to_string(100 + stock), closes));
    }
    records.push_back(test::recordOf("STILL", still));
    const auto market = test::marketOf(std::move(records));
    const auto days = market->sessions().last(60);
    Plan plan;
    const auto node = [&plan](std::string_view text) {
        const auto checked = language::check(text, {language::Vocabulary::builtIn()}, plan);
        REQUIRE(checked);
        return checked->node;
    };
    const NodeId targets[] = {node("percentile(close) + rsi(close, 3)"),
                              node("percentile(rsi(close, 3)) + close"),
                              node("share_of(rsi(close, 3) > 50) + rsi(close, 3)")};
    Evaluator evaluator(market);
    std::mutex mutex;
    std::vector<std::vector<int>> visits(market->size(), std::vector<int>(days.size()));
    std::vector<std::vector<std::vector<double>>> values(
        3, std::vector(market->size(), std::vector<double>(days.size())));
    evaluator.sweep(plan, targets, days, [&](const SweepValues& swept) {
        const std::scoped_lock lock(mutex);
        for (std::size_t day = 0; day < swept.bars.size(); ++day) {
            ++visits[swept.instrument][swept.firstDay + day];
            for (std::size_t i = 0; i < 3; ++i)
                values[i][swept.instrument][swept.firstDay + day] = swept.value(i, day);
        }
    });
    for (std::size_t stock = 0; stock < market->size(); ++stock)
        CHECK(visits[stock] == std::vector<int>(days.size(), 1));
    const std::size_t last = days.size() - 1;
    for (std::size_t i = 0; i < 3; ++i) {
        const ColumnPtr alone = Evaluator(market).column(plan, targets[i], days[last]);
        for (std::size_t stock = 0; stock < market->size(); ++stock)
            CHECK(sameBits(values[i][stock][last], (*alone)[stock]));
        const auto history =
            Evaluator(market).history(plan, targets[i], market->size() - 1, days[last]);
        CHECK(sameBits(values[i].back()[last], history.back()));
    }
    CHECK(!isMissing(values[0].back()[last]));
}

TEST_CASE("Evaluator: a screen is asked of the newest day alone", "[engine]")
{
    const auto market = test::marketOf(test::eventfulRecords());
    Evaluator evaluator(market);
    Plan plan;
    const language::Names names{language::Vocabulary::builtIn()};
    const NodeId screen =
        language::check("sector == \"Energy\" and close > 0 and volume > 0", names, plan)->node;
    const Day last = market->sessions().back();
    const ColumnPtr column = evaluator.column(plan, screen, last);
    std::mutex mutex;
    std::size_t visited = 0;
    evaluator.sweep(plan, std::span(&screen, 1), std::span(&last, 1),
                    [&](const SweepValues& swept) {
                        const std::scoped_lock lock(mutex);
                        ++visited;
                        CHECK(sameBits(swept.value(0, 0), (*column)[swept.instrument]));
                    });
    CHECK(visited > 15);
}

} // namespace sieve::engine
