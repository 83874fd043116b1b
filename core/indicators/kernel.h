#pragma once

#include "core/base/missing.h"
#include "core/base/require.h"

#include <cstddef>
#include <span>

namespace sieve::indicators {

using Values = std::span<const double>;
using Out = std::span<double>;

/// Which bars a kernel is given and which it must write. Its input columns hold bars `firstBar` up
/// to the last one written, oldest first; its output holds bars `from` up to the same last one.
/// Bars are counted from the instrument's first, so that bar 0 is where its history begins.
struct Span {
    std::size_t firstBar = 0;
    std::size_t from = 0;

    /// Everything there is: the columns are the whole history and so is the output.
    static constexpr Span whole() { return {0, 0}; }
};

/// Kernels give true, or false when the bars before `firstBar` would matter and were not given:
/// then what they wrote means nothing, and they must be asked again with the whole history (which
/// always gives true). The value of a bar is the same to the last bit in both cases.
using Enough = bool;

/// Throws std::logic_error unless a window of so many bars can be filled wherever one is whole.
inline void requireWindow(Values values, int period, Span span, Out out)
{
    require(period >= 1, "window: period below 1");
    require(span.firstBar <= span.from && values.size() == span.from - span.firstBar + out.size(),
            "window: sizes differ");
    require(span.firstBar == 0 || span.firstBar + static_cast<std::size_t>(period) <= span.from + 1,
            "window: bars are missing before the first");
}

} // namespace sieve::indicators
