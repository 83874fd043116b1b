#pragma once

#include "core/base/kind.h"

namespace sieve::language {

/// What a product measures: money times shares is money, a factor (plain, ratio, percent) leaves
/// the other's unit; what has no meaning is plain.
Unit unitOfProduct(Unit a, Unit b);

/// What a quotient measures: two of a unit give a ratio, money by shares is money (a share), a
/// factor below leaves the unit above; what has no meaning is plain.
Unit unitOfQuotient(Unit a, Unit b);

} // namespace sieve::language
