#pragma once

#include "core/base/progress.h"
#include "core/market/market.h"
#include "core/studies/prices.h"

#include <span>
#include <vector>

namespace sieve::studies {

/// What every instrument costs and is worth on each of some sessions in a row.
class SessionGrid {
public:
    /// Errors: Stopped.
    SessionGrid(const market::Market& market, std::span<const Day> sessions, Dividends dividends,
                const Progress& progress);

    std::size_t sessions() const { return sessions_; }
    /// The open of the first bar after a session, and the session of that bar; missing, or
    /// sessions(), where there is none by the last session.
    double bought(std::size_t stock, std::size_t session) const
    {
        return bought_[stock * sessions_ + session];
    }
    std::size_t boughtOn(std::size_t stock, std::size_t session) const
    {
        return boughtOn_[stock * sessions_ + session];
    }
    /// The close of the newest bar by a session; missing before the first one.
    double worth(std::size_t stock, std::size_t session) const
    {
        return worth_[stock * sessions_ + session];
    }
    /// From the next open after one session to the close of another; missing where it could not be
    /// bought by then.
    double gain(std::size_t stock, std::size_t start, std::size_t end) const
    {
        return boughtOn(stock, start) <= end ? worth(stock, end) / bought(stock, start) - 1.0
                                             : missing;
    }

private:
    std::size_t sessions_;
    std::vector<double> bought_;
    std::vector<double> worth_;
    std::vector<std::uint16_t> boughtOn_;
};

} // namespace sieve::studies
