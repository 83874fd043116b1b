#include "core/engine/operators/families.h"

#include <algorithm>
#include <array>

namespace sieve::engine {

namespace {

/// The number of a text among those of a market, looked up once a market.
struct TextNumber : Memory {
    const market::Market* of = nullptr;
    double number = missing;
};

std::unique_ptr<Memory> textNumber(const Context&, const Plan&, const Node&, Depth)
{
    return std::make_unique<TextNumber>();
}

bool constant(Series&, const Run&, std::size_t, std::size_t)
{
    return true; // its store was filled when it was made
}

bool textConstant(Series& series, const Run& run, std::size_t from, std::size_t to)
{
    auto& text = static_cast<TextNumber&>(*series.memory);
    if (text.of != run.frame.market) {
        text.number = run.frame.market->texts().figureOf(series.node->text);
        text.of = run.frame.market;
    }
    std::ranges::fill(series.out(from, to), text.number);
    return true;
}

constexpr std::array constantRows{
    Operator{.op = Op::Constant,
             .family = Family::Constant,
             .fill = constant,
             .isSteady = true,
             .cost = 0.0},
    Operator{.op = Op::TextConstant,
             .family = Family::Constant,
             .fill = textConstant,
             .isSteady = true,
             .cost = 0.0,
             .memory = textNumber},
};

} // namespace

std::span<const Operator> constantOperators()
{
    return constantRows;
}

} // namespace sieve::engine
