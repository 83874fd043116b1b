#include "core/language/unit_rules.h"

namespace sieve::language {

Unit unitOfProduct(Unit a, Unit b)
{
    const auto either = [&](Unit x, Unit y) { return (a == x && b == y) || (a == y && b == x); };
    if (either(Unit::Money, Unit::Shares))
        return Unit::Money;
    const auto isFactor = [](Unit unit) {
        return unit == Unit::Plain || unit == Unit::Ratio || unit == Unit::Percent;
    };
    if (isFactor(a))
        return b == Unit::Plain ? a : b;
    return isFactor(b) ? a : Unit::Plain;
}

Unit unitOfQuotient(Unit a, Unit b)
{
    if (a == b)
        return a == Unit::Plain ? Unit::Plain : Unit::Ratio;
    if (a == Unit::Money && b == Unit::Shares)
        return Unit::Money; // per share
    const bool byFactor = b == Unit::Plain || b == Unit::Ratio || b == Unit::Percent;
    return byFactor ? a : Unit::Plain;
}

} // namespace sieve::language
