#pragma once

#include <filesystem>
#include <string>
#include <string_view>

namespace sieve::library {

// Pictures that belong to entries: files beside the library, in `library.sqlite.pictures`. Each is
// written once and never changed nor removed, so that backups, undo and folders of open text, which
// name them, find them; an entry names its own (watchlists::EntryPage::picture).

/// Where the picture of that name stands; empty for a library in memory, and for a name that is no
/// plain file name.
std::filesystem::path picturePath(const std::filesystem::path& library, std::string_view name);

/// Writes it durably. Errors: std::system_error with the path.
void writePicture(const std::filesystem::path& library, std::string_view name,
                  std::string_view bytes);

/// Copies those of another folder, where one is given and is there, beside the library; what is
/// there stays. Errors: std::filesystem::filesystem_error.
void addPictures(const std::filesystem::path& library, const std::filesystem::path& folder);

} // namespace sieve::library
