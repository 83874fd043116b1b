#pragma once

#include <SQLiteCpp/SQLiteCpp.h>
#include <filesystem>
#include <string>

namespace sieve::library {

/// Where the backup of a library file stands.
std::filesystem::path backupOf(const std::filesystem::path& file);

/// Whether the last backup is over a day old, or there is none.
bool isBackupDue(const std::filesystem::path& file);

/// Writes a whole copy of the library beside it, over the last one only once the new one is
/// complete.
/// Errors: SQLite::Exception, std::filesystem::filesystem_error.
void writeBackup(SQLite::Database& database, const std::filesystem::path& file);

/// Whether SQLite can read the file and finds no damage in it.
/// Errors: std::runtime_error with the path, when the file cannot be opened for another reason.
bool isSound(const std::filesystem::path& file);

/// Moves a damaged file (and its log) out of the way, unchanged, and puts its last backup in its
/// place, if there is a sound one. Gives back what the person must be told.
std::string recover(const std::filesystem::path& file);

} // namespace sieve::library
