#pragma once

#include "core/engine/operators/op.h"

#include <span>

namespace sieve::engine {

/// The one place where the values of a bar become another: each of `inputs` points to as many
/// values as `out` has (the first may be `out` itself), and all belong to one value-by-value part.
/// Missing: three-valued logic for and, or, not; division by 0, roots and logarithms of what has
///          none, and what is not finite are missing; all else is missing when an input is.
void combine(Op op, std::span<const double* const> inputs, std::span<double> out);

/// The comparison that says the same with its sides changed.
Op mirrored(Op comparison);

/// Whether a value-by-value part always has two inputs.
bool isOfTwo(Op op);
/// The same for such a part whose second input is a number.
void combineWith(Op op, const double* values, double number, std::span<double> out);

/// The same for one bar.
double combine(Op op, std::span<const double> inputs);

} // namespace sieve::engine
