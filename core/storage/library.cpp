#include "core/storage/library.h"

#include <array>
#include <chrono>
#include <fmt/format.h>
#include <sqlite3.h>

namespace sieve::storage {

namespace {

namespace fs = std::filesystem;

/// Migration i brings a library from version i to i + 1. Never edited once released.
constexpr std::array migrations{
    R"sql(
CREATE TABLE setting (key TEXT PRIMARY KEY, value TEXT NOT NULL) WITHOUT ROWID;
CREATE TABLE screen (
    name TEXT PRIMARY KEY,
    toml TEXT NOT NULL,
    changed_at TEXT NOT NULL DEFAULT (datetime('now'))
) WITHOUT ROWID;
CREATE TABLE watchlist (
    id INTEGER PRIMARY KEY,
    name TEXT NOT NULL UNIQUE,
    position INTEGER NOT NULL
);
CREATE TABLE watchlist_entry (
    watchlist INTEGER NOT NULL REFERENCES watchlist (id) ON DELETE CASCADE,
    symbol TEXT NOT NULL,
    added_on INTEGER NOT NULL,
    price_then REAL,
    reason TEXT NOT NULL,
    source TEXT NOT NULL,
    position INTEGER NOT NULL,
    PRIMARY KEY (watchlist, symbol)
) WITHOUT ROWID;
CREATE TABLE tray_card (
    symbol TEXT PRIMARY KEY,
    mark TEXT NOT NULL,
    source TEXT NOT NULL,
    position INTEGER NOT NULL
) WITHOUT ROWID;
)sql",
    R"sql(
CREATE TABLE own_field (
    position INTEGER PRIMARY KEY,
    name TEXT NOT NULL UNIQUE,
    toml TEXT NOT NULL
);
)sql",
    R"sql(
CREATE TABLE screen_version (
    number INTEGER PRIMARY KEY,
    screen TEXT NOT NULL,
    toml TEXT NOT NULL,
    saved_at TEXT NOT NULL DEFAULT (datetime('now'))
);
CREATE INDEX screen_version_of ON screen_version (screen, number);
INSERT INTO screen_version (screen, toml, saved_at) SELECT name, toml, changed_at FROM screen;
)sql",
};

[[noreturn]] void refuse(const fs::path& file, std::string_view why)
{
    throw std::runtime_error(fmt::format("{}: {}", file.string(), why));
}

/// Whether SQLite can read the file and finds no damage in it.
bool isSound(const fs::path& file)
{
    try {
        SQLite::Database database(file.string(), SQLite::OPEN_READWRITE);
        SQLite::Statement check(database, "PRAGMA quick_check(1)");
        return check.executeStep() && check.getColumn(0).getString() == "ok";
    } catch (const SQLite::Exception& fault) {
        const int code = fault.getErrorCode();
        if (code == SQLITE_CORRUPT || code == SQLITE_NOTADB)
            return false;
        refuse(file, fault.what());
    }
}

fs::path asideName(const fs::path& file)
{
    for (int number = 1;; ++number) {
        fs::path name = fmt::format("{}.damaged-{}", file.string(), number);
        if (!fs::exists(name))
            return name;
    }
}

/// Moves a damaged file (and its log) out of the way and puts the last backup in its place.
std::string recover(const fs::path& file)
{
    const fs::path aside = asideName(file);
    fs::rename(file, aside);
    for (const char* ending : {"-wal", "-shm"})
        if (const fs::path log = file.string() + ending; fs::exists(log))
            fs::rename(log, aside.string() + ending);
    std::string notice = fmt::format("The library was damaged. It is kept as {}.", aside.string());
    const fs::path backup = Library::backupOf(file);
    if (fs::exists(backup) && isSound(backup)) {
        fs::copy_file(backup, file);
        return notice + " Its last backup was opened in its place.";
    }
    return notice + " There was no backup, so an empty library was begun.";
}

} // namespace

Library::Library(const fs::path& file, int flags)
    : file_(file), database_(file.empty() ? std::string(":memory:") : file.string(), flags, 3000)
{
}

Library::Opened Library::open(const fs::path& file)
{
    std::error_code fault;
    fs::create_directories(file.parent_path(), fault);
    if (fault)
        refuse(file, "the folder cannot be made: " + fault.message());
    std::string notice;
    if (fs::exists(file) && !isSound(file))
        notice = recover(file);
    try {
        std::unique_ptr<Library> library(
            new Library(file, SQLite::OPEN_READWRITE | SQLite::OPEN_CREATE));
        library->prepare();
        return {std::move(library), std::move(notice)};
    } catch (const SQLite::Exception& error) {
        refuse(file, error.what());
    }
}

std::unique_ptr<Library> Library::inMemory()
{
    std::unique_ptr<Library> library(new Library({}, SQLite::OPEN_READWRITE | SQLite::OPEN_CREATE));
    library->prepare();
    return library;
}

void Library::prepare()
{
    database_.exec("PRAGMA journal_mode = WAL");
    database_.exec("PRAGMA synchronous = FULL"); // a change that was told done survives a power cut
    database_.exec("PRAGMA foreign_keys = ON");
    const int version = database_.execAndGet("PRAGMA user_version").getInt();
    const int newest = static_cast<int>(migrations.size());
    if (version > newest)
        refuse(file_, fmt::format("the library is of version {}, this program knows {}; "
                                  "use the newer program",
                                  version, newest));
    if (version > 0 && version < newest)
        backUp();
    for (int step = version; step < newest; ++step) {
        SQLite::Transaction transaction(database_);
        database_.exec(migrations.at(static_cast<std::size_t>(step)));
        database_.exec(fmt::format("PRAGMA user_version = {}", step + 1));
        transaction.commit();
    }
    if (file_.empty())
        return;
    const fs::path backup = backupOf(file_);
    std::error_code fault;
    const auto age = fs::file_time_type::clock::now() - fs::last_write_time(backup, fault);
    if (fault || age > std::chrono::hours(24))
        backUp();
}

void Library::backUp()
{
    if (file_.empty())
        return;
    const fs::path backup = backupOf(file_);
    const fs::path fresh = backup.string() + ".new";
    fs::remove(fresh);
    SQLite::Statement copy(database_, "VACUUM INTO ?");
    copy.bind(1, fresh.string());
    copy.exec();
    fs::rename(fresh, backup);
}

fs::path Library::backupOf(const fs::path& file)
{
    return file.string() + ".backup";
}

std::map<std::string, std::string> settings(Library& library)
{
    std::map<std::string, std::string> all;
    SQLite::Statement query(library.database(), "SELECT key, value FROM setting");
    while (query.executeStep())
        all.emplace(query.getColumn(0).getString(), query.getColumn(1).getString());
    return all;
}

void setSetting(Library& library, std::string_view key, std::string_view value)
{
    SQLite::Statement write(library.database(),
                            "INSERT INTO setting (key, value) VALUES (?, ?) "
                            "ON CONFLICT (key) DO UPDATE SET value = excluded.value");
    write.bind(1, std::string(key));
    write.bind(2, std::string(value));
    write.exec();
}

} // namespace sieve::storage
