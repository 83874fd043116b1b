#pragma once

// What a person makes and keeps: lists, screens, the tray. One SQLite file, the library; its tables
// are stated here, in migrations, and read and written by the folders whose concepts they hold.

#include "core/base/result.h"

#include <SQLiteCpp/SQLiteCpp.h>
#include <filesystem>
#include <map>
#include <memory>
#include <string>
#include <string_view>

namespace sieve::storage {

/// The person's file of lists and screens. Write-ahead log, foreign keys, numbered migrations; each
/// change is on the disk when the call returns.
/// Threads: one at a time.
/// Errors:  std::runtime_error with the path and SQLite's words where the file cannot be used.
class Library {
public:
    /// How an opening went: what the person must be told.
    struct Opened {
        std::unique_ptr<Library> library;
        std::string notice; ///< empty when all is well
    };

    /// Opens the file or makes it. A file that is damaged is put aside, unchanged, under a name of
    /// its own, and its last backup taken in its place (or an empty library); the notice says so.
    /// A backup is written before a migration and whenever the last is over a day old.
    /// Errors: std::runtime_error when the folder cannot be written; std::runtime_error when the
    ///         file is of a newer version of the program (it is left as it is).
    static Opened open(const std::filesystem::path& file);
    /// One that lives in memory only, for a session that cannot save and for tests.
    static std::unique_ptr<Library> inMemory();

    SQLite::Database& database() { return database_; }
    const std::filesystem::path& file() const { return file_; }
    /// Writes a whole copy beside the file, over the last one only once the new one is complete.
    void backUp();

    static std::filesystem::path backupOf(const std::filesystem::path& file);

private:
    Library(const std::filesystem::path& file, int flags);
    void prepare();

    std::filesystem::path file_; ///< empty in memory
    SQLite::Database database_;
};

/// A named value that is no list or screen: where one stopped, the columns chosen.
std::map<std::string, std::string> settings(Library& library);
void setSetting(Library& library, std::string_view key, std::string_view value);

} // namespace sieve::storage
