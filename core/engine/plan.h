#pragma once

#include "core/base/kind.h"
#include "core/base/missing.h"
#include "core/engine/operators/op.h"
#include "core/indicators/catalog.h"
#include "core/market/market.h"

#include <compare>
#include <cstdint>
#include <map>
#include <memory>
#include <optional>
#include <span>
#include <string>
#include <vector>

namespace sieve::drawings {
struct Named;
}

namespace sieve::engine {

using NodeId = std::uint32_t;

/// A limit on a stock's place among the stocks of a day.
enum class PlaceLimit {
    PercentileAtLeast,
    PercentileAbove,
    RankAtMost,
    RankBelow,
};

/// Who is on a person's list, and since when.
struct ListMembers {
    struct Stay {
        std::string symbol; ///< that the stock bore on the day `from`
        Day from;
        std::optional<Day> until = std::nullopt; ///< the first day on which it was gone
    };
    std::vector<Stay> stays;
};

/// What a person answered to one question, of any stock.
struct PersonsAnswers {
    struct Answer {
        std::string symbol; ///< that the stock bore on the day `on`
        Day on;
        std::optional<bool> isYes; ///< empty: taken back
    };
    std::vector<Answer> answers; ///< by day; of one day the last one counts
};

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
    PlaceLimit place = PlaceLimit::PercentileAtLeast;
    const indicators::Indicator* indicator = nullptr;
    indicators::Settings settings;
    std::shared_ptr<const ListMembers> list;
    std::shared_ptr<const PersonsAnswers> answers;
    std::shared_ptr<const drawings::Named> drawings;
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
    /// Whether a part says one thing of the whole day, the same for every instrument: a median, a
    /// mean, a share, a count or a total of all stocks, of the universe or of a list.
    bool isOfTheDay(NodeId id) const;
    /// Whether no day changes what a part says of an instrument: it asks for texts alone.
    bool isSteady(NodeId id) const;
    /// Whether a part is made of nothing but the bars that it stands on, whatever their scale:
    /// prices, volume, their days and numbers.
    bool isOfOwnBars(NodeId id) const;

    /// The parts that `targets` need on the same bars, themselves included, inputs first. What lies
    /// below a part that goes across stocks or changes bars is another question and left out.
    std::vector<NodeId> neededAlongBars(std::span<const NodeId> targets) const;

private:
    std::vector<Node> nodes_;
    std::vector<NodeKey> keys_;
    std::map<NodeKey, NodeId> byKey_;
};

} // namespace sieve::engine
