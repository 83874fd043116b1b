#pragma once

#include "core/engine/operators/operator.h"

#include <algorithm>
#include <array>

namespace sieve::engine {

// Patterns have several results a bar: a base has a start, a depth, a pivot. They are found once,
// as a record of columns (Operator::columns), and each function of the language reads one of them.

/// Fills a record by a state that takes one bar after another:
///   static constexpr std::size_t columns;
///   std::array<double, columns> step(const std::array<double, inputs>& bar);
/// It begins anew at the lookback's first bar: what it says of a bar must not depend on what lay
/// before, or the lookback must be indicators::wholeHistory.
template <class State, std::size_t inputs>
bool fillBySteps(Series& series, const Run&, std::size_t from, std::size_t to)
{
    State state;
    std::array<double, inputs> bar;
    std::array<std::span<double>, State::columns> out;
    for (std::size_t column = 0; column < out.size(); ++column)
        out[column] = series.out(column, from, to);
    for (std::size_t at = from - std::min(from, series.lookback.most); at < to; ++at) {
        for (std::size_t i = 0; i < inputs; ++i)
            bar[i] = series.inputs[i]->value(at);
        const std::array<double, State::columns> record = state.step(bar);
        for (std::size_t column = 0; at >= from && column < out.size(); ++column)
            out[column][at - from] = record[column];
    }
    return true;
}

/// Reads the column of its input that the row names: it lies there.
bool readColumn(Series& series, const Run& run, std::size_t from, std::size_t to);

} // namespace sieve::engine
