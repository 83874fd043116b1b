#include "core/studies/portfolio.h"

#include "core/studies/portfolio_signals.h"
#include "core/studies/trading_book.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace sieve::studies {

namespace {

/// The first number that is out of bounds, in words; empty where all are sound.
std::string boundsFault(const PortfolioRule& rule)
{
    if (rule.steps.empty() || rule.steps.size() > mostSteps)
        return fmt::format("there are {} steps; give 1 to {}", rule.steps.size(), mostSteps);
    for (const PortfolioStep& step : rule.steps) {
        if (step.hold < 1 || step.hold > mostHeld)
            return fmt::format("{} stocks cannot be held; write 1 to {}", step.hold, mostHeld);
        if (step.keepWithin != 0 && (step.keepWithin < step.hold || step.keepWithin > mostHeld))
            return "a stock can only stay within more places than are held";
        if (!(step.share > 0.0 && step.share <= 1.0))
            return "the share of the money lies between 0 and 1";
    }
    const auto isShare = [](double value, double most) { return value >= 0.0 && value <= most; };
    const Exits& exits = rule.exits;
    if (!isShare(exits.stop, 1.0) || !isShare(exits.trailing, 1.0) || !isShare(exits.target, 1e6) ||
        exits.sessions < 0)
        return "stop and trailing stop lie between 0 and 1, target and sessions above 0";
    const Trading& trading = rule.trading;
    if (!(trading.money > 0.0 && trading.money <= 1e15))
        return "the money at the start is above 0";
    if (!isShare(trading.costShare, 1.0) || !isShare(trading.slippage, 0.5) ||
        !isShare(trading.costAnOrder, 1e9) || !isShare(trading.ofVolume, 1.0) ||
        !isShare(trading.borrowing, 10.0) || !isShare(trading.delistedWorth, 1.0) ||
        !isShare(trading.limit, 0.9))
        return "costs, slippage, share of volume and limit are shares from 0";
    if (rule.rebalancing.every < 1)
        return "stocks are chosen anew every 1 or more sessions, weeks or months";
    if (rule.rebalancing.by == Rebalancing::By::Condition && rule.rebalancing.condition.empty())
        return "there is no condition on which stocks are chosen anew";
    return {};
}

/// A stock to be held, with its share of the equity.
struct Target {
    std::size_t stock = 0;
    double share = 0.0;
};

struct Order {
    std::size_t stock = 0;
    double shares = 0.0; ///< above 0 bought
    double close = 0.0;  ///< of the decision, on the footing of the bar of the decision
    std::size_t bar = 0; ///< that bar
    Why why = Why::Chosen;
};

class Trader {
public:
    Trader(Portfolio& portfolio, const market::Market& market, const PortfolioSignals& signals)
        : portfolio_(portfolio), market_(market), signals_(signals), rule_(portfolio.rule),
          book_(portfolio, market)
    {
    }

    void run(const Progress& progress)
    {
        const std::size_t sessions = portfolio_.sessions.size();
        for (std::size_t at = 0; at < sessions; ++at) {
            if (progress.stopRequested())
                throw Stopped{};
            if (at % 64 == 0)
                progress.report(0.5 + 0.5 * static_cast<double>(at) / static_cast<double>(sessions),
                                "trading");
            session_ = at;
            book_.begin(at);
            if (!portfolio_.isRuined) {
                if (!isAtClose()) {
                    sellLeavers();
                    fillOrders();
                }
                watchExits();
                if (isAtClose()) {
                    sellLeavers();
                    fillOrders();
                }
            }
            book_.end();
            note();
            if (!portfolio_.isRuined)
                decide();
        }
        closeTrades();
    }

private:
    bool isAtClose() const { return rule_.trading.filledAt == Trading::FilledAt::NextClose; }

    /// Those whose exit was decided, on their next bar.
    void sellLeavers()
    {
        for (const std::size_t stock : heldStocks()) {
            const Holding& holding = book_.holdings().at(stock);
            if (!holding.leaves)
                continue;
            const auto bar = book_.barOf(stock);
            if (!bar)
                continue; // it waits for a bar
            const double price =
                isAtClose() ? market_.bars(stock).close[*bar] : market_.bars(stock).open[*bar];
            sell(stock, *bar, price, *holding.leaves);
        }
    }

    /// All of it; what the volume does not take is sold later.
    void sell(std::size_t stock, std::size_t bar, double price, Why why)
    {
        const double shares = book_.holdings().at(stock).shares;
        book_.order(stock, bar, -shares, price, why);
        const auto left = book_.holdings().find(stock);
        if (left != book_.holdings().end())
            left->second.leaves = why;
    }

    std::vector<std::size_t> heldStocks() const
    {
        std::vector<std::size_t> stocks;
        for (const auto& [stock, holding] : book_.holdings())
            stocks.push_back(stock);
        return stocks;
    }

    /// Less of what is held first, so that there is money for more of what is wanted.
    void fillOrders()
    {
        for (const bool isBuying : {false, true})
            for (const Order& order : orders_)
                if ((order.shares > 0.0) == isBuying)
                    fill(order);
        orders_.clear();
    }

    void fill(const Order& order)
    {
        const auto bar = book_.barOf(order.stock);
        if (!bar) {
            ++portfolio_.unfilled;
            return;
        }
        const market::BarsView& bars = market_.bars(order.stock);
        // A split since the decision makes more shares of the same money.
        const double factor = market_.priceFactor(order.stock, bars.days[order.bar],
                                                  market_.footing(order.stock, *bar));
        double shares = order.shares / factor;
        if (rule_.trading.isWhole)
            shares = std::trunc(shares + std::copysign(1e-9, shares));
        double price = isAtClose() ? bars.close[*bar] : bars.open[*bar];
        if (rule_.trading.filledAt == Trading::FilledAt::Limit && order.why == Why::Chosen) {
            const bool isBuying = order.shares > 0.0;
            const double limit = order.close * factor *
                                 (isBuying ? 1.0 - rule_.trading.limit : 1.0 + rule_.trading.limit);
            const bool isMet = isBuying ? bars.low[*bar] <= limit : bars.high[*bar] >= limit;
            if (!isMet) {
                ++portfolio_.unfilled;
                return;
            }
            price = isBuying ? std::min(price, limit) : std::max(price, limit);
        }
        const double done = book_.order(order.stock, *bar, shares, price, order.why);
        if (std::abs(done) + 1e-9 < std::abs(shares))
            ++portfolio_.unfilled;
    }

    /// Stop, trailing stop and target within the day: a stop is looked at before a target, and a
    /// bar that opens beyond either is sold at its open.
    void watchExits()
    {
        const Exits& exits = rule_.exits;
        if (exits.stop == 0.0 && exits.trailing == 0.0 && exits.target == 0.0)
            return;
        for (const std::size_t stock : heldStocks()) {
            const Holding& holding = book_.holdings().at(stock);
            const auto bar = book_.barOf(stock);
            if (bar && (isAtClose() || !holding.leaves))
                watchOne(stock, holding, *bar);
        }
    }
    void watchOne(std::size_t stock, const Holding& holding, std::size_t bar)
    {
        const Exits& exits = rule_.exits;
        const market::BarsView& bars = market_.bars(stock);
        const double side = holding.shares > 0.0 ? 1.0 : -1.0;
        const double none = side > 0.0 ? 0.0 : 1e300;
        const double stop = exits.stop > 0.0 ? holding.meanPrice * (1.0 - side * exits.stop) : none;
        const double trail =
            exits.trailing > 0.0 ? holding.farthestClose * (1.0 - side * exits.trailing) : none;
        const bool isTrail = side * trail > side * stop;
        const double level = isTrail ? trail : stop;
        const double target =
            exits.target > 0.0 ? holding.meanPrice * (1.0 + side * exits.target) : 0.0;
        const double open = bars.open[bar];
        const double adverse = side > 0.0 ? bars.low[bar] : bars.high[bar];
        const double favourable = side > 0.0 ? bars.high[bar] : bars.low[bar];
        const bool isHeldAtOpen = !holding.isNew;
        const Why stopped = isTrail ? Why::Trailed : Why::Stopped;
        if (isHeldAtOpen && side * open <= side * level)
            sell(stock, bar, open, stopped);
        else if (isHeldAtOpen && target > 0.0 && side * open >= side * target)
            sell(stock, bar, open, Why::Reached);
        else if (side * adverse <= side * level)
            sell(stock, bar, level, stopped);
        else if (target > 0.0 && side * favourable >= side * target)
            sell(stock, bar, target, Why::Reached);
    }

    void note()
    {
        if (book_.equity() <= 0.0 && !portfolio_.isRuined)
            giveUp();
        const double equity = book_.equity();
        portfolio_.equity.push_back(equity);
        portfolio_.cash.push_back(book_.cash());
        portfolio_.invested.push_back(equity > 0.0 ? book_.invested() / equity : missing);
        portfolio_.step.push_back(signals_.step[session_]);
        portfolio_.held.push_back(book_.holdings().size());
    }

    /// The money is gone: all is closed at its newest close, so that nothing moves from then on.
    void giveUp()
    {
        portfolio_.isRuined = true;
        orders_.clear();
        for (const std::size_t stock : heldStocks()) {
            const Holding& holding = book_.holdings().at(stock);
            book_.close(stock, market_.bars(stock).close[holding.bar]);
        }
    }

    /// At the close: who is to leave, and whom to choose.
    void decide()
    {
        const bool isOff = signals_.isOff[session_] != 0;
        for (auto& [stock, holding] : book_.holdings()) {
            if (holding.leaves)
                continue;
            if (isOff)
                holding.leaves = Why::RuleOnMarket;
            else if (rule_.exits.sessions > 0 && holding.bars >= rule_.exits.sessions)
                holding.leaves = Why::Expired;
            else if (!signals_.exits.empty() && signals_.exits[stock].matches.at(holding.bar))
                holding.leaves = Why::RuleOnStock;
        }
        if (signals_.isChoosing[session_] != 0)
            choose(isOff);
    }

    void choose(bool isOff)
    {
        ++portfolio_.chosenOn;
        const int step = signals_.step[session_];
        const bool isSwitch = session_ > 0 && signals_.step[session_ - 1] != step;
        const std::vector<Target> targets = isOff ? std::vector<Target>() : targetsOf(step);
        std::map<std::size_t, double> wanted;
        for (const Target& target : targets)
            wanted.emplace(target.stock, target.share);
        for (auto& [stock, holding] : book_.holdings())
            if (!holding.leaves && !wanted.contains(stock))
                holding.leaves = isSwitch ? Why::Switched : Why::Left;
        const double side = step >= 0 && rule_.steps[static_cast<std::size_t>(step)].screen.side ==
                                             screens::ScreenSide::Short
                                ? -1.0
                                : 1.0;
        const double equity = book_.equity();
        for (const Target& target : targets)
            orderUpTo(target, side, equity);
    }

    void orderUpTo(const Target& target, double side, double equity)
    {
        const auto found = book_.holdings().find(target.stock);
        const bool isHeld = found != book_.holdings().end();
        const bool isOtherSide = isHeld && (found->second.shares > 0.0) != (side > 0.0);
        if (isOtherSide) // it is sold first, and chosen again another day
            found->second.leaves = Why::Switched;
        if (isHeld && (found->second.leaves || !rule_.rebalancing.isReweighing))
            return;
        const auto bar = newestBar(target.stock);
        const double rate = market_.rate(target.stock, portfolio_.sessions[session_]);
        if (!bar || isMissing(rate))
            return;
        const double close = market_.bars(target.stock).close[*bar];
        const Trading& trading = rule_.trading;
        // So many that slippage and costs are paid out of the same share.
        const double each = close * rate * (1.0 + trading.slippage) * (1.0 + trading.costShare);
        double shares = std::max(0.0, equity * target.share - trading.costAnOrder) / each;
        if (trading.isWhole)
            shares = std::floor(shares + 1e-9);
        const double held = isHeld ? std::abs(found->second.shares) : 0.0;
        const double more = shares - held;
        // What rounding and the costs of the order leave is not worth an order.
        const bool isWorthIt = std::abs(more) * close * rate > 1e-6 * equity;
        if (!isWorthIt) {
            portfolio_.unfilled += isHeld ? 0U : 1U;
            return;
        }
        orders_.push_back(
            {target.stock, side * more, close, *bar, isHeld ? Why::Reweighed : Why::Chosen});
    }

    std::optional<std::size_t> newestBar(std::size_t stock) const
    {
        const auto days = market_.bars(stock).days;
        const auto end = std::ranges::upper_bound(days, portfolio_.sessions[session_]);
        return end == days.begin()
                   ? std::nullopt
                   : std::optional(static_cast<std::size_t>(end - days.begin()) - 1);
    }

    /// Who is held by a step from now on: those who stay within its places, then the best others.
    std::vector<Target> targetsOf(int at) const
    {
        if (at < 0 || rule_.steps[static_cast<std::size_t>(at)].isCash)
            return {};
        const PortfolioStep& step = rule_.steps[static_cast<std::size_t>(at)];
        const auto ranked =
            signals_.picks[static_cast<std::size_t>(at)]->ranked(0, signals_.choiceAt[session_]);
        const auto hold = static_cast<std::size_t>(step.hold);
        std::vector<StartPicks::Ranked> chosen;
        const auto isStaying = [&](const StartPicks::Ranked& each) {
            const auto found = book_.holdings().find(each.stock);
            return found != book_.holdings().end() && !found->second.leaves;
        };
        if (step.keepWithin > 0)
            for (const auto& each : ranked)
                if (chosen.size() < hold && isStaying(each))
                    chosen.push_back(each);
        for (const auto& each : ranked)
            if (chosen.size() < hold && (step.keepWithin == 0 || !isStaying(each)))
                chosen.push_back(each);
        double sum = 0.0;
        const auto weightOf = [&](const StartPicks::Ranked& each) {
            if (step.weightBy.empty())
                return 1.0;
            return each.weight > 0.0 && std::isfinite(each.weight) ? each.weight : 0.0;
        };
        for (const auto& each : chosen)
            sum += weightOf(each);
        std::vector<Target> targets;
        for (const auto& each : chosen)
            if (const double weight = weightOf(each); weight > 0.0)
                // Equal money is that of so many as are wanted, not of so few as were found.
                targets.push_back({each.stock, step.share * (step.weightBy.empty()
                                                                 ? 1.0 / static_cast<double>(hold)
                                                                 : weight / sum)});
        return targets;
    }

    /// What is still held is told as it stands.
    void closeTrades()
    {
        for (const auto& [stock, holding] : book_.holdings()) {
            Trade& trade = portfolio_.trades[holding.trade];
            trade.gain += book_.worthOf(stock, holding);
            trade.exitPrice = market_.bars(stock).close[holding.bar];
            trade.bars = holding.bars;
            trade.change = trade.paid > 0.0 ? trade.gain / trade.paid : missing;
            trade.worst = holding.lowest / holding.meanPrice - 1.0;
            trade.best = holding.highest / holding.meanPrice - 1.0;
            if (holding.shares < 0.0)
                std::swap(trade.worst, trade.best);
        }
    }

    Portfolio& portfolio_;
    const market::Market& market_;
    const PortfolioSignals& signals_;
    const PortfolioRule& rule_;
    TradingBook book_;
    std::size_t session_ = 0;
    std::vector<Order> orders_;
};

void addBenchmark(Portfolio& portfolio, const market::Market& market)
{
    const auto index = market.find(market.description().benchmark);
    if (!index)
        return;
    const Prices prices =
        pricesOf(market, *index, portfolio.sessions.back(), Columns::OpenAndClose);
    double first = missing;
    for (const Day session : portfolio.sessions) {
        const auto at = std::ranges::upper_bound(prices.days, session) - prices.days.begin();
        const double close = at == 0 ? missing : prices.close[static_cast<std::size_t>(at) - 1];
        if (isMissing(first))
            first = close;
        portfolio.benchmark.push_back(close / first);
    }
    if (isMissing(portfolio.benchmark.front()))
        portfolio.benchmark.clear(); // it begins later
}

std::vector<double> changesOf(const std::vector<double>& worths)
{
    std::vector<double> returns;
    for (std::size_t at = 1; at < worths.size(); ++at)
        returns.push_back(worths[at - 1] > 0.0 ? std::max(-1.0, worths[at] / worths[at - 1] - 1.0)
                                               : 0.0);
    return returns;
}

} // namespace

std::string_view whyName(Why why)
{
    constexpr std::array<std::string_view, 14> names{
        "chosen",   "reweighed", "left",      "switched",      "stopped",
        "trailed",  "reached",   "expired",   "rule on stock", "rule on market",
        "delisted", "dividend",  "borrowing", "ruined"};
    return names.at(static_cast<std::size_t>(why));
}

std::string_view whyWords(Why why)
{
    constexpr std::array<std::string_view, 14> words{"chosen",
                                                     "reweighed",
                                                     "no longer among the best",
                                                     "the market turned",
                                                     "stop",
                                                     "trailing stop",
                                                     "target",
                                                     "time",
                                                     "rule on the stock",
                                                     "rule on the market",
                                                     "delisted",
                                                     "dividend",
                                                     "borrowing",
                                                     "ruined"};
    return words.at(static_cast<std::size_t>(why));
}

std::vector<double> Portfolio::returns() const
{
    return changesOf(equity);
}

std::vector<double> Portfolio::benchmarkReturns() const
{
    return changesOf(benchmark);
}

Result<Portfolio> runPortfolio(const PortfolioRule& rule, const language::Names& names,
                               engine::Evaluator& evaluator, Day day, const Progress& progress)
{
    if (const std::string fault = boundsFault(rule); !fault.empty())
        return LocatedError{{}, fault, "see docs/studies.md"};
    const market::Market& market = evaluator.market();
    const auto all = market.sessions();
    const auto first = std::ranges::lower_bound(all, rule.from);
    const auto last = std::ranges::upper_bound(all, std::min(rule.to, day));
    if (first >= last)
        return LocatedError{
            {}, "there is no session between the first day and the last", "begin earlier"};
    Portfolio portfolio;
    portfolio.rule = rule;
    portfolio.sessions.assign(first, last);
    const auto signals = signalsOf(rule, portfolio.sessions, names, evaluator, progress);
    if (!signals)
        return signals.error();
    portfolio.unknownMarket = signals->unknownMarket;
    Trader(portfolio, market, *signals).run(progress);
    addBenchmark(portfolio, market);
    return portfolio;
}

} // namespace sieve::studies
