#include "core/market/bars.h"

namespace sieve::market {

void Bars::reserve(std::size_t bars)
{
    days.reserve(bars);
    for (auto* column : {&open, &high, &low, &close, &volume})
        column->reserve(bars);
}

void Bars::truncate(std::size_t bars)
{
    days.erase(days.begin() + static_cast<std::ptrdiff_t>(bars), days.end());
    for (auto* column : {&open, &high, &low, &close, &volume})
        column->resize(bars);
}

} // namespace sieve::market
