#include "core/valuation/fair_value.h"

#include "core/language/vocabulary.h"

#include <catch2/catch.hpp>
#include <set>

namespace sieve::valuation {

TEST_CASE("Fair values: each is a field, the product of the two that it names", "[valuation]")
{
    const language::Vocabulary& vocabulary = language::Vocabulary::builtIn();
    const auto isKnown = [&](std::string_view name) {
        return name == "no_data" || vocabulary.field(name);
    };
    for (const Driver& driver : drivers)
        for (const std::string_view field : {driver.last, driver.growth, driver.trend,
                                             driver.expected, driver.multiple, driver.usual}) {
            INFO(field);
            CHECK(isKnown(field));
        }
    std::set<std::string> fields;
    for (const FairValue& value : fairValues()) {
        INFO(value.field);
        const language::Field* field = vocabulary.field(value.field);
        REQUIRE(field);
        const bool isPositiveAlone = value.basis == Basis::Last; // a trend is positive already
        CHECK(field->formula ==
              (isPositiveAlone ? "positive(" + value.perShare + ")" : value.perShare) + " * " +
                  value.multiple);
        fields.insert(value.field);
    }
    CHECK(fields.size() == 5 + 5 + 3 + 3 + 5);
}

} // namespace sieve::valuation
