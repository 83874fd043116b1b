#pragma once

#include <string>
#include <string_view>

namespace sieve {

/// A text as a cell of CSV (RFC 4180): in quotes where it needs them, its own quotes doubled.
std::string csvCell(std::string_view text);

/// A text that no spreadsheet runs: one that begins as a formula does stands behind an apostrophe,
/// and one that could be taken for such a text behind one more, so that plainCell() gives it back.
std::string harmlessCell(std::string_view text);
std::string_view plainCell(std::string_view cell);

} // namespace sieve
