#pragma once

#include <stdexcept>

namespace sieve {

/// Holds a caller to its promise; a broken one is a fault of the program, never of the user.
/// Errors: std::logic_error with `promise` when it does not hold.
inline void require(bool holds, const char* promise)
{
    if (!holds)
        throw std::logic_error(promise);
}

} // namespace sieve
