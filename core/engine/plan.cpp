#include "core/engine/plan.h"

#include "core/drawings/stock.h"
#include "core/engine/operators/operator.h"
#include "core/engine/operators/values.h"

#include <algorithm>
#include <bit>

namespace sieve::engine {

namespace {

/// Two independent lanes of the splitmix64 finalizer (Steele, Lea and Flood, 2014).
class KeyMaker {
public:
    void mix(std::uint64_t value)
    {
        key_.high = finalize(key_.high ^ (value + 0x9E3779B97F4A7C15ULL));
        key_.low = finalize(key_.low + (value ^ 0xD1B54A32D192ED03ULL) * 0xBF58476D1CE4E5B9ULL);
    }
    void mix(std::string_view text)
    {
        mix(text.size());
        for (const char c : text)
            mix(static_cast<std::uint64_t>(static_cast<unsigned char>(c)));
    }
    NodeKey key() const { return key_; }

private:
    static std::uint64_t finalize(std::uint64_t x)
    {
        x = (x ^ (x >> 30)) * 0xBF58476D1CE4E5B9ULL;
        x = (x ^ (x >> 27)) * 0x94D049BB133111EBULL;
        return x ^ (x >> 31);
    }
    NodeKey key_{1, 2};
};

} // namespace

NodeId Plan::add(Node node)
{
    const bool isFixed =
        isValueByValue(node.op) &&
        std::ranges::all_of(node.inputs, [this](NodeId input) { return isConstant(input); });
    if (isFixed) {
        std::vector<double> values;
        for (const NodeId input : node.inputs)
            values.push_back(nodes_[input].number);
        Node constant;
        constant.kind = node.kind;
        constant.unit = node.unit;
        constant.number = combine(node.op, values);
        node = std::move(constant);
    }

    KeyMaker maker;
    for (const auto part :
         {static_cast<std::uint64_t>(node.op), static_cast<std::uint64_t>(node.kind),
          static_cast<std::uint64_t>(node.unit), std::bit_cast<std::uint64_t>(node.number),
          static_cast<std::uint64_t>(node.barField), static_cast<std::uint64_t>(node.textField),
          static_cast<std::uint64_t>(node.item), static_cast<std::uint64_t>(node.count),
          static_cast<std::uint64_t>(node.place), static_cast<std::uint64_t>(node.settings.period),
          std::bit_cast<std::uint64_t>(node.settings.factors[0]),
          std::bit_cast<std::uint64_t>(node.settings.factors[1])})
        maker.mix(part);
    if (node.list)
        for (const ListMembers::Stay& stay : node.list->stays) {
            maker.mix(stay.symbol);
            maker.mix(static_cast<std::uint64_t>(stay.from.serial()));
            maker.mix(static_cast<std::uint64_t>(stay.until ? stay.until->serial() : -1));
        }
    if (node.answers)
        for (const PersonsAnswers::Answer& answer : node.answers->answers) {
            maker.mix(answer.symbol);
            maker.mix(static_cast<std::uint64_t>(answer.on.serial()));
            maker.mix(static_cast<std::uint64_t>(answer.isYes ? *answer.isYes : 2));
        }
    if (node.drawings)
        for (const auto& drawing : node.drawings->drawings) {
            maker.mix(static_cast<std::uint64_t>(drawing->id)); // the newest counts
            maker.mix(toToml(*drawing));
        }
    maker.mix(node.text);
    maker.mix(node.indicator ? node.indicator->key : std::string_view());
    for (const NodeId input : node.inputs) {
        maker.mix(keys_[input].high);
        maker.mix(keys_[input].low);
    }
    const auto [place, isNew] = byKey_.try_emplace(maker.key(), static_cast<NodeId>(nodes_.size()));
    if (isNew) {
        nodes_.push_back(std::move(node));
        keys_.push_back(maker.key());
    }
    return place->second;
}

bool Plan::isOfTheDay(NodeId id) const
{
    const Node& node = nodes_[id];
    const bool isOneFigure = operatorOf(node.op).across.isOneFigure;
    return isOneFigure && (node.inputs.size() == 1 || nodes_[node.inputs[1]].kind == Kind::YesNo);
}

bool Plan::isSteady(NodeId id) const
{
    return std::ranges::all_of(neededAlongBars(std::span(&id, 1)), [this](NodeId part) {
        const Operator& of = operatorOf(nodes_[part].op);
        return of.isSteady || of.family == Family::ValueByValue;
    });
}

bool Plan::isOfOwnBars(NodeId id) const
{
    return std::ranges::all_of(neededAlongBars(std::span(&id, 1)), [this](NodeId part) {
        const Operator& of = operatorOf(nodes_[part].op);
        switch (of.family) {
        case Family::Constant:
        case Family::ValueByValue:
            return true;
        case Family::AlongBars:
            return !of.knowsDays;
        case Family::Data:
            return of.op == Op::BarColumn || of.op == Op::BarDay || of.op == Op::BarNumber;
        case Family::OtherScale:
        case Family::OtherLine:
        case Family::AcrossStocks:
            break;
        }
        return false;
    });
}

std::vector<NodeId> Plan::neededAlongBars(std::span<const NodeId> targets) const
{
    std::vector<bool> marked(nodes_.size());
    for (const NodeId target : targets)
        marked[target] = true;
    std::vector<NodeId> order;
    for (auto id = static_cast<NodeId>(nodes_.size()); id-- > 0;) {
        if (!marked[id])
            continue;
        order.push_back(id);
        if (isAcross(nodes_[id].op) || changesBars(nodes_[id].op))
            continue;
        for (const NodeId input : nodes_[id].inputs)
            marked[input] = true;
    }
    std::ranges::reverse(order);
    return order;
}

} // namespace sieve::engine
