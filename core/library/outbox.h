#pragma once

#include "core/base/day.h"

#include <filesystem>
#include <optional>
#include <string_view>

namespace sieve::library {

class Library;

// Mails that wait for another program to send them: files beside the library, in
// `library.sqlite.outbox`. The program itself sends nothing.

/// Empty for a library in memory.
std::filesystem::path outboxOf(const std::filesystem::path& library);

/// Up to which session of a market mails were written; empty: none was.
std::optional<Day> mailedTo(Library& library, std::string_view market);

/// Writes the mail of a session durably and notes it, so that a mail that was sent and taken away
/// is not written again. Gives its path; an empty text is noted alone: there was nothing to tell.
/// Requires: a library with a file. Errors: std::system_error with the path; SQLite::Exception.
std::filesystem::path keepMail(Library& library, std::string_view market, Day session,
                               std::string_view mail);

} // namespace sieve::library
