#include "core/library/file_place.h"

#include <cerrno>
#include <optional>
#include <sys/stat.h>
#include <system_error>

namespace sieve::library {

namespace {

std::optional<struct stat> statOf(const std::filesystem::path& path)
{
    struct stat found = {};
    if (::stat(path.c_str(), &found) != 0)
        return std::nullopt;
    return found;
}

} // namespace

FilePlace::FilePlace(std::filesystem::path file) : file_(std::move(file))
{
    const auto found = statOf(file_);
    if (!found)
        throw std::system_error(errno, std::generic_category(), file_.string());
    device_ = found->st_dev;
    number_ = found->st_ino;
}

FilePlace::State FilePlace::now() const
{
    if (const auto found = statOf(file_))
        return found->st_dev == device_ && found->st_ino == number_ ? State::Held : State::Taken;
    // Where a disk was mounted its empty folder stays: what is written there is hidden later.
    const auto folder = statOf(file_.parent_path());
    return folder && folder->st_dev == device_ ? State::Empty : State::Gone;
}

} // namespace sieve::library
