#include "core/library/library.h"

#include "core/library/backups.h"
#include "core/library/schema.h"
#include "core/storage/file_aside.h"

#include <SQLiteCpp/Backup.h>
#include <fmt/format.h>
#include <sqlite3.h>

namespace sieve::library {

namespace {

namespace fs = std::filesystem;

constexpr int waitForOthers = 3000; // milliseconds

[[noreturn]] void refuse(const fs::path& file, std::string_view why)
{
    throw std::runtime_error(file.empty() ? std::string(why)
                                          : fmt::format("{}: {}", file.string(), why));
}

/// The library as it was when another program held it.
Library::Opened readOnly(const fs::path& file)
{
    const std::string holder = LibraryLock::holderOf(file);
    return {Library::copyOf(file),
            fmt::format("{} is in use by another Wise Sieve{}. This window shows it as it is now, "
                        "and nothing can be changed in it.",
                        file.string(), holder.empty() ? "" : " (" + holder + ")"),
            true};
}

} // namespace

Library::Library(const fs::path& file, std::optional<LibraryLock> lock)
    : file_(file), lock_(std::move(lock)),
      database_(file.empty() ? std::string(":memory:") : file.string(),
                SQLite::OPEN_READWRITE | SQLite::OPEN_CREATE, waitForOthers)
{
}

Library::Opened Library::open(const fs::path& file)
{
    try {
        fs::create_directories(file.parent_path());
        auto lock = LibraryLock::tryHold(file);
        if (!lock)
            return readOnly(file);
        std::string notice = restoreIfLost(file);
        std::unique_ptr<Library> library(new Library(file, std::move(lock)));
        library->prepare();
        try {
            if (isBackupDue(file))
                library->backUp("daily");
        } catch (const std::exception& fault) {
            notice += fmt::format("{}No backup could be written: {}.", notice.empty() ? "" : " ",
                                  fault.what());
        }
        return {std::move(library), std::move(notice)};
    } catch (const SQLite::Exception& fault) {
        refuse(file, fault.what());
    } catch (const std::system_error& fault) {
        refuse(file, fault.what());
    }
}

std::unique_ptr<Library> Library::inMemory()
{
    std::unique_ptr<Library> library(new Library({}, std::nullopt));
    library->prepare();
    return library;
}

std::unique_ptr<Library> Library::copyOf(const fs::path& file)
{
    std::unique_ptr<Library> library(new Library({}, std::nullopt));
    try {
        SQLite::Database source(file.string(), SQLite::OPEN_READONLY, waitForOthers);
        SQLite::Backup copy(library->database_, source);
        while (copy.executeStep() != SQLITE_DONE) {
        }
    } catch (const SQLite::Exception& fault) {
        refuse(file, fault.what());
    }
    library->prepare();
    return library;
}

void Library::prepare()
{
    if (!file_.empty())
        database_.exec("PRAGMA journal_mode = WAL");
    database_.exec("PRAGMA synchronous = FULL"); // a change that was told done survives a power cut
    database_.exec("PRAGMA foreign_keys = ON");
    if (!file_.empty())
        place_ = FilePlace(file_);
    migrate();
}

void Library::requirePlace()
{
    if (file_.empty())
        return;
    const FilePlace::State state = isBetweenFiles_ ? FilePlace::State::Empty : place_.now();
    if (state == FilePlace::State::Taken)
        refuse(file_, "another file has taken the library's place; move it away, and what is in "
                      "this window is saved there again");
    if (state == FilePlace::State::Gone)
        refuse(file_, "the library's folder is not there any more; bring it back, and what is in "
                      "this window is saved there again");
    if (state == FilePlace::State::Empty)
        writeAnew();
}

/// The open file has no name any more, but all that it held can still be read from it.
void Library::writeAnew()
{
    const fs::path fresh = writtenAnewOf(file_);
    if (!isBetweenFiles_) {
        if (lock_ && !lock_->isInPlace(file_)) { // it was deleted too
            auto lock = LibraryLock::tryHold(file_);
            if (!lock)
                refuse(file_, "another Wise Sieve has taken the library's place");
            lock_ = std::move(lock);
        }
        const fs::path part = fresh.string() + ".part";
        fs::remove(part);
        SQLite::Statement copy(database_, "VACUUM INTO ?");
        copy.bind(1, part.string());
        copy.exec();
        storage::makeDurable(part);
        fs::rename(part, fresh);
    }
    // From here on the copy holds all, also for the program that comes after a kill. The former
    // file is closed before the new one is opened, for closing it removes the logs beside it by
    // their names.
    isBetweenFiles_ = true;
    database_ = SQLite::Database(":memory:", SQLite::OPEN_READWRITE | SQLite::OPEN_CREATE);
    for (const char* ending : {"-wal", "-shm"})
        fs::remove(file_.string() + ending);
    if (fs::exists(fresh))
        fs::rename(fresh, file_);
    storage::makeDurable(file_.parent_path());
    database_ = SQLite::Database(file_.string(), SQLite::OPEN_READWRITE, waitForOthers);
    prepare();
    isBetweenFiles_ = false;
}

void Library::migrate()
{
    const int version = database_.execAndGet("PRAGMA user_version").getInt();
    const int newest = static_cast<int>(migrations().size());
    if (version > newest)
        refuse(file_, fmt::format("the library is of version {}, this program knows {}; "
                                  "use the newer program",
                                  version, newest));
    if (version > 0 && version < newest)
        backUp("migration");
    for (int step = version; step < newest; ++step)
        inTransaction([&] {
            database_.exec(migrations()[static_cast<std::size_t>(step)]);
            if (version >= 8)
                database_.exec("DELETE FROM step"); // they are changes of the former tables
            database_.exec(fmt::format("PRAGMA user_version = {}", step + 1));
        });
}

std::int64_t Library::reserveIds(std::int64_t count)
{
    std::int64_t first = 0;
    inTransaction([&] {
        first = database_.execAndGet("SELECT value FROM next_id").getInt64();
        execute("UPDATE next_id SET value = value + ?", count);
    });
    return first;
}

std::int64_t Library::idsForSession()
{
    constexpr std::int64_t enough = 1 << 20; // more things than a person makes in a session
    try {
        return reserveIds(enough);
    } catch (
        const SQLite::Exception&) { // such as a full disk: what is there can be shown all the same
        return database_.execAndGet("SELECT value FROM next_id").getInt64();
    }
}

fs::path Library::setAside(std::string_view what, const std::string& text) const
{
    if (file_.empty())
        return {};
    const fs::path folder = file_.string() + ".unreadable";
    fs::create_directories(folder);
    for (int number = 1;; ++number) {
        fs::path place = folder / fmt::format("{}-{}.toml", what, number);
        if (!fs::exists(place)) {
            storage::writeWhole(place, text);
            return place;
        }
        if (storage::readWhole(place) == text)
            return place;
    }
}

void Library::backUp(std::string_view why)
{
    if (!file_.empty())
        writeBackup(database_, file_, why);
}

} // namespace sieve::library
