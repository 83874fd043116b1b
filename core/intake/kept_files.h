#pragma once

#include "core/base/progress.h"
#include "core/intake/source.h"

#include <filesystem>
#include <string>

namespace sieve::intake {

/// Copies what an intake reads of a source (tables, feeds, dataset.toml) into a new folder, on the
/// disk when this returns, and gives the same source as it lies there.
/// Errors: std::system_error with the path; Stopped. What was copied by then is left to the caller.
Source keepFiles(const Source& source, const std::filesystem::path& folder,
                 const Progress& progress = {});

/// The sum over names and bytes of a folder's files (XXH3, as 16 hexadecimal digits): the same as
/// long as nothing of them has changed.
/// Errors: std::system_error with the path.
std::string checksumOfFiles(const std::filesystem::path& folder);

} // namespace sieve::intake
