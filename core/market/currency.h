#pragma once

#include "core/base/day.h"

#include <cstddef>
#include <map>
#include <span>
#include <string>
#include <vector>

namespace sieve::market {

/// What one unit of a currency was worth on a day, in the currency of the market.
struct ExchangeRate {
    Day date;
    double rate = 0.0; ///< above 0

    friend bool operator==(const ExchangeRate&, const ExchangeRate&) = default;
};

/// The rows of currency_rates.csv for one currency.
struct Currency {
    std::string name;
    std::vector<ExchangeRate> rates; ///< by date

    friend bool operator==(const Currency&, const Currency&) = default;
};

/// A rate holds on its day and for so many days after it; then it counts as not known. Rates of the
/// end of each month are enough, and a series that ended is not taken for the rate of today.
inline constexpr int rateHoldsDays = 45;

/// The rate that was known at the close of a day.
/// Missing: before the first rate, and where the newest is older than `rateHoldsDays`.
double rateOn(std::span<const ExchangeRate> rates, Day day);

/// The currency in which money of several instruments is compared: that which the dataset states,
/// or else the one of most instruments (of equally many, the first by alphabet). Empty where nobody
/// names one.
std::string commonCurrency(const std::string& stated,
                           const std::map<std::string, std::size_t>& instruments);

} // namespace sieve::market
