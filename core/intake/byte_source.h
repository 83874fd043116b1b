#pragma once

#include <cstdint>
#include <filesystem>
#include <memory>
#include <span>
#include <string>
#include <string_view>

namespace sieve::intake {

/// Bytes that come a piece at a time: of a file, of a gzip file (by its ending .gz), or of a text.
class ByteSource {
public:
    virtual ~ByteSource() = default;
    /// Fills from the front; fewer than asked for only at the end. After a fault, nothing more.
    virtual std::size_t read(std::span<char> into) = 0;
    /// Why the bytes ended before their end; empty when they did not.
    virtual std::string fault() const { return {}; }
};

/// Errors: std::system_error with the path when the file cannot be opened or read. A gzip file that
/// is cut short or damaged, or that grows to what no table does, ends with a fault.
std::unique_ptr<ByteSource> openBytes(const std::filesystem::path& path);
/// Requires: the text outlives the source.
std::unique_ptr<ByteSource> bytesOf(std::string_view text);

/// Whether the path ends as a table does: .csv, .txt or .tsv, or one of these and .gz.
bool isTable(const std::filesystem::path& path);
/// The file's name without folder and those endings.
std::string tableName(const std::filesystem::path& path);

} // namespace sieve::intake
