#include "core/language/signs.h"

#include "core/engine/operators/values.h"

#include <catch2/catch.hpp>
#include <tuple>
#include <vector>

namespace sieve::language {

TEST_CASE("Signs: each does what it says, in both orders of its sides", "[language]")
{
    const std::tuple<const char*, double, double, double> comparisons[] = {
        {"<", 1, 0, 0},  {"<=", 1, 0, 1}, {">", 0, 1, 0},
        {">=", 0, 1, 1}, {"==", 0, 0, 1}, {"!=", 1, 1, 0}};
    for (const auto& [sign, less, greater, equal] : comparisons) {
        INFO(sign);
        CHECK(engine::combine(comparisonNamed(sign), std::vector{1.0, 2.0}) == less);
        CHECK(engine::combine(comparisonNamed(sign), std::vector{2.0, 1.0}) == greater);
        CHECK(engine::combine(comparisonNamed(sign), std::vector{2.0, 2.0}) == equal);
    }
    CHECK(engine::combine(arithmeticNamed("+"), std::vector{6.0, 3.0}) == 9);
    CHECK(engine::combine(arithmeticNamed("-"), std::vector{6.0, 3.0}) == 3);
    CHECK(engine::combine(arithmeticNamed("*"), std::vector{6.0, 3.0}) == 18);
    CHECK(engine::combine(arithmeticNamed("/"), std::vector{6.0, 3.0}) == 2);
    CHECK(engine::combine(arithmeticNamed("^"), std::vector{6.0, 3.0}) == 216);
}

} // namespace sieve::language
