#pragma once

#include "core/base/result.h"
#include "core/language/own_fields.h"

#include <vector>

namespace sieve::library {

class Library;

/// The person's own fields. Those that no longer check (the program took the name of one) are left
/// out with all that use them, and stay in the library; `problems` tells of them.
struct LoadedFields {
    language::OwnFields fields;
    std::vector<LocatedError> problems;
};
LoadedFields loadOwnFields(Library& library);
/// Brings the library from the fields `before` to the fields `after`, inside the caller's
/// transaction. Fields that could not be loaded stay; one that gives its name to another is kept as
/// a file.
void saveOwnFields(Library& library, const language::OwnFields& before,
                   const language::OwnFields& after);

} // namespace sieve::library
