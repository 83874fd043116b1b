#pragma once

namespace sieve::indicators {

/// The growth that a price assumes, by the two-stage discount model: what a share earns (or pays,
/// or leaves free) grows by g a year for `years` years and by `lasting` for ever after; all of it
/// is worth its sum discounted by `discount` a year. With q = (1 + g) / (1 + discount):
///     multiple = q + q^2 + … + q^years + q^years * (1 + lasting) / (discount - lasting)
/// `multiple`: the price over what a share earned in the last year; rates as fractions.
/// Gives:   g, from -1 on.
/// Missing: a missing argument; a multiple that is not positive; years other than 1 to 100 (a
///          fraction is cut off); rates at or below -1, or a discount that is not above `lasting`.
double impliedGrowth(double multiple, double years, double discount, double lasting);

} // namespace sieve::indicators
