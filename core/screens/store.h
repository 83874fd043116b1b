#pragma once

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

} // namespace sieve::screens
