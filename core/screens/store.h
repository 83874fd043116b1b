#pragma once

#include "core/expressions/own_fields.h"
#include "core/screens/screen.h"
#include "core/storage/library.h"

#include <string>
#include <vector>

namespace sieve::screens {

/// The person's own screens in the library, by name. One that no longer reads as a screen stays in
/// the library; `problems` tells of it.
struct LoadedScreens {
    std::vector<Screen> screens;
    std::vector<LocatedError> problems; ///< beginning with the screen's name
};
LoadedScreens loadScreens(storage::Library& library);

/// Over one of the same name. What differs from its last version becomes a version of its own.
void saveScreen(storage::Library& library, const Screen& screen);
/// Gives a screen another name, with its versions. The new name must be free.
void renameScreen(storage::Library& library, const std::string& from, const Screen& renamed);
/// Takes it out of the person's screens; its versions stay.
void removeScreen(storage::Library& library, const std::string& name);

/// A screen as it was saved once.
struct ScreenVersion {
    std::string savedAt; ///< "2026-11-25 11:20:03", UTC
    Screen screen;
};

/// What a screen was over time, the newest first: that is the one saved last. Of a removed screen
/// too. Versions that no longer read are left out.
std::vector<ScreenVersion> versionsOf(storage::Library& library, const std::string& name);
/// The names of removed screens, by alphabet.
std::vector<std::string> removedScreens(storage::Library& library);

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
