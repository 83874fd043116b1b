#pragma once

// Pure kernels over columns of doubles, and the one table that the language, its completion, its
// help and the chart read. A kernel does not know where its columns come from.

#include "core/base/kind.h"
#include "core/indicators/kernel.h"

#include <array>
#include <cstddef>
#include <limits>
#include <optional>
#include <span>
#include <string_view>

namespace sieve::indicators {

/// What feeds a kernel: an expression given as an argument, or a column of the bars.
enum class Input { Figure, Other, Condition, High, Low, Close, Volume };

/// The one whole-number parameter of a kernel: how many bars it looks at.
struct PeriodParameter {
    int initial = 0; ///< taken when the argument is left out; 0: it must be given
    int least = 1;
    int most = 2000;
};

/// A parameter that need not be whole.
struct FactorParameter {
    std::string_view name;
    double initial = 0;
    double least = 0;
    double most = 0;
};

/// What the parameters were set to; 0 where a kernel has none.
struct Settings {
    int period = 0;
    std::array<double, 2> factors{};

    friend bool operator==(const Settings&, const Settings&) = default;
};

struct Call {
    std::span<const Values> columns; ///< as `inputs` lists them
    Settings settings;
    Span span;
};

inline constexpr std::size_t wholeHistory = std::numeric_limits<std::size_t>::max();

struct Indicator {
    std::string_view key;
    std::string_view title;
    std::string_view help;
    std::span<const Input> inputs;
    std::optional<PeriodParameter> period = std::nullopt;
    std::span<const FactorParameter> factors = {};
    Kind kind = Kind::Number;
    std::optional<Unit> unit = std::nullopt; ///< empty: the unit of its first input
    /// How many bars before its own a bar's value needs, as a rule; `compute` says when more.
    std::size_t (*reach)(const Settings&) = nullptr;
    Enough (*compute)(const Call& call, Out out) = nullptr;
};

std::span<const Indicator> catalog();
const Indicator* indicatorNamed(std::string_view key); ///< null when there is none

} // namespace sieve::indicators
