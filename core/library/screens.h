#pragma once

#include "core/library/library.h"
#include "core/screens/screen.h"

#include <string>
#include <vector>

namespace sieve::library {

/// The person's own screens in the library, by name. One that no longer reads as a screen stays in
/// the library; `problems` tells of it.
struct LoadedScreens {
    std::vector<screens::Screen> screens;
    std::vector<LocatedError> problems; ///< beginning with the screen's name
};
LoadedScreens loadScreens(Library& library);

/// Over one of the same name. What differs from its last version becomes a version of its own.
void saveScreen(Library& library, const screens::Screen& screen);
/// Gives a screen another name, with its versions. The new name must be free.
void renameScreen(Library& library, const std::string& from, const screens::Screen& renamed);
/// Takes it out of the person's screens; its versions stay.
void removeScreen(Library& library, const std::string& name);

/// A screen as it was saved once.
struct ScreenVersion {
    std::string savedAt; ///< "2026-11-25 11:20:03", UTC
    screens::Screen screen;
};

/// What a screen was over time, the newest first: that is the one saved last. Of a removed screen
/// too. Versions that no longer read are left out.
std::vector<ScreenVersion> versionsOf(Library& library, const std::string& name);
/// The names of removed screens, by alphabet.
std::vector<std::string> removedScreens(Library& library);

} // namespace sieve::library
