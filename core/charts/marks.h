#pragma once

#include "core/charts/set_up.h"
#include "core/engine/evaluator.h"
#include "core/language/checker.h"

#include <cstddef>
#include <span>
#include <string>
#include <vector>

namespace sieve::charts {

/// Something that happened on a bar.
struct Mark {
    MarkKind kind = MarkKind::Report;
    std::size_t bar = 0; ///< the first one on or after the day
    Day day;             ///< on which it was known, or took effect
    std::string text;    ///< in one or two sentences

    friend bool operator==(const Mark&, const Mark&) = default;
};

/// What happened to an instrument up to a day, of the kinds asked for, by bar and kind:
///   report    a quarter or year became known: its earnings a share, how far they were from what
///             was expected, and how far the price went that day
///   dividend  and spin-offs, on the first day without; the amount as it was paid
///   split     on the day from which shares are new ones
///   news      on the day at whose close it was known
///   rating    an opinion of a research house; the target as it was given
/// `days` are those of the bars of the chart, each its last one. What lies before the first bar or
/// after the last is left out.
/// Errors: Stopped.
std::vector<Mark> marksOf(engine::Evaluator& evaluator, const language::Names& names,
                          std::span<const MarkKind> kinds, std::size_t instrument, Day day,
                          std::span<const Day> days, const Progress& progress = {});

} // namespace sieve::charts
