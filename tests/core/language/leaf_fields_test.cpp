#include "core/language/leaf_fields.h"

#include "core/language/vocabulary.h"

#include <catch2/catch.hpp>

namespace sieve::language {

TEST_CASE("Leaf fields: each stands in the dictionary without a formula, and the other way round",
          "[language]")
{
    std::size_t leaves = 0;
    for (const Field& field : Vocabulary::builtIn().fields()) {
        INFO(field.name);
        CHECK((leafFieldNamed(field.name) != nullptr) == field.formula.empty());
        leaves += field.formula.empty() ? 1 : 0;
    }
    CHECK(leaves == 32);
    CHECK(leafFieldNamed("close")->op == engine::Op::BarColumn);
    CHECK_FALSE(leafFieldNamed("closed"));
}

} // namespace sieve::language
