#pragma once

#include <span>
#include <string_view>

namespace sieve {

/// A text file compiled into the program (see sieve_embed in cmake/SieveCore.cmake).
struct EmbeddedText {
    std::string_view name; ///< file name without folder
    std::string_view text;
};

} // namespace sieve
