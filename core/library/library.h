#pragma once

// What a person makes and keeps, in one SQLite file, the library. All SQL of the program stands in
// this folder:
//   schema.h     the tables, as numbered migrations
//   backups.h    copies, damage, recovery
//   lists.h, screens.h, own_fields.h, settings.h   how one kind of thing is read and written
// A new kind of thing to keep is a file beside these and a migration at the end of schema.cpp.

#include "core/base/result.h"

#include <SQLiteCpp/SQLiteCpp.h>
#include <filesystem>
#include <memory>
#include <string>
#include <string_view>

namespace sieve::library {

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
    /// Writes a backup now (see backups.h); nothing in memory.
    void backUp();

private:
    Library(const std::filesystem::path& file, int flags);
    void prepare();

    std::filesystem::path file_; ///< empty in memory
    SQLite::Database database_;
};

} // namespace sieve::library
