#pragma once

#include "core/base/result.h"

#include <cstddef>
#include <filesystem>
#include <string>
#include <string_view>
#include <vector>

// Tables as people have them, for what they keep in this program: not for markets, whose tables are
// read by intake.

namespace sieve::imports {

/// The cells of a file as texts, without rows in which nothing stands.
struct Table {
    std::vector<std::vector<std::string>> rows; ///< the first one may be heads
    std::vector<std::size_t> lines;             ///< a row: where it begins in the file, from 1
    bool isCut = false;                         ///< there are more than `mostRows`
};

inline constexpr std::size_t mostRows = 100'000;
inline constexpr std::size_t mostColumns = 200;             ///< those behind are left out
inline constexpr std::size_t mostBytes = 64U * 1024 * 1024; ///< of a file, also when unpacked

/// A file by what it holds, not by its name: a workbook (Office Open XML, its first sheet), JSON,
/// else a text.
/// Errors: located: it cannot be opened, is too large, is damaged.
Result<Table> readTable(const std::filesystem::path& file);

/// CSV, or text with tabs or semicolons, told by its first line; a text of single lines has one
/// column. An apostrophe that keeps a sheet from running a cell is taken away.
/// Errors: located: the text ends inside quotes, or a row is longer than a row can be.
Result<Table> tableOfText(std::string_view text);
/// An array of objects with plain values; the first row are their keys, in the order in which they
/// come.
Result<Table> tableOfJson(std::string_view text);
/// The first sheet. Days are written 2025-03-14, whatever format they have there; figures with all
/// their digits; formulas as the value that was kept with them.
Result<Table> tableOfWorkbook(std::string_view bytes);

} // namespace sieve::imports
