#pragma once

#include "core/base/kind.h"
#include "core/base/missing.h"
#include "core/indicators/catalog.h"
#include "core/market/market.h"

#include <compare>
#include <cstdint>
#include <map>
#include <span>
#include <string>
#include <vector>

namespace sieve::expressions {

using NodeId = std::uint32_t;

enum class Op {
    // Leaves: one value a bar of one instrument, or one for all
    Constant,     ///< `number`
    TextConstant, ///< `text`; its number is the market's, found when evaluated
    BarColumn,    ///< `barField`, on the footing asked for
    TotalReturn,  ///< the worth of a share with its dividends put back into it
    TextField,    ///< `textField`
    BarDay,       ///< the day of the bar
    BarNumber,    ///< bars since the first, from 1
    ListedOn,
    OfferPrice,
    Quarter, ///< `item`, `count` periods back, as known on the bar's day
    Year,
    TrailingTwelveMonths,
    SharesOutstanding, ///< as of the bar's day, on the footing asked for
    FreeFloat,
    ShortInterest,
    // Value by value, from inputs of the same bar
    Negate,
    Add,
    Subtract,
    Multiply,
    Divide,
    Power,
    Less,
    LessEqual,
    Greater,
    GreaterEqual,
    Equal,
    NotEqual,
    Not,
    And,
    Or,
    If,     ///< condition, then, else
    Known,  ///< yes where its input is not missing
    OrElse, ///< the first input, or the second where it is missing
    Absolute,
    Lesser,
    Greatest,
    SquareRoot,
    Logarithm,
    // Along one instrument's bars
    Prior,     ///< `count` bars back
    Indicator, ///< `indicator` with period `count`
    // Across all instruments on one day; a second input, if there, groups them
    Percentile,
    Rank,
    Median,
    Mean,
    ZScore,
    ShareOf,
    CountOf,
};

bool isValueByValue(Op op);
bool isAcross(Op op);

/// One part of an expression, shared by all that mention it.
struct Node {
    Op op = Op::Constant;
    Kind kind = Kind::Number;
    Unit unit = Unit::Plain;
    std::vector<NodeId> inputs;
    double number = missing;
    std::string text;
    market::BarField barField = market::BarField::Close;
    market::TextField textField = market::TextField::Symbol;
    std::size_t item = 0;
    int count = 0;
    const indicators::Indicator* indicator = nullptr;
};

/// Names a node by what it computes, the same in every plan: equal parts have equal keys. 128 bits
/// of a mixing hash; a chance collision among a billion parts is less likely than 1 in 10^20.
struct NodeKey {
    std::uint64_t high = 0;
    std::uint64_t low = 0;
    friend auto operator<=>(const NodeKey&, const NodeKey&) = default;
};

/// Parts in an order in which inputs stand before what uses them. Grows while expressions are
/// checked into it; evaluation only reads it.
class Plan {
public:
    /// The node's place; one that computes the same is not added twice, and a part whose inputs are
    /// all constants becomes a constant.
    NodeId add(Node node);
    const Node& operator[](NodeId id) const { return nodes_[id]; }
    NodeKey key(NodeId id) const { return keys_[id]; }
    std::size_t size() const { return nodes_.size(); }
    bool isConstant(NodeId id) const { return nodes_[id].op == Op::Constant; }

    /// The parts that `targets` need along one instrument's bars, themselves included, inputs
    /// first. What lies below a part that goes across stocks is another question and left out.
    std::vector<NodeId> neededAlongBars(std::span<const NodeId> targets) const;

private:
    std::vector<Node> nodes_;
    std::vector<NodeKey> keys_;
    std::map<NodeKey, NodeId> byKey_;
};

/// The one place where two or three values become one: `inputs` are those of a value-by-value node.
/// Missing: three-valued logic for and, or, not; division by 0, roots and logarithms of what has
///          none are missing; all else is missing when an input is.
double combine(Op op, std::span<const double> inputs);

} // namespace sieve::expressions
