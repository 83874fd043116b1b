#include "core/storage/file_aside.h"

#include <algorithm>
#include <cerrno>
#include <fcntl.h>
#include <fstream>
#include <sstream>
#include <system_error>
#include <unistd.h>

namespace sieve::storage {

namespace {

/// Whether all could be written; errno tells why not.
bool writeAll(int descriptor, const char* data, std::size_t size, off_t at, bool atPlace)
{
    while (size > 0) {
        const ssize_t written =
            atPlace ? ::pwrite(descriptor, data, size, at) : ::write(descriptor, data, size);
        if (written < 0 && errno == EINTR)
            continue;
        if (written < 0)
            return false;
        data += written;
        size -= static_cast<std::size_t>(written);
        at += written;
    }
    return true;
}

} // namespace

FileAside::FileAside(std::filesystem::path place) : place_(std::move(place)), aside_(place_)
{
    aside_ += ".part";
    descriptor_ = ::open(aside_.c_str(), O_WRONLY | O_CREAT | O_TRUNC | O_CLOEXEC, 0644);
    if (descriptor_ < 0)
        fail();
}

FileAside::~FileAside()
{
    if (descriptor_ < 0)
        return;
    ::close(descriptor_);
    std::error_code ignored;
    std::filesystem::remove(aside_, ignored);
}

void FileAside::fail() const
{
    throw std::system_error(errno, std::generic_category(), aside_.string());
}

void FileAside::write(std::span<const std::byte> bytes)
{
    // Written a large page at a time, where such a page begins, a file is held in large pages too:
    // who maps it then waits less to know where its bytes lie.
    constexpr std::size_t largePage = 2U << 20U;
    size_ += bytes.size();
    while (!bytes.empty()) {
        const std::size_t count = std::min(bytes.size(), largePage - buffer_.size());
        buffer_.append(reinterpret_cast<const char*>(bytes.data()), count);
        bytes = bytes.subspan(count);
        if (buffer_.size() == largePage)
            flush();
    }
}

void FileAside::flush()
{
    if (!writeAll(descriptor_, buffer_.data(), buffer_.size(), 0, false))
        fail();
    buffer_.clear();
}

void FileAside::align(std::size_t bytes)
{
    const std::string zeros((bytes - size_ % bytes) % bytes, '\0');
    write(zeros);
}

void FileAside::writeFirst(std::span<const std::byte> bytes)
{
    flush();
    if (!writeAll(descriptor_, reinterpret_cast<const char*>(bytes.data()), bytes.size(), 0, true))
        fail();
}

void FileAside::takePlace()
{
    flush();
    if (::fsync(descriptor_) != 0)
        fail();
    const int closing = descriptor_;
    descriptor_ = -1;
    if (::close(closing) != 0 || ::rename(aside_.c_str(), place_.c_str()) != 0) {
        const int fault = errno;
        std::error_code ignored;
        std::filesystem::remove(aside_, ignored);
        errno = fault;
        fail();
    }
    makeDurable(std::filesystem::absolute(place_).parent_path());
}

namespace {

void synced(const std::filesystem::path& path, int (*sync)(int))
{
    const int descriptor = ::open(path.c_str(), O_RDONLY | O_CLOEXEC);
    // Some file systems cannot sync a folder, which they say by EINVAL.
    const bool isDone = descriptor >= 0 && (sync(descriptor) == 0 || errno == EINVAL);
    const int fault = errno;
    if (descriptor >= 0)
        ::close(descriptor);
    if (!isDone)
        throw std::system_error(fault, std::generic_category(), path.string());
}

} // namespace

void makeDurable(const std::filesystem::path& path)
{
    synced(path, ::fsync);
}

void makeAllDurable(const std::filesystem::path& folder)
{
    synced(folder, ::syncfs);
}

std::string readWhole(const std::filesystem::path& path)
{
    std::ifstream file(path, std::ios::binary);
    if (!file)
        throw std::system_error(errno, std::generic_category(), path.string());
    std::ostringstream text;
    text << file.rdbuf();
    return text.str();
}

void writeWhole(const std::filesystem::path& place, std::string_view text)
{
    FileAside file(place);
    file.write(text);
    file.takePlace();
}

} // namespace sieve::storage
