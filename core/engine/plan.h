#pragma once

#include "core/base/kind.h"
#include "core/base/missing.h"
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

namespace sieve::engine {

using NodeId = std::uint32_t;

enum class Op {
    // Leaves: one value a bar of one instrument, or one for all
    Constant,     ///< `number`
    TextConstant, ///< `text`; its number is the market's, found when evaluated
    TextField,    ///< `textField`
    BarColumn,    ///< `barField`, on the footing asked for
    TotalReturn,  ///< the worth of a share with its dividends put back into it
    BarDay,       ///< the day of the bar
    BarNumber,    ///< bars since the first, from 1
    ListedOn,
    OfferPrice,
    Optionable,
    Shortable,
    Quarter, ///< `item`, `count` periods back, as known on the bar's day
    Year,
    TrailingTwelveMonths,
    Stability,         ///< how straight the trailing sums of `item` ran over `count` years
    ReportDay,         ///< on which the newest statements became known
    SharesOutstanding, ///< as of the bar's day, on the footing asked for
    FreeFloat,
    ShortInterest,
    Estimate,      ///< of measure `item` for the `count`-th `period` ahead
    Revision,      ///< how that of this year changed over `count` days
    Surprise,      ///< of measure `item`, `count` quarters back
    Held,          ///< share that owners of kind `item` held, `count` reports back
    Holders,       ///< how many they were
    NextReport,    ///< day of the next report that the calendar tells
    NewsWithin,    ///< whether a notice of `count` days names `text`
    PriceTarget,   ///< mean of the houses' targets given in `count` days
    DividendsPaid, ///< a share, over `count` days
    InIndex,       ///< member of the index `text` on the bar's day
    OnList,        ///< on `list` on the bar's day
    LiveOnly,      ///< has a value only while a session runs
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
    Floor,
    // Along one instrument's bars
    Prior,      ///< `count` bars back
    Indicator,  ///< `indicator` with `settings`
    OnBar,      ///< on bar `count`, from 1
    OnDay,      ///< on the newest bar by the day `number`
    AtYearEnd,  ///< on the last bar of the calendar year before the bar's
    AsTraded,   ///< on the footing of the bar itself
    Contains,   ///< whether a text has `text` in it
    Weekly,     ///< on weekly bars
    Monthly,    ///< on monthly bars
    Minutes,    ///< on bars of `count` minutes
    OtherStock, ///< of the instrument `text` (empty: the benchmark), on its newest bar by the day
    Composite,  ///< of all shares together, weighed as `item` says
    // Across all instruments on one day; a second input, if there, groups them; `item` 1: only
    // those that traded on the day
    Percentile,
    Rank,
    Median,
    Mean,
    ZScore,
    ShareOf,
    CountOf,
    TotalOf,
    GroupRank,
    LeastPlaced, ///< the least figure whose place keeps to the limit `number`; `place` says which
};

/// A limit on a stock's place among the stocks of a day.
enum class PlaceLimit {
    PercentileAtLeast,
    PercentileAbove,
    RankAtMost,
    RankBelow,
};

bool isLeaf(Op op);
bool isValueByValue(Op op);
bool isAcross(Op op);
/// Whether its input lives on other bars than its users: another scale or another instrument.
bool changesBars(Op op);
/// The comparison that says the same with its sides changed.
Op mirrored(Op comparison);

/// Who is on a person's list, and since when.
struct ListMembers {
    struct Stay {
        std::string symbol;
        Day from;
        std::optional<Day> until = std::nullopt; ///< the first day on which it was gone
    };
    std::vector<Stay> stays;
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
    market::Period period = market::Period::Year;
    PlaceLimit place = PlaceLimit::PercentileAtLeast;
    const indicators::Indicator* indicator = nullptr;
    indicators::Settings settings;
    std::shared_ptr<const ListMembers> list;
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

    /// The parts that `targets` need on the same bars, themselves included, inputs first. What lies
    /// below a part that goes across stocks or changes bars is another question and left out.
    std::vector<NodeId> neededAlongBars(std::span<const NodeId> targets) const;

private:
    std::vector<Node> nodes_;
    std::vector<NodeKey> keys_;
    std::map<NodeKey, NodeId> byKey_;
};

} // namespace sieve::engine
