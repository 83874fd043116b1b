#include "core/studies/following.h"

#include "core/base/parallel.h"
#include "core/studies/match_bars.h"
#include "core/studies/random_picks.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace sieve::studies {

namespace {

/// Sums are made block by block of stocks, so that they are the same with any number of threads.
constexpr std::size_t stocksTogether = 64;

std::optional<LocatedError> horizonFault(const std::vector<int>& horizons)
{
    const auto told = [](std::string problem) {
        return LocatedError{{},
                            std::move(problem),
                            fmt::format("give up to {} numbers of bars from 1 to {}, ascending",
                                        mostHorizons, longestHorizon)};
    };
    if (horizons.empty() || horizons.size() > mostHorizons)
        return told("there is no horizon, or there are too many");
    for (std::size_t i = 0; i < horizons.size(); ++i)
        if (horizons[i] < 1 || horizons[i] > longestHorizon)
            return told(fmt::format("a horizon of {} bars cannot be told", horizons[i]));
        else if (i > 0 && horizons[i] <= horizons[i - 1])
            return told("the horizons are not ascending");
    return std::nullopt;
}

/// Where every session stands, by day.
std::size_t sessionOf(std::span<const Day> sessions, Day day)
{
    return static_cast<std::size_t>(std::ranges::lower_bound(sessions, day) - sessions.begin());
}

class Follower {
public:
    Follower(Following& told, const market::Market& market, std::vector<MatchedStock> stocks,
             const Progress& progress)
        : told_(told), market_(market), stocks_(std::move(stocks)), progress_(progress)
    {
        const auto all = market.sessions();
        const auto begin = std::ranges::lower_bound(all, told.question.from);
        const auto end = std::ranges::upper_bound(all, std::min(told.question.to, told.day));
        if (begin < end)
            sessions_ = {begin, end};
        told.sessions = sessions_.size();
    }

    /// False where there are too many.
    bool findCases()
    {
        casesOf_.assign(stocks_.size() + 1, 0);
        for (std::size_t stock = 0; stock < stocks_.size(); ++stock) {
            addCases(stock);
            casesOf_[stock + 1] = told_.cases.size();
            if (told_.cases.size() > mostOccurrences)
                return false;
        }
        return true;
    }

    void follow()
    {
        for (FollowedHorizon& each : told_.horizons)
            for (auto* column :
                 {&each.changes, &each.others, &each.lowest, &each.highest, &each.barsToBest})
                column->assign(told_.cases.size(), missing);
        countDays();
        sumBlocks();
        tellOthers();
    }

    /// What the picks by chance are made of.
    std::vector<PickedStock> members() const
    {
        std::vector<PickedStock> members(stocks_.size());
        inParallel(stocks_.size(), [&](std::size_t stock) {
            members[stock].isIn = BarBits(sessions_.size());
            eachTraded(stock, [&](std::size_t bar, std::size_t session) {
                if (stocks_[stock].universe.at(bar))
                    members[stock].isIn.set(session);
            });
        });
        return members;
    }
    std::span<const Day> sessions() const { return sessions_; }

private:
    struct Sum {
        double change = 0.0;
        std::size_t count = 0;
    };
    struct Block {
        std::vector<Sum> sums; ///< a horizon, and day with cases: of all stocks of the universe
        std::vector<Histogram> all;      ///< a horizon
        std::vector<Histogram> repeated; ///< a horizon
    };

    template <class Of> void eachTraded(std::size_t stock, Of of) const
    {
        const MatchedStock& own = stocks_[stock];
        if (own.firstBar >= own.endBar)
            return;
        const auto days = market_.bars(stock).days;
        std::size_t session = sessionOf(sessions_, days[own.firstBar]);
        for (std::size_t bar = own.firstBar; bar < own.endBar; ++bar) {
            while (session < sessions_.size() && sessions_[session] < days[bar])
                ++session;
            if (session == sessions_.size())
                return;
            if (sessions_[session] == days[bar])
                of(bar, session);
        }
    }

    void addCases(std::size_t stock)
    {
        const MatchedStock& own = stocks_[stock];
        const auto days = market_.bars(stock).days;
        const auto& delisted = market_.instrument(stock).delistedOn;
        const auto longest = static_cast<std::size_t>(told_.question.horizons.back());
        std::optional<std::size_t> last;
        for (std::size_t bar = own.firstBar; bar < own.endBar; ++bar) {
            if (days[bar] > told_.day)
                break;
            if (!own.matches.at(bar))
                continue;
            ++told_.matches;
            FollowedCase found{{stock, bar}, days[bar]};
            found.isFirst = bar == 0 || !own.matches.at(bar - 1);
            if (!found.isFirst && !told_.question.isEveryMatch)
                continue;
            found.isOverlapping = last && bar < *last + longest;
            found.isGone = delisted && *delisted <= told_.day;
            last = bar;
            told_.cases.push_back(found);
            if (told_.cases.size() > mostOccurrences)
                return;
        }
    }

    void countDays()
    {
        casesOn_.assign(sessions_.size(), 0.0);
        tradedOn_.assign(sessions_.size(), 0.0);
        for (const FollowedCase& each : told_.cases)
            casesOn_[sessionOf(sessions_, each.day)] += 1.0;
        placeOf_.assign(sessions_.size(), 0);
        for (std::size_t session = 0; session < sessions_.size(); ++session)
            placeOf_[session] = casesOn_[session] > 0.0 ? told_.daysWithCases++ : 0;
        for (const double cases : casesOn_)
            told_.mostOnADay = std::max(told_.mostOnADay, static_cast<std::size_t>(cases));
        std::vector<std::vector<double>> traded((stocks_.size() + stocksTogether - 1) /
                                                stocksTogether);
        eachBlock([&](std::size_t block, std::size_t stock) {
            traded[block].resize(sessions_.size());
            eachTraded(stock, [&](std::size_t bar, std::size_t session) {
                traded[block][session] += stocks_[stock].universe.at(bar) ? 1.0 : 0.0;
            });
        });
        for (const auto& block : traded)
            for (std::size_t session = 0; session < block.size(); ++session)
                tradedOn_[session] += block[session];
    }

    template <class Of> void eachBlock(Of of) const
    {
        const std::size_t blocks = (stocks_.size() + stocksTogether - 1) / stocksTogether;
        inParallel(blocks, [&](std::size_t block) {
            for (std::size_t stock = block * stocksTogether;
                 stock < std::min(stocks_.size(), (block + 1) * stocksTogether); ++stock) {
                if (progress_.stopRequested())
                    return;
                of(block, stock);
            }
        });
        if (progress_.stopRequested())
            throw Stopped{};
    }

    void sumBlocks()
    {
        const std::size_t horizons = told_.horizons.size();
        blocks_.resize((stocks_.size() + stocksTogether - 1) / stocksTogether);
        eachBlock([&](std::size_t block, std::size_t stock) {
            Block& sums = blocks_[block];
            if (sums.all.empty()) {
                sums.sums.resize(told_.daysWithCases * horizons);
                sums.all.resize(horizons);
                sums.repeated.resize(horizons);
            }
            const MatchedStock& own = stocks_[stock];
            if (own.firstBar >= own.endBar || told_.cases.empty())
                return;
            const bool hasCases = casesOf_[stock] < casesOf_[stock + 1];
            const Prices prices =
                pricesOf(market_, stock, told_.day, hasCases ? Columns::All : Columns::OpenAndClose,
                         told_.question.dividends);
            addAll(stock, prices, sums);
            for (std::size_t i = casesOf_[stock]; i < casesOf_[stock + 1]; ++i)
                followOne(i, prices);
        });
    }

    /// A bar whose changes are told beside those of the cases.
    struct Beside {
        double price = missing;
        double weight = 0.0; ///< 0: it stands for no case
        std::uint32_t bar = 0;
        std::uint32_t place = 0; ///< of its session among the days with cases
        bool isRepeated = false;
    };

    std::vector<Beside> besideOf(std::size_t stock, const Prices& prices) const
    {
        std::vector<Beside> all;
        const MatchedStock& own = stocks_[stock];
        all.reserve(own.endBar - own.firstBar);
        eachTraded(stock, [&](std::size_t bar, std::size_t session) {
            const bool isRepeated = own.matches.at(bar) && !told_.question.isEveryMatch &&
                                    bar > 0 && own.matches.at(bar - 1);
            const bool counts = casesOn_[session] > 0.0 && own.universe.at(bar);
            if (!isRepeated && !counts)
                return;
            all.push_back({boughtAt(prices, bar),
                           counts ? casesOn_[session] / tradedOn_[session] : 0.0,
                           static_cast<std::uint32_t>(bar),
                           static_cast<std::uint32_t>(placeOf_[session]), isRepeated});
        });
        return all;
    }

    void addAll(std::size_t stock, const Prices& prices, Block& sums) const
    {
        const std::size_t horizons = told_.horizons.size();
        const std::vector<Beside> bars = besideOf(stock, prices);
        for (std::size_t i = 0; i < horizons; ++i) {
            Histogram::Adder all(sums.all[i]);
            Sum* const ofDays = &sums.sums[i * told_.daysWithCases];
            for (const Beside& each : bars) {
                const double change =
                    changeAfter(prices, each.bar, each.price, told_.horizons[i].bars);
                if (isMissing(change))
                    continue;
                if (each.isRepeated)
                    sums.repeated[i].add(change, 1.0);
                if (each.weight <= 0.0)
                    continue;
                all.add(change, each.weight);
                Sum& sum = ofDays[each.place];
                sum.change += change;
                ++sum.count;
            }
        }
    }

    double boughtAt(const Prices& prices, std::size_t bar) const
    {
        return priceBoughtAt(prices, bar, told_.question.boughtAt);
    }

    void followOne(std::size_t at, const Prices& prices)
    {
        FollowedCase& own = told_.cases[at];
        const std::size_t bar = own.of.bar;
        own.bought = boughtAt(prices, bar);
        if (isMissing(own.bought))
            return;
        double lowest = own.bought;
        double highest = own.bought;
        std::size_t best = 0;
        std::size_t on = bar;
        for (FollowedHorizon& each : told_.horizons) {
            each.changes[at] = changeAfter(prices, bar, own.bought, each.bars);
            if (isMissing(each.changes[at]))
                break;
            const std::size_t end =
                std::min(bar + static_cast<std::size_t>(each.bars), prices.size() - 1);
            while (on < end) {
                ++on;
                lowest = std::min(lowest, prices.low[on]);
                if (prices.high[on] > highest) {
                    highest = prices.high[on];
                    best = on - bar;
                }
            }
            each.lowest[at] = lowest / own.bought - 1.0;
            each.highest[at] = highest / own.bought - 1.0;
            each.barsToBest[at] = static_cast<double>(best);
        }
    }

    void tellOthers()
    {
        const std::size_t horizons = told_.horizons.size();
        std::vector<Sum> all(told_.daysWithCases * horizons);
        for (const Block& block : blocks_) {
            for (std::size_t i = 0; i < block.sums.size(); ++i) {
                all[i].change += block.sums[i].change;
                all[i].count += block.sums[i].count;
            }
            for (std::size_t i = 0; i < block.all.size(); ++i) {
                told_.horizons[i].allHeap.add(block.all[i]);
                repeated_[i].add(block.repeated[i]);
            }
        }
        for (std::size_t i = 0; i < horizons; ++i) {
            FollowedHorizon& each = told_.horizons[i];
            each.all = each.allHeap.spread();
            each.repeated = repeated_[i].spread();
            each.own = spreadOf(each.changes);
            each.lowMedian = spreadOf(each.lowest).median;
            each.highMedian = spreadOf(each.highest).median;
            each.barsToBestMedian = spreadOf(each.barsToBest).median;
            std::vector<DaySum> days(sessions_.size());
            for (std::size_t at = 0; at < told_.cases.size(); ++at) {
                if (isMissing(each.changes[at]))
                    continue;
                each.ownHeap.add(each.changes[at], 1.0);
                const std::size_t session = sessionOf(sessions_, told_.cases[at].day);
                const Sum& sum = all[i * told_.daysWithCases + placeOf_[session]];
                // A match is one of its universe, so that there is at least this one.
                each.others[at] = sum.change / static_cast<double>(sum.count);
                days[session].cases += 1.0;
                days[session].change += each.changes[at];
                days[session].up += each.changes[at] > 0.0 ? 1.0 : 0.0;
                days[session].others += each.others[at];
            }
            judge(each, days);
        }
    }

    void judge(FollowedHorizon& each, std::span<const DaySum> days) const
    {
        each.excess = each.own.mean - meanOfKnown(each.others);
        const auto block = static_cast<std::size_t>(std::max(10, 2 * each.bars));
        each.sure = resampled(days, block, told_.question.resamples, told_.question.seed);
        if (each.own.known > 0 && each.sure.deviationOfMean > 0.0) {
            const double alone = each.own.deviation / each.sure.deviationOfMean;
            each.effective = std::min(static_cast<double>(each.own.known), alone * alone);
        }
        std::vector<double> stayed;
        for (std::size_t at = 0; at < told_.cases.size(); ++at)
            if (!told_.cases[at].isGone)
                stayed.push_back(each.changes[at]);
        each.withoutGone = meanOfKnown(stayed);
    }

    Following& told_;
    const market::Market& market_;
    std::vector<MatchedStock> stocks_;
    const Progress& progress_;
    std::span<const Day> sessions_;
    std::vector<std::size_t> casesOf_; ///< where a stock's begin, and the end
    std::vector<double> casesOn_;      ///< a session
    std::vector<double> tradedOn_;     ///< a session: stocks of the universe
    std::vector<std::size_t> placeOf_; ///< a session: among those with cases
    std::vector<Block> blocks_;
    std::vector<Histogram> repeated_ = std::vector<Histogram>(told_.horizons.size());
};

void addStrengths(Following& told, const std::vector<MatchedStock>& stocks)
{
    told.strengths.assign(told.question.strengths.size(),
                          std::vector<double>(told.cases.size(), missing));
    for (std::size_t at = 0; at < told.cases.size(); ++at) {
        const BarFigures& own = stocks[told.cases[at].of.stock].strengths;
        const std::size_t place = own.placeOf(told.cases[at].of.bar);
        if (place == own.size() || own.bar(place) != told.cases[at].of.bar)
            continue;
        for (std::size_t i = 0; i < told.strengths.size(); ++i)
            told.strengths[i][at] = own.figures(place)[i];
    }
}

void countCases(Following& told)
{
    std::size_t last = static_cast<std::size_t>(-1);
    for (const FollowedCase& each : told.cases) {
        told.stocks += each.of.stock != last ? 1U : 0U;
        last = each.of.stock;
        told.overlapping += each.isOverlapping ? 1U : 0U;
        told.gone += each.isGone ? 1U : 0U;
    }
}

/// What it depends on beside the words of the question, which are kept with it.
std::string keyOf(const engine::Plan& plan, const screens::ScreenNodes& nodes,
                  std::span<const engine::NodeId> strengths, Day day)
{
    std::string key = fmt::format("following {}", day.serial());
    const auto add = [&](engine::NodeId node) {
        key += fmt::format(" {:x}:{:x}", plan.key(node).high, plan.key(node).low);
    };
    add(nodes.condition);
    if (nodes.universe)
        add(*nodes.universe);
    for (const engine::NodeId strength : strengths)
        add(strength);
    return key;
}

std::size_t bytesOf(const Following& told)
{
    return told.cases.size() * (sizeof(FollowedCase) + sizeof(double) * told.strengths.size() +
                                5 * sizeof(double) * told.horizons.size()) +
           told.horizons.size() * 2 * Histogram::bins * sizeof(double);
}

} // namespace

Result<Following> followingOf(const FollowingQuestion& question, const language::Names& names,
                              engine::Evaluator& evaluator, Day day, const Progress& progress)
{
    if (const auto fault = horizonFault(question.horizons))
        return *fault;
    if (const auto fault = screens::faultOf(question.screen, names))
        return *fault;
    engine::Plan plan;
    const screens::ScreenNodes nodes =
        screens::nodesOf(question.screen, names, evaluator.market(), plan);
    std::vector<engine::NodeId> strengths;
    for (const std::string& text : question.strengths) {
        const auto checked = language::check(text, names, plan);
        if (!checked)
            return checked.error();
        strengths.push_back(checked->node);
    }
    const std::string key = keyOf(plan, nodes, strengths, day);
    if (const auto known = evaluator.found().find<Following>(key);
        known && known->question == question)
        return *known;
    Following told;
    told.question = question;
    told.day = day;
    for (const int bars : question.horizons)
        told.horizons.emplace_back().bars = bars;
    auto stocks = matchedStocks(plan, nodes, strengths, question.isEveryMatch, evaluator,
                                question.from, std::min(question.to, day), progress);
    auto strengthsOfStocks = strengths.empty() ? std::vector<MatchedStock>() : stocks;
    Follower follower(told, evaluator.market(), std::move(stocks), progress);
    if (!follower.findCases())
        return LocatedError{{},
                            fmt::format("there are more than {} cases", mostOccurrences),
                            question.isEveryMatch
                                ? "count first matches only, or ask for fewer days"
                                : "ask for something rarer, or for fewer days"};
    countCases(told);
    follower.follow();
    if (!strengths.empty())
        addStrengths(told, strengthsOfStocks);
    testAgainstChance(told, evaluator.market(), follower.members(), follower.sessions(), progress);
    evaluator.found().keep(key, std::make_shared<const Following>(told), bytesOf(told));
    return told;
}

} // namespace sieve::studies
