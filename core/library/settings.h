#pragma once

#include <map>
#include <optional>
#include <string>
#include <string_view>

namespace sieve::library {

class Library;

/// Named values that are no list or screen: where one stopped, how wide a column is.
std::map<std::string, std::string> settings(Library& library);
std::optional<std::string> setting(Library& library, std::string_view key); ///< empty: never set
void setSetting(Library& library, std::string_view key, std::string_view value);

} // namespace sieve::library
