#pragma once

#include "core/base/kind.h"
#include "core/base/result.h"

#include <string_view>

namespace sieve::language {

struct NumberLiteral {
    double value = 0.0;
    Unit unit = Unit::Plain; ///< percent when written with %
};

/// Reads a number of the language: "0.8", "2M", "-1.5%" (which is -0.015).
/// Errors: located within `text`; not a number, an unknown ending, not finite.
Result<NumberLiteral> parseNumber(std::string_view text);

} // namespace sieve::language
