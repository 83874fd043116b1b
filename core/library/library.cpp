#include "core/library/library.h"

#include "core/library/backups.h"
#include "core/library/schema.h"

#include <fmt/format.h>

namespace sieve::library {

namespace {

namespace fs = std::filesystem;

[[noreturn]] void refuse(const fs::path& file, std::string_view why)
{
    throw std::runtime_error(fmt::format("{}: {}", file.string(), why));
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
    const int newest = static_cast<int>(migrations().size());
    if (version > newest)
        refuse(file_, fmt::format("the library is of version {}, this program knows {}; "
                                  "use the newer program",
                                  version, newest));
    if (version > 0 && version < newest)
        backUp();
    for (int step = version; step < newest; ++step) {
        SQLite::Transaction transaction(database_);
        database_.exec(migrations()[static_cast<std::size_t>(step)]);
        database_.exec(fmt::format("PRAGMA user_version = {}", step + 1));
        transaction.commit();
    }
    if (file_.empty())
        return;
    if (isBackupDue(file_))
        backUp();
}

void Library::backUp()
{
    if (!file_.empty())
        writeBackup(database_, file_);
}

} // namespace sieve::library
