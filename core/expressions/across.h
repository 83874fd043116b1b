#pragma once

#include "core/expressions/plan.h"

#include <cstdint>
#include <span>
#include <vector>

namespace sieve::expressions {

/// Which stocks belong together: those of equal values; with yes and no, those of a yes. A stock
/// without a value stands outside.
class Groups {
public:
    static Groups all(std::size_t stocks);
    static Groups of(std::span<const double> values, bool areYesNo);

    /// The members of each group, ascending.
    const std::vector<std::vector<std::uint32_t>>& members() const { return members_; }

private:
    std::vector<std::vector<std::uint32_t>> members_;
};

/// Values across the stocks of one day: percentile, rank, median, mean, z-score, share, count and
/// the rank of a stock's group among all groups.
/// Shape:    figures[n] -> out[n], which may be `figures` itself.
/// Missing:  a missing figure is left out of every count and has no percentile, rank or z-score;
///           median, mean, share, count and the group's rank are given to every member of a group
///           that has figures. Who stands outside of all groups has none.
/// Source:   percentile 100 * (less + equal / 2) / count, equal counting itself; rank 1 + number
///           greater; z-score with divisor n - 1, none where that is 0; groups rank by the mean of
///           their figures.
/// Cost:     linear in n.
void across(Op op, std::span<const double> figures, const Groups& groups, std::span<double> out);

} // namespace sieve::expressions
