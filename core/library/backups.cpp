#include "core/library/backups.h"

#include <chrono>
#include <fmt/format.h>
#include <sqlite3.h>

namespace sieve::library {

namespace fs = std::filesystem;

namespace {

/// A name beside the file that nothing bears yet.
fs::path asideName(const fs::path& file)
{
    for (int number = 1;; ++number) {
        fs::path name = fmt::format("{}.damaged-{}", file.string(), number);
        if (!fs::exists(name))
            return name;
    }
}

} // namespace

fs::path backupOf(const fs::path& file)
{
    return file.string() + ".backup";
}

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
        throw std::runtime_error(fmt::format("{}: {}", file.string(), fault.what()));
    }
}

std::string recover(const fs::path& file)
{
    const fs::path aside = asideName(file);
    fs::rename(file, aside);
    for (const char* ending : {"-wal", "-shm"})
        if (const fs::path log = file.string() + ending; fs::exists(log))
            fs::rename(log, aside.string() + ending);
    std::string notice = fmt::format("The library was damaged. It is kept as {}.", aside.string());
    const fs::path backup = backupOf(file);
    if (fs::exists(backup) && isSound(backup)) {
        fs::copy_file(backup, file);
        return notice + " Its last backup was opened in its place.";
    }
    return notice + " There was no backup, so an empty library was begun.";
}

bool isBackupDue(const fs::path& file)
{
    std::error_code fault;
    const auto age = fs::file_time_type::clock::now() - fs::last_write_time(backupOf(file), fault);
    return fault || age > std::chrono::hours(24);
}

void writeBackup(SQLite::Database& database, const fs::path& file)
{
    const fs::path backup = backupOf(file);
    const fs::path fresh = backup.string() + ".new";
    fs::remove(fresh);
    SQLite::Statement copy(database, "VACUUM INTO ?");
    copy.bind(1, fresh.string());
    copy.exec();
    fs::rename(fresh, backup);
}

} // namespace sieve::library
