#pragma once

#include "core/base/result.h"
#include "core/library/work.h"

#include <span>
#include <string>
#include <vector>

namespace sieve::library {

class Library;

/// The person's own screens in the library, by name. One that no longer reads as a screen stays in
/// the library; `problems` tells of it.
struct LoadedScreens {
    std::vector<Shared<KeptScreen>> screens;
    std::vector<LocatedError> problems; ///< beginning with the screen's name
};
LoadedScreens loadScreens(Library& library);
LoadedScreens loadDrafts(Library& library); ///< ids of 0

/// Brings the library from the screens `before` to the screens `after`, inside the caller's
/// transaction. What a changed screen is now becomes a version of its own; versions follow a new
/// name, and stay when their screen goes.
void saveScreens(Library& library, std::span<const Shared<KeptScreen>> before,
                 std::span<const Shared<KeptScreen>> after);
void saveDrafts(Library& library, std::span<const Shared<screens::Screen>> drafts);

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
