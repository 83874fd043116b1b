#pragma once

#include "core/library/library.h"

#include <map>
#include <string>
#include <string_view>

namespace sieve::library {

/// Named values that are no list or screen: where one stopped, the columns chosen.
std::map<std::string, std::string> settings(Library& library);
void setSetting(Library& library, std::string_view key, std::string_view value);

} // namespace sieve::library
