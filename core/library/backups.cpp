#include "core/library/backups.h"

#include "core/storage/file_aside.h"

#include <algorithm>
#include <charconv>
#include <chrono>
#include <ctime>
#include <fcntl.h>
#include <fmt/chrono.h>
#include <fmt/format.h>
#include <optional>
#include <sqlite3.h>
#include <string_view>
#include <system_error>
#include <unistd.h>

namespace sieve::library {

namespace fs = std::filesystem;

namespace {

fs::path folderOf(const fs::path& file)
{
    return file.string() + ".backups";
}

/// Where former versions of the program kept the only one.
fs::path formerBackupOf(const fs::path& file)
{
    return file.string() + ".backup";
}

std::tm utcNow()
{
    return fmt::gmtime(std::time(nullptr));
}

/// "0042-2026-11-29-0908-daily.sqlite"
fs::path nameOf(int number, std::string_view why)
{
    return fmt::format("{:04}-{:%Y-%m-%d-%H%M}-{}.sqlite", number, utcNow(), why);
}

std::optional<Backup> backupIn(const fs::path& file)
{
    const std::string name = file.stem().string();
    const std::size_t numberEnd = std::min(name.find('-'), name.size());
    int number = 0;
    const auto read = std::from_chars(name.data(), name.data() + numberEnd, number);
    const std::string rest = name.substr(numberEnd); // "-2026-11-29-0908-daily"
    constexpr std::string_view form = "-0000-00-00-0000-";
    const auto isAsInForm = [&](std::size_t i) {
        return form[i] == '-' ? rest[i] == '-' : rest[i] >= '0' && rest[i] <= '9';
    };
    bool isBackup = file.extension() == ".sqlite" && numberEnd >= 4 && read.ec == std::errc() &&
                    read.ptr == name.data() + numberEnd && rest.size() > form.size();
    for (std::size_t i = 0; isBackup && i < form.size(); ++i)
        isBackup = isAsInForm(i);
    for (std::size_t i = form.size(); isBackup && i < rest.size(); ++i)
        isBackup = rest[i] >= 'a' && rest[i] <= 'z'; // a person's own copy is none of ours
    if (!isBackup)
        return std::nullopt;
    return Backup{
        file, number,
        fmt::format("{} {}:{}", rest.substr(1, 10), rest.substr(12, 2), rest.substr(14, 2)),
        rest.substr(form.size())};
}

/// A name beside the file that nothing bears yet.
fs::path asideName(const fs::path& file)
{
    for (int number = 1;; ++number) {
        fs::path name = fmt::format("{}.damaged-{}", file.string(), number);
        if (!fs::exists(name))
            return name;
    }
}

void moveLogs(const fs::path& file, const fs::path& aside)
{
    for (const char* ending : {"-wal", "-shm"})
        if (const fs::path log = file.string() + ending; fs::exists(log))
            fs::rename(log, aside.string() + ending);
}

/// A copy that is on the disk before it takes its name. What a kill leaves of one bears a name that
/// nobody looks at: that of writtenAnewOf() says that all is there.
void copyDurably(const fs::path& from, const fs::path& to)
{
    const fs::path fresh = to.string() + ".part";
    fs::copy_file(from, fresh, fs::copy_options::overwrite_existing);
    storage::makeDurable(fresh);
    fs::rename(fresh, to);
    storage::makeDurable(to.parent_path());
}

/// A part of a copy may bear that name too, left by a former version of the program.
bool isWhole(const fs::path& anew)
{
    std::error_code none;
    const auto size = fs::file_size(anew, none);
    return !none && size > 0 && isSound(anew);
}

const Backup* newestSound(const std::vector<Backup>& backups)
{
    const auto found =
        std::ranges::find_if(backups, [](const Backup& backup) { return isSound(backup.file); });
    return found == backups.end() ? nullptr : &*found;
}

} // namespace

std::vector<Backup> backupsOf(const fs::path& file)
{
    std::vector<Backup> backups;
    if (file.empty())
        return backups;
    std::error_code none;
    for (const fs::directory_entry& each : fs::directory_iterator(folderOf(file), none))
        if (auto backup = backupIn(each.path()))
            backups.push_back(*std::move(backup));
    std::ranges::sort(backups, std::ranges::greater(), &Backup::number);
    if (const fs::path former = formerBackupOf(file); fs::exists(former)) {
        const auto age = std::chrono::file_clock::to_sys(fs::last_write_time(former));
        const auto made = std::chrono::time_point_cast<std::chrono::seconds>(age);
        backups.push_back({former, 0, fmt::format("{:%Y-%m-%d %H:%M}", made), "former"});
    }
    return backups;
}

bool isBackupDue(const fs::path& file)
{
    const std::string today = fmt::format("{:%Y-%m-%d}", utcNow());
    return std::ranges::none_of(
        backupsOf(file), [&](const Backup& backup) { return backup.madeAt.starts_with(today); });
}

Backup writeBackup(SQLite::Database& database, const fs::path& file, std::string_view why)
{
    const std::vector<Backup> former = backupsOf(file);
    const int number = former.empty() ? 1 : former.front().number + 1;
    const fs::path place = folderOf(file) / nameOf(number, why);
    const fs::path fresh = place.string() + ".new";
    fs::create_directories(folderOf(file));
    fs::remove(fresh);
    try {
        SQLite::Statement copy(database, "VACUUM INTO ?");
        copy.bind(1, fresh.string());
        copy.exec();
        storage::makeDurable(fresh);
    } catch (...) {
        std::error_code ignored;
        fs::remove(fresh, ignored);
        throw;
    }
    fs::rename(fresh, place);
    storage::makeDurable(folderOf(file));
    for (std::size_t i = backupsKept - 1; i < former.size(); ++i)
        fs::remove(former[i].file);
    return *backupIn(place);
}

fs::path writtenAnewOf(const fs::path& file)
{
    return file.string() + ".new";
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

std::string restoreIfLost(const fs::path& file)
{
    const std::vector<Backup> backups = backupsOf(file);
    const fs::path anew = writtenAnewOf(file);
    if (!fs::exists(file) && isWhole(anew)) {
        moveLogs(file, asideName(file)); // they belong to what is gone
        fs::rename(anew, file);
        storage::makeDurable(file.parent_path());
        return fmt::format(
            "The library {} was missing. What had been written anew in its place was "
            "opened; nothing is lost.",
            file.string());
    }
    if (!fs::exists(file) || (fs::file_size(file) == 0 && !backups.empty())) {
        if (backups.empty())
            return {}; // the first opening
        const Backup* backup = newestSound(backups);
        if (!backup)
            return fmt::format(
                "The library {} was missing, and none of its backups can be read, so "
                "an empty library was begun.",
                file.string());
        const fs::path aside = asideName(file);
        moveLogs(file, aside); // they belong to what is gone
        copyDurably(backup->file, file);
        return fmt::format("The library {} was missing. Its backup of {} UTC was opened in its "
                           "place; what was changed after it is lost.",
                           file.string(), backup->madeAt);
    }
    if (isSound(file))
        return {};
    const fs::path aside = asideName(file);
    fs::rename(file, aside);
    moveLogs(file, aside);
    const std::string notice =
        fmt::format("The library was damaged. It is kept as {}.", aside.string());
    const Backup* backup = newestSound(backups);
    if (!backup)
        return notice + " There was no backup, so an empty library was begun.";
    copyDurably(backup->file, file);
    return fmt::format("{} Its backup of {} UTC was opened in its place; what was changed after it "
                       "is lost.",
                       notice, backup->madeAt);
}

} // namespace sieve::library
