#pragma once

#include <string>
#include <string_view>

namespace sieve {

/// The text with the letters A to Z small; other letters stay as they are.
std::string lowerCase(std::string_view text);

} // namespace sieve
