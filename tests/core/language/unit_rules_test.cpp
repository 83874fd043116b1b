#include "core/language/unit_rules.h"

#include <catch2/catch.hpp>

namespace sieve::language {

TEST_CASE("Units: of products and quotients", "[language]")
{
    CHECK(unitOfProduct(Unit::Money, Unit::Shares) == Unit::Money);
    CHECK(unitOfProduct(Unit::Shares, Unit::Money) == Unit::Money);
    CHECK(unitOfProduct(Unit::Plain, Unit::Money) == Unit::Money);
    CHECK(unitOfProduct(Unit::Money, Unit::Percent) == Unit::Money);
    CHECK(unitOfProduct(Unit::Ratio, Unit::Plain) == Unit::Ratio);
    CHECK(unitOfProduct(Unit::Money, Unit::Money) == Unit::Plain);
    CHECK(unitOfQuotient(Unit::Money, Unit::Money) == Unit::Ratio);
    CHECK(unitOfQuotient(Unit::Plain, Unit::Plain) == Unit::Plain);
    CHECK(unitOfQuotient(Unit::Money, Unit::Shares) == Unit::Money);
    CHECK(unitOfQuotient(Unit::Money, Unit::Ratio) == Unit::Money);
    CHECK(unitOfQuotient(Unit::Days, Unit::Plain) == Unit::Days);
    CHECK(unitOfQuotient(Unit::Money, Unit::Days) == Unit::Plain);
    CHECK(areComparable(Unit::Percent, Unit::Ratio));
    CHECK(areComparable(Unit::Plain, Unit::Points));
    CHECK_FALSE(areComparable(Unit::Money, Unit::Points));
}

} // namespace sieve::language
