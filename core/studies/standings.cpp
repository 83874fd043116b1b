#include "core/studies/standings.h"

#include "core/base/parallel.h"
#include "core/studies/measures.h"
#include "core/studies/resampling.h"
#include "core/studies/session_grid.h"
#include "core/studies/start_picks.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace sieve::studies {

namespace {

/// Bits of matches that are held at once; screens beyond come in a second sweep.
constexpr std::size_t mostBits = std::size_t{6} << 30U;

std::optional<LocatedError> faultOf(const StandingsQuestion& question)
{
    if (question.screens.empty() || question.screens.size() > mostScreens)
        return LocatedError{{},
                            fmt::format("there are {} screens", question.screens.size()),
                            fmt::format("ask for 1 to {}", mostScreens)};
    if (question.starts.empty() || question.starts.size() > mostStarts)
        return LocatedError{{},
                            fmt::format("there are {} start days", question.starts.size()),
                            fmt::format("ask for 1 to {}, or for every fifth session", mostStarts)};
    if (question.held && *question.held < 1)
        return LocatedError{{}, "stocks are held for less than a session", "write 1 or more"};
    if (question.best < 0 || question.best > 10'000)
        return LocatedError{{}, "so many cannot be picked", "write 0 to 10000"};
    return std::nullopt;
}

/// The starts of a question among the sessions, and where each one ends.
struct Course {
    std::span<const Day> sessions;
    std::vector<std::size_t> startAt;
    std::vector<std::size_t> endAt;
};

Course courseOf(const StandingsQuestion& question, const market::Market& market)
{
    const auto all = market.sessions();
    Course course;
    const auto first = std::ranges::lower_bound(all, question.starts.front());
    const auto last = std::ranges::upper_bound(all, question.end);
    if (first >= last)
        return course;
    course.sessions = {first, last};
    const std::size_t end = course.sessions.size() - 1;
    for (const Day day : question.starts) {
        const auto at = static_cast<std::size_t>(std::ranges::lower_bound(course.sessions, day) -
                                                 course.sessions.begin());
        const std::size_t endsAt =
            question.held ? at + static_cast<std::size_t>(*question.held) : end;
        if (at >= end || endsAt > end || course.sessions[at] != day)
            break; // ascending: no later one has come to its end
        course.startAt.push_back(at);
        course.endAt.push_back(endsAt);
    }
    return course;
}

class Ranker {
public:
    Ranker(const StandingsQuestion& question, const Course& course, const SessionGrid& grid,
           const market::Market& market)
        : question_(question), course_(course), grid_(grid), stocks_(market.size()),
          benchmark_(market.find(market.description().benchmark)),
          gains_(stocks_ * course.startAt.size())
    {
        const std::size_t starts = course.startAt.size();
        inParallel(stocks_, [&](std::size_t stock) {
            for (std::size_t start = 0; start < starts; ++start) {
                const double gain = grid.gain(stock, course.startAt[start], course.endAt[start]);
                gains_[stock * starts + start] = std::isfinite(gain) ? gain : missing;
            }
        });
    }

    std::vector<double> benchmarkGains() const
    {
        std::vector<double> gains(course_.startAt.size(), missing);
        for (std::size_t start = 0; benchmark_ && start < gains.size(); ++start)
            gains[start] = gainOf(*benchmark_, start);
        return gains;
    }
    std::vector<double> benchmarkCurve() const
    {
        if (!benchmark_)
            return {};
        std::vector<StartPick> picks;
        for (std::size_t start = 0; start < course_.startAt.size(); ++start)
            picks.push_back(
                {static_cast<std::uint32_t>(*benchmark_), static_cast<std::uint32_t>(start), 1.0});
        std::erase_if(picks, [&](const StartPick& pick) {
            return isMissing(gainOf(pick.stock, pick.start));
        });
        return curveOfPicks(picks, 1.0);
    }

    /// The mean of each universe, a start.
    std::vector<double> allOf(const StartPicks& picks, std::size_t universe) const
    {
        std::vector<double> sums(course_.startAt.size());
        std::vector<double> counts(course_.startAt.size());
        for (std::size_t stock = 0; stock < stocks_; ++stock)
            for (std::size_t start = 0; start < sums.size(); ++start) {
                if (!picks.isIn(universe, stock, start))
                    continue;
                const double gain = gainOf(stock, start);
                if (isMissing(gain))
                    continue;
                sums[start] += gain;
                counts[start] += 1.0;
            }
        for (std::size_t start = 0; start < sums.size(); ++start)
            sums[start] = counts[start] > 0.0 ? sums[start] / counts[start] : missing;
        return sums;
    }

    /// Leaves out what cannot be bought; what is left shares its money.
    /// `counts`: how many of each start are left.
    std::vector<StartPick> bought(std::vector<StartPick> picks,
                                  std::vector<std::size_t>& counts) const
    {
        std::erase_if(picks, [&](const StartPick& pick) {
            return isMissing(gainOf(pick.stock, pick.start));
        });
        std::vector<double> shares(course_.startAt.size());
        counts.assign(course_.startAt.size(), 0);
        for (const StartPick& pick : picks) {
            shares[pick.start] += pick.weight;
            ++counts[pick.start];
        }
        // What is left of weights may be nothing at all: then its money is shared equally.
        for (StartPick& pick : picks)
            if (shares[pick.start] <= 0.0)
                pick.weight = 1.0 / static_cast<double>(counts[pick.start]);
            else
                pick.weight /= shares[pick.start];
        return picks;
    }

    Standing tell(const screens::Screen& screen, const StartPicks& found, std::size_t at,
                  const std::vector<double>& all, const std::vector<double>& benchmark,
                  std::size_t pickings) const
    {
        const double side = screen.side == screens::ScreenSide::Short ? -1.0 : 1.0;
        Standing told;
        const auto picks = bought(found.picks(at), told.picks);
        told.gains.assign(course_.startAt.size(), missing);
        for (std::size_t start = 0; start < told.gains.size(); ++start)
            if (told.picks[start] > 0)
                told.gains[start] = 0.0;
        for (const StartPick& pick : picks)
            told.gains[pick.start] += side * pick.weight * gainOf(pick.stock, pick.start);
        for (const auto& [from, to] :
             {std::pair(&all, &told.all), std::pair(&benchmark, &told.benchmark)})
            for (const double gain : *from)
                to->push_back(side * gain);
        sumUp(told, wanted(screen));
        told.curve = curveOfPicks(picks, side);
        double highest = 1.0;
        told.worstFall = told.curve.empty() ? missing : 0.0;
        for (const double worth : told.curve) {
            highest = std::max(highest, worth);
            told.worstFall = std::min(told.worstFall, worth / highest - 1.0);
        }
        testAgainstChance(told, picks, found, at, side, pickings);
        return told;
    }

private:
    double gainOf(std::size_t stock, std::size_t start) const
    {
        return gains_[stock * course_.startAt.size() + start];
    }
    std::size_t wanted(const screens::Screen& screen) const
    {
        return static_cast<std::size_t>(question_.best > 0 ? question_.best : screen.keep);
    }

    void sumUp(Standing& told, std::size_t wanted) const
    {
        told.gain = spreadOf(told.gains);
        std::vector<double> all;
        std::vector<double> benchmark;
        double aboveAll = 0.0;
        double aboveBenchmark = 0.0;
        double picks = 0.0;
        for (std::size_t start = 0; start < told.gains.size(); ++start) {
            picks += static_cast<double>(told.picks[start]);
            told.empty += told.picks[start] == 0 ? 1U : 0U;
            told.fewer += told.picks[start] < std::max<std::size_t>(wanted, 1) ? 1U : 0U;
            if (isMissing(told.gains[start]))
                continue;
            if (!isMissing(told.all[start])) {
                all.push_back(told.all[start]);
                aboveAll += told.gains[start] > told.all[start] ? 1.0 : 0.0;
            }
            if (!isMissing(told.benchmark[start])) {
                benchmark.push_back(told.benchmark[start]);
                aboveBenchmark += told.gains[start] > told.benchmark[start] ? 1.0 : 0.0;
            }
        }
        told.meanAll = meanOfKnown(all);
        told.meanBenchmark = meanOfKnown(benchmark);
        if (!all.empty())
            told.shareAboveAll = aboveAll / static_cast<double>(all.size());
        if (!benchmark.empty())
            told.shareAboveBenchmark = aboveBenchmark / static_cast<double>(benchmark.size());
        if (!told.gains.empty())
            told.meanPicks = picks / static_cast<double>(told.gains.size());
    }

    /// The worth of money that lies in what all starts hold, a start as heavy as another when it
    /// buys; on a session on which nothing is held it lies still. Empty without a pick.
    std::vector<double> curveOfPicks(std::span<const StartPick> picks, double side) const
    {
        if (picks.empty())
            return {};
        const std::size_t sessions = course_.sessions.size();
        std::vector<double> now(sessions);        // worth of what is held at a close
        std::vector<double> before(sessions);     // of the same at the close before, or as bought
        std::vector<double> bought(sessions + 1); // of one stock: shares bought on a session
        std::vector<double> sold(sessions + 1);   // after it
        std::vector<double> paid(sessions + 1);
        std::vector<double> paidFor(sessions + 1); // of those that are sold
        for (std::size_t i = 0; i < picks.size();) {
            const std::size_t stock = picks[i].stock;
            std::size_t first = sessions;
            std::size_t last = 0;
            for (; i < picks.size() && picks[i].stock == stock; ++i) {
                const std::size_t from = course_.startAt[picks[i].start];
                const std::size_t end = course_.endAt[picks[i].start];
                const std::size_t on = grid_.boughtOn(stock, from);
                const double shares = picks[i].weight / grid_.bought(stock, from);
                bought[on] += shares;
                paid[on] += picks[i].weight;
                sold[end + 1] += shares;
                paidFor[end + 1] += picks[i].weight;
                first = std::min(first, on);
                last = std::max(last, end + 1);
            }
            double shares = 0.0;
            double money = 0.0; // paid for what is held
            // A seller short has twice what was paid, less what must be bought back.
            const double twice = side < 0.0 ? 2.0 : 0.0;
            for (std::size_t session = first; session < last; ++session) {
                shares -= sold[session];
                money -= paidFor[session];
                if (session > first)
                    before[session] +=
                        side * shares * grid_.worth(stock, session - 1) + twice * money;
                before[session] += paid[session];
                shares += bought[session];
                money += paid[session];
                now[session] += side * shares * grid_.worth(stock, session) + twice * money;
            }
            for (auto* each : {&bought, &sold, &paid, &paidFor})
                std::fill(each->begin() + static_cast<std::ptrdiff_t>(first),
                          each->begin() + static_cast<std::ptrdiff_t>(last) + 1, 0.0);
        }
        std::vector<double> curve(sessions);
        double worth = 1.0;
        for (std::size_t session = 0; session < sessions; ++session) {
            if (before[session] > 1e-9)
                worth *= std::max(0.0, now[session] / before[session]);
            curve[session] = worth;
        }
        return curve;
    }

    void testAgainstChance(Standing& told, std::span<const StartPick> picks,
                           const StartPicks& found, std::size_t at, double side,
                           std::size_t pickings) const
    {
        if (picks.empty())
            return;
        pickings = std::min(pickings, mostPicksByChance / question_.screens.size() / picks.size());
        if (pickings < std::min<std::size_t>(39, static_cast<std::size_t>(question_.picks)))
            return;
        std::vector<std::uint32_t> eligible;
        std::vector<std::uint32_t> placeOf(stocks_);
        for (std::uint32_t stock = 0; stock < stocks_; ++stock)
            for (std::size_t start = 0; start < course_.startAt.size(); ++start)
                if (found.isInUniverse(at, stock, start)) {
                    placeOf[stock] = static_cast<std::uint32_t>(eligible.size());
                    eligible.push_back(stock);
                    break;
                }
        double own = 0.0;
        for (const StartPick& pick : picks)
            own += side * pick.weight * gainOf(pick.stock, pick.start);
        std::size_t asGood = 0;
        for (std::size_t number = 0; number < pickings; ++number) {
            StandIns standIns(eligible, Chance(question_.seed, number));
            double sum = 0.0;
            for (const StartPick& pick : picks) {
                const auto isThere = [&](std::uint32_t stock) {
                    return found.isInUniverse(at, stock, pick.start) &&
                           !isMissing(gainOf(stock, pick.start));
                };
                const auto stock = standIns.pick(placeOf[pick.stock], isThere);
                sum += pick.weight *
                       (stock ? side * gainOf(*stock, pick.start) : told.all[pick.start]);
            }
            asGood += sum >= own - 1e-9 * (1.0 + std::abs(own)) ? 1U : 0U;
        }
        told.pickings = static_cast<int>(pickings);
        told.chance = static_cast<double>(1 + asGood) / static_cast<double>(1 + pickings);
    }

    const StandingsQuestion& question_;
    const Course& course_;
    const SessionGrid& grid_;
    std::size_t stocks_;
    std::optional<std::size_t> benchmark_;
    std::vector<double> gains_; ///< an instrument, a start: missing where it cannot be bought
};

/// The question with the starts alone that come to an end.
StandingsQuestion withStarts(const StandingsQuestion& question, std::size_t starts)
{
    StandingsQuestion own = question;
    own.starts.erase(own.starts.begin() + static_cast<std::ptrdiff_t>(starts), own.starts.end());
    return own;
}

} // namespace

std::vector<Day> startDays(const market::Market& market, Day from, Day to, std::size_t every)
{
    const auto all = market.sessions();
    std::vector<Day> days;
    const auto first = std::ranges::lower_bound(all, from) - all.begin();
    for (auto at = static_cast<std::size_t>(first); at < all.size() && all[at] <= to;
         at += std::max<std::size_t>(every, 1))
        days.push_back(all[at]);
    return days;
}

Result<Standings> standingsOf(const StandingsQuestion& question, const language::Names& names,
                              engine::Evaluator& evaluator, const Progress& progress)
{
    if (const auto fault = faultOf(question))
        return *fault;
    const market::Market& market = evaluator.market();
    const Course course = courseOf(question, market);
    if (course.startAt.empty())
        return LocatedError{
            {}, "no start comes to its end by the last day", "begin earlier, or hold for less"};
    Standings told;
    told.question = withStarts(question, course.startAt.size());
    told.sessions.assign(course.sessions.begin(), course.sessions.end());
    told.startAt = course.startAt;
    told.of.resize(question.screens.size());
    told.faults.resize(question.screens.size());
    std::vector<std::size_t> sound;
    for (std::size_t i = 0; i < question.screens.size(); ++i) {
        told.faults[i] = screens::faultOf(question.screens[i], names);
        if (!told.faults[i])
            sound.push_back(i);
    }
    const SessionGrid grid(market, course.sessions, question.dividends, progress);
    const Ranker ranker(told.question, course, grid, market);
    const std::vector<double> benchmark = ranker.benchmarkGains();
    told.benchmarkCurve = ranker.benchmarkCurve();
    const std::size_t together =
        std::max<std::size_t>(1, mostBits / (market.size() * (course.startAt.size() + 64)));
    for (std::size_t first = 0; first < sound.size(); first += together) {
        const std::size_t count = std::min(together, sound.size() - first);
        std::vector<const screens::Screen*> some;
        for (std::size_t i = first; i < first + count; ++i)
            some.push_back(&question.screens[sound[i]]);
        const auto found = StartPicks::of(told.question, some, names, evaluator, progress);
        if (!found)
            return found.error();
        const StartPicks& picks = **found;
        std::vector<std::vector<double>> all(picks.universes());
        inParallel(all.size(),
                   [&](std::size_t universe) { all[universe] = ranker.allOf(picks, universe); });
        inParallel(count, [&](std::size_t i) {
            if (!progress.stopRequested())
                told.of[sound[first + i]] =
                    ranker.tell(*some[i], picks, i, all[picks.universeOf(i)], benchmark,
                                static_cast<std::size_t>(std::max(0, question.picks)));
        });
        if (progress.stopRequested())
            throw Stopped{};
    }
    return told;
}

Result<std::vector<StandingPick>> picksOn(const StandingsQuestion& question, std::size_t screen,
                                          std::size_t start, const language::Names& names,
                                          engine::Evaluator& evaluator, const Progress& progress)
{
    StandingsQuestion own = question;
    own.screens = {question.screens.at(screen)};
    own.starts = {question.starts.at(start)};
    if (const auto fault = screens::faultOf(own.screens.front(), names))
        return *fault;
    const market::Market& market = evaluator.market();
    const Course course = courseOf(own, market);
    if (course.startAt.empty())
        return LocatedError{{}, "the start does not come to its end", "hold for less"};
    const SessionGrid grid(market, course.sessions, own.dividends, progress);
    const screens::Screen* const asked = &own.screens.front();
    const auto picks = StartPicks::of(own, std::span(&asked, 1), names, evaluator, progress);
    if (!picks)
        return picks.error();
    std::vector<std::size_t> counts;
    const Ranker ranker(own, course, grid, market);
    const double side = asked->side == screens::ScreenSide::Short ? -1.0 : 1.0;
    std::vector<StandingPick> told;
    for (const StartPick& pick : ranker.bought((*picks)->picks(0), counts))
        told.push_back({pick.stock, pick.weight,
                        side * grid.gain(pick.stock, course.startAt[0], course.endAt[0])});
    return told;
}

std::vector<Spread> gainsBy(const Standing& standing, std::span<const std::size_t> places,
                            std::size_t names)
{
    std::vector<std::vector<double>> gains(names + 1);
    for (std::size_t start = 0; start < standing.gains.size(); ++start)
        gains[std::min(places[start], names)].push_back(standing.gains[start]);
    std::vector<Spread> told;
    for (std::size_t name = 0; name < names; ++name)
        told.push_back(spreadOf(gains[name]));
    return told;
}

Health healthOf(const Standings& standings, screens::ScreenSide side)
{
    Health health;
    for (std::size_t start = 0; start < standings.startAt.size(); ++start) {
        std::vector<double> gains;
        for (std::size_t i = 0; i < standings.of.size(); ++i)
            if (standings.question.screens[i].side == side && !standings.faults[i])
                gains.push_back(standings.of[i].gains[start]);
        const Spread told = spreadOf(gains);
        health.gain.push_back(told.mean);
        health.share.push_back(told.shareUp);
    }
    return health;
}

} // namespace sieve::studies
