#pragma once

#include "core/expressions/plan.h"

#include <span>

namespace sieve::expressions {

/// Values across the stocks of one day: percentile, rank, median, mean, z-score, share and count.
/// Shape:    figures[n] and, where not empty, groups[n] -> out[n]. Stocks whose group is missing
///           stand outside; with groups of yes and no, only yes is one.
/// Missing:  a missing figure is left out of every count and has no percentile, rank or z-score;
///           median, mean, share and count are given to every member of a group that has figures.
/// Source:   percentile 100 * (less + equal / 2) / count, equal counting itself; rank 1 + number
///           greater; z-score with divisor n - 1, none where that is 0.
void across(Op op, std::span<const double> figures, std::span<const double> groups,
            bool groupsAreYesNo, std::span<double> out);

} // namespace sieve::expressions
