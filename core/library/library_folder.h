#pragma once

#include "core/base/result.h"

#include <filesystem>
#include <optional>

namespace sieve::library {

class Library;

// The whole library as a folder of open text, to be read without this program, kept in another way,
// or brought back:
//   library.toml       the version, and the next free number
//   lists/             a folder a list: list.toml; entries.csv and left.csv with a row an entry;
//                      beside them, by the number of the row, its page and plan as TOML and its
//                      notes as Markdown
//   candidates.csv     those in hand, with their plans beside it
//   screens/, drafts/, fields/   TOML, with what is not in it as CSV; screens have their versions
//   drawings/, verdicts/, alerts/, told/   TOML, named by their number
//   settings/, settings.csv      what is one text, and how the window was left
//   pictures/          of charts
// Steps that may be undone are no part of it. Texts that this program cannot read go along as they
// are.

/// Writes it. The folder takes its name when it is whole.
/// Errors: std::system_error with the path, as when the folder is there and not empty.
void writeFolder(Library& library, const std::filesystem::path& folder);

/// Fills a library that holds nothing with what a folder holds, in one transaction; its pictures
/// are copied beside `library` where that has a file. Nothing where all was read; else what is
/// wrong: the file in the words, with its line.
/// Errors: SQLite::Exception, std::system_error.
std::optional<LocatedError> readFolder(Library& library, const std::filesystem::path& folder);

} // namespace sieve::library
