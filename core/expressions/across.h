#pragma once

#include "core/expressions/plan.h"

#include <span>

namespace sieve::expressions {

/// Values across the stocks of one day: percentile, rank, median, mean, z-score, share, count and
/// the rank of a stock's group among all groups.
/// Shape:    figures[n] and, where not empty, groups[n] -> out[n], which may be `figures` itself.
///           Stocks whose group is missing stand outside; with groups of yes and no, only yes is
///           one.
/// Missing:  a missing figure is left out of every count and has no percentile, rank or z-score;
///           median, mean, share, count and the group's rank are given to every member of a group
///           that has figures.
/// Source:   percentile 100 * (less + equal / 2) / count, equal counting itself; rank 1 + number
///           greater; z-score with divisor n - 1, none where that is 0; groups rank by the mean of
///           their figures.
/// Cost:     linear in n.
void across(Op op, std::span<const double> figures, std::span<const double> groups,
            bool groupsAreYesNo, std::span<double> out);

} // namespace sieve::expressions
