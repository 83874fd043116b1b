#include "core/watchlists/watchlist.h"

#include <tuple>

namespace sieve::watchlists {

bool operator==(const Entry& a, const Entry& b)
{
    return std::tie(a.symbol, a.addedOn, a.reason, a.source, a.plan) ==
               std::tie(b.symbol, b.addedOn, b.reason, b.source, b.plan) &&
           isSameFigure(a.priceThen, b.priceThen);
}

bool operator==(const FormerEntry& a, const FormerEntry& b)
{
    return a.entry == b.entry && a.leftOn == b.leftOn && a.reasonLeft == b.reasonLeft &&
           isSameFigure(a.priceLeft, b.priceLeft);
}

} // namespace sieve::watchlists
