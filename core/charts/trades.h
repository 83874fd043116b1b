#pragma once

#include <cstddef>
#include <optional>
#include <span>
#include <vector>

namespace sieve::charts {

/// From an entry to an exit, both at the close of their bars.
struct Trade {
    std::size_t entry = 0;
    std::optional<std::size_t> exit; ///< empty while it is held

    friend bool operator==(const Trade&, const Trade&) = default;
};

/// What a rule does bar by bar: out of the stock it enters on the first bar on which `enters`
/// holds, and then leaves on the first bar after that on which `leaves` holds. On that bar it
/// enters nothing. Nothing after a bar changes what it did by then.
/// Shape: enters[n], leaves[n], a bar each: 1, 0 or missing -> ascending.
std::vector<Trade> tradesOf(std::span<const double> enters, std::span<const double> leaves);

} // namespace sieve::charts
