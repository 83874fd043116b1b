#pragma once

#include "core/base/shared.h"
#include "core/charts/set_up.h"
#include "core/engine/evaluator.h"
#include "core/language/checker.h"
#include "core/patterns/bar_marks.h"
#include "core/watchlists/watchlist.h"

#include <cstddef>
#include <span>
#include <string>
#include <vector>

namespace sieve::charts {

/// Something that happened on a bar.
struct Mark {
    MarkKind kind = MarkKind::Report;
    std::size_t bar = 0; ///< the first one on or after the day; of minutes, the last of a day at
                         ///< whose close it was known
    Day day;             ///< on which it was known, or took effect
    std::string text;    ///< in one or two sentences

    friend bool operator==(const Mark&, const Mark&) = default;
};

/// Of what marks are made.
struct MarkSources {
    engine::Evaluator& evaluator;
    const language::Names& names;
    std::size_t instrument = 0;
    Day day;                  ///< as of which
    const market::Bars& bars; ///< of the chart, on one footing; each has the day of its last day
    Day since;                ///< the first day of the first bar
    std::span<const Shared<watchlists::Watchlist>> lists = {}; ///< the person's
    bool areMovesTold = true; ///< with a report, how far the price went
};

/// What happened to an instrument up to a day, of the kinds asked for, by bar and kind:
///   report    a quarter or year became known: its earnings a share, how far they were from what
///             was expected, and how far the price went that day
///   dividend  and spin-offs, on the first day without; the amount as it was paid
///   split     on the day from which shares are new ones
///   news      on the day at whose close it was known
///   rating    an opinion of a research house; the target as it was given
///   entry     it came onto a list of the person's or left it, with the reason
///   gap, island, inside, outside   shapes of bars, of the chart's scale (patterns/bar_marks.h)
///   divergence is made of a chart's panes: see addDivergences
///   swing     a turn of prices that a move of eight percent has reversed since
/// What lies before the first bar or after the last is left out.
/// Errors: Stopped.
std::vector<Mark> marksOf(const MarkSources& sources, std::span<const MarkKind> kinds,
                          const Progress& progress = {});

/// A shape of bars as a mark on the bar that it is of.
Mark markOf(const patterns::MarkedBar& marked, const market::Bars& bars);

/// Those of them that bars alone tell: gaps, islands, inside and outside bars, swings.
std::vector<Mark> marksOfBars(const market::Bars& bars, std::span<const MarkKind> kinds);

/// Marks on the bars on which a condition begins to hold, with how long it did.
/// Shape: condition[n], a bar each: 1, 0 or missing.
std::vector<Mark> marksOfCondition(std::span<const double> condition, std::span<const Day> days,
                                   const std::string& title);

} // namespace sieve::charts
