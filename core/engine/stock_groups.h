#pragma once

#include <cstdint>
#include <limits>
#include <span>
#include <vector>

namespace sieve::engine {

/// Which stocks belong together: those of equal values; with yes and no, those of a yes. A stock
/// without a value stands outside.
class StockGroups {
public:
    static StockGroups all(std::size_t stocks);
    static StockGroups of(std::span<const double> values, bool areYesNo);
    /// By the number of a text; those of number 0 have none.
    static StockGroups ofTexts(std::span<const std::uint32_t> numbers);

    /// The members of each group, ascending.
    const std::vector<std::vector<std::uint32_t>>& members() const { return members_; }

    static constexpr std::uint32_t none = std::numeric_limits<std::uint32_t>::max();
    /// The place among members() of each stock's group; `none` outside of all.
    std::vector<std::uint32_t> numbers(std::size_t stocks) const;

private:
    std::vector<std::vector<std::uint32_t>> members_;
};

} // namespace sieve::engine
