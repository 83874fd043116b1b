#pragma once

#include <cstddef>
#include <filesystem>
#include <span>

namespace sieve::storage {

/// A file whose bytes are read where they lie, a page at a time as they are asked for.
/// Errors: std::system_error with the path when it cannot be opened or mapped.
class MappedFile {
public:
    explicit MappedFile(const std::filesystem::path& path);
    ~MappedFile();
    MappedFile(const MappedFile&) = delete;
    MappedFile& operator=(const MappedFile&) = delete;

    std::span<const std::byte> bytes() const { return {data_, size_}; }

private:
    const std::byte* data_ = nullptr;
    std::size_t size_ = 0;
};

} // namespace sieve::storage
