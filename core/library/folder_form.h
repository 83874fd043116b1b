#pragma once

#include <array>
#include <cstdint>
#include <string_view>

namespace sieve::library {

// What the writer and the reader of a library as open text (library_folder.h) agree on.

// The form is of the library's version. Of the versions since the first that wrote folders only
// what is named here became other, so that those are read too.
inline constexpr std::int64_t oldestFolderVersion = 8;
inline constexpr std::int64_t versionWithTrials = 9; ///< trials.csv

/// Tables of a number and one text, and the folders that they are in.
struct NumberedFolder {
    const char* table;
    const char* folder;
};
inline constexpr std::array numberedFolders{
    NumberedFolder{"drawing", "drawings"}, NumberedFolder{"verdict", "verdicts"},
    NumberedFolder{"alert", "alerts"}, NumberedFolder{"kept_run", "answers"},
    NumberedFolder{"raised", "told"}};

// Notes as Markdown: a head "## 2025-03-14" a note. A line of a note that looks like one, or that
// begins as such a line is kept from that, stands behind a backslash.

constexpr bool looksLikeHead(std::string_view line)
{
    while (line.starts_with('\\'))
        line.remove_prefix(1);
    return line.starts_with("## ");
}

} // namespace sieve::library
