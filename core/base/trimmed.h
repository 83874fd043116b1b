#pragma once

#include <string_view>

namespace sieve {

/// The text without blanks, tabs and line breaks at either end.
constexpr std::string_view trimmed(std::string_view text)
{
    constexpr std::string_view blank = " \t\r\n";
    const std::size_t first = text.find_first_not_of(blank);
    return first == text.npos ? std::string_view()
                              : text.substr(first, text.find_last_not_of(blank) - first + 1);
}

} // namespace sieve
