#pragma once

#include "core/indicators/kernel.h"

namespace sieve::indicators {

/// An average that never forgets: value = decay * value before + gain * input. It starts with
/// `seedGain` times the sum of the first `seedCount` defined inputs, on the bar of the last of
/// them.
struct Recursion {
    double decay = 0;
    double gain = 1;
    int seedCount = 1;
    double seedGain = 1;

    /// Weight 2 / (period + 1), seeded by the mean of the first `period`.
    static Recursion exponential(int period);
    /// Weight 1 / period, seeded by the mean of the first `period`.
    /// Source: J. Welles Wilder, "New Concepts in Technical Trading Systems" (1978).
    static Recursion wilder(int period);
    /// Wilder's running sum, S - S / period + input, seeded by the sum of the first period - 1.
    static Recursion wilderSum(int period);

    friend bool operator==(const Recursion&, const Recursion&) = default;
};

/// How many bars before its own a bar's value may need.
std::size_t reachBack(const Recursion& recursion);

/// Runs the recursion along the bars.
/// Shape:    see Span.
/// Missing:  undefined inputs at the start are skipped, and there is no value before the seed is
///           whole; a later undefined input leaves the value as it was.
/// Exactness: inputs are weighed in blocks of 16 bars that begin at multiples of 16 of the bar
///           index, and a value looks back over so many blocks that all before weighs less than
///           1e-16; near the beginning, over all of them. It is the plain recursion from the first
///           bar where that is not good enough: where an input of that stretch is undefined, and
///           where the last ones are all 0, so that what is old is all there is. So a bar has the
///           same bits wherever evaluation starts, and a question about one day touches only the
///           bars that matter.
/// Requires: columns that reach back `reachBack` bars or to bar 0; else std::logic_error.
Enough runRecursion(Values values, const Recursion& recursion, Span span, Out out);

} // namespace sieve::indicators
