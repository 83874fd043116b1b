#pragma once

#include "core/engine/bar_frame.h"
#include "core/engine/context.h"
#include "core/engine/plan.h"

#include <cstddef>
#include <cstdint>
#include <memory>
#include <span>
#include <vector>

namespace sieve::engine {

struct Operator;

/// Bars [from, to) of an instrument.
struct Bars {
    std::size_t from = 0;
    std::size_t to = 0;

    bool isEmpty() const { return from >= to; }
};

/// How far before a bar its value reads the inputs: from bar - `most` up to bar - `least`.
struct Lookback {
    std::size_t most = 0;
    std::size_t least = 0;
};

/// The instrument in hand, the bars of it that are asked for, and what lies outside of them.
struct Run {
    const Context& context;
    BarFrame frame;
    Bars asked;
};

class Series;

/// Bars [from, to) of one part, to be filled in.
using FillBars = bool (*)(Series& series, const Run& run, std::size_t from, std::size_t to);

/// What an operator keeps while a pass goes from instrument to instrument.
struct Memory {
    virtual ~Memory() = default;
};

/// The values of one part along the bars of the instrument in hand.
/// Layout: what every run reads comes first, in one line of the processor's cache.
class alignas(64) Series {
public:
    Op op = Op::Constant;
    std::uint16_t stage = 0;  ///< see BarPass::series_
    bool isTransient = false; ///< nobody but its stage reads it: it lives for a block of bars
    FillBars fill = nullptr;
    std::size_t from = 0; ///< the bars that are needed
    std::size_t to = 0;
    const double* at = nullptr;      ///< value of bar `base`
    std::size_t base = 0;            ///< `from`, or where the block in hand begins
    std::span<Series* const> inputs; ///< none of a part across stocks or on other bars

    std::vector<double> store;
    const Node* node = nullptr;
    const Operator* by = nullptr;
    Lookback lookback;
    Bars done; ///< bars whose values this run has made, as far as it began anew
    NodeId id = 0;
    bool isOfTheDay = false;  ///< see Plan
    bool readsAcross = false; ///< a part across stocks is among those it is made of, or itself
    std::unique_ptr<Memory> memory;

    bool isNeeded() const { return from < to; }
    bool isDone() const { return done.from == from && done.to == to; }
    void include(const Bars& bars);

    /// The value of a bar that is needed, and the values from there on.
    double value(std::size_t bar) const { return at[bar - base]; }
    const double* valuesFrom(std::size_t bar) const { return at + (bar - base); }
    /// The same of column `column` of a record.
    const double* columnFrom(std::size_t column, std::size_t bar) const
    {
        return store.data() + column * columnSize_ + (bar - base);
    }

    /// Where the values of bars [first, end) are written.
    std::span<double> out(std::size_t first, std::size_t end) { return out(0, first, end); }
    std::span<double> out(std::size_t column, std::size_t first, std::size_t end)
    {
        return std::span(store).subspan(column * columnSize_ + (first - base), end - first);
    }
    /// Lets the values lie where they are already, instead of in the store.
    void lieAt(const double* values) { at = values; }
    void lieInStore() { at = store.data(); }
    /// Makes room for so many bars.
    void reserve(std::size_t bars);

private:
    std::size_t columnSize_ = 0;
};

} // namespace sieve::engine
