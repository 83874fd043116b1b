#pragma once

#include <SQLiteCpp/SQLiteCpp.h>
#include <filesystem>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::library {

/// A copy of the library as it was once.
struct Backup {
    std::filesystem::path file;
    int number = 0;     ///< grows with every backup, whatever the clock says
    std::string madeAt; ///< "2026-11-29 09:08", UTC
    std::string why;    ///< "daily", "migration", "asked", "restore" (before one), "former"
};

inline constexpr std::size_t backupsKept = 10;

/// The backups of a library file (an empty path, one in memory, has none), the newest first. They
/// stand in a folder beside it. The single backup that former versions of the program wrote is the
/// oldest.
std::vector<Backup> backupsOf(const std::filesystem::path& file);

/// Whether there is none of today (UTC).
bool isBackupDue(const std::filesystem::path& file);

/// Writes a whole copy of the library. It is on the disk before it takes its name; then those that
/// are older than the newest ten go.
/// Errors: SQLite::Exception, std::system_error; what was there stays.
Backup writeBackup(SQLite::Database& database, const std::filesystem::path& file,
                   std::string_view why);

/// Whether SQLite can read the file and finds no damage in it.
/// Errors: std::runtime_error with the path, when the file cannot be opened for another reason.
bool isSound(const std::filesystem::path& file);

/// Where a library whose file was deleted is written anew; what stands there is whole.
std::filesystem::path writtenAnewOf(const std::filesystem::path& file);

/// Before a library is opened: what is damaged is moved out of the way, unchanged, under a name of
/// its own; where a library is missing or damaged its newest sound backup is put in its place.
/// Gives back what the person must be told; empty when all is well.
/// Errors: std::system_error; those of isSound().
std::string restoreIfLost(const std::filesystem::path& file);

} // namespace sieve::library
