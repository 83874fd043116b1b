#pragma once

#include "core/market/market.h"
#include "core/studies/portfolio.h"

#include <map>
#include <optional>
#include <vector>

namespace sieve::studies {

/// A stock that is held: shares as traded on its newest bar.
struct Holding {
    std::size_t bar = 0;        ///< its newest by the session in hand
    double shares = 0.0;        ///< below 0: sold short
    double meanPrice = 0.0;     ///< that was paid, on the footing of `bar`
    double farthestClose = 0.0; ///< the highest close since, of shorts the lowest; likewise
    double lowest = 0.0;        ///< closes since, likewise
    double highest = 0.0;
    int bars = 0;              ///< since the purchase, that of the purchase counted
    double rate = 1.0;         ///< the newest known of its currency
    std::size_t trade = 0;     ///< among Portfolio::trades
    std::optional<Why> leaves; ///< it is to be sold on its next bar
    bool isNew = false;        ///< bought on the session in hand
};

/// Money and what is held, and every movement of both. Everything that changes them goes through
/// here, so that nothing is lost between: cash is the money at the start and the sum of all fills.
class TradingBook {
public:
    TradingBook(Portfolio& portfolio, const market::Market& market);

    double cash() const { return cash_; }
    double equity() const { return cash_ + worth(); }
    double worth() const;    ///< of all that is held, shorts below 0
    double invested() const; ///< the same without signs
    std::map<std::size_t, Holding>& holdings() { return holdings_; } ///< by stock
    const std::map<std::size_t, Holding>& holdings() const { return holdings_; }
    double worthOf(std::size_t stock, const Holding& holding) const;

    /// Brings every holding to a session: splits, dividends, delistings, borrowing.
    void begin(std::size_t session);
    /// The bar of a stock on the session in hand.
    std::optional<std::size_t> barOf(std::size_t stock) const;
    /// Buys (above 0) or sells shares of a bar at about a price: slippage, the day's range, the
    /// share of its volume and (buying) the cash bound it. Gives what was done, and makes or ends
    /// the trade.
    double order(std::size_t stock, std::size_t bar, double shares, double about, Why why);
    /// Ends a holding at a price, whatever the volume, without slippage or costs.
    void close(std::size_t stock, double price);
    /// Closes the session: what happened since the purchase is kept.
    void end();

private:
    void move(std::size_t stock, Why why, double shares, double price, double money, double cost);
    void takeActions(std::size_t stock, Holding& holding, std::size_t bar);
    void leaveDelisted();
    double affordable(double shares, double price) const;
    void finish(std::size_t stock, Why why, double price);

    Portfolio& portfolio_;
    const market::Market& market_;
    const Trading& trading_;
    double cash_;
    std::size_t session_ = 0;
    std::map<std::size_t, Holding> holdings_;
};

} // namespace sieve::studies
