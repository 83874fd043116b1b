#include "core/studies/cautions.h"

#include "core/studies/deflation.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>

namespace sieve::studies {

namespace {

std::string percent(double share, int decimals = 1)
{
    return fmt::format("{:+.{}f} %", 100.0 * share, decimals);
}

std::string shareOf(double share)
{
    return fmt::format("{:.0f} %", 100.0 * share);
}

/// "1 case", "11,516 cases".
std::string counted(std::size_t count, const char* one, const char* many)
{
    std::string digits = std::to_string(count);
    for (std::size_t at = digits.size(); at > 3; at -= 3)
        digits.insert(at - 3, ",");
    return fmt::format("{} {}", digits, count == 1 ? one : many);
}

/// The largest part that one of a kind has of all, and which it is.
template <class Key> std::pair<Key, double> largestPart(const std::map<Key, double>& parts)
{
    double all = 0.0;
    for (const auto& [key, part] : parts)
        all += part;
    const auto most =
        std::ranges::max_element(parts, {}, [](const auto& each) { return each.second; });
    return {most->first, all > 0.0 ? most->second / all : 0.0};
}

class Cautions {
public:
    void add(About about, std::string words) { all_.push_back({about, std::move(words)}); }
    void addChance(double chance)
    {
        if (!isMissing(chance) && chance > 0.05)
            add(About::Chance,
                fmt::format("{} by chance on the same days did as well.",
                            chance > 0.995 ? "All picks"
                                           : fmt::format("{:.0f} of 100 picks", 100.0 * chance)));
    }
    std::vector<Caution> taken() { return std::move(all_); }

private:
    std::vector<Caution> all_;
};

void addConcentration(Cautions& cautions, const Following& following,
                      const FollowedHorizon& horizon)
{
    std::map<Day, double> days;
    std::map<std::string, double> years;
    std::map<std::size_t, double> stocks;
    for (std::size_t at = 0; at < following.cases.size(); ++at) {
        if (isMissing(horizon.changes[at]))
            continue;
        ++days[following.cases[at].day];
        ++years[following.cases[at].day.iso().substr(0, 4)];
        ++stocks[following.cases[at].of.stock];
    }
    if (const auto [day, part] = largestPart(days); part > 0.1)
        cautions.add(About::Cases,
                     fmt::format("{} of the cases fell on one day, {}.", shareOf(part), day.iso()));
    if (const auto [year, part] = largestPart(years); part > 0.5 && years.size() > 1)
        cautions.add(About::Cases, fmt::format("{} of the cases fell in {}.", shareOf(part), year));
    if (const auto [stock, part] = largestPart(stocks); part > 0.1 && stocks.size() > 1)
        cautions.add(About::Cases, fmt::format("{} of the cases are one stock.", shareOf(part)));
}

/// In logarithms, so that the years add up.
void addBestYear(Cautions& cautions, const PortfolioTold& told)
{
    const auto growth = [](const PortfolioTold::Year& year) {
        return isMissing(year.change) ? 0.0 : std::log1p(std::max(-0.999, year.change));
    };
    double all = 0.0;
    for (const auto& year : told.years)
        all += growth(year);
    if (told.years.size() <= 2 || all <= 0.0)
        return;
    const auto& best = *std::ranges::max_element(told.years, {}, growth);
    if (growth(best) > 0.6 * all)
        cautions.add(About::Gain, fmt::format("Most of it was made in one year, {}.", best.year));
}

} // namespace

std::vector<Caution> cautionsOf(const Following& following, std::size_t at)
{
    Cautions cautions;
    const FollowedHorizon& told = following.horizons.at(at);
    if (told.own.known == 0) {
        cautions.add(About::Cases, following.cases.empty()
                                       ? "It never matched in these years."
                                       : "Of no case is it known yet what followed.");
        return cautions.taken();
    }
    if (told.own.known < fewCases)
        cautions.add(About::Cases,
                     told.own.known == 1
                         ? "One case says nothing."
                         : counted(told.own.known, "case is", "cases are") + " too few to tell.");
    if (const std::size_t open = following.cases.size() - told.own.known; open > 0)
        cautions.add(About::Cases, fmt::format("Of {} it is not known yet what followed.",
                                               counted(open, "case", "cases")));
    addConcentration(cautions, following, told);
    if (isMissing(told.sure.excess.low))
        cautions.add(About::Excess, "All cases fell on one day: nothing is told of other days.");
    else if (told.sure.excess.low <= 0.0 && told.sure.excess.high >= 0.0)
        cautions.add(About::Excess,
                     fmt::format("It may be nothing: the difference to all stocks lies between {} "
                                 "and {} in 95 of 100 resamples.",
                                 percent(told.sure.excess.low), percent(told.sure.excess.high)));
    if (!isMissing(told.effective) && told.effective < 0.5 * static_cast<double>(told.own.known))
        cautions.add(About::Mean,
                     fmt::format("Cases overlap and share days: {} are worth about {:.0f} "
                                 "independent ones.",
                                 counted(told.own.known, "case", "cases"),
                                 std::max(1.0, told.effective)));
    if (isMissing(told.chance) && following.question.picks > 0)
        cautions.add(About::Chance, "There are too many cases to test them against chance.");
    cautions.addChance(told.chance);
    if (following.gone > 0 && told.withoutGone > told.own.mean + 0.0005)
        cautions.add(
            About::Mean,
            fmt::format("{} cases are of stocks that were delisted since. Without them the "
                        "mean would look better: {}.",
                        following.gone, percent(told.withoutGone)));
    return cautions.taken();
}

std::vector<Caution> cautionsOfTries(const Following& following, std::size_t horizon,
                                     std::size_t tries)
{
    Cautions cautions;
    const double among = chanceAmong(tries, following.horizons.at(horizon).chance);
    if (tries > 1)
        cautions.add(
            About::Chance,
            isMissing(among)
                ? fmt::format("It is one of {} variants of the idea that were tried.", tries)
                : fmt::format("It is one of {0} variants of the idea that were tried: that "
                              "the best of {0} does as well by chance alone has a "
                              "probability of {1}.",
                              tries, shareOf(among)));
    return cautions.taken();
}

std::vector<Caution> cautionsOfTries(const Portfolio& portfolio, std::span<const double> sharpes)
{
    Cautions cautions;
    const double better = deflatedSharpe(portfolio.returns(), sharpes);
    if (sharpes.size() > 1)
        cautions.add(
            About::Chance,
            isMissing(better)
                ? fmt::format("It is one of {} variants of the idea that were tried.",
                              sharpes.size())
                : fmt::format("It is one of {0} variants of the idea that were tried: that its "
                              "Sharpe ratio is truly above what the best of {0} would have by luck "
                              "has a probability of {1}.",
                              sharpes.size(), better > 0.995 ? "more than 99 %" : shareOf(better)));
    return cautions.taken();
}

std::vector<Caution> cautionsOf(const Neighbours& neighbours)
{
    Cautions cautions;
    const double steadiness = neighbours.steadiness();
    if (neighbours.own().cases == 0)
        cautions.add(About::Cases, "It never matched in these years.");
    else if (!isMissing(steadiness) && steadiness < 0.5)
        cautions.add(About::Excess,
                     steadiness <= 0.0
                         ? "The limits stand on a ridge: those next to them did no better than all "
                           "stocks."
                         : fmt::format("The limits stand on a ridge: those next to them made {} of "
                                       "the difference that they made.",
                                       shareOf(steadiness)));
    const WalkTold walk = walkToldOf(neighbours.walk);
    if (neighbours.walk.size() > 2 && walk.before > 0.0 && !isMissing(walk.after) &&
        walk.after < 0.5 * walk.before)
        cautions.add(About::Excess,
                     fmt::format("What was best did not stay so: limits chosen by the years before "
                                 "had made {} over all stocks, and made {} in the year after.",
                                 percent(walk.before), percent(walk.after)));
    return cautions.taken();
}

std::size_t separatePeriods(const Standings& standings)
{
    const auto& question = standings.question;
    if (!question.held)
        return standings.startAt.empty() ? 0 : 1;
    std::size_t periods = 0;
    std::optional<std::size_t> last;
    for (const std::size_t start : standings.startAt)
        if (!last || start >= *last + static_cast<std::size_t>(*question.held)) {
            ++periods;
            last = start;
        }
    return periods;
}

std::vector<Caution> cautionsOf(const Standings& standings, std::size_t screen)
{
    Cautions cautions;
    const Standing& told = standings.of.at(screen);
    if (const auto& fault = standings.faults.at(screen)) {
        cautions.add(About::Cases, sentence(*fault));
        return cautions.taken();
    }
    if (told.gain.known == 0) {
        cautions.add(About::Cases, "No start had a stock that could be bought.");
        return cautions.taken();
    }
    const std::size_t starts = told.gains.size();
    const std::size_t periods = separatePeriods(standings);
    if (starts > 1 && periods == 1)
        cautions.add(About::Gain, "All starts end on the same day: they tell of one time together, "
                                  "and of no other.");
    else if (periods < fewCases && starts > periods)
        cautions.add(
            About::Gain,
            fmt::format("The {} starts overlap: they make {} separate periods.", starts, periods));
    else if (starts < fewCases)
        cautions.add(About::Gain, fmt::format("{} {} too few to tell.", starts,
                                              starts == 1 ? "start is" : "starts are"));
    if (told.empty > 0)
        cautions.add(About::Cases,
                     fmt::format("{} of {} starts had no match.", told.empty, starts));
    else if (told.fewer > starts / 2)
        cautions.add(About::Cases, fmt::format("{} of {} starts had fewer stocks than wanted.",
                                               told.fewer, starts));
    if (!isMissing(told.meanPicks) && told.meanPicks < 5.0)
        cautions.add(About::Cases,
                     fmt::format("On average {:.1f} stocks were held: one of them moves all.",
                                 told.meanPicks));
    cautions.addChance(told.chance);
    if (!isMissing(told.meanAll) && told.gain.mean < told.meanAll)
        cautions.add(About::Gain, fmt::format("All stocks of its universe did better: {}.",
                                              percent(told.meanAll)));
    return cautions.taken();
}

std::vector<Caution> cautionsOf(const Portfolio& portfolio, const PortfolioTold& told)
{
    Cautions cautions;
    const double gain = portfolio.equity.back() - portfolio.rule.trading.money;
    if (portfolio.isRuined)
        cautions.add(About::Gain, "The money was gone: nothing was traded from then on.");
    if (portfolio.trades.empty()) {
        cautions.add(About::Trades, "Nothing was ever bought.");
        return cautions.taken();
    }
    if (told.trades < fewCases)
        cautions.add(About::Trades,
                     counted(told.trades, "trade was", "trades were") + " ended: too few to tell.");
    if (portfolio.returns().size() < 3 * static_cast<std::size_t>(daysAYear))
        cautions.add(About::Gain,
                     fmt::format("{:.1f} years are a short time.",
                                 static_cast<double>(portfolio.returns().size()) / daysAYear));
    if (told.ofBenchmark && told.measures.totalReturn < told.ofBenchmark->totalReturn)
        cautions.add(About::Gain,
                     fmt::format("The benchmark, bought and held, would have made more: {}.",
                                 percent(told.ofBenchmark->totalReturn, 0)));
    if (gain > 0.0 && told.withoutBestThree < 0.5 * told.measures.totalReturn)
        cautions.add(About::Gain,
                     fmt::format("Without its three best stocks it would have made {}.",
                                 percent(told.withoutBestThree, 0)));
    if (const double before = gain + portfolio.costs;
        before > 0.0 && portfolio.costs > 0.2 * before)
        cautions.add(About::Costs, fmt::format("Costs took {} of what was made.",
                                               shareOf(portfolio.costs / before)));
    addBestYear(cautions, told);
    if (portfolio.unfilled > portfolio.fills.size() / 5)
        cautions.add(About::Trades, counted(portfolio.unfilled, "order", "orders") +
                                        " could not be filled, or not wholly.");
    if (portfolio.unknownMarket > 0)
        cautions.add(
            About::Market,
            fmt::format("On {} sessions a condition on the market was not known; it counts "
                        "as not met.",
                        portfolio.unknownMarket));
    if (told.delisted > 0)
        cautions.add(
            About::Trades,
            fmt::format("{} trades ended because the stock was delisted, at {} of its last "
                        "close.",
                        told.delisted, shareOf(portfolio.rule.trading.delistedWorth)));
    return cautions.taken();
}

} // namespace sieve::studies
