#pragma once

#include "core/engine/operators/operator.h"
#include "core/engine/stock_groups.h"

#include <span>

namespace sieve::engine {

/// Values across the stocks of one day: percentile, rank, median, mean, z-score, share, count,
/// total, the rank of a stock's group among all groups, and the least figure whose place
/// (percentile or rank) keeps to a limit. Of `part` only its own settings are looked at, not its
/// inputs.
/// Shape:    figures[n] -> out[n], which may be `figures` itself.
/// Missing:  a missing figure is left out of every count and has no percentile, rank or z-score;
///           median, mean, share, count and the group's rank are given to every member of a group
///           that has figures. Who stands outside of all groups has none. The least figure of a
///           place is infinite where no member keeps to the limit; who has no figure has none.
/// Source:   percentile 100 * (less + equal / 2) / count, equal counting itself; rank 1 + number
///           greater; z-score with divisor n - 1, none where that is 0; groups rank by the mean of
///           their figures.
/// Cost:     linear in n.
void across(const Node& part, std::span<const double> figures, const StockGroups& groups,
            std::span<double> out);

/// Whether all members of a group are given the same value.
bool isOneAGroup(Op op);
/// The value of each group, for such a part: what across() gives to its members.
/// Shape: figures[stocks] -> out[groups]. `near` are the values of a day nearby, from which a
///        median is found faster; or empty.
void acrossGroups(const Node& part, std::span<const double> figures, const StockGroups& groups,
                  std::span<const double> near, std::span<double> out);

/// Sums are made in blocks of so many neighbours and then block by block, so that they have the
/// same bits however many threads share the work.
inline constexpr std::size_t instrumentsABlock = 128;

/// The one value that a part of the day has (see Plan::isOfTheDay): that of `figures`, which leaves
/// out the missing ones; and the same of their sum and number, where these tell it.
double valueOfTheDay(Op op, std::span<const double> figures);
double valueOfTheDay(Op op, const KnownSum& all);

} // namespace sieve::engine
