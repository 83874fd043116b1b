#include "core/library/lock.h"

#include <cerrno>
#include <fcntl.h>
#include <fmt/format.h>
#include <fstream>
#include <sys/file.h>
#include <sys/stat.h>
#include <system_error>
#include <unistd.h>
#include <utility>

namespace sieve::library {

namespace fs = std::filesystem;

namespace {

/// The file stays when the lock is given up: to remove it would let two hold one of the same name.
fs::path lockFileOf(const fs::path& library)
{
    return library.string() + ".lock";
}

} // namespace

std::optional<LibraryLock> LibraryLock::tryHold(const fs::path& library)
{
    const fs::path file = lockFileOf(library);
    const int descriptor = ::open(file.c_str(), O_RDWR | O_CREAT | O_CLOEXEC, 0600);
    if (descriptor < 0)
        throw std::system_error(errno, std::generic_category(), file.string());
    LibraryLock lock(descriptor);
    if (::flock(descriptor, LOCK_EX | LOCK_NB) != 0) {
        if (errno == EWOULDBLOCK)
            return std::nullopt;
        return lock; // a file system without locks: SQLite's own must do
    }
    const std::string holder = fmt::format("process {}\n", ::getpid());
    if (::ftruncate(descriptor, 0) == 0)
        (void)!::pwrite(descriptor, holder.data(), holder.size(), 0); // only told, not needed
    return lock;
}

std::string LibraryLock::holderOf(const fs::path& library)
{
    std::ifstream file(lockFileOf(library));
    std::string holder;
    std::getline(file, holder);
    return holder;
}

bool LibraryLock::isInPlace(const fs::path& library) const
{
    struct stat own = {};
    struct stat named = {};
    return ::fstat(descriptor_, &own) == 0 && ::stat(lockFileOf(library).c_str(), &named) == 0 &&
           own.st_dev == named.st_dev && own.st_ino == named.st_ino;
}

LibraryLock::LibraryLock(LibraryLock&& other) noexcept
    : descriptor_(std::exchange(other.descriptor_, -1))
{
}

LibraryLock& LibraryLock::operator=(LibraryLock&& other) noexcept
{
    std::swap(descriptor_, other.descriptor_);
    return *this;
}

LibraryLock::~LibraryLock()
{
    if (descriptor_ >= 0)
        ::close(descriptor_);
}

} // namespace sieve::library
