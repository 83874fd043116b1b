#include "core/library/own_fields.h"

#include "tests/core/made_market.h"

#include <catch2/catch.hpp>

namespace sieve::library {

using test::ownField;

TEST_CASE("Library: own fields come back, and one that is broken takes none with it that can stand",
          "[library]")
{
    const auto opened = Library::inMemory();
    Library& library = *opened;
    language::OwnFields fields;
    REQUIRE_FALSE(fields.put(ownField("half", "close / 2")));
    REQUIRE_FALSE(fields.put(ownField("quarter_of_it", "half / 2")));
    REQUIRE_FALSE(fields.put(ownField("other", "open / 2")));
    saveOwnFields(library, fields, {});
    CHECK(loadOwnFields(library).fields.toToml() == fields.toToml());

    library.database().exec("UPDATE own_field SET toml = replace(toml, 'close / 2', 'close /') "
                            "WHERE name = 'half'");
    const LoadedFields loaded = loadOwnFields(library);
    CHECK(loaded.problems.size() == 2); // it and its user
    REQUIRE(loaded.fields.fields().size() == 1);
    CHECK(loaded.fields.fields()[0].name == "other");
    saveOwnFields(library, loaded.fields, {"other"}); // what could not be read stays
    CHECK(library.database().execAndGet("SELECT count(*) FROM own_field").getInt() == 3);
}

} // namespace sieve::library
