#pragma once

#include "core/language/own_fields.h"
#include "core/library/library.h"

#include <string>
#include <vector>

namespace sieve::library {

/// The person's own fields. Those that no longer check (the program took the name of one) are left
/// out with all that use them, and stay in the library; `problems` tells of them.
struct LoadedFields {
    language::OwnFields fields;
    std::vector<LocatedError> problems;
};
LoadedFields loadOwnFields(Library& library);
/// Puts these in place of those that the library has. Fields that could not be loaded stay.
void saveOwnFields(Library& library, const language::OwnFields& fields,
                   const std::vector<std::string>& removed);

} // namespace sieve::library
