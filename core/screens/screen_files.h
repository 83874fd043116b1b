#pragma once

#include "core/screens/screen.h"

#include <filesystem>
#include <span>
#include <string>
#include <vector>

namespace sieve::screens {

/// Writes each screen as a file of TOML of its own, named after it. A file that is there already
/// stays: the new one gets a number behind its name. Gives the files, in the order of the screens.
/// Errors: std::system_error with the path, as on a full disk; files written before it stay.
std::vector<std::filesystem::path> writeScreens(const std::filesystem::path& folder,
                                                std::span<const Screen> screens);

/// What some files hold.
struct ReadScreens {
    std::vector<Screen> screens;
    std::vector<std::string> problems; ///< sentences: the file, the place in it, what is wrong
};

/// Reads files of a screen each. One that cannot be read is told of and keeps none of the others
/// back.
ReadScreens readScreens(std::span<const std::filesystem::path> files);

/// The name, or with the first number behind it that nobody in `taken` has.
std::string freeName(const std::string& name, std::span<const Screen> taken);

} // namespace sieve::screens
