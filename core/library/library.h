#pragma once

// What a person makes and keeps, in one SQLite file, the library. All SQL of the program stands in
// this folder:
//   schema.h     the tables, as numbered migrations    lock.h     one program a library
//   work.h       the person's work, as a value         backups.h  copies, damage, recovery
//   work_step.h  an edit of it, to be taken back    name_books.h what its names mean
//   history.h    steps that are taken back later    library_folder.h all of it as open text
//   alert_log.h  what alerts told                   pictures.h  of charts, as files
//   file_place.h whether the file is still there    outbox.h  mails, as files
//   kept_work.h  loads it, and saves what an edit changed, in one transaction
//   lists.h, screens.h, own_fields.h, settings.h   how one kind of thing is read and written
//   numbered.h   how things are that have a number and one text: drawings, verdicts
// A new kind of thing to keep is a member of Work, a file beside these, its lines in kept_work.cpp,
// and a migration at the end of schema.cpp.

#include "core/library/file_place.h"
#include "core/library/lock.h"

#include <SQLiteCpp/SQLiteCpp.h>
#include <SQLiteCpp/VariadicBind.h>
#include <cstdint>
#include <filesystem>
#include <memory>
#include <optional>
#include <string>
#include <string_view>

namespace sieve::library {

/// The person's file of work. Write-ahead log, foreign keys, numbered migrations; a transaction is
/// on the disk when the call returns. One program at a time holds a file.
/// Threads: one at a time.
/// Errors:  std::runtime_error with the path and SQLite's words where the file cannot be used.
class Library {
public:
    /// How an opening went.
    struct Opened {
        std::unique_ptr<Library> library;
        std::string notice;      ///< what the person must be told; empty when all is well
        bool isReadOnly = false; ///< another program holds the file: this is how it was, in memory
    };

    /// Opens the file or makes it. What is damaged is put aside, and a lost file is restored from
    /// its newest sound backup (backups.h); the notice says so. A backup is written before a
    /// migration, and each day.
    /// Errors: std::runtime_error when the folder cannot be written, when the file is of a newer
    ///         version of the program, or when it must be brought up to this version and no backup
    ///         can be written first (it is left as it is).
    static Opened open(const std::filesystem::path& file);
    /// One that lives in memory only, for a session that cannot save and for tests.
    static std::unique_ptr<Library> inMemory();
    /// What a library or backup holds now, in memory and of this version; the file is not changed.
    static std::unique_ptr<Library> copyOf(const std::filesystem::path& file);

    SQLite::Database& database() { return database_; }
    const std::filesystem::path& file() const { return file_; }

    /// Runs one statement that gives nothing back, with its values.
    template <class... Values> void execute(const char* sql, const Values&... values)
    {
        SQLite::Statement statement(database_, sql);
        SQLite::bind(statement, values...);
        statement.exec();
    }
    /// Runs `change` as one transaction, on the disk when the call returns; when it throws, nothing
    /// of it is done. A file that was deleted meanwhile is written anew first, with all that it
    /// held.
    /// Errors: std::runtime_error when the file was moved or another one put in its place, when its
    ///         folder is gone, or when it cannot be written anew; what the program holds stays.
    template <class Change> void inTransaction(Change change)
    {
        requirePlace();
        SQLite::Transaction transaction(database_, SQLite::TransactionBehavior::IMMEDIATE);
        change();
        transaction.commit();
    }

    /// So many numbers, from the one given back on, that no thing of this library has or had.
    std::int64_t reserveIds(std::int64_t count);
    /// The first of a great many such numbers for one session. Where nothing can be written they
    /// are not reserved: this program alone holds the file.
    std::int64_t idsForSession();
    /// Keeps a text that cannot be read as a file beside the library, durably, once. Gives its
    /// path; an empty one in memory.
    std::filesystem::path setAside(std::string_view what, const std::string& text) const;
    /// Writes a backup now (see backups.h); nothing in memory.
    void backUp(std::string_view why = "asked");

private:
    Library(const std::filesystem::path& file, std::optional<LibraryLock> lock);
    void prepare();
    void migrate();
    void requirePlace();
    void writeAnew();

    std::filesystem::path file_; ///< empty in memory
    std::optional<LibraryLock> lock_;
    SQLite::Database database_;
    FilePlace place_;             ///< of the file that is open
    bool isBetweenFiles_ = false; ///< the former one is closed, the one written anew not open yet
};

} // namespace sieve::library
