#include "core/watchlists/watchlist.h"

namespace sieve::watchlists {

bool operator==(const FormerEntry& a, const FormerEntry& b)
{
    return a.entry == b.entry && a.leftOn == b.leftOn && a.reasonLeft == b.reasonLeft &&
           isSameFigure(a.priceLeft, b.priceLeft);
}

} // namespace sieve::watchlists
