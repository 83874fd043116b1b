#pragma once

#include "core/expressions/own_fields.h"
#include "core/screens/screen.h"
#include "core/storage/library.h"

#include <string>
#include <vector>

namespace sieve::screens {

/// The person's own screens in the library, by name. One that no longer reads as a screen is passed
/// over and stays in the library.
std::vector<Screen> loadScreens(storage::Library& library);
void saveScreen(storage::Library& library, const Screen& screen); ///< over one of the same name
void removeScreen(storage::Library& library, const std::string& name);

/// The person's own fields. Those that no longer check (the program took the name of one) are left
/// out with all that use them, and stay in the library; `problems` tells of them.
struct LoadedFields {
    expressions::OwnFields fields;
    std::vector<LocatedError> problems;
};
LoadedFields loadOwnFields(storage::Library& library);
/// Puts these in place of those that the library has. Fields that could not be loaded stay.
void saveOwnFields(storage::Library& library, const expressions::OwnFields& fields,
                   const std::vector<std::string>& removed);

} // namespace sieve::screens
