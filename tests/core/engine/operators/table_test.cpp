#include "core/engine/operators/operator.h"

#include <catch2/catch.hpp>
#include <set>
#include <string>

namespace sieve::engine {

TEST_CASE("Operators: each name has its row, and each row what its family needs", "[engine]")
{
    std::set<std::string_view> names;
    for (const Operator& each : operators()) {
        INFO("operator " << static_cast<int>(each.op) << ' ' << each.name);
        CHECK(&operatorOf(each.op) == &each);
        CHECK((each.family == Family::ValueByValue) == (each.fill == nullptr));
        const bool isAcross = each.family == Family::AcrossStocks;
        CHECK(isAcross ==
              ((each.across.eachMember != nullptr) != (each.across.ofGroup != nullptr)));
        CHECK((!each.across.ofSum || each.across.isOneFigure));
        CHECK(each.name.empty() == each.help.empty());
        CHECK((each.name.empty() || names.insert(each.name).second));
        CHECK((!each.lookback || !each.namedBars));
        if (each.record)
            CHECK(each.column < operatorOf(*each.record).columns);
    }
    CHECK(operators().size() == static_cast<std::size_t>(Op::LeastPlaced) + 1);
}

} // namespace sieve::engine
