#pragma once

// Pure kernels over columns of doubles, and the one table that the language, its completion, its
// help and the chart read. A kernel neither allocates nor knows where its columns come from.

#include "core/base/kind.h"

#include <cstddef>
#include <optional>
#include <span>
#include <string_view>

namespace sieve::indicators {

/// What feeds a kernel: an expression given as its first argument, or a column of the bars.
enum class Input { Figure, Condition, High, Low, Close, Volume };

/// The one whole-number parameter of a kernel: how many bars it looks at.
struct PeriodParameter {
    int initial = 0; ///< taken when the argument is left out; 0: it must be given
    int least = 1;
    int most = 2000;
};

/// How far back a kernel must see to give one bar its final bits.
enum class Reach {
    Window,    ///< period - 1 bars
    PriorBar,  ///< one bar
    Beginning, ///< the instrument's first bar
};

struct Indicator {
    std::string_view key;
    std::string_view title;
    std::string_view help;
    std::span<const Input> inputs;
    std::optional<PeriodParameter> period = std::nullopt;
    Reach reach = Reach::Window;
    Kind kind = Kind::Number;
    std::optional<Unit> unit = std::nullopt; ///< empty: the unit of its first input
    /// Columns aligned with `out`; `firstBar` is the bar index of their first value.
    void (*compute)(std::span<const std::span<const double>> columns, int period,
                    std::size_t firstBar, std::span<double> out) = nullptr;
};

std::span<const Indicator> catalog();
const Indicator* indicatorNamed(std::string_view key); ///< null when there is none

} // namespace sieve::indicators
