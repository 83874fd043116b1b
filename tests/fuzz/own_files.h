#pragma once

#include "tests/own_folder.h"

#include <cstdint>

namespace sieve::fuzz {

/// One folder a process for targets that read files.
inline const test::OwnFolder& folder()
{
    static const test::OwnFolder own;
    return own;
}

inline std::string textOf(const std::uint8_t* data, std::size_t size)
{
    return {reinterpret_cast<const char*>(data), size};
}

} // namespace sieve::fuzz
