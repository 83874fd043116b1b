#include "core/watchlists/watchlist.h"

#include <tuple>

namespace sieve::watchlists {

namespace {

bool isSame(double a, double b)
{
    return a == b || (isMissing(a) && isMissing(b));
}

} // namespace

bool operator==(const Entry& a, const Entry& b)
{
    return std::tie(a.symbol, a.addedOn, a.reason, a.source) ==
               std::tie(b.symbol, b.addedOn, b.reason, b.source) &&
           isSame(a.priceThen, b.priceThen);
}

bool operator==(const FormerEntry& a, const FormerEntry& b)
{
    return a.entry == b.entry && a.leftOn == b.leftOn && a.reasonLeft == b.reasonLeft &&
           isSame(a.priceLeft, b.priceLeft);
}

} // namespace sieve::watchlists
