#pragma once

// What followed when a condition began to hold: in one stock and in all of them.
//   occurrences.h  where it began     aftermath.h  what followed, case by case and in sum

#include "core/base/progress.h"
#include "core/base/result.h"
#include "core/engine/evaluator.h"
#include "core/language/checker.h"

#include <cstddef>
#include <string_view>
#include <vector>

namespace sieve::studies {

/// A bar at whose close a condition held, and did not at the close of the stock's bar before.
struct Occurrence {
    std::size_t stock = 0;
    std::size_t bar = 0;

    friend auto operator<=>(const Occurrence&, const Occurrence&) = default;
};

/// More are refused: a condition that begins so often says nothing.
inline constexpr std::size_t mostOccurrences = 1'000'000;

/// All of them in all stocks, by stock and bar, up to the close of a day, each as known on its own.
/// A stock's first bar counts where the condition holds on it. Indexes are no stocks.
/// Errors: those of the condition, located in it; more than mostOccurrences. Stopped.
Result<std::vector<Occurrence>> occurrencesOf(std::string_view condition,
                                              const language::Names& names,
                                              engine::Evaluator& evaluator, Day day,
                                              const Progress& progress = {});

} // namespace sieve::studies
