#pragma once

#include <filesystem>
#include <optional>
#include <string>

namespace sieve::library {

/// Holds a library for this program alone. The kernel keeps the lock and gives it up when the
/// program ends, however it ends: what is left of a crash never locks anybody out.
class LibraryLock {
public:
    /// Empty when another program holds it.
    /// Errors: std::system_error when the lock's file cannot be made.
    static std::optional<LibraryLock> tryHold(const std::filesystem::path& library);
    /// What the holder wrote about itself, such as "process 4711"; empty when nothing is known.
    static std::string holderOf(const std::filesystem::path& library);

    /// Whether the file that is locked is still the one of its name: another program may hold one
    /// that was made after it was deleted.
    bool isInPlace(const std::filesystem::path& library) const;

    LibraryLock(LibraryLock&& other) noexcept;
    LibraryLock& operator=(LibraryLock&& other) noexcept;
    LibraryLock(const LibraryLock&) = delete;
    LibraryLock& operator=(const LibraryLock&) = delete;
    ~LibraryLock();

private:
    explicit LibraryLock(int descriptor) : descriptor_(descriptor) {}
    int descriptor_ = -1;
};

} // namespace sieve::library
