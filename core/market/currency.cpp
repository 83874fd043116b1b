#include "core/market/currency.h"

#include "core/base/missing.h"

#include <algorithm>

namespace sieve::market {

double rateOn(std::span<const ExchangeRate> rates, Day day)
{
    const auto next = std::ranges::upper_bound(rates, day, {}, &ExchangeRate::date);
    if (next == rates.begin() || day - (next - 1)->date > rateHoldsDays)
        return missing;
    return (next - 1)->rate;
}

std::string commonCurrency(const std::string& stated,
                           const std::map<std::string, std::size_t>& instruments)
{
    if (!stated.empty() || instruments.empty())
        return stated;
    return std::ranges::max_element(instruments, {}, [](const auto& each) { return each.second; })
        ->first;
}

} // namespace sieve::market
