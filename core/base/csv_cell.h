#pragma once

#include <string>
#include <string_view>

namespace sieve {

/// A text as a cell of CSV (RFC 4180): in quotes where it needs them, its own quotes doubled.
std::string csvCell(std::string_view text);

} // namespace sieve
