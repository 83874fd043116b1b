#include "core/language/reference.h"

#include "core/storage/file_aside.h"

#include <catch2/catch.hpp>

namespace sieve::language {

TEST_CASE("Reference: the pages of the documentation are those of the dictionary", "[language]")
{
    // tools/make-reference writes them.
    const std::string docs = std::string(SIEVE_TEST_FOLDER) + "/../docs/";
    const Vocabulary& vocabulary = Vocabulary::builtIn();
    CHECK((storage::readWhole(docs + "fields.md") == fieldReference(vocabulary)));
    CHECK((storage::readWhole(docs + "functions.md") == functionReference(vocabulary)));
    CHECK(usesOf(*vocabulary.field("sector")) == "criterion, column");
    CHECK(usesOf(*vocabulary.field("last")) == "while a session runs");
}

} // namespace sieve::language
