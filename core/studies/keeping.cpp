#include "core/studies/keeping.h"

#include "core/storage/digest.h"

#include <algorithm>
#include <fmt/format.h>
#include <numeric>

namespace sieve::studies {

namespace {

using Kind = KeptRun::Kind;
using storage::Digest;

void add(Digest& digest, const Spread& spread)
{
    for (const double each :
         {static_cast<double>(spread.known), spread.mean, spread.deviation, spread.least,
          spread.lowerQuarter, spread.median, spread.upperQuarter, spread.most, spread.shareUp})
        digest.add(each);
}

void add(Digest& digest, const Interval& interval)
{
    digest.add(interval.low);
    digest.add(interval.high);
}

std::string digestOf(const Following& following)
{
    Digest digest;
    for (const FollowedCase& each : following.cases) {
        digest.add(static_cast<double>(each.of.stock));
        digest.add(static_cast<double>(each.day.serial()));
        digest.add(each.bought);
    }
    for (const FollowedHorizon& told : following.horizons) {
        for (const auto* figures :
             {&told.changes, &told.others, &told.lowest, &told.highest, &told.barsToBest})
            digest.add(*figures);
        for (const Spread* spread : {&told.own, &told.all, &told.repeated})
            add(digest, *spread);
        for (const Interval* each : {&told.sure.mean, &told.sure.shareUp, &told.sure.excess})
            add(digest, *each);
        for (const double each : {told.excess, told.effective, told.chance, told.withoutGone})
            digest.add(each);
    }
    for (const auto& strength : following.strengths)
        digest.add(strength);
    return digest.text();
}

std::string digestOf(const Standings& standings)
{
    Digest digest;
    for (const Standing& told : standings.of) {
        for (const auto* figures : {&told.gains, &told.all, &told.benchmark, &told.curve})
            digest.add(*figures);
        for (const std::size_t picks : told.picks)
            digest.add(static_cast<double>(picks));
        digest.add(told.chance);
    }
    digest.add(standings.benchmarkCurve);
    return digest.text();
}

std::string digestOf(const Portfolio& portfolio)
{
    Digest digest;
    for (const auto* figures :
         {&portfolio.equity, &portfolio.cash, &portfolio.invested, &portfolio.benchmark})
        digest.add(*figures);
    for (const Fill& fill : portfolio.fills)
        for (const double each :
             {static_cast<double>(fill.session), static_cast<double>(fill.stock), fill.shares,
              fill.price, fill.money, fill.cost})
            digest.add(each);
    for (const Trade& trade : portfolio.trades)
        for (const double each : {static_cast<double>(trade.stock), trade.gain, trade.change})
            digest.add(each);
    return digest.text();
}

/// The screen's name; of a condition without one what it asks.
std::string nameOf(const screens::Screen& screen)
{
    if (!screen.name.empty())
        return screen.name;
    constexpr std::size_t longest = 60;
    std::string name;
    for (const screens::Criterion& criterion : screen.criteria)
        if (criterion.isOn)
            name += (name.empty() ? "" : " and ") + criterion.text;
    if (name.size() <= longest)
        return name;
    std::size_t end = longest;
    while (end > 0 && (static_cast<unsigned char>(name[end]) & 0xC0U) == 0x80U)
        --end; // no letter is cut in two
    return name.substr(0, end) + "…";
}

std::vector<std::string> wordsOf(const std::vector<Caution>& cautions)
{
    std::vector<std::string> words;
    for (const Caution& each : cautions)
        words.push_back(each.words);
    return words;
}

/// The first and the last day, and so many between at equal distances.
std::vector<KeptWorth> thinned(std::span<const Day> sessions, std::span<const double> equity,
                               double start)
{
    std::vector<KeptWorth> kept;
    const std::size_t count = std::min(equity.size(), mostKeptWorths);
    for (std::size_t i = 0; i < count; ++i) {
        const std::size_t at = count < 2 ? 0 : i * (equity.size() - 1) / (count - 1);
        kept.push_back({sessions[at], equity[at] / start});
    }
    return kept;
}

ScreenNamed noScreens()
{
    return [](std::string_view) { return std::optional<screens::Screen>(); };
}

} // namespace

KeptRun keptOf(const Following& following)
{
    KeptRun run;
    run.name = nameOf(following.question.screen);
    run.kind = Kind::Followed;
    run.question = toToml(following.question);
    run.day = following.day;
    run.answer = digestOf(following);
    for (std::size_t at = 0; at < following.horizons.size(); ++at) {
        const FollowedHorizon& told = following.horizons[at];
        const std::string after = fmt::format("after {}: ", told.bars);
        run.figures.push_back({after + "cases", Unit::Plain, static_cast<double>(told.own.known)});
        run.figures.push_back({after + "mean", Unit::Percent, told.own.mean});
        run.figures.push_back({after + "difference", Unit::Percent, told.excess});
        run.figures.push_back({after + "chance", Unit::Percent, told.chance});
        run.figures.push_back({after + "independent cases", Unit::Plain, told.effective});
        for (const std::string& words : wordsOf(cautionsOf(following, at)))
            run.cautions.push_back(after + words);
    }
    return run;
}

KeptRun keptOf(const Standings& standings, const StandingsTerms& terms, Day day)
{
    KeptRun run;
    run.kind = Kind::Standings;
    run.name = standings.of.size() == 1 ? nameOf(standings.question.screens.front())
                                        : fmt::format("{} screens", standings.of.size());
    StandingsTerms whole = terms;
    whole.screens.clear();
    whole.writtenOut = standings.question.screens;
    run.question = toToml(whole);
    run.day = day;
    run.answer = digestOf(standings);
    std::vector<std::size_t> order(standings.of.size());
    std::iota(order.begin(), order.end(), 0);
    std::ranges::stable_sort(order, [&](std::size_t a, std::size_t b) {
        const double first = standings.of[a].gain.mean;
        const double second = standings.of[b].gain.mean;
        return !isMissing(first) && (isMissing(second) || first > second);
    });
    order.resize(std::min(order.size(), mostKeptFigures));
    for (const std::size_t at : order)
        run.figures.push_back(
            {standings.question.screens[at].name, Unit::Percent, standings.of[at].gain.mean});
    if (!order.empty())
        for (const std::string& words : wordsOf(cautionsOf(standings, order.front())))
            run.cautions.push_back(standings.question.screens[order.front()].name + ": " + words);
    return run;
}

KeptRun keptOf(const Portfolio& portfolio, Day day)
{
    KeptRun run;
    run.kind = Kind::Portfolio;
    for (const PortfolioStep& step : portfolio.rule.steps)
        if (run.name.empty())
            run.name = nameOf(step.screen);
    run.question = toToml(portfolio.rule);
    run.day = day;
    run.answer = digestOf(portfolio);
    const PortfolioTold told = toldOf(portfolio);
    const auto add = [&run](const char* name, Unit unit, double value) {
        run.figures.push_back({name, unit, value});
    };
    add("return a year", Unit::Percent, told.measures.annualReturn);
    add("volatility a year", Unit::Percent, told.measures.volatility);
    add("worst fall", Unit::Percent, told.measures.worstFall);
    add("Sharpe ratio", Unit::Ratio, told.measures.sharpe);
    add("Sortino ratio", Unit::Ratio, told.measures.sortino);
    add("Calmar ratio", Unit::Ratio, told.measures.calmar);
    add("invested", Unit::Percent, told.exposure);
    add("turnover a year", Unit::Percent, told.turnover);
    add("costs", Unit::Money, portfolio.costs);
    add("trades", Unit::Plain, static_cast<double>(told.trades));
    add("trades that gained", Unit::Percent, told.shareWon);
    add("mean of a trade", Unit::Percent, told.meanChange);
    add("without the best three", Unit::Percent, told.withoutBestThree);
    if (told.ofBenchmark) {
        add("benchmark: return a year", Unit::Percent, told.ofBenchmark->annualReturn);
        add("benchmark: worst fall", Unit::Percent, told.ofBenchmark->worstFall);
    }
    if (const auto split = asideMeasures(portfolio))
        for (const auto& [words, of] : {std::pair("before the day set aside: ", &split->before),
                                        std::pair("from the day set aside on: ", &split->from)}) {
            run.figures.push_back(
                {std::string(words) + "return a year", Unit::Percent, of->annualReturn});
            run.figures.push_back(
                {std::string(words) + "worst fall", Unit::Percent, of->worstFall});
            run.figures.push_back({std::string(words) + "Sharpe ratio", Unit::Ratio, of->sharpe});
        }
    run.cautions = wordsOf(cautionsOf(portfolio, told));
    run.curve = thinned(portfolio.sessions, portfolio.equity, portfolio.rule.trading.money);
    return run;
}

Result<KeptRun> askedAgain(const KeptRun& run, const language::Names& names,
                           const market::MarketPtr& market, const Progress& progress)
{
    KeptRun now;
    engine::Evaluator evaluator(market); // which has kept nothing of the first time
    if (run.kind == Kind::Followed) {
        const auto question = followingFromToml(run.question, noScreens());
        if (!question)
            return question.error();
        const auto made = followingOf(*question, names, evaluator, run.day, progress);
        if (!made)
            return made.error();
        now = keptOf(*made);
    } else if (run.kind == Kind::Standings) {
        const auto terms = standingsFromToml(run.question);
        if (!terms)
            return terms.error();
        const auto made =
            standingsOf(questionOf(*terms, terms->writtenOut, evaluator.market(), run.day), names,
                        evaluator, progress);
        if (!made)
            return made.error();
        now = keptOf(*made, *terms, run.day);
    } else {
        const auto rule = portfolioFromToml(run.question, noScreens());
        if (!rule)
            return rule.error();
        const auto made = runPortfolio(*rule, names, evaluator, run.day, progress);
        if (!made)
            return made.error();
        now = keptOf(*made, run.day);
    }
    now.id = run.id;
    now.name = run.name;
    now.notes = run.notes;
    now.market = evaluator.market().description().name;
    return now;
}

} // namespace sieve::studies
