#pragma once

#include <cstddef>
#include <cstdint>
#include <filesystem>
#include <span>
#include <string>
#include <string_view>

namespace sieve::storage {

/// A file that is written beside its place and takes it only when it is whole: whatever happens
/// before leaves the former file as it was.
/// Errors: std::system_error with the path, as on a full disk.
class FileAside {
public:
    explicit FileAside(std::filesystem::path place);
    ~FileAside(); ///< removes what has not taken its place
    FileAside(const FileAside&) = delete;
    FileAside& operator=(const FileAside&) = delete;

    void write(std::span<const std::byte> bytes);
    void write(std::string_view text) { write(std::as_bytes(std::span(text))); }
    /// Fills up with zeros to a multiple of `bytes`.
    void align(std::size_t bytes);
    std::uint64_t size() const { return size_; }
    /// Overwrites what stands at the begin.
    void writeFirst(std::span<const std::byte> bytes);
    void takePlace();

private:
    [[noreturn]] void fail() const;
    void flush();

    std::filesystem::path place_;
    std::filesystem::path aside_;
    int descriptor_ = -1;
    std::uint64_t size_ = 0;
    std::string buffer_;
};

/// Returns when a file's bytes, or the names in a folder, are on the disk.
/// Errors: std::system_error with the path.
void makeDurable(const std::filesystem::path& path);

/// The same for everything that was written to the file system on which the folder lies: for many
/// small files at once.
void makeAllDurable(const std::filesystem::path& folder);

/// Writes a whole small file so.
void writeWhole(const std::filesystem::path& place, std::string_view text);

/// A whole small file as it stands.
/// Errors: std::system_error with the path.
std::string readWhole(const std::filesystem::path& path);

} // namespace sieve::storage
