#include "core/studies/trading_book.h"

#include <algorithm>
#include <cmath>

namespace sieve::studies {

namespace {

/// Shares that are no more than rounding.
constexpr double nothing = 1e-9;

} // namespace

TradingBook::TradingBook(Portfolio& portfolio, const market::Market& market)
    : portfolio_(portfolio), market_(market), trading_(portfolio.rule.trading),
      cash_(trading_.money)
{
}

double TradingBook::worthOf(std::size_t stock, const Holding& holding) const
{
    return holding.shares * market_.bars(stock).close[holding.bar] * holding.rate;
}

double TradingBook::worth() const
{
    double sum = 0.0;
    for (const auto& [stock, holding] : holdings_)
        sum += worthOf(stock, holding);
    return sum;
}

double TradingBook::invested() const
{
    double sum = 0.0;
    for (const auto& [stock, holding] : holdings_)
        sum += std::abs(worthOf(stock, holding));
    return sum;
}

void TradingBook::move(std::size_t stock, Why why, double shares, double price, double money,
                       double cost)
{
    portfolio_.fills.push_back({session_, stock, why, shares, price, money, cost});
    portfolio_.costs += cost;
    cash_ += money;
}

std::optional<std::size_t> TradingBook::barOf(std::size_t stock) const
{
    const auto days = market_.bars(stock).days;
    const Day day = portfolio_.sessions[session_];
    const auto at = std::ranges::lower_bound(days, day);
    if (at == days.end() || *at != day)
        return std::nullopt;
    return static_cast<std::size_t>(at - days.begin());
}

/// What was handed out and split between the newest bar and the next one. A dividend is told for
/// the shares that there were on its day, as Market::totalReturn has it.
void TradingBook::takeActions(std::size_t stock, Holding& holding, std::size_t bar)
{
    const auto days = market_.bars(stock).days;
    const std::size_t footing = market_.footing(stock, bar);
    const double factor = market_.priceFactor(stock, days[holding.bar], footing);
    holding.shares /= factor;
    for (double* price :
         {&holding.meanPrice, &holding.farthestClose, &holding.lowest, &holding.highest})
        *price *= factor;
    if (!trading_.hasDividends)
        return;
    for (const market::Action& action : market_.actions(stock)) {
        if (action.kind == market::ActionKind::Split || action.exDate <= days[holding.bar] ||
            action.exDate > days[bar])
            continue;
        const double each = action.value * market_.priceFactor(stock, action.exDate, footing);
        const double money = holding.shares * each * holding.rate;
        portfolio_.trades[holding.trade].gain += money;
        move(stock, Why::Dividend, 0.0, each, money, 0.0);
    }
}

void TradingBook::leaveDelisted()
{
    const Day day = portfolio_.sessions[session_];
    for (auto at = holdings_.begin(); at != holdings_.end();) {
        const std::size_t stock = at->first;
        Holding& holding = (at++)->second; // finish() takes it away
        const auto& delisted = market_.instrument(stock).delistedOn;
        if (!delisted || *delisted > day)
            continue;
        const double price = market_.bars(stock).close[holding.bar] * trading_.delistedWorth;
        const double money = holding.shares * price * holding.rate;
        portfolio_.trades[holding.trade].gain += money;
        move(stock, Why::Delisted, -holding.shares, price, money, 0.0);
        finish(stock, Why::Delisted, price);
    }
}

void TradingBook::begin(std::size_t session)
{
    session_ = session;
    const Day day = portfolio_.sessions[session];
    for (auto& [stock, holding] : holdings_) {
        holding.isNew = false;
        if (holding.shares < 0.0 && trading_.borrowing > 0.0) {
            const double money = worthOf(stock, holding) * trading_.borrowing / daysAYear;
            portfolio_.trades[holding.trade].gain += money;
            move(stock, Why::Borrowing, 0.0, missing, money, 0.0);
        }
        const auto days = market_.bars(stock).days;
        std::size_t bar = holding.bar;
        while (bar + 1 < days.size() && days[bar + 1] <= day)
            ++bar;
        if (bar != holding.bar) {
            takeActions(stock, holding, bar);
            holding.bar = bar;
            ++holding.bars;
        }
        if (const double rate = market_.rate(stock, day); !isMissing(rate))
            holding.rate = rate;
    }
    leaveDelisted();
}

/// How many shares the cash pays for.
double TradingBook::affordable(double shares, double price) const
{
    const double each = price * (1.0 + trading_.costShare);
    const double most = (cash_ - trading_.costAnOrder) / each;
    shares = std::min(shares, std::max(0.0, most));
    return trading_.isWhole ? std::floor(shares + nothing) : shares;
}

double TradingBook::order(std::size_t stock, std::size_t bar, double shares, double about, Why why)
{
    const market::BarsView& bars = market_.bars(stock);
    const auto found = holdings_.find(stock);
    const bool isThere = found != holdings_.end();
    const double rate =
        isThere ? found->second.rate : market_.rate(stock, portfolio_.sessions[session_]);
    if (!(about > 0.0) || isMissing(rate))
        return 0.0;
    // Worse than hoped for, but no worse than the day's range has it.
    const double price =
        shares > 0.0 ? std::min(about * (1.0 + trading_.slippage), std::max(bars.high[bar], about))
                     : std::max(about * (1.0 - trading_.slippage), std::min(bars.low[bar], about));
    double done = shares;
    if (trading_.ofVolume > 0.0) {
        double most = trading_.ofVolume * std::max(0.0, bars.volume[bar]);
        most = trading_.isWhole ? std::floor(most) : most;
        done = std::clamp(done, -most, most);
    }
    const double held = isThere ? found->second.shares : 0.0;
    const bool isOpening = held == 0.0 || (held > 0.0) == (shares > 0.0);
    if (done > 0.0 && isOpening)
        done = affordable(done, price * rate);
    if (std::abs(done) <= nothing)
        return 0.0;
    const double amount = std::abs(done) * price * rate;
    const double cost = trading_.costAnOrder + trading_.costShare * amount;
    Holding& holding = holdings_[stock];
    if (!isThere) {
        holding.rate = rate;
        holding.bar = bar;
        holding.bars = 1;
        holding.farthestClose = holding.lowest = holding.highest = price;
        holding.isNew = true;
        holding.trade = portfolio_.trades.size();
        Trade trade;
        trade.stock = stock;
        trade.entered = session_;
        trade.entryPrice = price;
        portfolio_.trades.push_back(trade);
    }
    Trade& trade = portfolio_.trades[holding.trade];
    if (isOpening) {
        holding.meanPrice =
            (holding.meanPrice * std::abs(holding.shares) + price * std::abs(done)) /
            (std::abs(holding.shares) + std::abs(done));
        trade.paid += amount;
    }
    holding.shares += done;
    const double money = -done * price * rate - cost;
    trade.gain += money;
    move(stock, why, done, price, money, cost);
    if (std::abs(holding.shares) <= nothing)
        finish(stock, why, price);
    return done;
}

void TradingBook::close(std::size_t stock, double price)
{
    const Holding& holding = holdings_.at(stock);
    const double money = holding.shares * price * holding.rate;
    portfolio_.trades[holding.trade].gain += money;
    move(stock, Why::Ruined, -holding.shares, price, money, 0.0);
    finish(stock, Why::Ruined, price);
}

void TradingBook::finish(std::size_t stock, Why why, double price)
{
    const auto found = holdings_.find(stock);
    const Holding& holding = found->second;
    Trade& trade = portfolio_.trades[holding.trade];
    trade.left = session_;
    trade.why = why;
    trade.exitPrice = price;
    trade.bars = holding.bars;
    trade.change = trade.paid > 0.0 ? trade.gain / trade.paid : missing;
    trade.worst = holding.lowest / holding.meanPrice - 1.0;
    trade.best = holding.highest / holding.meanPrice - 1.0;
    if (holding.shares < 0.0)
        std::swap(trade.worst, trade.best);
    holdings_.erase(found);
}

void TradingBook::end()
{
    for (auto& [stock, holding] : holdings_) {
        const double close = market_.bars(stock).close[holding.bar];
        holding.lowest = std::min(holding.lowest, close);
        holding.highest = std::max(holding.highest, close);
        holding.farthestClose = holding.shares > 0.0 ? std::max(holding.farthestClose, close)
                                                     : std::min(holding.farthestClose, close);
    }
}

} // namespace sieve::studies
